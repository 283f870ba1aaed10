import { CoreError } from "../../kernel/errors";
import { type HotSpots, hotSpots, solveAxial } from "../../physics/cut/axial";
import { type Entry, enterFoam } from "../../physics/cut/entry";
import { type CutBands, cutBands } from "../../physics/cut/uncertainty";
import type { BarInput } from "../../physics/cut/wireBar";
import { type BatteryRun, batteryRun } from "../../physics/power/powerAdvice";
import { supplyRecordOf } from "../../physics/power/supplies";
import { warmUpOnSupply } from "../../physics/power/warmup";
import type { Design } from "../design/schema";
import { circuitInput, type DesignEvaluation, liveMm, pairOf, widthOnWireM } from "./evaluate";

/** How long a design's battery lasts while cutting; null for other supplies. Forty circuits: ask it next to the frame, not in it. */
export function batteryRunOf(design: Design): BatteryRun | null {
  return supplyRecordOf(design.supply).record.charge ? batteryRun(circuitInput(design, pairOf(design))) : null;
}

/** Bands of the design's cut figures. Ten cuts more: ask it next to the frame, not in it. */
export function bandsOf(design: Design, evaluation: DesignEvaluation): CutBands {
  const hold = { spanM: design.wire.length_mm / 1000, widthM: widthOnWireM(design), tensionN: design.tension.hot_N };
  return cutBands(evaluation.pair, evaluation.feedMPerS, { powerWPerM: evaluation.cut.powerWPerM }, evaluation.acceptedKerfM, hold, evaluation.doubts);
}

/** How the design heats in time and along its wire. Some milliseconds: ask it next to the frame, not in it. */
export interface HeatCourse {
  /** From switch-on to 95 % of the bare wire's rise; null when it takes over an hour. */
  warmUpS: number | null;
  /** null where the wire cannot cut its way in */
  entry: Entry | null;
  /** Temperatures along the live wire; null where it would melt. */
  along: { positionM: Float64Array; temperatureC: Float64Array; spots: HotSpots } | null;
}

const ALONG_CELLS = 160;

export function heatCourseOf(design: Design, evaluation: DesignEvaluation): HeatCourse {
  const { pair, circuit, feedMPerS } = evaluation;
  const lengthM = liveMm(design) / 1000;
  const widthM = widthOnWireM(design);
  const bar: BarInput = {
    wire: pair.wire,
    lengthM,
    ambientC: design.ambient_C,
    clampC: design.ambient_C,
    cells: ALONG_CELLS,
    foam: { pair, feedMPerS, fromM: (lengthM - widthM) / 2, toM: (lengthM + widthM) / 2 },
  };
  const unlessRefused = <T>(work: () => T): T | null => {
    try {
      return work();
    } catch (error) {
      // A current that melts the wire, or a feed it cannot follow, is said by the verdict; here there is just nothing to draw.
      if (error instanceof CoreError && (error.code === "no-solution" || error.code === "outside-domain")) return null;
      throw error;
    }
  };
  return {
    warmUpS: unlessRefused(() => warmUpOnSupply(circuitInput(design, pair), 1).timeTo95S),
    entry: circuit.currentA > 0 ? unlessRefused(() => enterFoam(pair, feedMPerS, circuit.currentA)) : null,
    along: unlessRefused(() => {
      const { positionM, temperatureC } = solveAxial({ ...bar, currentA: circuit.currentA });
      return { positionM, temperatureC, spots: hotSpots({ positionM, temperatureC }, bar) };
    }),
  };
}
