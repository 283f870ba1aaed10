export { cutters } from "./cutters";
export { drawerItems } from "./drawerItems";
export { workshop } from "./workshop";
