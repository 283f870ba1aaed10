import { type DocumentKind, readDocument, readDocumentText, writeDocument } from "../../kernel/document";
import { type Design, designSchema } from "./schema";
import { DESIGN_FORMAT, DESIGN_VERSION, MAX_FILE_CHARACTERS } from "./vocabulary";

/** Doubt of the clearance next to the wire, as version 2 began with it. */
const CLEARANCE_DOUBT_THEN = 0.35;
const DRAG_DOUBT_THEN = 0.35;

/**
 * Version 1 judged the top feed by the wire's diameter alone. What its cuts taught of heat, collapse and density stands; what they taught of drag was read under
 * that law and begins again, next to a clearance nobody had asked about.
 */
function fromVersion1(value: object): unknown {
  const old = value as { calibrations?: unknown };
  const calibrations = Array.isArray(old.calibrations)
    ? old.calibrations.map((each: unknown) => {
        if (each === null || typeof each !== "object" || !("factor" in each) || !Array.isArray(each.factor)) return each;
        const saved = each.factor.slice(0, 6);
        return { ...each, dragShare: 1, clearanceShare: 1, factor: [...saved, 0, 0, 0, DRAG_DOUBT_THEN, 0, 0, 0, 0, CLEARANCE_DOUBT_THEN] };
      })
    : old.calibrations;
  return { ...old, version: 2, ...(calibrations === undefined ? {} : { calibrations }) };
}

/**
 * Version 2 had no record of who answered the safety questions, and wrote answers into new cutters on its own. They become unknown, and a cutter that was called ready
 * is so no more until a person has answered them.
 */
function fromVersion2(value: object): unknown {
  const { ready, wiring: _wiring, ...rest } = value as { ready?: unknown; wiring?: unknown };
  return { ...rest, version: DESIGN_VERSION, ...(ready === true ? { readyWithdrawn: true } : {}) };
}

/** The design as a kind of document. */
export const DESIGN_KIND: DocumentKind<Design> = {
  format: DESIGN_FORMAT,
  version: DESIGN_VERSION,
  one: "design",
  maxCharacters: MAX_FILE_CHARACTERS,
  schema: designSchema,
  upgrades: { 1: fromVersion1, 2: fromVersion2 },
};

/** The design as the text of a file: format name and version first, two-space indent. */
export const exportDesign = (design: Design): string => writeDocument(DESIGN_KIND, design);

/** Reads a design from a parsed JSON value of this or an older format version. @throws as {@link readDocument} */
export const migrateDesign = (value: unknown): Design => readDocument(DESIGN_KIND, value);

/** Reads a design from the text of a file. @throws as {@link readDocumentText} */
export const importDesign = (text: string): Design => readDocumentText(DESIGN_KIND, text);
