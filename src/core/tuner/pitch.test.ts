import { describe, expect, it } from "vitest";
import { seededUniform } from "../numerics/seededUniform";
import { detectPitch, HIGHEST_HZ, LOWEST_HZ } from "./pitch";

/** A note made of sines: lines as [multiple, loudness], dying away, after a stretch of the room alone. */
function note(
  hz: number,
  lines: readonly (readonly [number, number])[],
  {
    rate = 4000,
    seconds = 1.1,
    quiet = 0.2,
    decay = 1.5,
    room = () => 0 as number,
  }: { rate?: number; seconds?: number; quiet?: number; decay?: number; room?: (t: number) => number } = {},
): Float32Array {
  const start = Math.round(quiet * rate);
  return Float32Array.from({ length: Math.round(seconds * rate) }, (_, i) => {
    const t = (i - start) / rate;
    const own = i < start ? 0 : Math.exp(-decay * t) * lines.reduce((sum, [k, loud], j) => sum + loud * Math.sin(2 * Math.PI * hz * k * t + 0.7 * j), 0);
    return 0.3 * own + room(i / rate);
  });
}
const RICH = [
  [1, 1],
  [2, 0.5],
  [3, 0.3],
  [4, 0.2],
] as const;
const share = (detected: number | null, hz: number) => Math.abs((detected ?? 0) / hz - 1);

describe("the note of a pluck", () => {
  it.each([21, 33, 47, 71, 110, 163, 240, 395])("%i Hz, clean: to a two-hundredth, clearly", (hz) => {
    const detected = detectPitch(note(hz, RICH, { seconds: hz < 40 ? 1.6 : 1.1 }), 4000);
    expect(share(detected.hz, hz)).toBeLessThan(0.005);
    expect(detected.confidence).toBeGreaterThan(0.85);
    expect(detected.confidence).toBeLessThanOrEqual(1);
    expect(detected.words).toBe("clear");
  });
  it.each([8000, 11025, 22050])("the same at %i samples a second: what is above the notes is left out, not folded down among them", (rate) => {
    expect(share(detectPitch(note(110, RICH, { rate }), rate).hz, 110)).toBeLessThan(0.005);
    // A whistle that would come to lie at 130 Hz were every so many-th sample taken as it is.
    const step = Math.floor(rate / 4000);
    const whistle = rate / step - 130;
    const detected = detectPitch(note(110, RICH, { rate, room: (t) => (rate / 2 > whistle ? 0.2 * Math.sin(2 * Math.PI * whistle * t) : 0) }), rate);
    expect(share(detected.hz, 110)).toBeLessThan(0.01);
  });
  it("how loud it is says nothing, nor how long the room was still before it", () => {
    for (const loud of [0.01, 3])
      expect(
        share(
          detectPitch(
            note(88, RICH).map((x) => x * loud),
            4000,
          ).hz,
          88,
        ),
      ).toBeLessThan(0.005);
    for (const quiet of [0, 0.05, 0.4]) expect(share(detectPitch(note(88, RICH, { quiet, seconds: quiet + 0.9 }), 4000).hz, 88)).toBeLessThan(0.01);
  });
  it("a note whose first line is faint is not taken for its octave", () => {
    const odd = [
      [1, 0.35],
      [2, 1],
      [3, 0.5],
      [4, 0.3],
    ] as const;
    for (const hz of [60.5, 84, 130]) expect(share(detectPitch(note(hz, odd), 4000).hz, hz)).toBeLessThan(0.01);
  });
  it("nor one with next to nothing at its odd multiples for the octave below", () => {
    for (const hz of [84, 130, 170]) {
      const detected = detectPitch(
        note(hz, [
          [0.5, 0.02],
          [1, 1],
          [2, 0.6],
          [3, 0.3],
        ]),
        4000,
      );
      expect(share(detected.hz, hz)).toBeLessThan(0.01);
    }
  });
});

describe("what is not the wire", () => {
  const hum = (hz: number, loud: number) => (t: number) =>
    loud * (Math.sin(2 * Math.PI * hz * t + 0.3) + 0.5 * Math.sin(4 * Math.PI * hz * t + 1) + 0.3 * Math.sin(6 * Math.PI * hz * t + 2));
  it.each([50, 60])("%i Hz hum that was there before the pluck is taken out, louder than the note or not", (mains) => {
    for (const loud of [0.05, 0.3])
      for (const hz of [37, 81, 133])
        expect(share(detectPitch(note(hz, RICH, { room: hum(mains, loud) }), 4000).hz, hz), `${hz} in ${loud}`).toBeLessThan(0.01);
  });
  it.each([50, 60])("%i Hz hum alone is named for what it is; a wire that sings there and dies away is heard", (mains) => {
    const alone = detectPitch(note(100, [], { room: hum(mains, 0.3) }), 4000);
    expect(alone.hz).toBeNull();
    expect(alone.confidence).toBe(0);
    const started = detectPitch(note(mains, RICH, { quiet: 0.01, decay: 0 }), 4000);
    expect(started).toEqual({ hz: null, confidence: 0, words: expect.stringMatching(new RegExp(`mains hum at ${mains} Hz, it does not die away`)) });
    const doubled = detectPitch(note(2 * mains, RICH, { quiet: 0.01, decay: 0 }), 4000);
    expect(doubled.words).toMatch(new RegExp(`mains hum at ${mains} Hz`));
    for (const hz of [mains, 2 * mains, mains * 1.03]) expect(share(detectPitch(note(hz, RICH, { decay: 4 }), 4000).hz, hz)).toBeLessThan(0.01);
    // A steady tone that is no multiple of it is somebody's flute, and a pitch.
    expect(share(detectPitch(note(mains * 1.4, RICH, { decay: 0 }), 4000).hz, mains * 1.4)).toBeLessThan(0.01);
  });
  it("a hiss over the note moves it little, and lowers how sure it is", () => {
    const uniform = seededUniform(7);
    const clean = detectPitch(note(95, RICH), 4000);
    const noisy = detectPitch(note(95, RICH, { room: () => 0.12 * (uniform() - 0.5) }), 4000);
    expect(share(noisy.hz, 95)).toBeLessThan(0.01);
    expect(noisy.confidence).toBeLessThan(clean.confidence);
    const alone = detectPitch(
      Float32Array.from({ length: 4400 }, () => uniform() - 0.5),
      4000,
    );
    expect(alone).toEqual({ hz: null, confidence: 0, words: expect.stringMatching(/no clear note/) });
  });
  it("a quarter of a second is the least; silence is no note; beyond the range nothing is claimed", () => {
    expect(detectPitch(note(200, RICH, { seconds: 0.249, quiet: 0 }), 4000).words).toMatch(/too short/);
    expect(detectPitch(note(200, RICH, { seconds: 0.25, quiet: 0 }), 4000).words).not.toMatch(/too short/);
    expect(detectPitch(new Float32Array(4400), 4000).hz).toBeNull();
    expect(detectPitch(note(430, RICH), 4000)).toEqual({ hz: null, confidence: 0, words: expect.stringMatching(/^heard 43\d Hz, outside 20 to 400 Hz$/) });
    // Higher still the detector finds a half or a third of it: that is not what sang.
    for (const hz of [470, 500, 600, 700]) expect(detectPitch(note(hz, RICH), 4000).hz, `${hz} Hz`).toBeNull();
    expect(detectPitch(note(18.5, [[1, 1]], { seconds: 1.8 }), 4000).hz).toBeNull();
    expect([LOWEST_HZ, HIGHEST_HZ]).toEqual([20, 400]);
  });
});
