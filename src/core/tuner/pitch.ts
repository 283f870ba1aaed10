import FFT from "fft.js";
import { PitchDetector } from "pitchy";
import type { Relation } from "../kernel/provenance";

export const PITCH_DETECTION: Relation = {
  id: "pitch-heard",
  title: "Pitch heard",
  formula: "mains hum fitted before the pluck and taken out; period by the McLeod method; octave checked against the spectrum",
  words: "The note that repeats itself best is the pitch; hum that was there before the pluck is not the wire.",
  range: "20 to 400 Hz, one pluck at a time, louder than the room",
  basis: "published",
  source: "McLeod and Wyvill, A smarter way to find pitch (2005); hum and octave rules are this project's",
};

export const LOWEST_HZ = 20;
export const HIGHEST_HZ = 400;

export interface DetectedPitch {
  /** null where no note was heard */
  hz: number | null;
  /** 0 to 1: how well the sound repeats itself. */
  confidence: number;
  /** Why nothing, or what to mind, in words. */
  words: string;
}

/** Rate the detector works at: low, so that a window of it holds many periods of a low note. */
const WORK_RATE = 4000;
const WINDOW = 2048;
const HOP = 256;
const LEAST_CLARITY = 0.72;
/** After the pluck the attack is left out, s. */
const SKIP_S = 0.03;
const MAINS = [50, 60] as const;
/** A note this near the mains or its first multiples is looked at twice. */
const NEAR_MAINS = 0.05;
/** Share left at the end from which a note is a steady one. */
const STEADY = 0.55;

/** Samples at about {@link WORK_RATE}: a windowed-sinc low pass, then every so many-th sample. */
function slowed(samples: Float32Array, sampleRate: number): { samples: Float32Array; rate: number } {
  const step = Math.max(1, Math.floor(sampleRate / WORK_RATE));
  if (step === 1) return { samples, rate: sampleRate };
  const half = 6 * step;
  const cut = 0.45 / step;
  const taps = Float32Array.from({ length: 2 * half + 1 }, (_, i) => {
    const x = i - half;
    const sinc = x === 0 ? 2 * cut : Math.sin(2 * Math.PI * cut * x) / (Math.PI * x);
    return sinc * (0.54 + 0.46 * Math.cos((Math.PI * x) / half));
  });
  const out = new Float32Array(Math.floor(samples.length / step));
  for (let k = 0; k < out.length; k++) {
    let sum = 0;
    const centre = k * step;
    for (let j = -half; j <= half; j++) {
      const at = centre + j;
      if (at >= 0 && at < samples.length) sum += (samples[at] as number) * (taps[j + half] as number);
    }
    out[k] = sum;
  }
  return { samples: out, rate: sampleRate / step };
}

const power = (samples: Float32Array, from: number, to: number) => {
  let sum = 0;
  for (let i = from; i < to; i++) sum += (samples[i] as number) ** 2;
  return sum / Math.max(1, to - from);
};

/** First sample of the pluck: where the loudness of a hundredth of a second leaps. */
function onset(samples: Float32Array, rate: number): number {
  const size = Math.max(8, Math.round(rate / 100));
  const blocks = Math.floor(samples.length / size);
  const loud = Array.from({ length: blocks }, (_, i) => power(samples, i * size, (i + 1) * size));
  const most = Math.max(...loud);
  const quiet = [...loud].sort((a, b) => a - b)[Math.floor(blocks / 10)] ?? 0;
  const level = Math.max(quiet * 3, most * 0.25);
  return (
    Math.max(
      0,
      loud.findIndex((each) => each > level),
    ) * size
  );
}

/** Takes out sines of known frequencies, fitted to a stretch where nothing else sounds and carried on from there. */
function withoutHum(samples: Float32Array, rate: number, quietTo: number): Float32Array {
  if (quietTo < rate * 0.06) return samples;
  const out = Float32Array.from(samples);
  for (const mains of MAINS) {
    for (let k = 1; k <= 4; k++) {
      const hz = mains * k;
      const w = (2 * Math.PI * hz) / rate;
      // Whole periods only, so that sine and cosine are square to each other.
      const span = Math.floor((Math.floor((quietTo * hz) / rate) * rate) / hz);
      if (span < (2 * rate) / hz) continue;
      let a = 0;
      let b = 0;
      for (let i = 0; i < span; i++) {
        a += (out[i] as number) * Math.cos(w * i);
        b += (out[i] as number) * Math.sin(w * i);
      }
      a *= 2 / span;
      b *= 2 / span;
      // Only where the stretch is really made of it: taking out noise would put noise in.
      if ((a * a + b * b) / 2 < 0.03 * power(out, 0, span)) continue;
      for (let i = 0; i < out.length; i++) out[i] = (out[i] as number) - a * Math.cos(w * i) - b * Math.sin(w * i);
    }
  }
  return out;
}

/** How much louder it is just after a moment than before it. */
function leap(samples: Float32Array, rate: number, at: number): number {
  return power(samples, at, Math.min(samples.length, at + Math.round(rate * 0.1))) / Math.max(1e-12, power(samples, 0, at));
}

/** A recording usually begins before the pluck: this much of it is taken as the room alone when loud hum hides the pluck's beginning, s. */
const ROOM_S = 0.11;

/** Where the pluck begins: as it is, or with the hum of the first moments taken out where that shows a plainer leap. */
function pluckStart(samples: Float32Array, rate: number): number {
  const plain = onset(samples, rate);
  const humFree = withoutHum(samples, rate, Math.round(rate * ROOM_S));
  const hidden = onset(humFree, rate);
  return hidden > plain && leap(humFree, rate, hidden) > Math.max(4, leap(samples, rate, plain)) ? hidden : plain;
}

/** Loudness of a frequency in a spectrum: the largest bin within 3 % of it. */
function lineAt(spectrum: Float64Array, hzPerBin: number, hz: number): number {
  const from = Math.max(1, Math.floor((hz * 0.97) / hzPerBin));
  const to = Math.min(spectrum.length - 1, Math.ceil((hz * 1.03) / hzPerBin));
  let most = 0;
  for (let i = from; i <= to; i++) most = Math.max(most, spectrum[i] as number);
  return most;
}

/** Amplitude of a frequency in a stretch, whole periods of it. */
function amplitude(samples: Float32Array, rate: number, hz: number, from: number, seconds: number): number {
  const w = (2 * Math.PI * hz) / rate;
  const span = Math.min(samples.length - from, Math.floor((Math.floor(seconds * hz) * rate) / hz));
  let a = 0;
  let b = 0;
  for (let i = 0; i < span; i++) {
    a += (samples[from + i] as number) * Math.cos(w * i);
    b += (samples[from + i] as number) * Math.sin(w * i);
  }
  return (2 * Math.hypot(a, b)) / Math.max(1, span);
}

/** How much of a line's loudest stretch is still there at the recording's end: a plucked note dies away, hum does not. */
function steadiness(samples: Float32Array, rate: number, hz: number): number {
  const seconds = 0.22;
  const step = Math.round(rate * seconds);
  let most = 0;
  for (let at = 0; at + step <= samples.length; at += step >> 1) most = Math.max(most, amplitude(samples, rate, hz, at, seconds));
  return most === 0 ? 0 : amplitude(samples, rate, hz, samples.length - step, seconds) / most;
}

/** Corrects a slip of an octave, or of an octave and a fifth: a true pitch has lines at its odd multiples, and at its double. */
function octaveChecked(hz: number, samples: Float32Array, rate: number): number {
  const size = 8192;
  const fft = new FFT(size);
  const padded = new Array<number>(size).fill(0);
  const n = Math.min(size, samples.length);
  for (let i = 0; i < n; i++) padded[i] = (samples[i] as number) * (0.5 - 0.5 * Math.cos((2 * Math.PI * i) / n));
  const raw = fft.createComplexArray() as number[];
  fft.realTransform(raw, padded);
  const spectrum = Float64Array.from({ length: size / 2 }, (_, i) => Math.hypot(raw[2 * i] as number, raw[2 * i + 1] as number));
  const line = (f: number) => lineAt(spectrum, rate / size, f);
  const own = line(hz) + line(2 * hz) + line(3 * hz);
  // Lines at the odd multiples of half the pitch mean that half was true.
  if (hz / 2 >= LOWEST_HZ && line(hz / 2) > 0.25 * line(hz) && line(hz / 2) + line(1.5 * hz) > 0.25 * own) return hz / 2;
  // None at its own odd multiples, all at the even ones: the double was true. So with three times, as a note above the range is heard within it.
  if (line(hz) + line(3 * hz) < 0.06 * (line(2 * hz) + line(4 * hz))) return 2 * hz;
  if (line(hz) + line(2 * hz) < 0.06 * (line(3 * hz) + line(6 * hz))) return 3 * hz;
  return hz;
}

const NOTHING = "no clear note: pluck once in the middle, nearer the microphone, and let it ring";

/**
 * Pitch of one pluck in a recording. See {@link PITCH_HEARD}.
 * @param samples mono, any loudness
 * @param sampleRate Hz, 4000 or more
 */
export function detectPitch(samples: Float32Array, sampleRate: number): DetectedPitch {
  if (samples.length < sampleRate * 0.25) return { hz: null, confidence: 0, words: "too short: a quarter of a second at least" };
  const slow = slowed(samples, sampleRate);
  const start = pluckStart(slow.samples, slow.rate);
  const clean = withoutHum(slow.samples, slow.rate, start - Math.round(slow.rate * 0.02));
  const detector = PitchDetector.forFloat32Array(WINDOW);
  detector.minVolumeDecibels = -90;
  const found: { hz: number; clarity: number; weight: number }[] = [];
  const from = start + Math.round(SKIP_S * slow.rate);
  const loudest = power(clean, from, Math.min(clean.length, from + WINDOW));
  for (let at = from; at + WINDOW <= clean.length; at += HOP) {
    const frame = clean.subarray(at, at + WINDOW);
    const loud = power(frame, 0, WINDOW);
    if (loud < loudest * 0.02) break;
    const [hz, clarity] = detector.findPitch(frame, slow.rate);
    if (hz >= LOWEST_HZ * 0.9 && hz <= HIGHEST_HZ * 1.1 && clarity >= LEAST_CLARITY) found.push({ hz, clarity, weight: loud * clarity });
  }
  if (found.length === 0) return { hz: null, confidence: 0, words: NOTHING };
  const sorted = [...found].sort((a, b) => a.hz - b.hz);
  const middle = (sorted[Math.floor(sorted.length / 2)] as { hz: number }).hz;
  const agreeing = found.filter(({ hz }) => Math.abs(hz / middle - 1) < 0.03);
  const total = agreeing.reduce((sum, each) => sum + each.weight, 0);
  const mean = agreeing.reduce((sum, each) => sum + each.hz * each.weight, 0) / total;
  const hz = octaveChecked(mean, clean.subarray(from, from + Math.round(slow.rate * 1.2)), slow.rate);
  const confidence = (agreeing.reduce((sum, each) => sum + each.clarity, 0) / agreeing.length) * (agreeing.length / found.length);
  const mains = MAINS.find((each) => [1, 2, 3].some((k) => Math.abs(hz / (each * k) - 1) < NEAR_MAINS));
  if (mains && steadiness(slow.samples, slow.rate, mains * Math.max(1, Math.round(hz / mains))) > STEADY) {
    return { hz: null, confidence: 0, words: `that is mains hum at ${mains} Hz, it does not die away: move away from the supply, or pluck harder` };
  }
  if (hz < LOWEST_HZ * 0.98 || hz > HIGHEST_HZ * 1.02)
    return { hz: null, confidence: 0, words: `heard ${hz.toFixed(0)} Hz, outside ${LOWEST_HZ} to ${HIGHEST_HZ} Hz` };
  return { hz, confidence, words: confidence > 0.85 ? "clear" : "not very clear: pluck again" };
}
