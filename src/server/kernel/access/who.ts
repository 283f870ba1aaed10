import { AsyncLocalStorage } from "node:async_hooks";
import { mayDo, type Role } from "@/core/workshop/roles";
import { ServerError } from "../errors";
import type { Access } from "./access";
import { accessModeOf } from "./accessMode";
import type { Member } from "./member";

/** Name of the session's cookie. */
export const SESSION_COOKIE = "upwind-session";

// Route bundles each get their own copy of this module; the process has one access guard, and one record of who is at work.
const shared = globalThis as typeof globalThis & { upwindAccess?: Access; upwindWho?: AsyncLocalStorage<Member | null> };
shared.upwindWho ??= new AsyncLocalStorage();
const atWork = shared.upwindWho;

/** The process's access, once the workshop is open. */
export const heldAccess = (): Access | undefined => shared.upwindAccess;
export function holdAccess(access: Access): void {
  shared.upwindAccess = access;
}

/** Name of anyone who the server is at work for; null where nobody signed in: on this computer alone, or in an open workshop. */
export const whoName = (): string | null => atWork.getStore()?.name ?? null;
/** Anyone who the server is at work for. */
export const whoIs = (): Member | null => atWork.getStore() ?? null;

/** The session's cookie as a request carries it. */
export function sessionCookie(header: string | null): string | undefined {
  for (const part of (header ?? "").split(";")) {
    const at = part.indexOf("=");
    if (at > 0 && part.slice(0, at).trim() === SESSION_COOKIE) return part.slice(at + 1).trim();
  }
  return undefined;
}

/** @throws ServerError `sign-in` for nobody known, `role` for one who may not */
function admitted(member: Member | null | undefined, needed: Role): Member {
  if (!member) throw new ServerError("sign-in", 401, "Sign in first: this workshop has an access phrase.");
  if (!mayDo(member.role, needed))
    throw new ServerError(
      "role",
      403,
      needed === "keep"
        ? "An administrator of this workshop can do that: ask one, or sign in with the administrators' phrase."
        : "You signed in to look: nothing was changed.",
    );
  return member;
}

/**
 * Who asks, where somebody must be signed in.
 * @returns null where nobody needs to
 * @throws ServerError `sign-in` for nobody known, `role` for one who may not
 */
export async function admit(request: Request, needed: Role): Promise<Member | null> {
  if (accessModeOf(process.env).mode !== "phrase") return null;
  return admitted(await heldAccess()?.read(sessionCookie(request.headers.get("cookie"))), needed);
}

/** As {@link admit}, by what this process last knew of sessions: it does not wait for the database. */
export async function admitFromMemory(request: Request, needed: Role): Promise<Member | null> {
  if (accessModeOf(process.env).mode !== "phrase") return null;
  return admitted(await heldAccess()?.readFromMemory(sessionCookie(request.headers.get("cookie"))), needed);
}

/** Does a request's work in the name of anyone who asked for it. */
export const workFor = <T>(member: Member | null, work: () => Promise<T>): Promise<T> => atWork.run(member, work);
