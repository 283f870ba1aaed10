"use client";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useMemo, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { ENTRY_KINDS, type EntryKind, type LogEntry, type TestCut } from "@/core/log/entries";
import { type LogFileRow, MAX_LOG_FILE_CHARACTERS } from "@/core/log/files";
import { spoolUse } from "@/core/log/spools";
import { FaceDrawing } from "../../cutter/FaceDrawing";
import { ApiError, api, type DrawerRow, type LogRow } from "../../kit/api";
import { FileButton } from "../../kit/FileButton";
import { Tile, TileRow } from "../../kit/Tile";
import { For } from "../../kit/useMember";
import { useUnits } from "../../kit/useUnits";
import { RunForm, WireChangeForm } from "./EntryForms";
import { entryWords, KIND_WORDS } from "./entryWords";
import { LogImport } from "./LogImport";
import { type Against, OutcomeChart } from "./OutcomeChart";

const dayOf = (iso: string) => iso.slice(0, 10);

/** Everything dated, filtered; setting against outcome; spools; out and in. */
export function Logbook({
  design,
  id,
  log,
  drawer,
  onAdd,
  onStrike,
  onReload,
  older,
  onOlder,
  onFault,
}: {
  design: Design;
  id: string | null;
  log: readonly LogRow[];
  drawer: readonly DrawerRow[];
  onAdd: (entry: LogEntry) => void;
  onStrike: (entryId: string) => void;
  onReload: () => void;
  /** Whether the server holds entries older than these, and asking for them. */
  older: boolean;
  onOlder: () => void;
  onFault: (words: string) => void;
}) {
  const { show } = useUnits();
  const [kind, setKind] = useState<EntryKind | "all">("all");
  const [from, setFrom] = useState("");
  const [to, setTo] = useState("");
  const [words, setWords] = useState("");
  const [against, setAgainst] = useState<Against>("kerf");
  const [incoming, setIncoming] = useState<{ name: string; text: string; rows: LogFileRow[] } | null>(null);
  const entries = useMemo(() => log.map((row) => row.entry), [log]);
  const shown = log.filter(
    ({ entry }) =>
      (kind === "all" || entry.kind === kind) &&
      (from === "" || dayOf(entry.at) >= from) &&
      (to === "" || dayOf(entry.at) <= to) &&
      (words.trim() === "" || `${entryWords(entry, show)} ${entry.note}`.toLowerCase().includes(words.trim().toLowerCase())),
  );
  const cuts = useMemo(() => shown.flatMap(({ entry }): TestCut[] => (entry.kind === "test-cut" ? [entry] : [])), [shown]);
  const uses = useMemo(() => spoolUse(entries), [entries]);
  const leftOn = (spool: string) => drawer.flatMap(({ item }) => (item.kind === "wire" && item.name === spool ? [item.length_m] : []))[0];
  const read = async (chosen: File | undefined) => {
    if (!chosen || !id) return;
    try {
      if (chosen.size > MAX_LOG_FILE_CHARACTERS) throw new ApiError("too-large", `${chosen.name} is larger than a log can be.`, 0);
      const text = await chosen.text();
      setIncoming({ name: chosen.name, text, rows: await api.log.preview(id, text) });
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      onFault(error.message);
    }
  };
  const take = async () => {
    if (!incoming || !id) return;
    try {
      await api.log.importFile(id, incoming.text);
      setIncoming(null);
      onReload();
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      setIncoming(null);
      onFault(error.message);
    }
  };
  return (
    <section aria-label="Log">
      <div className="log-filters">
        <TextField select size="small" label="Kind" value={kind} onChange={(event) => setKind(event.target.value as EntryKind | "all")}>
          <MenuItem value="all">everything</MenuItem>
          {ENTRY_KINDS.map((each) => (
            <MenuItem key={each} value={each}>
              {KIND_WORDS[each]}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          size="small"
          type="date"
          label="From"
          value={from}
          onChange={(event) => setFrom(event.target.value)}
          slotProps={{ inputLabel: { shrink: true } }}
        />
        <TextField
          size="small"
          type="date"
          label="To"
          value={to}
          onChange={(event) => setTo(event.target.value)}
          slotProps={{ inputLabel: { shrink: true } }}
        />
        <TextField size="small" label="With the words" value={words} onChange={(event) => setWords(event.target.value)} />
        <span style={{ flex: 1 }} />
        <Button disabled={!id || log.length === 0} href={`/api/cutters/${id}/log/file?format=csv`}>
          CSV out
        </Button>
        <Button disabled={!id || log.length === 0} href={`/api/cutters/${id}/log/file?format=json`}>
          JSON out, with pictures
        </Button>
        <FileButton disabled={!id} label="Log file" accept=".csv,.json,text/csv,application/json" onFile={(chosen) => void read(chosen)}>
          Bring in
        </FileButton>
      </div>
      <div className="two-up log-columns">
        <div>
          {log.length === 0 ? (
            <p>Nothing yet. Time a cut as wide as the job, look at its face, keep it: settings that nobody wrote down are settings lost.</p>
          ) : (
            <p style={{ margin: "4px 0", color: "var(--graphite-soft)" }}>
              {shown.length} of {log.length} entries{older ? ", and older ones" : ""}
            </p>
          )}
          <ul className="log-rows">
            {shown.map(({ id: entryId, entry, changedBy }) => (
              <li key={entryId} data-entry={entry.kind}>
                <span>
                  <span className="num">{entry.at.slice(0, 16).replace("T", " ")}</span>
                  <span className="log-kind">{KIND_WORDS[entry.kind]}</span>
                </span>
                {entry.kind === "test-cut" ? (
                  entry.photo ? (
                    <a href={`/api/photos/${entry.photo}`} target="_blank" rel="noreferrer">
                      {/* biome-ignore lint/performance/noImgElement: a maker's own picture out of the local database, shown as it is */}
                      <img src={`/api/photos/${entry.photo}`} alt="The cut" width={72} height={54} style={{ objectFit: "cover" }} />
                    </a>
                  ) : (
                    <FaceDrawing face={entry.face} />
                  )
                ) : entry.kind === "diagnosis" ? (
                  <FaceDrawing face={entry.fault} />
                ) : (
                  <span />
                )}
                <span>
                  {entryWords(entry, show)}
                  {entry.note && <em>: {entry.note}</em>}
                  {changedBy && <small className="row-by">, by {changedBy}</small>}
                </span>
                <For who="keep">
                  <Button size="small" onClick={() => onStrike(entryId)}>
                    Remove
                  </Button>
                </For>
              </li>
            ))}
          </ul>
          {older && (
            <Button variant="outlined" onClick={onOlder}>
              Show older ones
            </Button>
          )}
        </div>
        <div>
          <h2 className="log-heading">Setting against outcome</h2>
          {cuts.length === 0 ? (
            <p style={{ margin: 0 }}>Test cuts will be here as marks, by the heat they had.</p>
          ) : (
            <>
              <TileRow>
                {(["kerf", "feed"] as const).map((each) => (
                  <Tile key={each} chosen={against === each} onClick={() => setAgainst(each)}>
                    {each}
                  </Tile>
                ))}
              </TileRow>
              <OutcomeChart cuts={cuts} against={against} />
            </>
          )}
          <h2 className="log-heading">Spools</h2>
          {uses.length === 0 ? (
            <p style={{ margin: 0 }}>No wire change is noted yet.</p>
          ) : (
            <ul style={{ margin: 0, paddingLeft: 18 }} data-spools>
              {uses.map((use) => {
                const left = leftOn(use.spool);
                return (
                  <li key={use.spool}>
                    <strong>{use.spool}</strong>: {use.changes} {use.changes === 1 ? "wire" : "wires"}, {show("leadLength", use.usedM, 2)} used
                    {use.broke > 0 ? `, ${use.broke} broke` : ""}
                    {use.cutM > 0 ? `, ${show("leadLength", use.cutM)} of foam cut` : ""}
                    {left === undefined ? "" : `; ${show("leadLength", left, 2)} left`}
                  </li>
                );
              })}
            </ul>
          )}
          {id && (
            <>
              <WireChangeForm design={design} drawer={drawer} onSave={onAdd} />
              <RunForm design={design} onSave={onAdd} />
            </>
          )}
        </div>
      </div>
      {incoming && <LogImport name={incoming.name} rows={incoming.rows} onClose={() => setIncoming(null)} onTake={() => void take()} />}
    </section>
  );
}
