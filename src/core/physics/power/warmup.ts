import { CoreError } from "../../kernel/errors";
import type { Relation } from "../../kernel/provenance";
import { bareLossWPerM, bareWireDriven, type Surroundings } from "../heat/bareWire";
import { massKgPerM, resistanceOhmPerM, type Wire } from "../heat/wire";
import { type CircuitInput, currentAtWireC, solveCircuit } from "./circuit";

export const WARM_UP: Relation = {
  id: "warm-up",
  title: "Warming and cooling of the bare wire",
  formula: "m' cp dT/dt = I^2 R'(T) - q'(T)",
  words: "The wire's own mass takes up what the air has not yet carried off.",
  range: "one temperature across the wire; constant specific heat",
  basis: "published",
  source: "lumped heat balance; loss as for the bare wire",
};

export interface WarmUp {
  timeS: number[];
  temperatureC: number[];
  /** Time to 95 % of the rise to the steady temperature; null if an hour does not reach it. */
  timeTo95S: number | null;
  steadyC: number;
}

const POINTS = 120;
const LONGEST_S = 3600;

/** One classical Runge-Kutta step of dT/dt = rate(T). */
function stepped(rate: (c: number) => number, c: number, dt: number): number {
  const a = rate(c);
  const b = rate(c + (dt * a) / 2);
  const d = rate(c + (dt * b) / 2);
  const e = rate(c + dt * d);
  return c + (dt * (a + 2 * b + 2 * d + e)) / 6;
}

/** Follows a temperature over a time in steps of at most a fixed share of the wire's own time constant. */
function follow(rate: (c: number) => number, from: number, seconds: number, longest: number): number {
  const steps = Math.max(1, Math.ceil(seconds / longest));
  let c = from;
  for (let i = 0; i < steps; i++) c = stepped(rate, c, seconds / steps);
  return c;
}

interface Heating {
  wire: Wire;
  around: Surroundings;
  /** rms amperes with the wire at a temperature */
  currentAt: (wireC: number) => number;
  steadyC: number;
}

/**
 * Temperature of the bare wire after switch-on, and after switch-off if asked (as long again).
 * @param currentA rms amperes, >= 0
 * @returns evenly spaced points; with `off` the second half cools
 */
export function warmUp(wire: Wire, currentA: number, around: Surroundings, seconds: number, off = false): WarmUp {
  return course({ wire, around, currentAt: () => currentA, steadyC: bareWireDriven(wire, { currentA }, around).temperatureC }, seconds, off);
}

/** The same, driven by a supply through its control and leads: the current falls as the wire's ohms rise. No foam on the wire. */
export function warmUpOnSupply(input: CircuitInput, seconds: number, off = false): WarmUp {
  const bare = { ...input, cutting: undefined };
  const around = { ambientC: input.ambientC };
  return course({ wire: input.wire, around, currentAt: (wireC) => currentAtWireC(bare, wireC), steadyC: solveCircuit(bare).wireC }, seconds, off);
}

function course({ wire, around, currentAt, steadyC }: Heating, seconds: number, off: boolean): WarmUp {
  if (!(seconds > 0 && seconds <= LONGEST_S)) throw new CoreError("out-of-range", "seconds", `seconds must be a number above 0 to ${LONGEST_S}`);
  const heatCapacity = massKgPerM(wire) * wire.alloy.specificHeatJKgK;
  const rate = (amperes: (c: number) => number) => (c: number) =>
    (amperes(c) ** 2 * resistanceOhmPerM(wire, c) - bareLossWPerM(wire, Math.max(c, around.ambientC), around)) / heatCapacity;
  // Fastest the wire answers: loss slope at the hottest it gets. A twentieth of that keeps the fourth-order step's error far below a hundredth of a degree.
  const hottest = Math.max(steadyC, around.ambientC + 50);
  const slope = (bareLossWPerM(wire, hottest + 1, around) - bareLossWPerM(wire, hottest - 1, around)) / 2;
  const longest = heatCapacity / slope / 20;
  const timeS: number[] = [0];
  const temperatureC: number[] = [around.ambientC];
  const run = (amperes: (c: number) => number, start: number) => {
    let c = temperatureC[temperatureC.length - 1] as number;
    for (let i = 1; i <= POINTS; i++) {
      c = follow(rate(amperes), c, seconds / POINTS, longest);
      timeS.push(start + (seconds * i) / POINTS);
      temperatureC.push(c);
    }
  };
  run(currentAt, 0);
  if (off) run(() => 0, seconds);

  let timeTo95S: number | null = null;
  const goal = around.ambientC + 0.95 * (steadyC - around.ambientC);
  if (steadyC > around.ambientC) {
    let c = around.ambientC;
    const heating = rate(currentAt);
    for (let t = 0; t < LONGEST_S; t += longest) {
      const next = stepped(heating, c, longest);
      if (next >= goal) {
        timeTo95S = t + (longest * (goal - c)) / (next - c);
        break;
      }
      c = next;
    }
  }
  return { timeS, temperatureC, timeTo95S, steadyC };
}
