"use client";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import type { CsvRow } from "@/core/drawer/csv";

const STATUS_WORDS: Record<CsvRow["status"], string> = { new: "comes in", change: "changes", same: "stays", refused: "refused" };

/** What taking a file over would do, row by row, before anything is done. */
export function CsvImport({ name, rows, onClose, onTake }: { name: string; rows: readonly CsvRow[]; onClose: () => void; onTake: () => void }) {
  const count = (status: CsvRow["status"]) => rows.filter((row) => row.status === status).length;
  const taken = count("new") + count("change");
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth aria-labelledby="csv-title">
      <DialogTitle id="csv-title">Import {name}</DialogTitle>
      <DialogContent>
        <p role="status" style={{ marginTop: 0 }}>
          {count("new")} new, {count("change")} changed, {count("same")} as they are, {count("refused")} refused.
        </p>
        <table className="plain-table">
          <thead>
            <tr>
              <th>Line</th>
              <th>What</th>
              <th>Name</th>
              <th>Why</th>
            </tr>
          </thead>
          <tbody>
            {rows
              .filter((row) => row.status !== "same")
              .map((row) => (
                <tr key={row.line} data-status={row.status}>
                  <td className="num">{row.line}</td>
                  <td>{row.status === "refused" ? <strong>{STATUS_WORDS.refused}</strong> : STATUS_WORDS[row.status]}</td>
                  <td>{row.status === "refused" ? row.name : row.item.name}</td>
                  <td>
                    {row.status === "refused" ? `${row.column ? `${row.column}: ` : ""}${row.message}` : row.status === "change" ? row.changed.join(", ") : ""}
                  </td>
                </tr>
              ))}
          </tbody>
        </table>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" disabled={taken === 0} onClick={onTake}>
          {taken === 0 ? "Nothing to take" : `Take ${taken} ${taken === 1 ? "row" : "rows"}`}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
