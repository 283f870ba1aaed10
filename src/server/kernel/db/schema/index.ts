export { cutters } from "./cutters";
export { drawerItems } from "./drawerItems";
export { logEntries } from "./logEntries";
export { photos } from "./photos";
export { plans } from "./plans";
export { rigs } from "./rigs";
export { rowCounts } from "./rowCounts";
export { workshop } from "./workshop";
