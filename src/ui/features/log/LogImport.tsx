"use client";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import type { LogFileRow } from "@/core/log/files";
import { useUnits } from "../../kit/useUnits";
import { entryWords } from "./entryWords";

const MOST_SHOWN = 200;

/** What taking a log file over would do, entry by entry, before anything is done. */
export function LogImport({ name, rows, onClose, onTake }: { name: string; rows: readonly LogFileRow[]; onClose: () => void; onTake: () => void }) {
  const { show } = useUnits();
  const count = (status: LogFileRow["status"]) => rows.filter((row) => row.status === status).length;
  const telling = rows.filter((row) => row.status !== "known");
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth aria-labelledby="log-import-title">
      <DialogTitle id="log-import-title">Import {name}</DialogTitle>
      <DialogContent>
        <p role="status" style={{ marginTop: 0 }}>
          {count("new")} new, {count("known")} known already, {count("refused")} refused.
        </p>
        <table className="plain-table">
          <tbody>
            {telling.slice(0, MOST_SHOWN).map((row) => (
              <tr key={row.line} data-status={row.status}>
                <td className="num">{row.line}</td>
                <td>{row.status === "refused" ? <strong>refused</strong> : row.entry.at.slice(0, 10)}</td>
                <td>{row.status === "refused" ? row.message : entryWords(row.entry, show)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {telling.length > MOST_SHOWN && <p>and {telling.length - MOST_SHOWN} more</p>}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" disabled={count("new") === 0} onClick={onTake}>
          {count("new") === 0 ? "Nothing to take" : `Take ${count("new")} ${count("new") === 1 ? "entry" : "entries"}`}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
