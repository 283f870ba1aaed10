import type { Design } from "../cutters/design/schema";
import { CoreError } from "../kernel/errors";
import { bisect } from "../numerics/bisection";
import { resistanceOhmPerM } from "../physics/heat/wire";
import { driveInto } from "../physics/power/circuit";
import { BENCH_DEFAULTS, BenchWorld } from "./world";

/** How a controller that holds the wire's ohms takes the foam. */
export interface HeldResponse {
  /** Duty with the wire settled in air, and cutting. Shares of 1. */
  airDuty: number;
  cutDuty: number;
  /** Mean of the whole wire by its ohms: settled in air, at its lowest on entering, and cutting, degC. */
  airC: number;
  lowestC: number;
  cutC: number;
  /** From the foam's face until the mean stays within a degree and a half of where it ends, s. */
  settlesS: number;
  /** Bare ends while cutting, degC: hotter than asked, since the middle is cooler. */
  endsC: number;
}

const STEP_S = 0.05;
const WARM_S = 20;
const CUT_S = 12;
const SETTLED_C = 1.5;

/** No wire is hotter, degC. */
const HOTTEST_C = 1200;

/** Temperature at which all of the wire would have these ohms: what the controller believes. */
function meanC(world: BenchWorld): number {
  const { wire, lengthM, ambientC } = world.sim.circuitNow;
  return bisect((wireC) => resistanceOhmPerM(wire, wireC) * lengthM < world.sim.wireOhm, ambientC, HOTTEST_C, 40).high;
}

function dutyNow(world: BenchWorld): number {
  const { rmsA, onA } = driveInto(world.sim.circuitNow, world.sim.wireOhm);
  return onA > 0 ? (rmsA / onA) ** 2 : 0;
}

const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;

/**
 * Runs a design with a controller on the bench: warm in air, then into the foam at the job's feed, and notes how the loop answers.
 * @throws CoreError `conflict` for a design that holds no temperature
 */
export function heldResponse(design: Design): HeldResponse {
  if (design.control.kind !== "held") throw new CoreError("conflict", "control.kind", "control.kind must be held: nothing else holds a temperature");
  const world = new BenchWorld(
    { ...design, job: { ...design.job } },
    { ...BENCH_DEFAULTS, even: true, block_mm: Math.max(60, 2 * design.job.feed_mm_s * CUT_S) },
  );
  world.heat(true);
  world.run(WARM_S - 1);
  const follow = (seconds: number) =>
    Array.from({ length: Math.round(seconds / STEP_S) }, () => {
      world.run(STEP_S);
      return { duty: dutyNow(world), c: meanC(world), inFoam: world.sim.inFoam[world.sim.middle] === 1 };
    });
  const air = follow(1);
  world.hand({ mode: "pace", mPerS: design.job.feed_mm_s / 1000 });
  const cut = follow(CUT_S + 4)
    .filter((each) => each.inFoam)
    .slice(0, Math.round(CUT_S / STEP_S));
  if (cut.length < 40) throw new CoreError("no-solution", "job.feed_mm_s", "the wire never came into the foam on the bench: the set-up does not cut");
  const last = cut.slice(-20);
  const cutC = mean(last.map((each) => each.c));
  const lastOut = cut.findLastIndex((each) => Math.abs(each.c - cutC) > SETTLED_C);
  return {
    airDuty: mean(air.map((each) => each.duty)),
    cutDuty: mean(last.map((each) => each.duty)),
    airC: mean(air.map((each) => each.c)),
    lowestC: Math.min(...cut.map((each) => each.c)),
    cutC,
    settlesS: (lastOut + 1) * STEP_S,
    endsC: world.sim.airC,
  };
}
