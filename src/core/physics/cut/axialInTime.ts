import { CoreError } from "../../kernel/errors";
import type { Relation } from "../../kernel/provenance";
import { type BarFlows, type BarInput, type BarLaws, solveTridiagonal, WireBar } from "./wireBar";

export const AXIAL_IN_TIME: Relation = {
  id: "axial-in-time",
  title: "Heat along the wire in time",
  formula: "rho cp A dT/dt = d/dx(k A dT/dx) + I^2 R'(T) - q'_zone(T)",
  words:
    "The same heat balance as the steady one, with the wire's own mass taking up or giving off what is left over: warming, entering foam, leaving it, cooling.",
  range: "constant specific heat and conductivity; foam answers at once (it settles far faster than the wire)",
  basis: "published",
  source: "finite volumes; two-stage singly diagonal implicit Runge-Kutta of second order (Alexander 1977), L-stable",
};

/** One stretch of time with everything held: what flows in the wire and whether the foam is on it. */
export interface Phase {
  seconds: number;
  /** rms amperes, or amperes from the wire's ohms of the moment when a supply drives it */
  drive: number | ((wireOhm: number) => number);
  inFoam: boolean;
}

const GAMMA = 1 - Math.SQRT1_2;
const MOST_NEWTON = 25;
/** Enough to see the ends cool and the foam's edges; a steady solution affords more. */
const CELLS_IN_TIME = 200;
/** A stage is solved when no cell's last move was more than this, K: a move is wrong by about a hundredth of itself. */
const SETTLED_K = 1e-4;

/** A wire whose temperatures are followed in time. Energy is booked as it flows, so that the balance can be struck at any moment. */
export class BarInTime {
  readonly bar: WireBar;
  readonly temperatureC: Float64Array;
  timeS = 0;
  newtons = 0;
  /** J since the start */
  readonly ledger = { generated: 0, toAir: 0, toFoam: 0, toEdges: 0, toClamps: 0 };
  private readonly startC: Float64Array;
  private readonly stage: Float64Array;
  private readonly base: Float64Array;
  private readonly tried: Float64Array;
  private readonly gain: Float64Array;
  private readonly slope: Float64Array;
  private readonly leap: Float64Array;
  /** How each cell moved in the last step, K/s. */
  private readonly trendCPerS: Float64Array;

  /** @param startC the wire's temperatures at the start; the room's when not given */
  constructor(input: BarInput, startC?: Float64Array, laws?: BarLaws) {
    this.bar = new WireBar({ ...input, cells: input.cells ?? CELLS_IN_TIME }, laws);
    const { n } = this.bar;
    this.temperatureC = startC ? Float64Array.from(startC) : new Float64Array(n).fill(input.ambientC);
    this.startC = Float64Array.from(this.temperatureC);
    this.stage = new Float64Array(n);
    this.base = new Float64Array(n);
    this.tried = new Float64Array(n);
    this.gain = new Float64Array(n);
    this.slope = new Float64Array(n);
    this.leap = new Float64Array(n);
    this.trendCPerS = new Float64Array(n);
  }

  /** Solves C (T - base)/(gamma dt) = gain(T) for `stage`, starting from what is in it. */
  private solveStage(dt: number, squareA: number): void {
    const { bar, stage, base, tried, gain, slope, leap } = this;
    const { n } = bar;
    const inertia = bar.cellJPerK / (GAMMA * dt);
    const off = (at: Float64Array) => {
      bar.linearise(at, squareA, gain, slope);
      let sum = 0;
      for (let i = 0; i < n; i++) {
        const left = (gain[i] as number) - inertia * ((at[i] as number) - (base[i] as number));
        gain[i] = left;
        slope[i] = (slope[i] as number) + inertia;
        sum += Math.abs(left);
      }
      return sum;
    };
    let size = off(stage);
    for (let round = 0; round < MOST_NEWTON; round++) {
      leap.set(gain);
      solveTridiagonal(bar.conductWPerK, slope, leap);
      this.newtons += 1;
      let share = 1;
      let worst = 0;
      for (let cut = 0; cut < 12; cut++) {
        worst = 0;
        for (let i = 0; i < n; i++) {
          const move = (leap[i] as number) * share;
          tried[i] = (stage[i] as number) + move;
          worst = Math.max(worst, Math.abs(move));
        }
        // The laws are straight lines but for small bends: after so small a move what is left is far below what is asked.
        if (worst < SETTLED_K) {
          stage.set(tried);
          return;
        }
        const next = off(tried);
        if (next <= size) {
          size = next;
          break;
        }
        share /= 2;
      }
      stage.set(tried);
    }
    if (!stage.every(Number.isFinite)) throw new CoreError("no-solution", "current_A", "the wire's temperature ran away: it would melt");
  }

  private book(flows: BarFlows, seconds: number): void {
    this.ledger.generated += flows.generatedW * seconds;
    this.ledger.toAir += flows.lossToAirW * seconds;
    this.ledger.toFoam += flows.lossToFoamW * seconds;
    this.ledger.toEdges += flows.lossToEdgesW * seconds;
    this.ledger.toClamps += flows.lossToClampsW * seconds;
  }

  /** One step of `dt` seconds at a current. */
  step(dt: number, currentA: number): void {
    const { bar, stage, base, temperatureC } = this;
    const square = currentA * currentA;
    base.set(temperatureC);
    // Going on as in the last step is the best first guess.
    for (let i = 0; i < bar.n; i++) stage[i] = (temperatureC[i] as number) + GAMMA * dt * (this.trendCPerS[i] as number);
    this.solveStage(dt, square);
    this.book(bar.flows(stage, square), (1 - GAMMA) * dt);
    // Second stage starts from T + (1 - gamma) dt f1, where gamma dt f1 is what the first stage gained.
    for (let i = 0; i < bar.n; i++) {
      const here = temperatureC[i] as number;
      const gained = (stage[i] as number) - here;
      base[i] = here + ((1 - GAMMA) / GAMMA) * gained;
      stage[i] = here + gained / GAMMA;
    }
    this.solveStage(dt, square);
    this.book(bar.flows(stage, square), GAMMA * dt);
    for (let i = 0; i < bar.n; i++) {
      this.trendCPerS[i] = ((stage[i] as number) - (temperatureC[i] as number)) / dt;
      temperatureC[i] = stage[i] as number;
    }
    this.timeS += dt;
  }

  /** Heat held in the wire since the start, J. */
  storedJ(): number {
    let sum = 0;
    for (let i = 0; i < this.bar.n; i++) sum += this.bar.cellJPerK * ((this.temperatureC[i] as number) - (this.startC[i] as number));
    return sum;
  }

  /** (generated - lost - stored) over all heat moved. */
  energyImbalance(): number {
    const { generated, toAir, toFoam, toEdges, toClamps } = this.ledger;
    const stored = this.storedJ();
    const moved = Math.max(generated, Math.abs(stored), toAir + toFoam + toEdges + Math.abs(toClamps));
    return moved === 0 ? 0 : (generated - toAir - toFoam - toEdges - toClamps - stored) / moved;
  }
}

export interface AxialCourse {
  timeS: number[];
  /** Middle of the wire, hottest cell, and mean in the foam's place (middle when there is none), degC. */
  middleC: number[];
  hottestC: number[];
  foamPlaceC: number[];
  currentA: number[];
  positionM: Float64Array;
  /** At the end of each phase. */
  profilesC: Float64Array[];
  ledgerJ: BarInTime["ledger"];
  storedJ: number;
  energyImbalance: number;
  newtons: number;
}

const STEP_S = 0.05;
const MOST_POINTS = 2400;

/**
 * Follows a wire through phases: warm-up, cutting, leaving the foam, cooling. See {@link AXIAL_IN_TIME}.
 * @param options.stepS longest step, s; a phase is cut into even steps no longer than this
 */
export function followAxial(
  input: BarInput & { phases: readonly Phase[] },
  options: { stepS?: number; startC?: Float64Array; laws?: BarLaws } = {},
): AxialCourse {
  const inTime = new BarInTime(input, options.startC, options.laws);
  const { bar, temperatureC } = inTime;
  const longest = options.stepS ?? STEP_S;
  const steps = input.phases.map((phase) => Math.max(1, Math.ceil(phase.seconds / longest)));
  const keepEvery = Math.max(1, Math.ceil(steps.reduce((a, b) => a + b, 0) / MOST_POINTS));
  const course = { timeS: [] as number[], middleC: [] as number[], hottestC: [] as number[], foamPlaceC: [] as number[], currentA: [] as number[] };
  const place = input.foam;
  const first = place ? bar.positionM.findIndex((x) => x >= place.fromM) : bar.n >> 1;
  const end = place ? bar.positionM.findLastIndex((x) => x <= place.toM) + 1 : first + 1;
  const keep = (amperes: number) => {
    let hottest = Number.NEGATIVE_INFINITY;
    for (let i = 0; i < bar.n; i++) hottest = Math.max(hottest, temperatureC[i] as number);
    let sum = 0;
    for (let i = first; i < end; i++) sum += temperatureC[i] as number;
    course.timeS.push(inTime.timeS);
    course.middleC.push(temperatureC[bar.n >> 1] as number);
    course.hottestC.push(hottest);
    // Foam narrower than a cell has no cell of its own: the wire's middle represents it.
    course.foamPlaceC.push(end > first ? sum / (end - first) : (temperatureC[bar.n >> 1] as number));
    course.currentA.push(amperes);
  };
  const profilesC: Float64Array[] = [];
  let taken = 0;
  keep(0);
  for (const [k, phase] of input.phases.entries()) {
    bar.setInFoam(phase.inFoam);
    const count = steps[k] as number;
    for (let i = 1; i <= count; i++) {
      const amperes = typeof phase.drive === "number" ? phase.drive : phase.drive(bar.ohms(temperatureC));
      inTime.step(phase.seconds / count, amperes);
      taken += 1;
      if (taken % keepEvery === 0 || i === count) keep(amperes);
    }
    profilesC.push(Float64Array.from(temperatureC));
  }
  return {
    ...course,
    positionM: bar.positionM,
    profilesC,
    ledgerJ: inTime.ledger,
    storedJ: inTime.storedJ(),
    energyImbalance: inTime.energyImbalance(),
    newtons: inTime.newtons,
  };
}
