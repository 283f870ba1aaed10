// Words of a design that need no schema to be spoken: choosers, drawings and lists read these.
export const CUTTER_KINDS = ["bow", "table", "drop", "template", "slicer", "frame", "loop", "wand"] as const;
export type CutterKind = (typeof CUTTER_KINDS)[number];
export { TENSION_DEVICES } from "../../physics/mechanics/devices";

export const DESIGN_FORMAT = "upwind-rod/design";
export const DESIGN_VERSION = 2;

export const SWITCHES = ["foot", "hand", "none"] as const;

/** Most characters a design file may have: notes are the only long part. */
export const MAX_FILE_CHARACTERS = 64 * 1024;
