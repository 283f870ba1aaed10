/**
 * A reader of stored documents that does not read the same text twice: a drawer of thousands is asked for with every page, and changes by one row at a time.
 * @param read what makes a document of a parsed JSON value; its errors are thrown again each time
 * @param most texts remembered, the longest unused ones forgotten first
 * @returns the document of a text; the same frozen one for the same text
 */
export function readOnce<T>(read: (value: unknown) => T, most = 6000): (text: string) => T {
  const known = new Map<string, T>();
  return (text) => {
    const found = known.get(text);
    const document = found ?? frozen(read(JSON.parse(text)));
    if (found) known.delete(text);
    known.set(text, document);
    if (known.size > most) known.delete(known.keys().next().value as string);
    return document;
  };
}

/** Shared by everybody who asks, so nobody may change it. */
function frozen<T>(value: T): T {
  if (value !== null && typeof value === "object") for (const inner of Object.values(value)) frozen(inner);
  return Object.freeze(value);
}
