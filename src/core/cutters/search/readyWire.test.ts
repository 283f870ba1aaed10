import { describe, expect, it } from "vitest";
import { parseFoamId, resolveFoam } from "../../materials/foams";
import { resolveWire } from "../../physics/heat/wire";
import { atHeat, isRefused, type ReadyWire, type Refused, ready, type SearchJob } from "./readyWire";
import { searchSetups } from "./search";

const job = (foam: string, widthM: number, feedMPerS: number, more: Partial<SearchJob> = {}): SearchJob => ({
  foam: resolveFoam(parseFoamId(foam) as never),
  widthM,
  feedMPerS,
  acceptedKerfM: 0.0025,
  bowM: widthM + 0.15,
  ambientC: 20,
  ...more,
});
const JOBS = [
  ...[0.001, 0.006, 0.012, 0.025].map((feedMPerS) => job("xps-35", 0.1, feedMPerS)),
  job("xps-35", 0.6, 0.003),
  job("eps-18", 1.1, 0.0065),
  job("eps-18", 0.1, 0.025),
];
const [narrow, , , , usualJob] = JOBS as [SearchJob, SearchJob, SearchJob, SearchJob, SearchJob];
const WIRES = ["nicr-80-20", "ss-304"].flatMap((alloy) => Array.from({ length: 17 }, (_, i) => ({ alloy, gauge_awg: 12 + i * 2 })));
const usualPlace = 0.35;

describe("which heat a wire is asked for", () => {
  /** Every wire on every job, with what it would be at the places of its band that could be tried. */
  const all = () =>
    JOBS.flatMap((each) =>
      WIRES.map((spec) => {
        const found = ready(spec, each);
        const heats = isRefused(found) ? null : found.heats;
        const at = (place: number) => (heats ? atHeat(spec, resolveWire(spec), each, heats, heats.from + place * (heats.to - heats.from)) : null);
        return { job: each, spec, found, heats, at };
      }),
    );
  it("a third of the way up as a rule; cooler where the bare ends would light the vapour and a cooler heat would not; elsewhere only where the usual will not do", () => {
    let [usual, safer, hotter, cooled] = [0, 0, 0, 0];
    for (const { job: each, found, heats, at } of all()) {
      if (isRefused(found) || !heats) continue;
      const place = (found.cut.powerWPerM - heats.from) / (heats.to - heats.from);
      const plain = at(usualPlace) as ReadyWire | Refused;
      const ignition = each.foam.selfIgnitionC;
      if (Math.abs(place - usualPlace) < 1e-9) {
        usual += 1;
        // It lights the vapour only where nothing cooler that would do keeps well under it.
        if (found.bareC >= ignition)
          for (const cool of [0.2, 0.1, 0.03]) {
            const tried = at(cool) as ReadyWire | Refused;
            expect(isRefused(tried) || tried.bareC >= 0.98 * ignition).toBe(true);
          }
      } else if (!isRefused(plain)) {
        safer += 1;
        expect(plain.bareC).toBeGreaterThanOrEqual(ignition);
        expect(found.bareC).toBeLessThan(0.98 * ignition);
        expect(place).toBeLessThan(usualPlace);
        // The least cooling that does it.
        for (const cool of [0.2, 0.1, 0.03].filter((other) => other > place + 1e-9)) {
          const tried = at(cool) as ReadyWire | Refused;
          expect(isRefused(tried) || tried.bareC >= 0.98 * ignition).toBe(true);
        }
      } else if (plain.code === "glows") {
        cooled += 1;
        expect(place).toBeLessThan(usualPlace);
      } else {
        hotter += 1;
        expect(place).toBeGreaterThan(usualPlace);
        for (const nearer of [0.6, 0.85, 0.97].filter((other) => other < place - 1e-9)) expect(isRefused(at(nearer) as object)).toBe(true);
      }
    }
    // Each of these is met with, or this says nothing.
    expect(usual).toBeGreaterThan(20);
    expect(safer).toBeGreaterThan(0);
    expect(cooled).toBeGreaterThan(0);
    expect(hotter).toBeGreaterThan(0);
  });
  it("what is refused is so at every heat that could have been tried for it", () => {
    const codes = new Set<string>();
    for (const each of JOBS)
      for (const spec of WIRES) {
        const found = ready(spec, each);
        if (!isRefused(found)) continue;
        codes.add(found.code);
        expect(found.say().length).toBeGreaterThan(15);
        expect(found.say()).not.toMatch(/NaN|undefined/);
      }
    expect(codes.size).toBeGreaterThan(2);
  });
  it("says how far it would bow, in millimetres or in hundredths of an inch; that it would smoke, cut wide or never enter", () => {
    const thick = (units: SearchJob["units"]) => {
      const found = ready({ alloy: "nicr-80-20", gauge_awg: 14 }, { ...narrow, units });
      return isRefused(found) && found.code === "bows" ? found.say() : "does not bow";
    };
    expect(thick("metric")).toMatch(/^too weak: at the tension it withstands hot \(\d+\.\d N\) it would bow \d+ mm$/);
    expect(thick("inch")).toMatch(/it would bow \d+\.\d\d in$/);
    const millimetres = Number(/bow (\d+) mm/.exec(thick("metric"))?.[1]);
    expect(Number(/bow ([\d.]+) in/.exec(thick("inch"))?.[1]) * 25.4).toBeCloseTo(millimetres, -1);
    // A twentieth of a bow of 250 mm is as far as any line holds.
    expect(millimetres).toBeGreaterThan(10);
    const smokes = ready({ alloy: "nicr-80-20", gauge_awg: 12 }, JOBS[3] as SearchJob);
    expect(isRefused(smokes) && [smokes.code, smokes.say()]).toEqual(["smokes", expect.stringMatching(/it would smoke before it could cut/)]);
    const cold = ready({ alloy: "nicr-80-20", gauge_awg: 14 }, job("eps-18", 0.1, 0.001));
    expect(isRefused(cold) && cold.code).toBe("no-entry");
    expect(isRefused(ready({ alloy: "nicr-80-20", gauge_awg: 18 }, narrow))).toBe(false);
    const wide = ready({ alloy: "ss-304", diameter_mm: 3 }, job("eps-18", 0.3, 0.003, { acceptedKerfM: 0.0031 }));
    expect(isRefused(wide) && [wide.code, wide.say()]).toEqual(["wide", expect.stringMatching(/too thick for the accepted kerf/)]);
  });
});

describe("the search's words about what does not work", () => {
  const bench = { kind: "bench", voltage_V: 30, current_A: 10 } as const;
  it("a school none of whose wires works says what is against it most often, of its own wires alone", () => {
    const weak = { kind: "dc", voltage_V: 1.2, maxCurrent_A: 1 } as const;
    const { schools } = searchSetups(
      usualJob,
      [
        { alloy: "nicr-80-20", gauge_awg: 26 },
        { alloy: "ss-304", diameter_mm: 3 },
        { alloy: "ss-304", diameter_mm: 3.2 },
        { alloy: "ss-304", diameter_mm: 0.4 },
      ],
      [weak],
      ["direct"],
    );
    const said = Object.fromEntries(schools.map(({ alloy, words, best }) => [alloy, [words, best]]));
    expect(said["ss-304"]).toEqual(["no set-up works; most often: too thick for the accepted kerf", null]);
    expect(said["nicr-80-20"]?.[0]).toMatch(/^no set-up works; most often: no knob, and it is too cold$/);
    expect(schools.every(({ behind }) => behind === 100)).toBe(true);
    const none = searchSetups(usualJob, [{ alloy: "nicr-80-20", gauge_awg: 26 }], [], ["direct"]).schools;
    expect(none[0]?.words).toBe("no set-up works");
  });
  it("counts every wire with every supply and control, the refused ones too, and does not list what simply does not go together", () => {
    const { tried, rejected } = searchSetups(
      usualJob,
      [
        { alloy: "ss-304", diameter_mm: 3 },
        { alloy: "nicr-80-20", gauge_awg: 26 },
      ],
      [bench, { kind: "dc", voltage_V: 12, maxCurrent_A: 5 }, { kind: "dc", voltage_V: 24, maxCurrent_A: 5 }],
      ["direct", "phase"],
    );
    expect(tried).toBe(2 * 3 * 2);
    expect(rejected.map(({ code }) => code)).not.toContain("mismatch");
    expect(rejected.find(({ code }) => code === "wide")?.count).toBe(1);
  });
  it("refusals of one kind are once, with how many, most first", () => {
    const { rejected } = searchSetups(
      usualJob,
      [{ alloy: "ss-304", diameter_mm: 3 }, ...[22, 24, 26].map((gauge_awg) => ({ alloy: "nicr-80-20", gauge_awg }))],
      [{ kind: "dc", voltage_V: 1, maxCurrent_A: 5 }],
      ["direct"],
    );
    expect(rejected.map(({ code, count }) => [code, count])).toEqual([
      ["too-cold", 3],
      ["wide", 1],
    ]);
  });
  it("why this size: of its own alloy and temper alone, the next a thirtieth off and more, sizes to hundredths", () => {
    const sizes = [0.3, 0.395, 0.4, 0.405, 0.5].map((diameter_mm) => ({ alloy: "ss-304", diameter_mm }));
    const reasons = (units: SearchJob["units"]) => {
      const { candidates } = searchSetups(
        { ...usualJob, units },
        [...sizes, { alloy: "nicr-80-20", diameter_mm: 0.45 }, { alloy: "ss-304", diameter_mm: 0.42, temper: "spring" }],
        [bench],
        ["direct"],
      );
      return (
        candidates.find(({ wire }) => (wire as { diameter_mm: number }).diameter_mm === 0.4)?.reasons.join("; ") ??
        candidates.map(({ reasons: each }) => each.join("; ")).join(" | ")
      );
    };
    expect(reasons("metric")).toMatch(/thinner \(0\.30 mm\)/);
    expect(reasons("metric")).toMatch(/thicker \(0\.50 mm\)/);
    expect(reasons("inch")).toMatch(/thinner \(0\.01\d+ in\)/);
  });
});
