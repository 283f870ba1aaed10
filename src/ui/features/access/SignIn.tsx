"use client";
import "../../kit/theme/screens.css";
import "../../kit/theme/access.css";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { type FormEvent, useEffect, useState } from "react";
import { ApiError, api } from "../../kit/api";
import { PageTitle } from "../../kit/PageTitle";

/** Where to go once one is in: a place of this app's own, and nowhere else. */
function wayIn(search: string): string {
  const to = new URLSearchParams(search).get("to") ?? "/";
  return /^\/(?![/\\])/.test(to) ? to : "/";
}

/** What was typed before the page was ready must not lie under its label. */
const LABEL_ABOVE = { slotProps: { inputLabel: { shrink: true } } };

/** Sign-in: a name and the workshop's phrase. */
export function SignIn() {
  // Before the page is ready the browser would send the form itself; what was typed by then stays, for it is the form's own.
  const [busy, setBusy] = useState(true);
  useEffect(() => setBusy(false), []);
  const [fault, setFault] = useState<{ path: string | undefined; message: string } | null>(null);
  const submit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const typed = new FormData(event.currentTarget);
    setBusy(true);
    setFault(null);
    try {
      await api.access.signIn(String(typed.get("name")), String(typed.get("phrase")), String(typed.get("passphrase") ?? ""));
      window.location.assign(wayIn(window.location.search));
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      setFault({ path: error.path, message: error.message });
      if (error.path === "passphrase") setWantsPassphrase(true);
      setBusy(false);
    }
  };
  // The name has a passphrase of its own: the field comes once the server has asked for it.
  const [wantsPassphrase, setWantsPassphrase] = useState(false);
  const said = (path: string) => (fault?.path === path ? { error: true, helperText: fault.message } : {});
  return (
    <main className="plain-page">
      <PageTitle parts={["Sign in"]} />
      <p className="plain-page-name">Upwind Rod</p>
      <h1>Sign in to this workshop</h1>
      <form onSubmit={(event) => void submit(event)} className="plain-page-form">
        <TextField label="Your name" name="name" autoComplete="username" autoFocus required {...LABEL_ABOVE} {...said("name")} />
        <TextField label="The workshop's phrase" type="password" name="phrase" autoComplete="current-password" required {...LABEL_ABOVE} {...said("phrase")} />
        {wantsPassphrase && (
          <TextField
            label="Your own passphrase"
            type="password"
            name="passphrase"
            autoComplete="off"
            autoFocus
            required
            {...LABEL_ABOVE}
            {...said("passphrase")}
          />
        )}
        {fault && !["name", "phrase", "passphrase"].includes(fault.path ?? "") && (
          <p role="alert" className="plain-page-fault">
            {fault.message}
          </p>
        )}
        <Button type="submit" variant="contained" disabled={busy} sx={{ minHeight: 48 }}>
          Sign in
        </Button>
      </form>
      <p className="plain-page-small">Your changes are recorded under your name. An administrator of the workshop has the phrase and adds members.</p>
    </main>
  );
}
