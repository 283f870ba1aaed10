"use client";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useMemo, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { ENTRY_KINDS, type LogEntry, type TestCut } from "@/core/log/entries";
import { spoolUse } from "@/core/log/spools";
import { FaceDrawing } from "../../cutter/FaceDrawing";
import type { DrawerRow, LogRow } from "../../kit/api";
import { FileButton } from "../../kit/FileButton";
import { Tile, TileRow } from "../../kit/Tile";
import { For } from "../../kit/useMember";
import { useUnits } from "../../kit/useUnits";
import { RunForm, WireChangeForm } from "./EntryForms";
import { entryWords, KIND_WORDS } from "./entryWords";
import { LogImport } from "./LogImport";
import { filteredRows, type LogFilter } from "./logRows";
import { type Against, OutcomeChart } from "./OutcomeChart";
import type { LogDesk } from "./useLog";
import { useLogImport } from "./useLogImport";

/** Fields that say what is shown. */
function LogFilters({ filter, onChange }: { filter: LogFilter; onChange: (part: Partial<LogFilter>) => void }) {
  return (
    <>
      <TextField select size="small" label="Kind" value={filter.kind} onChange={(event) => onChange({ kind: event.target.value as LogFilter["kind"] })}>
        <MenuItem value="all">everything</MenuItem>
        {ENTRY_KINDS.map((each) => (
          <MenuItem key={each} value={each}>
            {KIND_WORDS[each]}
          </MenuItem>
        ))}
      </TextField>
      {(["from", "to"] as const).map((end) => (
        <TextField
          key={end}
          size="small"
          type="date"
          label={end === "from" ? "From" : "To"}
          value={filter[end]}
          onChange={(event) => onChange({ [end]: event.target.value })}
          slotProps={{ inputLabel: { shrink: true } }}
        />
      ))}
      <TextField size="small" label="With the words" value={filter.words} onChange={(event) => onChange({ words: event.target.value })} />
    </>
  );
}

/** The picture of an entry: its photograph, its face drawn, or none. */
function EntryPicture({ entry }: { entry: LogEntry }) {
  if (entry.kind === "diagnosis") return <FaceDrawing face={entry.fault} />;
  if (entry.kind !== "test-cut") return <span />;
  if (!entry.photo) return <FaceDrawing face={entry.face} />;
  return (
    <a href={`/api/photos/${entry.photo}`} target="_blank" rel="noreferrer">
      {/* biome-ignore lint/performance/noImgElement: a maker's own picture out of the local database, shown as it is */}
      <img src={`/api/photos/${entry.photo}`} alt="The cut" width={72} height={54} style={{ objectFit: "cover" }} />
    </a>
  );
}

function LogRows({ rows, onRemove }: { rows: readonly LogRow[]; onRemove: (id: string) => void }) {
  const { show } = useUnits();
  return (
    <ul className="log-rows">
      {rows.map(({ id, entry, changedBy }) => (
        <li key={id} data-entry={entry.kind}>
          <span>
            <span className="num">{entry.at.slice(0, 16).replace("T", " ")}</span>
            <span className="log-kind">{KIND_WORDS[entry.kind]}</span>
          </span>
          <EntryPicture entry={entry} />
          <span>
            {entryWords(entry, show)}
            {entry.note && <em>: {entry.note}</em>}
            {changedBy && <small className="row-by">, by {changedBy}</small>}
          </span>
          <For who="keep">
            <Button size="small" onClick={() => onRemove(id)}>
              Remove
            </Button>
          </For>
        </li>
      ))}
    </ul>
  );
}

/** Settings of the test cuts against what came out. */
function Outcomes({ cuts }: { cuts: readonly TestCut[] }) {
  const [against, setAgainst] = useState<Against>("kerf");
  return (
    <>
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
    </>
  );
}

/** What each spool has been used for, and what is left of it in the drawer. */
function Spools({ entries, drawer }: { entries: readonly LogEntry[]; drawer: readonly DrawerRow[] }) {
  const { show } = useUnits();
  const uses = useMemo(() => spoolUse(entries), [entries]);
  const leftOn = (spool: string) => drawer.flatMap(({ item }) => (item.kind === "wire" && item.name === spool ? [item.length_m] : []))[0];
  return (
    <>
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
    </>
  );
}

/** Everything dated, filtered; setting against outcome; spools; export and import. */
export function Logbook({ design, id, desk }: { design: Design; id: string | null; desk: LogDesk }) {
  const { show } = useUnits();
  const { log, entries, drawer, older } = desk;
  const [filter, setFilter] = useState<LogFilter>({ kind: "all", from: "", to: "", words: "" });
  const shown = filteredRows(log, filter, (entry) => entryWords(entry, show));
  const cuts = shown.flatMap(({ entry }): TestCut[] => (entry.kind === "test-cut" ? [entry] : []));
  const { incoming, read, take, close } = useLogImport(id, desk);
  return (
    <section aria-label="Log">
      <div className="log-filters">
        <LogFilters filter={filter} onChange={(part) => setFilter((all) => ({ ...all, ...part }))} />
        <span style={{ flex: 1 }} />
        <Button disabled={!id || log.length === 0} href={`/api/cutters/${id}/log/file?format=csv`}>
          Export CSV
        </Button>
        <Button disabled={!id || log.length === 0} href={`/api/cutters/${id}/log/file?format=json`}>
          Export JSON with pictures
        </Button>
        <FileButton disabled={!id} label="Log file" accept=".csv,.json,text/csv,application/json" onFile={(chosen) => void read(chosen)}>
          Import
        </FileButton>
      </div>
      <div className="two-up log-columns">
        <div>
          {log.length === 0 ? (
            <p>Nothing yet. Time a cut as wide as the job, look at its face, log it: settings that nobody wrote down are lost.</p>
          ) : (
            <p className="log-count">
              {shown.length} of {log.length} entries{older ? ", and older ones" : ""}
            </p>
          )}
          <LogRows rows={shown} onRemove={desk.remove} />
          {older && (
            <Button variant="outlined" onClick={desk.loadOlder}>
              Show older ones
            </Button>
          )}
        </div>
        <div>
          <Outcomes cuts={cuts} />
          <Spools entries={entries} drawer={drawer} />
          {id && (
            <>
              <WireChangeForm design={design} drawer={drawer} onSave={desk.add} />
              <RunForm design={design} onSave={desk.add} />
            </>
          )}
        </div>
      </div>
      {incoming && <LogImport name={incoming.name} rows={incoming.rows} onClose={close} onTake={() => void take()} />}
    </section>
  );
}
