import Alert from "@mui/material/Alert";
import type { UnreadableRow } from "./api";

const MOST_NAMED = 5;

/** Rows that this program cannot read, by name and reason; nothing where there are none. */
export function UnreadableRows({ rows, what }: { rows: readonly UnreadableRow[]; what: string }) {
  if (rows.length === 0) return null;
  return (
    <Alert severity="warning" sx={{ my: 1 }}>
      {rows.length === 1 ? `One ${what} here cannot be read` : `${rows.length} of these cannot be read`}, and nothing was changed:
      <ul style={{ margin: "4px 0 0", paddingLeft: 20 }}>
        {rows.slice(0, MOST_NAMED).map((row) => (
          <li key={row.id} data-unreadable={row.id}>
            <strong>{row.name}</strong>: {row.why}
          </li>
        ))}
        {rows.length > MOST_NAMED && <li>and {rows.length - MOST_NAMED} more</li>}
      </ul>
    </Alert>
  );
}
