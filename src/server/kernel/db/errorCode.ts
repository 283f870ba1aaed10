/** The database's own code (SQLSTATE) of an error or of what caused it; empty where there is none. */
export function errorCode(error: unknown): string {
  for (let at = error, depth = 0; at instanceof Error && depth < 5; at = at.cause, depth++) {
    const { code } = at as { code?: unknown };
    if (typeof code === "string") return code;
  }
  return "";
}
