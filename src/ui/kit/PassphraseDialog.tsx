"use client";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import TextField from "@mui/material/TextField";
import { type FormEvent, useState } from "react";
import { PHRASE } from "@/core/workshop/roles";
import { ApiError, api } from "./api";

/** A passphrase of one's own: after that the shared phrase alone does not sign anybody in under this name. */
export function PassphraseDialog({ name, onClose }: { name: string; onClose: () => void }) {
  const [passphrase, setPassphrase] = useState("");
  const [fault, setFault] = useState<string | null>(null);
  const [done, setDone] = useState<string | null>(null);
  const save = async (value: string | null) => {
    setFault(null);
    try {
      await api.access.setPassphrase(value);
      setDone(
        value === null
          ? `${name} signs in with the workshop's phrase alone.`
          : `From now on ${name} signs in with this passphrase too. Other devices were signed out.`,
      );
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      setFault(error.message);
    }
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void save(passphrase);
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <form onSubmit={submit}>
        <DialogTitle>Your own passphrase</DialogTitle>
        <DialogContent>
          {done ? (
            <p role="status">{done}</p>
          ) : (
            <>
              <p>Everybody here knows the workshop's phrase. With a passphrase of your own nobody else can sign in as {name}.</p>
              <TextField
                label="Passphrase"
                type="password"
                autoComplete="new-password"
                autoFocus
                fullWidth
                value={passphrase}
                onChange={(event) => setPassphrase(event.target.value)}
                error={fault !== null}
                helperText={fault ?? `${PHRASE.least} to ${PHRASE.most} characters: four or five ordinary words`}
              />
            </>
          )}
        </DialogContent>
        <DialogActions>
          {done ? (
            <Button onClick={onClose}>Close</Button>
          ) : (
            <>
              <Button onClick={onClose}>Cancel</Button>
              <Button onClick={() => void save(null)}>Remove it</Button>
              <Button type="submit" variant="contained">
                Save
              </Button>
            </>
          )}
        </DialogActions>
      </form>
    </Dialog>
  );
}
