export { cutters } from "./cutters";
export { drawerItems } from "./drawerItems";
export { logEntries } from "./logEntries";
export { workshop } from "./workshop";
