import { execFileSync } from "node:child_process";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { paceJob, planPace } from "@/core/pace/planPace";
import { type TautWire, wireSurface } from "@/core/physics/string/tautWire";
import { DEMO_PLANS } from "@/core/plans/demoPlans";
import { evaluatePlan } from "@/core/plans/evaluate";
import { medianOf, say, timed } from "./say";

/** The same law, places and path for scipy's stiff integrator: the middle's way round a corner with a wait. */
const BDF = `
import json, sys, time
import numpy as np
from scipy.integrate import solve_ivp
w = json.load(sys.stdin); n, L, T, F, V = w["nodes"], w["L"], w["T"], w["F"], w["V"]
P, t = np.array(w["path"], float), np.array(w["times"], float)
h = L / (n - 1)
def end(s): return np.array([np.interp(s, t, P[:, 0]), np.interp(s, t, P[:, 1])])
def rate(s, u):
    r = u.reshape(n - 2, 2); e = end(s); a = np.vstack([e, r, e])
    f = T / 1000 * (a[:-2] - 2 * a[1:-1] + a[2:]) / h**2
    return (V * f / (np.linalg.norm(f, axis=1, keepdims=True) + F)).ravel()
u0 = np.tile(P[0], n - 2)
begun = time.perf_counter()
out = solve_ivp(rate, (t[0], t[-1]), u0, method="BDF", rtol=1e-6, atol=1e-6, max_step=(t[-1] - t[0]) / 1000)
print(json.dumps({"ms": 1000 * (time.perf_counter() - begun), "x": out.y[2 * ((n - 2) // 2), -1], "y": out.y[2 * ((n - 2) // 2) + 1, -1]}))
`;

export function stringBench(): void {
  const wire: TautWire = { lengthM: 1.3, tensionN: 65, foamFromM: 0, foamToM: 1.3, referenceDragNPerM: 0.864, maxFeedMmS: 11.644 };
  const t = 60 / 6.5;
  const led = {
    path: [
      [0, 0],
      [60, 0],
      [60, 0],
      [60, 60],
    ] as [number, number][],
    timesS: [0, t, t + 0.7, 2 * t + 0.7],
  };
  const nodes = 61;
  const ours = wireSurface(wire, led, [0.5], { nodes, steps: 1000 });
  const ms = medianOf(timed(20, () => wireSurface(wire, led, [0.5], { nodes: 60, steps: 1000 })));
  let words = `${ms.toFixed(1)} ms`;
  try {
    const other = JSON.parse(
      execFileSync("python3", ["-c", BDF], {
        encoding: "utf8",
        input: JSON.stringify({ nodes, L: 1.3, T: 65, F: 0.864, V: 11.644, path: led.path, times: led.timesS }),
        stdio: ["pipe", "pipe", "pipe"],
      }),
    ) as { ms: number; x: number; y: number };
    const trace = ours.traces[0];
    const apart = Math.hypot((trace?.x.at(-1) ?? 0) - other.x, (trace?.y.at(-1) ?? 0) - other.y);
    if (apart > 0.05) throw new RangeError(`the two solutions end ${apart.toFixed(3)} mm apart`);
    words += `; scipy's BDF ${other.ms.toFixed(0)} ms: ${(other.ms / ms).toFixed(0)} times as long, ${(1000 * apart).toFixed(0)} um apart at the end`;
  } catch (error) {
    if (error instanceof RangeError) throw error;
    words += "; no scipy here to compare with";
  }
  say("the wire's surface, 60 places and 1,000 steps", words);
  const [fin] = DEMO_PLANS;
  const [bow] = DEMO_CUTTERS;
  if (!fin || !bow) throw new Error("no demo");
  const evaluation = evaluatePlan(fin, bow, false);
  const job = paceJob(fin, evaluation, "upper");
  const pair = evaluation.cutter?.pair;
  if (!job || !pair) throw new Error("no pace");
  say("  pace of the tail fin's upper face", `${medianOf(timed(5, () => planPace(job, pair, undefined, false))).toFixed(0)} ms (500 asked)`);
  say("  with its map, what cures and mishaps would do", `${medianOf(timed(5, () => planPace(job, pair))).toFixed(0)} ms`);
}
