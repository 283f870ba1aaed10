"use client";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Snackbar from "@mui/material/Snackbar";
import type { UnreadableRow } from "./api";
import { UnreadableRows } from "./UnreadableRows";
import type { ListNotice } from "./useListActions";

export interface ListNoticesProps {
  notice: ListNotice | null;
  unreadable: readonly UnreadableRow[];
  /** what one document is called */
  one: string;
  onClose: () => void;
  onUndo: (id: string) => void;
}

/** Rows that cannot be read, an action that was refused, and a document that was just archived, with Undo. */
export function ListNotices({ notice, unreadable, one, onClose, onUndo }: ListNoticesProps) {
  return (
    <>
      <UnreadableRows rows={unreadable} what={one} />
      {notice?.kind === "error" && (
        <Alert severity="error" onClose={onClose} sx={{ mt: 2 }}>
          {notice.message}
        </Alert>
      )}
      <Snackbar
        open={notice?.kind === "archived"}
        autoHideDuration={15000}
        onClose={(_, reason) => reason !== "clickaway" && onClose()}
        message={notice?.kind === "archived" ? `Archived ${notice.name}` : ""}
        action={
          <Button color="inherit" onClick={() => notice?.kind === "archived" && onUndo(notice.id)}>
            Undo
          </Button>
        }
      />
    </>
  );
}
