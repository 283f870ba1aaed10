"use client";
import "../../kit/theme/screens.css";
import "../../kit/theme/sheet.css";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { useState } from "react";
import { mapKinds } from "@/core/kernel/documentIds";
import type { RestoreCount } from "@/core/workshop/restoring";
import type { StoredBackup } from "../../kit/api";
import { FileButton } from "../../kit/FileButton";
import { PageTitle } from "../../kit/PageTitle";
import { Rail, RailSwitches } from "../../kit/Rail";
import { ShortcutsDialog } from "../../kit/Shortcuts";
import { type BackupsState, useBackups } from "./useBackups";

/** What a restore counts, as the page says it: kinds of document by their own names. */
const KIND_WORDS: Readonly<Record<RestoreCount["kind"], string>> = {
  ...mapKinds((id) => `${id.charAt(0).toUpperCase()}${id.slice(1)}`),
  drawer: "Things in the drawer",
  log: "Log entries",
  photos: "Pictures",
};

const megabytes = (bytes: number) => (bytes < 100_000 ? `${Math.max(1, Math.round(bytes / 1000))} kB` : `${(bytes / 1_048_576).toFixed(1)} MB`);
/** How an archive came about, by its name. */
const originOf = (name: string) =>
  name.startsWith("auto-") ? "made automatically" : name.startsWith("before-restore-") ? "made before another was put back" : "made by hand";
const dayAndTime = (iso: string) => `${iso.slice(0, 10)} ${iso.slice(11, 16)}`;

/** The backups stored here, the newest first. */
function BackupRows({ saved, busy, look }: { saved: readonly StoredBackup[] } & Pick<BackupsState, "busy" | "look">) {
  return (
    <ul className="kept-rows">
      {saved.map((backup) => (
        <li key={backup.name} data-backup={backup.name}>
          <span className="num">{dayAndTime(backup.at)}</span>
          <span>{originOf(backup.name)}</span>
          <span className="num">{megabytes(backup.bytes)}</span>
          <span style={{ display: "flex", gap: 6, flexWrap: "wrap" }}>
            <Button size="small" disabled={busy} onClick={() => look({ name: backup.name }, `the one of ${dayAndTime(backup.at)}`)}>
              Check and restore
            </Button>
            <Button size="small" href={`/api/backups/${backup.name}`}>
              Download
            </Button>
          </span>
        </li>
      ))}
    </ul>
  );
}

/** What a backup would change, before it is restored. */
function RestoreDialog({ requested, busy, cancel, restore }: BackupsState) {
  return (
    <Dialog open={requested !== null} onClose={cancel} maxWidth="sm" fullWidth aria-labelledby="restore-title">
      <DialogTitle id="restore-title">Restore {requested?.words}?</DialogTitle>
      <DialogContent>
        <p style={{ marginTop: 0 }}>As everything was at {requested && dayAndTime(requested.made)}. Nothing has been changed yet.</p>
        <table className="plain-table">
          <thead>
            <tr>
              <th scope="col" />
              <th scope="col">in it</th>
              <th scope="col">here</th>
              <th scope="col">would be added</th>
              <th scope="col">would change</th>
              <th scope="col">only here</th>
            </tr>
          </thead>
          <tbody className="num">
            {requested?.counts.map((row) => (
              <tr key={row.kind} data-count={row.kind}>
                <th scope="row" style={{ fontFamily: "Bitter Variable, serif", fontWeight: 400 }}>
                  {KIND_WORDS[row.kind]}
                </th>
                <td>{row.inArchive}</td>
                <td>{row.here}</td>
                <td>{row.onlyArchive}</td>
                <td>{row.differ}</td>
                <td>{row.onlyHere}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <p>
          The present state is backed up first, so you can undo this.
          {requested?.counts.some((row) => row.onlyHere > 0) ? " What is only here would be removed, unless you only add what is missing." : ""}
        </p>
      </DialogContent>
      <DialogActions>
        <Button onClick={cancel}>Cancel</Button>
        <Button disabled={busy} onClick={() => requested && restore(requested.source, "add", "What was missing was added. Nothing else was changed.")}>
          Only add what is missing
        </Button>
        <Button
          variant="contained"
          disabled={busy}
          onClick={() => requested && restore(requested.source, "replace", `Everything is as it was at ${dayAndTime(requested.made)}.`)}
        >
          Restore everything
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** Everything in one archive: made, stored, looked into and restored, with what it replaced one press away. */
export function Backups() {
  const backups = useBackups();
  const { saved, fault, done, busy, look, restore } = backups;
  const [shortcuts, setShortcuts] = useState(false);
  return (
    <div className="shed">
      <PageTitle parts={["Backups"]} />
      <Rail current="backups">
        <span className="spring" />
        <RailSwitches onShortcuts={() => setShortcuts(true)} />
      </Rail>
      <main>
        <h1>Backups</h1>
        <p>
          One backup holds everything: cutters, plans, rigs, those that are archived, the drawer, the log and its photographs. Keep a copy on another disk: this
          disk can fail.
        </p>
        <div style={{ display: "flex", gap: 10, flexWrap: "wrap" }}>
          <Button variant="contained" href="/api/backup" sx={{ minHeight: 44 }}>
            Download a backup
          </Button>
          <Button variant="outlined" disabled={busy} sx={{ minHeight: 44 }} onClick={backups.make}>
            Back up now
          </Button>
          <FileButton
            variant="outlined"
            disabled={busy}
            sx={{ minHeight: 44 }}
            label="Backup file to restore"
            accept=".zip,application/zip"
            onFile={(chosen) => look({ bytes: chosen }, chosen.name)}
          >
            Restore from a file
          </FileButton>
        </div>
        {fault && (
          <Alert severity="error" onClose={backups.clearFault} sx={{ mt: 2 }}>
            {fault}
          </Alert>
        )}
        {done && (
          <Alert
            severity="success"
            sx={{ mt: 2 }}
            action={
              done.undo && (
                <Button
                  color="inherit"
                  disabled={busy}
                  onClick={() =>
                    restore({ name: done.undo as string }, "replace", "Undone: everything is as it was before. What was restored is in the list below.")
                  }
                >
                  Undo
                </Button>
              )
            }
          >
            {done.words}
          </Alert>
        )}
        <h2 style={{ fontSize: 20, marginTop: 26 }}>Stored here</h2>
        {saved?.length === 0 && <p>None yet. A backup is made automatically on every day with changes. The newest seven days and four weeks are kept.</p>}
        {saved && saved.length > 0 && <BackupRows saved={saved} busy={busy} look={look} />}
        <p style={{ fontSize: 15, color: "var(--graphite-soft)" }}>
          If this page cannot be opened, use <span className="num">npm run backup</span> and <span className="num">npm run restore -- FILE</span>. Backups are
          stored next to the data folder, so they survive its loss.
        </p>
      </main>
      <RestoreDialog {...backups} />
      <ShortcutsDialog open={shortcuts} onClose={() => setShortcuts(false)} rows={[{ keys: "Tab, Enter", does: "reach and press anything on this page" }]} />
    </div>
  );
}
