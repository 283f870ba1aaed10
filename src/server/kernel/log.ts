/** Lines of a stack that say where, without what: no message, so no data of the maker's. */
const where = (error: Error): string[] =>
  (error.stack ?? "")
    .split("\n")
    .filter((line) => /^\s+at /.test(line))
    .map((line) => line.trim())
    .slice(0, 6);

/** One line of JSON on the server's own output: when, what, and plain figures; never what a person typed. */
export function logEvent(event: string, fields: Readonly<Record<string, string | number | boolean | readonly string[]>> = {}): void {
  console.error(JSON.stringify({ at: new Date().toISOString(), event, ...fields }));
}

/**
 * Logs a fault to the server's own output (`withPlace` off where words for the maker follow at once): its kind, the database's code and where it arose. Never its message, which for a query carries its parameters.
 */
export function logFault(error: unknown, { withPlace = true }: { withPlace?: boolean } = {}): void {
  const causes: string[] = [];
  let at: unknown = error;
  for (let depth = 0; at instanceof Error && depth < 4; depth++) {
    const { code, routine } = at as { code?: unknown; routine?: unknown };
    causes.push([at.name, typeof code === "string" ? code : "", typeof routine === "string" ? routine : ""].filter(Boolean).join(" "));
    at = at.cause;
  }
  logEvent("fault", { kinds: causes.length > 0 ? causes : [typeof error], ...(withPlace && error instanceof Error ? { where: where(error) } : {}) });
}
