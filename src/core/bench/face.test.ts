import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import { designSchema } from "../cutters/design/schema";
import { ENTRY_M, HOOK_SEEN_M, readFace } from "./face";
import type { BenchSetup, TrackRow } from "./setup";
import { BENCH_DEFAULTS, BenchWorld } from "./world";

const tom = designSchema.parse(DEMO_CUTTERS[0]);
const straight = new BenchWorld(tom, BENCH_DEFAULTS).sim.setup;
const cornered: BenchSetup = { ...straight, path: { cornerAtM: 0.06, turnDeg: 90 } };
const { fumeLimitC } = straight.pair.foam;

const STEP_M = 0.0004;
/** A track of even cutting, changed where asked. */
function track(lengthM: number, change: (row: TrackRow, atM: number) => Partial<TrackRow> = () => ({})): TrackRow[] {
  return Array.from({ length: Math.round(lengthM / STEP_M) }, (_, i) => {
    const row: TrackRow = { timeS: i * 0.06, p: i * STEP_M, q: 0, kerfM: 0.0013, wireC: 230, feedMPerS: 0.0065, ratio: 0.5 };
    return { ...row, ...change(row, i * STEP_M) };
  });
}
const between = (atM: number, fromM: number, toM: number) => atM >= fromM && atM < toM;

describe("reading a face", () => {
  it("an even cut is matt from its entry on, with its own kerf and no error", () => {
    const face = readFace(straight, track(0.1));
    expect(face).toMatchObject({ overall: "matt", grooveM: 0, hookM: null });
    expect(face?.kerfM.mean).toBeCloseTo(0.0013, 12);
    expect(face?.errorM).toBeCloseTo(0, 12);
    expect(face?.stretches).toHaveLength(1);
    expect(face?.stretches[0]?.fromM).toBeGreaterThanOrEqual(ENTRY_M);
  });

  it("the entry's bite is not held against it, but a bite later on is", () => {
    const wide = (fromM: number, toM: number) => track(0.1, (_, at) => (between(at, fromM, toM) ? { kerfM: 0.0032, wireC: fumeLimitC + 20 } : {}));
    expect(readFace(straight, wide(0, 0.011))?.overall).toBe("matt");
    expect(readFace(straight, wide(0.04, 0.07))?.overall).toBe("glossy");
  });

  it("hot or wide is glossy, past 85 % of the top feed is ridged, and the border itself is not", () => {
    const all = (change: Partial<TrackRow>) =>
      readFace(
        straight,
        track(0.1, () => change),
      )?.overall;
    expect(all({ wireC: fumeLimitC })).toBe("matt");
    expect(all({ wireC: fumeLimitC + 1 })).toBe("glossy");
    expect(all({ kerfM: straight.acceptedKerfM + 1e-6 })).toBe("glossy");
    expect(all({ ratio: 0.85 })).toBe("matt");
    expect(all({ ratio: 0.86 })).toBe("ridged");
  });

  it("a bead or two over the border is foam, a stretch of it is a ridge", () => {
    const bead = track(0.1, (_, at) => (between(at, 0.05, 0.0508) ? { ratio: 1.2 } : {}));
    expect(readFace(straight, bead)?.overall).toBe("matt");
    const stretch = readFace(
      straight,
      track(0.1, (_, at) => (between(at, 0.05, 0.07) ? { ratio: 1.2 } : {})),
    );
    expect(stretch?.overall).toBe("ridged");
    const torn = stretch?.stretches.find((each) => each.face === "ridged");
    expect(torn?.fromM).toBeCloseTo(0.05, 2);
    expect(torn?.toM).toBeCloseTo(0.07, 2);
  });

  it("a rest is a groove as deep as it is wider, on each face; a wide stretch at full pace is none", () => {
    const rested = readFace(
      straight,
      track(0.1, (_, at) => (between(at, 0.05, 0.0502) ? { kerfM: 0.0021, feedMPerS: 0.0002 } : {})),
    );
    expect(rested).toMatchObject({ overall: "grooved" });
    expect(rested?.grooveM).toBeCloseTo((0.0021 - 0.0013) / 2, 9);
    expect(
      readFace(
        straight,
        track(0.1, (_, at) => (between(at, 0.05, 0.0502) ? { kerfM: 0.0021 } : {})),
      )?.overall,
    ).toBe("matt");
  });

  it("a corner passed at a distance is a hook of that distance", () => {
    const round = (deviationM: number) =>
      readFace(
        cornered,
        track(0.11, (_, at) =>
          at < 0.06 - deviationM ? {} : { p: Math.min(0.06, 0.06 - deviationM + (at - 0.06 + deviationM) * 0.3), q: Math.max(0, at - 0.06 + deviationM) },
        ),
      );
    expect(round(0)?.hookM).toBeLessThan(STEP_M);
    expect(round(0)?.overall).toBe("matt");
    const hooked = round(0.004);
    expect(hooked?.hookM).toBeGreaterThan(HOOK_SEEN_M);
    expect(hooked?.overall).toBe("hooked");
    expect(hooked?.errorM).toBe(hooked?.hookM);
  });

  it("stretches cover the judged cut end to end without gap or overlap, regardless of what happens in it", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            at: fc.double({ min: 0.012, max: 0.09, noNaN: true }),
            length: fc.double({ min: 0.001, max: 0.03, noNaN: true }),
            kerfM: fc.double({ min: 0.0006, max: 0.005, noNaN: true }),
            wireC: fc.double({ min: 110, max: 600, noNaN: true }),
            ratio: fc.double({ min: 0.05, max: 3, noNaN: true }),
            feedMPerS: fc.double({ min: 0, max: 0.02, noNaN: true }),
          }),
          { maxLength: 5 },
        ),
        (happenings) => {
          const face = readFace(
            straight,
            track(0.1, (_, at) => {
              const now = happenings.find((each) => between(at, each.at, each.at + each.length));
              return now ? { kerfM: now.kerfM, wireC: now.wireC, ratio: now.ratio, feedMPerS: now.feedMPerS } : {};
            }),
          );
          if (!face) throw new Error("no face");
          const { stretches, kerfM } = face;
          for (const [i, stretch] of stretches.entries()) {
            expect(stretch.toM).toBeGreaterThanOrEqual(stretch.fromM);
            if (i > 0) {
              expect(stretch.fromM).toBe(stretches[i - 1]?.toM);
              expect(stretch.face).not.toBe(stretches[i - 1]?.face);
            }
          }
          expect(kerfM.least).toBeLessThanOrEqual(kerfM.mean * (1 + 1e-12));
          expect(kerfM.most).toBeGreaterThanOrEqual(kerfM.mean * (1 - 1e-12));
          expect(face.errorM).toBeGreaterThanOrEqual(0);
        },
      ),
      { numRuns: 200 },
    );
  });

  it("too little of a cut is no face", () => {
    expect(readFace(straight, [])).toBeNull();
    expect(readFace(straight, track(0.001))).toBeNull();
  });
});
