/** A spreadsheet would run a cell that begins so: it is written behind an apostrophe, and so is one that already stands behind some, to be read back as it was. */
const FORMULA = /^'*[=+\-@\t\r]/;
const GUARDED = /^'+[=+\-@\t\r]/;

/** A cell's text as it may stand in a file that a spreadsheet opens. */
export const guardCell = (text: string) => (FORMULA.test(text) ? `'${text}` : text);

/** The text a guarded cell was made of. */
export const unguardCell = (text: string) => (GUARDED.test(text) ? text.slice(1) : text);

/** Delimiters that spreadsheets write, by the person's region. */
const DELIMITERS = [",", ";", "\t"] as const;

/** What parts a table's cells: the one of these that stands most often in its first line, which names the columns. What stands in people's own words further down says nothing about it. */
export function delimiterOf(text: string): (typeof DELIMITERS)[number] {
  const [first = ""] = text.split(/\r?\n|\r/, 1);
  const count = (delimiter: string) => first.split(delimiter).length;
  return DELIMITERS.reduce((best, each) => (count(each) > count(best) ? each : best));
}
