import { youngPa } from "../materials/strength";
import { seededUniform } from "../numerics/seededUniform";
import { massKgPerM, type Wire } from "../physics/heat/wire";
import { pitchHz } from "../physics/mechanics/tension";

/** What the simulated microphone hears. */
export interface PluckScene {
  wire: Wire;
  spanM: number;
  tensionN: number;
  sampleRate: number;
  seconds: number;
  /** Where it is plucked, share of the span from an end. */
  pluckAt?: number;
  /** Before the pluck, s. */
  quiet?: number;
  /** Room noise against the pluck's first loudness, share. */
  noise?: number;
  /** Mains hum against the pluck's first loudness, share, and its frequency. */
  hum?: number;
  humHz?: 50 | 60;
  seed?: number;
  /** What is wrong with the microphone: it hears nothing, it loses stretches, or its clock runs fast. */
  faults?: readonly MicrophoneFault[];
}

export const MICROPHONE_FAULTS = ["trip", "dropout", "drift"] as const;
export type MicrophoneFault = (typeof MICROPHONE_FAULTS)[number];
/** A drifting microphone's clock is off by this share: every pitch is heard that much too low. */
export const CLOCK_DRIFT = 0.04;
/** A microphone that drops out is deaf for so long, so often, s. */
const DEAF_S = 0.03;
const DEAF_EVERY_S = 0.09;

const MOST_PARTIALS = 24;

/**
 * Sound of a plucked wire: partials of a stiff string, each decaying faster than the one below, with room noise and mains hum.
 * @returns samples, loudest near 0.5
 */
export function pluckedSound(scene: PluckScene): Float32Array {
  const { wire, spanM, tensionN, sampleRate, seconds } = scene;
  const { pluckAt = 0.22, quiet = 0.15, noise = 0, hum = 0, humHz = 50, seed = 1, faults = [] } = scene;
  const clock = faults.includes("drift") ? 1 - CLOCK_DRIFT : 1;
  const uniform = seededUniform(seed);
  const count = Math.round(seconds * sampleRate);
  const out = new Float32Array(count);
  const first = pitchHz(wire, spanM, tensionN);
  const stiffness = (Math.PI ** 2 * youngPa(wire.alloy.id) * (Math.PI * wire.diameterM ** 4)) / 64 / spanM ** 2;
  const ideal = Math.sqrt(tensionN / massKgPerM(wire)) / (2 * spanM);
  const start = Math.round(quiet * sampleRate);
  let sum = 0;
  const partials = [];
  for (let n = 1; n <= MOST_PARTIALS; n++) {
    // f_n = n f sqrt(1 + B n^2), B the stiffness against the tension; held to the first by construction.
    const hz = n === 1 ? first : n * ideal * Math.sqrt(1 + (stiffness * n * n) / Math.max(1e-6, tensionN));
    if (hz > sampleRate / 2.2) break;
    const loud = Math.abs(Math.sin(n * Math.PI * pluckAt)) / (n * n) + 0.02 / n;
    partials.push({ hz, loud, decay: 1.1 + 0.35 * n, phase: 2 * Math.PI * uniform() });
    sum += loud;
  }
  for (const { hz, loud, decay, phase } of partials) {
    const share = (0.5 * loud) / sum;
    for (let i = start; i < count; i++) {
      const t = (clock * (i - start)) / sampleRate;
      out[i] = (out[i] as number) + share * Math.exp(-decay * t) * Math.sin(2 * Math.PI * hz * t + phase);
    }
  }
  const phases = [uniform(), uniform(), uniform()].map((u) => 2 * Math.PI * u);
  for (let i = 0; i < count; i++) {
    const t = i / sampleRate;
    let extra = 0;
    if (hum > 0) {
      for (const [k, phase] of phases.entries()) extra += (0.5 * hum * Math.sin(2 * Math.PI * humHz * (k + 1) * t + phase)) / (k + 1);
    }
    if (noise > 0) extra += 0.5 * noise * (uniform() + uniform() + uniform() + uniform() - 2);
    out[i] = (out[i] as number) + extra;
  }
  if (faults.includes("trip")) out.fill(0);
  if (faults.includes("dropout")) {
    for (let i = 0; i < count; i++) if ((i / sampleRate) % DEAF_EVERY_S < DEAF_S) out[i] = 0;
  }
  return out;
}
