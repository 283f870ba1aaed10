/** A file's stem any system takes: letters, digits and dashes of a name. */
export function fileStem(name: string): string {
  const stem = name
    .normalize("NFKD")
    .replaceAll(/[^A-Za-z0-9]+/g, "-")
    .replaceAll(/^-+|-+$/g, "")
    .toLowerCase();
  return stem || "cutter";
}
