"use client";
import Alert from "@mui/material/Alert";
import Snackbar from "@mui/material/Snackbar";
import { useStore } from "zustand";
import type { DeskStore } from "./deskStore";

/** What the store has to say. Kept to the left columns, so that the cures next to it stay in sight. */
export function Notice({ store }: { store: DeskStore }) {
  const notice = useStore(store, (state) => state.notice);
  const close = () => store.setState({ notice: null });
  return (
    <Snackbar open={notice !== null} onClose={close} autoHideDuration={9000} sx={{ maxWidth: 500 }}>
      <Alert severity="info" variant="filled" onClose={close}>
        {notice}
      </Alert>
    </Snackbar>
  );
}
