import Button from "@mui/material/Button";
import { For } from "../../kit/useMember";
import { useUnits } from "../../kit/useUnits";
import type { TensionChecks } from "./useTensionChecks";

const dayOf = (iso: string) => iso.slice(0, 10);

/** Checks of the pull in the cutter's log, and when the next one is due. */
export function ChecksTab({ id, checks, next, remove }: { id: string | null } & TensionChecks) {
  const { show } = useUnits();
  return (
    <section style={{ maxWidth: 700 }} aria-label="Tension checks">
      {!id && <p>Keep a copy of this cutter first: checks are stored with it.</p>}
      {id && checks.length === 0 && (
        <p>
          No check yet. Tune it, then add the pluck to the log; after a few days check again: timber creeps, springs settle, bolted joints slip (common
          practice).
        </p>
      )}
      {next && (
        <p role="status" style={{ fontSize: 18 }}>
          <strong>{next.due ? "Due now. " : `Due on ${dayOf(next.dueAt)}. `}</strong>
          {next.words} Slacken it in storage.
        </p>
      )}
      <ul style={{ listStyle: "none", padding: 0 }}>
        {checks.map(({ id: entryId, entry }) => (
          <li key={entryId} style={{ display: "flex", gap: 16, alignItems: "center", borderTop: "1px solid var(--line)", padding: "6px 0" }}>
            <span className="num">{entry.at.slice(0, 16).replace("T", " ")}</span>
            <strong className="num">{show("force", entry.tension_N, 1)}</strong>
            <span className="num">{entry.frequency_Hz === undefined ? "" : `${entry.frequency_Hz.toFixed(1)} Hz`}</span>
            <span style={{ flex: 1 }}>
              {entry.hot ? "hot" : "cold"}, by {entry.how}
            </span>
            <For who="keep">
              {" "}
              <Button size="small" onClick={() => remove(entryId)}>
                Remove
              </Button>
            </For>
          </li>
        ))}
      </ul>
    </section>
  );
}
