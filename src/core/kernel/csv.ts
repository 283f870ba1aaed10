/** A spreadsheet would run a cell that begins so: it is written behind an apostrophe, and so is one that already stands behind some, to be read back as it was. */
const FORMULA = /^'*[=+\-@\t\r]/;
const GUARDED = /^'+[=+\-@\t\r]/;

/** A cell's text as it may stand in a file that a spreadsheet opens. */
export const guardCell = (text: string) => (FORMULA.test(text) ? `'${text}` : text);

/** The text a guarded cell was made of. */
export const unguardCell = (text: string) => (GUARDED.test(text) ? text.slice(1) : text);
