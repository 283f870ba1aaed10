"use client";
import Alert from "@mui/material/Alert";
import Snackbar from "@mui/material/Snackbar";

/** A notice of the open document. At the left, so that the cures next to it stay in sight. */
export function DocumentNotice({ notice, onClose }: { notice: string | null; onClose: () => void }) {
  return (
    <Snackbar open={notice !== null} onClose={onClose} autoHideDuration={9000} sx={{ maxWidth: 500 }}>
      <Alert severity="info" variant="filled" onClose={onClose}>
        {notice}
      </Alert>
    </Snackbar>
  );
}
