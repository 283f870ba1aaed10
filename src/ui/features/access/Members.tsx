"use client";
import "../../kit/theme/screens.css";
import "../../kit/theme/sheet.css";
import "../../kit/theme/access.css";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Switch from "@mui/material/Switch";
import TextField from "@mui/material/TextField";
import { type FormEvent, useCallback, useState } from "react";
import { ROLE_WORDS, ROLES, type Role } from "@/core/workshop/roles";
import { type AccessAction, type AccessView, ApiError, api } from "../../kit/api";
import { useChanges } from "../../kit/changes";
import { PageTitle } from "../../kit/PageTitle";
import { Rail, RailSwitches } from "../../kit/Rail";
import { ShortcutsDialog } from "../../kit/Shortcuts";
import { useMember } from "../../kit/useMember";
import { useOnArrival } from "../../kit/useOnArrival";

const MAY: Readonly<Record<Role, string>> = {
  look: "see everything, try things out, save nothing",
  work: "and make, change, cut and log",
  keep: "and archive, restore, manage backups, members and phrases",
};
const when = (iso: string) => new Date(iso).toLocaleString([], { dateStyle: "medium", timeStyle: "short" });

/** Who may come in, by which phrase, and what each of them did. */
export function Members() {
  const [view, setView] = useState<AccessView | null>(null);
  const [fault, setFault] = useState<{ at: string; message: string } | null>(null);
  const [shortcuts, setShortcuts] = useState(false);
  const { accessMode } = useMember();
  const say = useCallback((error: Error) => setFault({ at: "", message: error.message }), []);
  const load = useCallback(async (signal?: AbortSignal) => setView(await api.access.members(signal)), []);
  useOnArrival(load, say);
  useChanges(["access"], () => void load().catch(say));
  /** @returns whether it was done */
  const change = async (action: AccessAction, at = ""): Promise<boolean> => {
    setFault(null);
    try {
      setView(await api.access.change(action));
      return true;
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      setFault({ at, message: error.message });
      return false;
    }
  };
  return (
    <div className="shed">
      <PageTitle parts={["Members"]} />
      <Rail current="members">
        <span className="spring" />
        <RailSwitches onShortcuts={() => setShortcuts(true)} />
      </Rail>
      <main>
        <h1>Members</h1>
        {fault?.at === "" && (
          <Alert severity="error" role="alert" onClose={() => setFault(null)}>
            {fault.message}
          </Alert>
        )}
        <p>{ACCESS_WORDS[accessMode]}</p>
        {view && (
          <>
            <h2>Phrases</h2>
            <ul className="phrases">
              {ROLES.map((role) => (
                <PhraseRow key={role} role={role} set={view.phrases[role]} change={change} fault={fault?.at === role ? fault.message : null} />
              ))}
            </ul>
            <h2>Members</h2>
            <NewMember change={change} fault={fault?.at === "name" ? fault.message : null} />
            {view.members.length > 0 ? (
              <ul className="member-rows">
                {view.members.map(({ id, name, role, passphrase, sessions, seenAt }) => (
                  <li key={id} data-member={name}>
                    <strong>{name}</strong>
                    <span>
                      {sessions === 0
                        ? "not signed in"
                        : `${ROLE_WORDS[role ?? "look"]}, signed in on ${sessions === 1 ? "one device" : `${sessions} devices`}`}
                      {passphrase && ", with a passphrase of their own"}
                      {seenAt && (
                        <>
                          , last change <small className="num">{when(seenAt)}</small>
                        </>
                      )}
                    </span>
                    <span className="member-acts">
                      {passphrase && (
                        <Button size="small" aria-label={`Remove the passphrase of ${name}`} onClick={() => void change({ do: "remove-passphrase", id })}>
                          Remove passphrase
                        </Button>
                      )}
                      {sessions > 0 && (
                        <Button size="small" onClick={() => void change({ do: "sign-out", id })}>
                          Sign out
                        </Button>
                      )}
                      <Button size="small" aria-label={`Remove ${name}`} onClick={() => void change({ do: "remove", id })}>
                        Remove
                      </Button>
                    </span>
                  </li>
                ))}
              </ul>
            ) : (
              <p className="plain-page-small">No members yet. Administrators are added when they sign in. Add the others here, and give them the phrase.</p>
            )}
            {/* biome-ignore lint/a11y/noLabelWithoutControl: the switch in it is its control */}
            <label className="plain-page-switch">
              <Switch checked={view.ownNames} onChange={(_, own) => void change({ do: "own-names", own })} />
              Anyone who has a phrase may sign in with a new name
            </label>
            <h2>Activity</h2>
            {view.activity.length > 0 ? (
              <ul className="activity-rows">
                {view.activity.map(({ at, who, did, on, times }) => (
                  <li key={`${at} ${who} ${did} ${on}`}>
                    <span className="num">{when(at)}</span> {who} {did}
                    {on ? ` “${on}”` : ""}
                    {times > 1 ? `, ${times} times` : ""}
                  </li>
                ))}
              </ul>
            ) : (
              <p className="plain-page-small">
                Changes by members are listed here, newest first. While only this computer has access, nobody signs in and nothing is listed.
              </p>
            )}
          </>
        )}
      </main>
      <ShortcutsDialog open={shortcuts} onClose={() => setShortcuts(false)} rows={[{ keys: "Tab, Enter", does: "reach and press anything on this page" }]} />
    </div>
  );
}

const ACCESS_WORDS = {
  open: "Only this computer has access, and nobody signs in. To give others access, set phrases here, then start it with HOST=0.0.0.0 (docs/operations.md).",
  phrase: "Anyone who knows a phrase signs in with it, under their own name.",
  anyone: "Anyone has access, because it was started with UPWIND_OPEN. Phrases take effect when it is started without that.",
} as const;

type Change = (action: AccessAction, at?: string) => Promise<boolean>;

function PhraseRow({ role, set, change, fault }: { role: Role; set: boolean; change: Change; fault: string | null }) {
  const [phrase, setPhrase] = useState<string | null>(null);
  const { accessMode } = useMember();
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (phrase !== null && (await change({ do: "phrase", role, phrase }, role))) setPhrase(null);
  };
  return (
    <li data-phrase={role}>
      <span>
        <strong>{role}</strong> <small>{MAY[role]}</small>
      </span>
      {phrase === null ? (
        <span className="member-acts">
          <span>{set ? "set" : "none"}</span>
          <Button size="small" aria-label={`${set ? "Change" : "Set"} the phrase of those who ${role}`} onClick={() => setPhrase("")}>
            {set ? "Change" : "Set one"}
          </Button>
          {set && !(role === "keep" && accessMode === "phrase") && (
            <Button size="small" aria-label={`Remove the phrase of those who ${role}`} onClick={() => void change({ do: "phrase", role, phrase: null }, role)}>
              Remove
            </Button>
          )}
        </span>
      ) : (
        <form onSubmit={(event) => void submit(event)} className="phrase-form">
          <TextField
            size="small"
            label={`Phrase of those who ${role}`}
            value={phrase}
            onChange={(event) => setPhrase(event.target.value)}
            autoComplete="off"
            autoFocus
            error={fault !== null}
            helperText={fault ?? "Four or five ordinary words. Everyone who signed in with the old one is signed out."}
          />
          <Button type="submit" variant="contained">
            Save
          </Button>
          <Button onClick={() => setPhrase(null)}>Cancel</Button>
        </form>
      )}
    </li>
  );
}

function NewMember({ change, fault }: { change: Change; fault: string | null }) {
  const [name, setName] = useState("");
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (name.trim() !== "" && (await change({ do: "add", name }, "name"))) setName("");
  };
  return (
    <form onSubmit={(event) => void submit(event)} className="phrase-form">
      <TextField
        size="small"
        label="A member's name"
        value={name}
        onChange={(event) => setName(event.target.value)}
        error={fault !== null}
        helperText={fault}
      />
      <Button type="submit" variant="outlined" disabled={name.trim() === ""}>
        Add member
      </Button>
    </form>
  );
}
