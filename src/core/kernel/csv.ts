/**
 * Where a spreadsheet would begin to run a formula: at the beginning of a cell and behind every character at which some region's spreadsheet begins another cell, so `;=1+1` in a file of commas too. An apostrophe goes
 * before it, and before those that are there already, so that the text reads back as it was.
 */
const FORMULA = /(?<=^|[,;\t\r\n])(?='*[=+\-@\t\r])/g;
const GUARDED = /(?<=^|[,;\t\r\n])'(?='*[=+\-@\t\r])/g;

/** A cell's text as it may be written into a file that a spreadsheet opens. */
export const guardCell = (text: string) => text.replace(FORMULA, "'");

/** The text a guarded cell was made of. */
export const unguardCell = (text: string) => text.replace(GUARDED, "");

/** Delimiters that spreadsheets write, by the person's region. */
const DELIMITERS = [",", ";", "\t"] as const;

/** What parts a table's cells: the one of these that stands most often in its first line, which names the columns. What is in people's own words further down says nothing about it. */
export function delimiterOf(text: string): (typeof DELIMITERS)[number] {
  const [first = ""] = text.split(/\r?\n|\r/, 1);
  const count = (delimiter: string) => first.split(delimiter).length;
  return DELIMITERS.reduce((best, each) => (count(each) > count(best) ? each : best));
}
