/** A file's stem any system takes: letters, digits and dashes of a name. */
export const fileStem = (name: string): string => slugged(name) || "cutter";

/** Letters, digits and dashes of a name; empty where it has none. */
export function slugged(name: string): string {
  return name
    .normalize("NFKD")
    .replaceAll(/[^A-Za-z0-9]+/g, "-")
    .replaceAll(/^-+|-+$/g, "")
    .toLowerCase();
}
