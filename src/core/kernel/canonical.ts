/**
 * JSON with keys in order, so that two equal values always read the same. Bytes read as their count.
 * @returns "undefined" for undefined
 */
export function canonical(value: unknown): string {
  return (
    JSON.stringify(value, (_key, inner) => {
      if (inner instanceof Uint8Array) return inner.length;
      return inner !== null && typeof inner === "object" && !Array.isArray(inner)
        ? Object.fromEntries(Object.entries(inner).sort(([a], [b]) => (a < b ? -1 : 1)))
        : inner;
    }) ?? "undefined"
  );
}
