import { describe, expect, it } from "vitest";
import * as wavefile from "wavefile";
import { CoreError } from "../kernel/errors";
import { youngPa } from "../materials/strength";
import { seededUniform } from "../numerics/seededUniform";
import { massKgPerM, resolveWire } from "../physics/heat/wire";
import { pitchHz } from "../physics/mechanics/tension";
import { CLOCK_DRIFT, pluckedSound } from "./synth";
import { MAX_WAV_BYTES, readWav, writeWav } from "./wav";

// The runners differ in how they see this package.
const { WaveFile } = "WaveFile" in wavefile ? wavefile : (wavefile as unknown as { default: typeof import("wavefile") }).default;
const wire = resolveWire({ alloy: "ss-304", diameter_mm: 0.64 });
const scene = { wire, spanM: 1.3, tensionN: 65, sampleRate: 4000, seconds: 1, quiet: 0, seed: 3 };
/** Loudness of a frequency over a stretch, by its own sine and cosine. */
function loud(samples: Float32Array, rate: number, hz: number, fromS: number, seconds: number): number {
  const [from, count] = [Math.round(fromS * rate), Math.round(seconds * rate)];
  let [a, b] = [0, 0];
  for (let i = 0; i < count; i++) {
    const turn = (2 * Math.PI * hz * i) / rate;
    a += (samples[from + i] as number) * Math.cos(turn);
    b += (samples[from + i] as number) * Math.sin(turn);
  }
  return (2 * Math.hypot(a, b)) / count;
}
/** The loudest frequency near one. */
const peak = (samples: Float32Array, rate: number, near: number, within: number) => {
  let [best, at] = [0, near];
  for (let hz = near - within; hz <= near + within; hz += 0.05) {
    const here = loud(samples, rate, hz, 0, 1);
    if (here > best) [best, at] = [here, hz];
  }
  return at;
};
const rms = (samples: Float32Array, from = 0, to = samples.length) => Math.sqrt(samples.slice(from, to).reduce((sum, x) => sum + x * x, 0) / (to - from));

describe("the plucked wire's sound", () => {
  const first = pitchHz(wire, 1.3, 65);
  it("sings at the wire's own pitch, and its partials stand a stiff string's apart: n f sqrt(1 + B n^2)", () => {
    const sound = pluckedSound(scene);
    expect(peak(sound, 4000, first, 2)).toBeCloseTo(first, 0);
    const ideal = Math.sqrt(65 / massKgPerM(wire)) / 2.6;
    const area4 = Math.PI * 0.00064 ** 4;
    const stiff = (Math.PI ** 2 * youngPa("ss-304") * area4) / 64 / 1.3 ** 2 / 65;
    for (const n of [2, 3, 6, 9])
      expect(peak(sound, 4000, n * ideal * Math.sqrt(1 + stiff * n * n), 3) / (n * ideal * Math.sqrt(1 + stiff * n * n))).toBeCloseTo(1, 2);
    // Plucked at a third, the third, sixth and ninth are all but missing.
    const third = pluckedSound({ ...scene, pluckAt: 1 / 3 });
    expect(loud(third, 4000, 3 * ideal, 0, 0.4)).toBeLessThan(0.2 * loud(third, 4000, 2 * ideal, 0, 0.4));
  });
  it("dies away, the upper partials sooner: a third and a bit more of a neper a second for each", () => {
    const sound = pluckedSound({ ...scene, seconds: 2 });
    const falls = (hz: number) => Math.log(loud(sound, 4000, hz, 0, 0.5) / loud(sound, 4000, hz, 1, 0.5));
    expect(falls(first)).toBeCloseTo(1.45, 1);
    expect(falls(2 * first)).toBeGreaterThan(falls(first) + 0.2);
    expect(Math.max(...sound)).toBeLessThanOrEqual(0.5);
    expect(Math.max(...sound)).toBeGreaterThan(0.1);
  });
  it("begins when it is plucked; nothing above half the sampling rate; as long as asked", () => {
    const sound = pluckedSound({ ...scene, quiet: 0.3 });
    expect(sound).toHaveLength(4000);
    expect(rms(sound, 0, 1200)).toBe(0);
    expect(rms(sound, 1200, 1600)).toBeGreaterThan(0.05);
    expect(rms(pluckedSound({ ...scene, quiet: 0.15 }), 0, 599)).toBe(0);
    expect(rms(pluckedSound({ ...scene, quiet: undefined } as never), 590, 600)).toBe(0);
    // A note of 400 Hz sampled at 1000 has one line only.
    const high = pluckedSound({ ...scene, spanM: 0.2, tensionN: 65, sampleRate: 1000 });
    expect(high.every(Number.isFinite)).toBe(true);
  });
  it("hum and hiss are over it as loud as asked, before the pluck too", () => {
    const still = { ...scene, quiet: 1 };
    const hum = pluckedSound({ ...still, hum: 0.4 });
    expect([50, 100, 150].map((hz) => loud(hum, 4000, hz, 0, 1))).toEqual([expect.closeTo(0.2, 3), expect.closeTo(0.1, 3), expect.closeTo(0.2 / 3, 3)]);
    expect(loud(pluckedSound({ ...still, hum: 0.4, humHz: 60 }), 4000, 60, 0, 1)).toBeCloseTo(0.2, 3);
    // Four even chances together: a spread of a root of a third.
    expect(rms(pluckedSound({ ...still, noise: 0.4 }))).toBeCloseTo(0.2 * Math.sqrt(1 / 3), 2);
    const hiss = pluckedSound({ ...still, noise: 0.4 });
    expect(hiss.reduce((sum, x) => sum + x, 0) / hiss.length).toBeCloseTo(0, 1);
    expect(rms(pluckedSound(still))).toBe(0);
  });
  it("a microphone's faults: deaf, deaf a third of the time, and slow by its clock", () => {
    expect(rms(pluckedSound({ ...scene, noise: 0.1, faults: ["trip"] }))).toBe(0);
    const dropped = pluckedSound({ ...scene, faults: ["dropout"] });
    const whole = pluckedSound(scene);
    const gone = dropped.filter((x, i) => x === 0 && whole[i] !== 0).length / dropped.length;
    expect(gone).toBeCloseTo(1 / 3, 1);
    for (let i = 0; i < dropped.length; i++) if (dropped[i] !== 0) expect(dropped[i]).toBe(whole[i]);
    expect(peak(pluckedSound({ ...scene, faults: ["drift"] }), 4000, first, 5) / first).toBeCloseTo(1 - CLOCK_DRIFT, 2);
  });
  it("chance is even, and the same from the same seed", () => {
    const uniform = seededUniform(11);
    const drawn = Array.from({ length: 4000 }, () => uniform());
    expect(drawn.every((x) => x >= 0 && x < 1)).toBe(true);
    expect(drawn.reduce((sum, x) => sum + x, 0) / 4000).toBeCloseTo(0.5, 1);
    for (let tenth = 0; tenth < 10; tenth++) expect(drawn.filter((x) => Math.floor(x * 10) === tenth).length).toBeGreaterThan(320);
    const again = seededUniform(11);
    expect(drawn.slice(0, 5)).toEqual(Array.from({ length: 5 }, () => again()));
    // The generator's published first number from nought.
    expect(seededUniform(0)()).toBeCloseTo(0.26642920868471265, 12);
  });
});

describe("recordings as files", () => {
  const tone = (sampleRate: number, seconds: number) => Float32Array.from({ length: Math.round(sampleRate * seconds) }, (_, i) => 0.4 * Math.sin(i / 9));
  const why = (bytes: Uint8Array) => {
    try {
      readWav(bytes);
    } catch (error) {
      if (error instanceof CoreError) return error.message;
      throw error;
    }
    return "read";
  };
  const file = (channels: number, sampleRate: number, depth: string, samples: unknown) => {
    const wave = new WaveFile();
    wave.fromScratch(channels, sampleRate, depth, samples as never);
    return wave.toBuffer();
  };
  it("any usual depth, and two channels as their mean", () => {
    const samples = tone(8000, 0.3);
    for (const [depth, scale] of [
      ["16", 32767],
      ["24", 8388607],
      ["32", 2147483647],
    ] as const) {
      const back = readWav(
        file(
          1,
          8000,
          depth,
          [...samples].map((x) => Math.round(x * scale)),
        ),
      );
      expect(back.sampleRate).toBe(8000);
      for (let i = 0; i < samples.length; i += 31) expect(back.samples[i]).toBeCloseTo(samples[i] as number, 3);
    }
    const floats = readWav(file(1, 8000, "32f", [...samples]));
    for (let i = 0; i < samples.length; i += 31) expect(floats.samples[i]).toBeCloseTo(samples[i] as number, 6);
    const stereo = readWav(file(2, 8000, "32f", [[...samples], samples.map((x) => -x / 2) as never]));
    for (let i = 0; i < samples.length; i += 31) expect(stereo.samples[i]).toBeCloseTo((samples[i] as number) / 4, 6);
  });
  it("what is louder than full is written as full", () => {
    const back = readWav(writeWav({ samples: Float32Array.from({ length: 4000 }, (_, i) => (i % 2 ? 3 : -3)), sampleRate: 8000 }));
    expect(Math.max(...back.samples)).toBeCloseTo(1, 3);
    expect(Math.min(...back.samples)).toBeCloseTo(-1, 3);
  });
  it("refused in words: too slow or fast a rate, too short, too long, too large, no figures", () => {
    const rated = (rate: number, seconds = 0.3) => why(writeWav({ samples: tone(rate, seconds), sampleRate: rate }));
    expect(rated(3999)).toMatch(/3999 samples a second; 4,000 to 192,000/);
    expect(rated(4000)).toBe("read");
    expect(rated(192_000)).toBe("read");
    expect(rated(192_001)).toMatch(/samples a second/);
    expect(rated(8000, 0.249)).toMatch(/too short/);
    expect(rated(8000, 0.25)).toBe("read");
    expect(rated(4000, 60)).toBe("read");
    expect(rated(4000, 60.01)).toMatch(/longer than 60 s/);
    expect(why(new Uint8Array(MAX_WAV_BYTES + 1))).toMatch(/MB|large|most/);
    expect(
      why(
        file(
          1,
          8000,
          "32f",
          Array.from({ length: 3000 }, (_, i) => (i === 5 ? Number.NaN : 0)),
        ),
      ),
    ).toMatch(/no sound/);
    expect(why(new Uint8Array(0))).toMatch(/not a WAV file/);
  });
});
