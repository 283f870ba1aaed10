"use client";
import { createContext, type ReactNode, useContext, useEffect, useMemo, useState } from "react";
import { mayDo, type Role } from "@/core/workshop/roles";
import { onSignedOut } from "./api";

/** Anyone who sits before the page, as the server knows them: nobody by name in an open workshop. */
export interface Seated {
  accessMode: "open" | "phrase" | "anyone";
  name: string | null;
  role: Role;
}

const MemberContext = createContext<Seated>({ accessMode: "open", name: null, role: "keep" });

/** Holds who is signed in, and says what every page must: that anyone may come in, or that one is signed out. */
export function MemberProvider({ seated, children }: { seated: Seated; children: ReactNode }) {
  const [out, setOut] = useState(false);
  useEffect(() => onSignedOut(() => setOut(true)), []);
  return (
    <MemberContext.Provider value={seated}>
      {seated.accessMode === "anyone" && (
        <p className="plain-page-says" role="note">
          Anyone who reaches this address may look at and change everything here.
        </p>
      )}
      {out && (
        <p className="plain-page-says" role="alert">
          You are signed out. What you typed stays in this browser: <a href={`/sign-in?to=${encodeURIComponent(hereNow())}`}>sign in again</a>.
        </p>
      )}
      {children}
    </MemberContext.Provider>
  );
}

const hereNow = () => `${window.location.pathname}${window.location.search}`;

/** What only those of a role can do, shown to them alone. */
export function For({ who, children }: { who: Role; children: ReactNode }) {
  return useMember().may(who) ? children : null;
}

/** Who is signed in, and whether they may do what needs a role. */
export function useMember(): Seated & { may: (needed: Role) => boolean } {
  const seated = useContext(MemberContext);
  return useMemo(() => ({ ...seated, may: (needed: Role) => mayDo(seated.role, needed) }), [seated]);
}
