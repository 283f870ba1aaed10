"use client";
import "../../kit/theme/screens.css";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import Snackbar from "@mui/material/Snackbar";
import TextField from "@mui/material/TextField";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useMemo, useState } from "react";
import { CUTTER_KINDS, type CutterKind, MAX_FILE_CHARACTERS } from "@/core/cutters/design/vocabulary";
import { KINDS, newDesign } from "@/core/cutters/solve/defaults";
import { describeVerdict, VERDICT_WORD } from "@/core/cutters/solve/describe";
import { evaluateDesign } from "@/core/cutters/solve/evaluate";
import { trim } from "@/core/units/trim";
import { CutterDrawing } from "../../cutter/CutterDrawing";
import { VerdictMark } from "../../cutter/VerdictMark";
import { wireWords } from "../../cutter/words";
import { ApiError, api, type CutterRow } from "../../kit/api";
import { useChanges } from "../../kit/changes";
import { FileButton } from "../../kit/FileButton";
import { Rail, RailSwitches } from "../../kit/Rail";
import { ShortcutsDialog } from "../../kit/Shortcuts";
import { For, useMember } from "../../kit/useMember";
import { useUnits } from "../../kit/useUnits";

type Said = { kind: "none" } | { kind: "error"; message: string } | { kind: "deleted"; row: CutterRow };

/** Every cutter in the shed, a page at a time: made, opened, renamed, copied, put away and brought back. */
export function CutterList({
  cutters,
  deleted,
  deletedTotal,
  unreadable,
  total,
  page,
  pages,
  find,
  empty,
}: {
  cutters: CutterRow[];
  deleted: CutterRow[];
  deletedTotal: number;
  unreadable: { id: string; name: string; why: string }[];
  /** Cutters that the search leaves, and the page of them that is shown. */
  total: number;
  page: number;
  pages: number;
  find: string;
  /** Nothing was ever made here. */
  empty: boolean;
}) {
  const { may } = useMember();
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const [said, setSaid] = useState<Said>({ kind: "none" });
  const [shortcuts, setShortcuts] = useState(false);
  const router = useRouter();
  useChanges(["cutters"], () => router.refresh());

  const [wanted, setWanted] = useState(find);
  const address = (to: { page?: number; find?: string }) => {
    const words = to.find ?? find;
    const query = new URLSearchParams({ ...(words ? { find: words } : {}), ...((to.page ?? 1) > 1 ? { page: String(to.page) } : {}) }).toString();
    return `/cutters${query ? `?${query}` : ""}`;
  };
  /** Runs a change, then shows the list as the server now has it; a refusal is said and nothing else happens. */
  const act = async (work: () => Promise<Said | undefined>) => {
    try {
      setSaid((await work()) ?? { kind: "none" });
      router.refresh();
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      setSaid({ kind: "error", message: error.message });
    }
  };
  const make = (kind: CutterKind) =>
    act(async () => {
      setMenu(null);
      const made = await api.create(newDesign(kind, KINDS[kind].name));
      router.push(`/cutters/${made.id}`);
      return undefined;
    });
  const importFile = (chosen: File) =>
    act(async () => {
      if (chosen.size > 4 * MAX_FILE_CHARACTERS)
        return { kind: "error", message: `${chosen.name} is too large for a design: ${MAX_FILE_CHARACTERS} characters at most` };
      await api.importText(await chosen.text());
      return undefined;
    });

  return (
    <div className="shed">
      <Rail current="cutters">
        <span className="spring" />
        <RailSwitches onShortcuts={() => setShortcuts(true)} />
      </Rail>
      <main>
        <div style={{ display: "flex", gap: 10, alignItems: "center", flexWrap: "wrap" }}>
          <h1 style={{ flex: 1, margin: 0, fontSize: 30 }}>Cutters</h1>
          <FileButton variant="outlined" label="Design file" accept=".json,application/json" onFile={(chosen) => void importFile(chosen)}>
            Import a design
          </FileButton>
          <Button variant="contained" aria-haspopup="menu" onClick={(event) => setMenu(event.currentTarget)}>
            New cutter
          </Button>
          <Menu open={menu !== null} anchorEl={menu} onClose={() => setMenu(null)}>
            <MenuItem component={Link} href="/start" sx={{ gap: 2, whiteSpace: "normal", maxWidth: 420, borderBottom: "1px solid var(--line)" }}>
              <span style={{ flex: "0 0 84px", fontSize: 26, textAlign: "center" }} aria-hidden="true">
                ?
              </span>
              <span>
                <strong>Start from the job</strong>
                <br />
                <span style={{ fontSize: 14 }}>four questions, three set-ups that would do it</span>
              </span>
            </MenuItem>
            {CUTTER_KINDS.map((kind) => (
              <MenuItem key={kind} onClick={() => void make(kind)} sx={{ gap: 2, whiteSpace: "normal", maxWidth: 420 }}>
                <span style={{ flex: "0 0 84px" }}>
                  <CutterDrawing kind={kind} />
                </span>
                <span>
                  <strong>{KINDS[kind].name}</strong>
                  <br />
                  <span style={{ fontSize: 14 }}>{KINDS[kind].words}</span>
                </span>
              </MenuItem>
            ))}
          </Menu>
        </div>
        {unreadable.map((row) => (
          <Alert key={row.id} severity="warning" sx={{ mt: 2 }}>
            <strong>{row.name}</strong> is kept but cannot be read here: {row.why}
          </Alert>
        ))}
        {said.kind === "error" && (
          <Alert severity="error" onClose={() => setSaid({ kind: "none" })} sx={{ mt: 2 }}>
            {said.message}
          </Alert>
        )}
        {(pages > 1 || find !== "") && (
          <form
            style={{ display: "flex", gap: 10, alignItems: "center", marginTop: 14, flexWrap: "wrap" }}
            onSubmit={(event) => {
              event.preventDefault();
              router.push(address({ find: wanted.trim() }));
            }}
          >
            <TextField size="small" label="Find by name" value={wanted} onChange={(event) => setWanted(event.target.value.slice(0, 80))} />
            <Button type="submit" variant="outlined" sx={{ minHeight: 40 }}>
              Find
            </Button>
            <span role="status" style={{ flex: 1 }}>
              {total} {find ? "of that name" : "cutters"}
            </span>
            {page > 1 && (
              <Button component={Link} href={address({ page: page - 1 })}>
                Newer
              </Button>
            )}
            {pages > 1 && (
              <span className="num">
                {page} of {pages}
              </span>
            )}
            {page < pages && (
              <Button component={Link} href={address({ page: page + 1 })}>
                Older
              </Button>
            )}
          </form>
        )}
        {empty ? (
          <EmptyShed onMake={() => void make("bow")} />
        ) : (
          <ul className="cutter-rows">
            {cutters.map((row) => (
              <Row
                key={row.id}
                row={row}
                onRename={(name) => act(async () => void (await api.save(row.id, row.revision, { ...row.design, name })))}
                onDuplicate={() => act(async () => void (await api.duplicate(row.id)))}
                onDelete={() => act(async () => ({ kind: "deleted", row: await api.remove(row.id) }))}
              />
            ))}
          </ul>
        )}
        {deleted.length > 0 && may("keep") && (
          <details>
            <summary style={{ cursor: "pointer", padding: "8px 0" }}>Put away ({deletedTotal})</summary>
            <ul style={{ listStyle: "none", padding: 0, margin: 0 }}>
              {deleted.map((row) => (
                <li key={row.id} style={{ display: "flex", gap: 12, alignItems: "center", padding: "4px 0" }}>
                  <span style={{ overflowWrap: "anywhere" }}>{row.design.name}</span>
                  <Button size="small" onClick={() => void act(async () => void (await api.restore(row.id)))}>
                    Bring back
                  </Button>
                </li>
              ))}
            </ul>
          </details>
        )}
      </main>
      <ShortcutsDialog open={shortcuts} onClose={() => setShortcuts(false)} rows={[{ keys: "Tab, Enter", does: "reach and press anything on this page" }]} />
      <Snackbar
        open={said.kind === "deleted"}
        autoHideDuration={15000}
        onClose={(_, reason) => reason !== "clickaway" && setSaid({ kind: "none" })}
        message={said.kind === "deleted" ? `Put away ${said.row.design.name}` : ""}
        action={
          <Button color="inherit" onClick={() => said.kind === "deleted" && void act(async () => void (await api.restore(said.row.id)))}>
            Undo
          </Button>
        }
      />
    </div>
  );
}

function EmptyShed({ onMake }: { onMake: () => void }) {
  return (
    <div style={{ margin: "60px 0", maxWidth: 560 }}>
      <CutterDrawing kind="bow" />
      <p style={{ fontSize: 20, lineHeight: 1.5 }}>
        A cutter here is a wire, a supply and a foam, solved together so that you know before you plug in whether it cuts cleanly.
      </p>
      <p className="empty-acts">
        <Button variant="contained" size="large" component={Link} href="/start">
          Start from the job
        </Button>
        <Button variant="outlined" size="large" onClick={onMake}>
          Make an empty bow
        </Button>
        <Button size="large" component={Link} href="/demo/long-tom">
          Look round a demo cutter
        </Button>
      </p>
    </div>
  );
}

interface RowProps {
  row: CutterRow;
  onRename: (name: string) => Promise<void>;
  onDuplicate: () => void;
  onDelete: () => void;
}

function Row({ row, onRename, onDuplicate, onDelete }: RowProps) {
  const { show, system } = useUnits();
  const [name, setName] = useState<string | null>(null);
  const { design } = row;
  const answer = useMemo(() => evaluateDesign(design), [design]);
  const rename = async () => {
    const next = name?.trim();
    setName(null);
    if (next && next !== design.name) await onRename(next);
  };
  return (
    <li data-cutter={design.name}>
      <CutterDrawing kind={design.kind} />
      <div>
        {name === null ? (
          <h2>
            <Link href={`/cutters/${row.id}`} style={{ color: "inherit" }}>
              {design.name}
            </Link>
          </h2>
        ) : (
          <form
            onSubmit={(event) => {
              event.preventDefault();
              void rename();
            }}
          >
            <TextField
              label="New name"
              size="small"
              value={name}
              autoFocus
              error={name.trim() === ""}
              helperText={name.trim() === "" ? "a name has 1 to 80 characters" : "Enter keeps it, Escape does not"}
              onChange={(event) => setName(event.target.value)}
              onKeyDown={(event) => event.key === "Escape" && setName(null)}
              onBlur={() => void rename()}
              slotProps={{ htmlInput: { maxLength: 80 } }}
            />
          </form>
        )}
        <p>
          {KINDS[design.kind].name}: {answer.pair.foam.name}, {trim(show("length", design.job.width_mm))} wide at {trim(show("feed", design.job.feed_mm_s))},{" "}
          {wireWords(design, show)}
          {row.changedBy && <small className="row-by">, saved by {row.changedBy}</small>}
        </p>
      </div>
      <div className="verdict-mark" data-verdict={answer.verdict} title={describeVerdict(design, answer, system).detail}>
        <VerdictMark verdict={answer.verdict} />
        {VERDICT_WORD[answer.verdict]}
      </div>
      <div className="row-actions" style={{ display: "flex", flexWrap: "wrap" }}>
        <For who="work">
          <Button size="small" aria-label={`Rename ${design.name}`} onClick={() => setName(design.name)}>
            Rename
          </Button>
          <Button size="small" aria-label={`Copy ${design.name}`} onClick={onDuplicate}>
            Copy
          </Button>
        </For>
        <Button size="small" aria-label={`Export ${design.name}`} href={`/api/cutters/${row.id}/file`}>
          Export
        </Button>
        <For who="keep">
          <Button size="small" aria-label={`Delete ${design.name}`} onClick={onDelete}>
            Delete
          </Button>
        </For>
      </div>
    </li>
  );
}
