/** This program's version, as package.json has it: shown in the app and written into every file that can say who wrote it. */
export const VERSION = "0.3.0";

/** How a file says who wrote it. */
export const WRITTEN_BY = `Upwind Rod ${VERSION}`;
