export { cutters } from "./cutters";
export { drawerItems } from "./drawerItems";
export { logEntries } from "./logEntries";
export { photos } from "./photos";
export { workshop } from "./workshop";
