import { CoreError } from "../../kernel/errors";
import { parseOrThrow } from "../../kernel/parse";
import { type Design, designSchema } from "./schema";
import { DESIGN_FORMAT, DESIGN_VERSION } from "./vocabulary";

/** Most characters a design file may have: notes are the only long part. */
export const MAX_FILE_CHARACTERS = 64 * 1024;

/** The design as the text of a file: format name and version first, two-space indent. */
export function exportDesign(design: Design): string {
  return `${JSON.stringify(designSchema.parse(design), null, 2)}\n`;
}

/**
 * Reads a design from a parsed JSON value of this or an older format version.
 * @throws CoreError `wrong-format` when it is not a design, `newer-format` when a later program wrote it, otherwise the first bad field by path
 */
export function migrateDesign(value: unknown): Design {
  if (value === null || typeof value !== "object" || Array.isArray(value) || !("format" in value) || value.format !== DESIGN_FORMAT) {
    throw new CoreError("wrong-format", "format", `this is not a design: its "format" should be "${DESIGN_FORMAT}"`);
  }
  const version = "version" in value ? value.version : undefined;
  if (typeof version !== "number" || !Number.isInteger(version) || version < 1) {
    throw new CoreError("wrong-format", "version", `version must be a whole number from 1 to ${DESIGN_VERSION}`);
  }
  if (version > DESIGN_VERSION) {
    throw new CoreError(
      "newer-format",
      "version",
      `this design was written by a newer Upwind Rod (format ${version}; this one reads up to ${DESIGN_VERSION}). Nothing was changed: update this copy, then open it again.`,
    );
  }
  return parseOrThrow(designSchema, version === 1 ? fromVersion1(value) : value);
}

/** Doubt of the clearance beside the wire, as version 2 began with it. */
const CLEARANCE_DOUBT_THEN = 0.35;
const DRAG_DOUBT_THEN = 0.35;

/**
 * Version 1 judged the top feed by the wire's diameter alone. What its cuts taught of heat, collapse and density stands; what they taught of drag was read under
 * that law and begins anew, beside a clearance nobody had asked about.
 */
function fromVersion1(value: object): unknown {
  const old = value as { calibrations?: unknown };
  const calibrations = Array.isArray(old.calibrations)
    ? old.calibrations.map((each: unknown) => {
        if (each === null || typeof each !== "object" || !("factor" in each) || !Array.isArray(each.factor)) return each;
        const kept = each.factor.slice(0, 6);
        return { ...each, dragShare: 1, clearanceShare: 1, factor: [...kept, 0, 0, 0, DRAG_DOUBT_THEN, 0, 0, 0, 0, CLEARANCE_DOUBT_THEN] };
      })
    : old.calibrations;
  return { ...old, version: DESIGN_VERSION, ...(calibrations === undefined ? {} : { calibrations }) };
}

/**
 * Reads a design from the text of a file.
 * @throws CoreError `bad-json` with the place of the fault, or as {@link migrateDesign}
 */
export function importDesign(text: string): Design {
  if (text.length > MAX_FILE_CHARACTERS) {
    throw new CoreError("out-of-range", "", `a design file has at most ${MAX_FILE_CHARACTERS} characters; this one has ${text.length}`);
  }
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    throw new CoreError("bad-json", "", `not valid JSON: ${(error as Error).message}`);
  }
  return migrateDesign(value);
}
