import type { Design } from "../cutters/design/schema";
import { evaluateDesign, liveMm } from "../cutters/solve/evaluate";
import { interpolate } from "../numerics/interpolate";
import { solveAxial } from "../physics/cut/axial";
import type { CutPair } from "../physics/cut/cut";
import type { BarInput, TemplateMaterial } from "../physics/cut/wireBar";
import { MATERIALS, type Plan } from "./plan";

/** What the wire's own model calls each material. */
const SHEET: Readonly<Record<Plan["template"]["material"], TemplateMaterial>> = { metal: "aluminium", laminate: "laminate", plywood: "plywood", card: "card" };

/** Colder by less than this is not felt in the cut, degC (this project's judgement). */
const FELT_C = 5;
/** Cells along the wire: half a millimetre on a bow of 1.3 m. */
const CELLS = 2400;

export interface EdgeCost {
  material: Plan["template"]["material"];
  /** degC that the wire is colder where it enters the foam next to the template; negative where the sheet keeps it warm */
  lostC: number;
  /** How far into the foam it is felt, mm. */
  affectedMm: number;
}

/**
 * What a template's edge takes from the wire next to it, from the engine's model of heat along the wire with the edge as a zone.
 * @param thicknessMm of the sheet
 * @returns null where the part is longer than the wire
 */
export function edgeCost(
  { design, pair, currentA, feedMPerS }: { design: Design; pair: CutPair; currentA: number; feedMPerS: number },
  spanMm: number,
  material: EdgeCost["material"],
  thicknessMm: number,
): EdgeCost | null {
  const lengthM = liveMm(design) / 1000;
  const widthM = spanMm / 1000;
  if (widthM + (4 * thicknessMm) / 1000 >= lengthM) return null;
  const fromM = (lengthM - widthM) / 2;
  const bar: BarInput = {
    wire: pair.wire,
    lengthM,
    ambientC: design.ambient_C,
    clampC: design.ambient_C,
    cells: CELLS,
    foam: { pair, feedMPerS, fromM, toM: fromM + widthM },
  };
  const edge = (atM: number) => ({ atM, thicknessM: thicknessMm / 1000, material: SHEET[material] });
  const bare = solveAxial({ ...bar, currentA });
  const beside = solveAxial({ ...bar, currentA, edges: [edge(fromM - thicknessMm / 2000), edge(fromM + widthM + thicknessMm / 2000)] });
  const at = (m: number, { positionM, temperatureC }: typeof bare) =>
    interpolate(
      Array.from(positionM, (x, i) => [x, temperatureC[i] as number] as const),
      m,
    ).y;
  let affectedM = 0;
  for (const [i, x] of bare.positionM.entries()) {
    if (x < fromM || x > fromM + widthM / 2) continue;
    if ((bare.temperatureC[i] as number) - (beside.temperatureC[i] as number) > FELT_C) affectedM = x - fromM;
  }
  return { material, lostC: at(fromM, bare) - at(fromM, beside), affectedMm: affectedM * 1000 };
}

/** Every material at one thickness, for a part on a cutter as it is; empty where no cut is made or the part is longer than the wire. */
export function edgeCosts(design: Design, spanMm: number, feedMmS: number, thicknessMm: number): EdgeCost[] {
  const { pair, circuit } = evaluateDesign(design);
  if (circuit.currentA <= 0) return [];
  const setting = { design, pair, currentA: circuit.currentA, feedMPerS: feedMmS / 1000 };
  return MATERIALS.map((material) => edgeCost(setting, spanMm, material, thicknessMm)).filter((cost) => cost !== null);
}
