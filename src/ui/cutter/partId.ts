/** The parts of a set-up that can be opened and changed, wherever they are shown. */
export type PartId = "foam" | "width" | "thickness" | "feed" | "kerf" | "wire" | "length" | "supply" | "control" | "leads" | "tension" | "room";
