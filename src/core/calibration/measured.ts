import type { Design } from "../cutters/design/schema";
import { withSetting } from "../cutters/solve/evaluate";
import { CoreError } from "../kernel/errors";
import type { LogEntry, TestCut } from "../log/entries";
import { foamNamed, resolveFoam, sameFoam } from "../materials/foams";
import { type CutPair, cutAtPower, heatInKerf } from "../physics/cut/cut";
import { enterFoam } from "../physics/cut/entry";
import { resistanceOhmPerM, resolveWire } from "../physics/heat/wire";
import type { MeasuredCut } from "./fit";

/** Whether a test cut was made in the design's foam. */
const ofFoam = (design: Design, cut: TestCut) => sameFoam(cut.foam, design.job.foam);

/** Blocks this near in density teach about each other: each is computed with its own. */
const NEAR_DENSITY = 0.2;

/** Test cuts that can teach about the design's foam: with a kerf, a bow or a current measured. */
export function teachingCuts(design: Design, entries: readonly LogEntry[]): TestCut[] {
  return entries.filter(
    (entry): entry is TestCut =>
      entry.kind === "test-cut" &&
      entry.foam.family === design.job.foam.family &&
      entry.foam.own?.name === design.job.foam.own?.name &&
      Math.abs(entry.foam.density_kg_m3 / design.job.foam.density_kg_m3 - 1) <= NEAR_DENSITY &&
      (entry.heat_W_per_m !== undefined || entry.current_A !== undefined) &&
      (entry.kerf_mm !== undefined || entry.lag_mm !== undefined || (entry.current_A !== undefined && entry.supply !== undefined)),
  );
}

/** Amperes of a cut: as a meter read them, or those that give the heat computed for it. */
function amperesOf(cut: TestCut, pair: CutPair): number {
  if (cut.current_A !== undefined) return cut.current_A;
  const powerWPerM = cut.heat_W_per_m ?? 0.1;
  const { wireC } = cutAtPower(pair, cut.feed_mm_s / 1000, powerWPerM);
  return Math.sqrt(powerWPerM / resistanceOhmPerM(pair.wire, wireC));
}

/** How much of a cut's beginning is wider than the rest, mm: until then its kerf shows the heat that the wire stored in air. Null where no figure can be had. */
export function settlesAfterMm(cut: TestCut, roomC: number): number | null {
  const pair = { wire: resolveWire(cut.wire), foam: resolveFoam(cut.foam), ambientC: cut.ambient_C ?? roomC };
  try {
    const { settlesM } = enterFoam(pair, cut.feed_mm_s / 1000, amperesOf(cut, pair));
    return settlesM === null ? null : settlesM * 1000;
  } catch (error) {
    // Past its top feed, by figures that are not learnt yet, it never settles.
    if (error instanceof CoreError && (error.code === "outside-domain" || error.code === "no-solution")) return null;
    throw error;
  }
}

/** Whether a cut's kerf was measured before it had settled: it teaches nothing of the steady cut. */
export function isUnsettled(cut: TestCut, roomC: number): boolean {
  if (cut.kerf_mm === undefined || cut.kerf_at_mm === undefined) return false;
  const after = settlesAfterMm(cut, roomC);
  return after !== null && cut.kerf_at_mm < after;
}

/** A test cut as the fit takes it. A current read off a meter gives the heat; else the heat as it was computed. */
export function teachingCut(cut: TestCut, roomC: number): MeasuredCut {
  const { wire_length_mm, supply, control, leads } = cut;
  const ambientC = cut.ambient_C ?? roomC;
  const pair = { wire: resolveWire(cut.wire), foam: resolveFoam(cut.foam), ambientC };
  const feedMPerS = cut.feed_mm_s / 1000;
  const lengthM = wire_length_mm / 1000;
  return {
    wire: cut.wire,
    foam: cut.foam,
    ambientC,
    feedMPerS,
    powerWPerM: cut.current_A !== undefined ? heatInKerf(pair, feedMPerS, cut.current_A).powerWPerM : (cut.heat_W_per_m ?? 0.1),
    kerfM: cut.kerf_mm === undefined || isUnsettled(cut, roomC) ? undefined : cut.kerf_mm / 1000,
    lag:
      cut.lag_mm === undefined || cut.tension_N === undefined
        ? undefined
        : { lagM: cut.lag_mm / 1000, spanM: lengthM, widthM: Math.min(cut.width_mm / 1000, lengthM), tensionN: cut.tension_N },
    circuit: supply && control ? { wire: pair.wire, lengthM, supply, control, leads, ambientC } : undefined,
    widthM: cut.width_mm / 1000,
    currentA: cut.current_A,
  };
}

/** The design as a test cut was made: its foam, width, feed and knob. For a diagnosis of that cut. */
export function designOfCut(design: Design, cut: TestCut): Design {
  const same = ofFoam(design, cut);
  const made: Design = {
    ...design,
    ambient_C: cut.ambient_C ?? design.ambient_C,
    job: {
      ...design.job,
      foam: same ? design.job.foam : foamNamed(cut.foam),
      width_mm: cut.width_mm,
      feed_mm_s: cut.feed_mm_s,
    },
    wire: { ...cut.wire, length_mm: cut.wire_length_mm },
    ...(cut.supply && cut.control ? { supply: cut.supply, control: cut.control, leads: cut.leads } : {}),
  };
  return made.control.kind === "clip" ? withSetting(made, Math.min(made.control.live_mm, made.wire.length_mm)) : made;
}
