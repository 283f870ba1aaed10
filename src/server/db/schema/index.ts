export { cutters } from "./cutters";
export { workshop } from "./workshop";
