/** Stable codes of what the server refuses on its own account; the core's codes pass through next to them. */
type ServerErrorCode =
  | "not-found"
  | "stale-revision"
  | "name-taken"
  | "cross-origin"
  | "too-large"
  | "unreadable"
  | "data-folder-in-use"
  | "data-folder-fault"
  | "data-damaged"
  | "disk-full"
  | "busy"
  | "expired"
  | "lock-lost"
  | "database-away"
  | "newer-schema"
  | "method"
  | "instrument"
  | "spool-short"
  | "sign-in"
  | "role"
  | "wrong-phrase"
  | "unknown-member"
  | "passphrase"
  | "too-many-tries";

/** A refusal with a code and words fit for the client: never SQL, parameters or a stack. */
export class ServerError extends Error {
  constructor(
    readonly code: ServerErrorCode,
    readonly status: number,
    message: string,
    /** Sent next to the message, such as the row that a stale save met. */
    readonly extra: Record<string, unknown> = {},
  ) {
    super(message);
    this.name = "ServerError";
  }

  /** Bundles each get their own copy of this class, and one bundle's refusal is handled by another's routes: it is recognised by its fields. */
  static override [Symbol.hasInstance](value: unknown): boolean {
    return value instanceof Error && value.name === "ServerError" && typeof (value as { status?: unknown }).status === "number";
  }
}
