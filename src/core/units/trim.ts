/** Drops a trailing ".0" so that plates read as plates do. */
export const trim = (text: string) => text.replace(/(\d)\.0+(?=\s|$)/, "$1").replace(/(\.\d*?[1-9])0+(?=\s|$)/, "$1");
