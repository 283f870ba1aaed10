// Words of a design that need no schema to be spoken: choosers, drawings and lists read these.
export const CUTTER_KINDS = ["bow", "table", "drop", "template", "slicer", "frame", "loop", "wand"] as const;
export type CutterKind = (typeof CUTTER_KINDS)[number];
export { TENSION_DEVICES } from "../../physics/mechanics/devices";

export const DESIGN_FORMAT = "upwind-rod/design";
export const DESIGN_VERSION = 3;

/** Safety questions about the wiring. Each is answered by a person who looked at the cutter, or by a meter; never by a default. */
export const SAFETY_KEYS = ["isolation", "fuse_A", "switch", "insulatedPost", "jumper"] as const;
export type SafetyKey = (typeof SAFETY_KEYS)[number];

export const SWITCHES = ["foot", "hand", "none"] as const;

/** Most characters a design file may have: notes are the only long part. */
export const MAX_FILE_CHARACTERS = 64 * 1024;
