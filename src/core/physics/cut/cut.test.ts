import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { JUDGEMENT } from "@/core/kernel/constants";
import { type FoamSpec, parseFoamId, resolveFoam } from "@/core/materials/foams";
import { cleanFeeds, cleanHeats, cutAtCurrent, cutAtPower, gapHeatWPerM, kerfFeedProduct, kerfLossWPerM, leastKerfM } from "@/core/physics/cut/cut";
import { computeCutMap, MAP_VERDICTS } from "@/core/physics/cut/cutMap";
import { midSpanLag } from "@/core/physics/cut/lag";
import { bareLossWPerM, bareWireDriven } from "@/core/physics/heat/bareWire";
import { resistanceOhmPerM, resolveWire } from "@/core/physics/heat/wire";

const thick = resolveWire({ alloy: "nicr-80-20", diameter_mm: 0.635 });
const pairWith = (foam: string | FoamSpec, wire = thick) => ({ wire, foam: resolveFoam(typeof foam === "string" ? parseFoamId(foam) : foam), ambientC: 20 });

const nicr = (diameter_mm: number) => resolveWire({ alloy: "nicr-80-20", diameter_mm });
/** Of the heat, what the two laws of still air differ by where they meet. */
const SEAM = 0.0015;
/** Independent check values (project physics notes, nickel-chromium): diameter mm, W/m, foam, mm/s; kerf mm, top feed mm/s, wire degC, drag N/m (null: past top feed). */
const CHECKS: [number, number, string, number, number, number, number | null, number | null][] = [
  [0.635, 60, "eps-20", 6.35, 1.78, 14.584, 320, 0.713],
  [0.635, 60, "eps-64", 4, 0.883, 3.261, 194, null],
  [0.635, 70, "xps-35", 4, 1.91, 8.682, 358, 3.369],
  [0.25, 30, "eps-20", 6, 0.85, 13.077, 254, 0.308],
  [0.41, 50, "xps-48", 4, 0.971, 5.204, 275, 14.09],
  [0.635, 60, "epp-30", 4, 0.714, 3.381, null, null],
];

describe("the cut against independent check values", () => {
  it.each(CHECKS)("%f mm at %f W/m in %s at %f mm/s", (diameter, heat, foam, feed, kerfMm, topMmS, wireC, drag) => {
    const cut = cutAtPower(pairWith(foam, nicr(diameter)), feed / 1000, heat);
    expect(Math.abs(cut.kerfM * 1000 - kerfMm)).toBeLessThan(0.0006);
    expect(Math.abs(cut.maxFeedMPerS * 1000 - topMmS)).toBeLessThan(0.0006);
    if (wireC !== null) expect(Math.abs(cut.wireC - wireC)).toBeLessThan(0.6);
    if (drag === null) {
      expect(cut.dragNPerM).toBeNull();
      expect(cut.feedRatio).toBeGreaterThan(1);
    } else expect(Math.abs((cut.dragNPerM as number) / drag - 1)).toBeLessThan(2e-3);
  });

  it("room next to the wire: 0.13 mm at 18 kg/m3, 0.34 at 48 (project physics notes), and as test cuts taught it", () => {
    const room = (foam: string) => (leastKerfM(pairWith(foam)) - 0.635e-3) * 1000;
    expect(room("eps-18")).toBeCloseTo(0.126, 9);
    expect(room("xps-48")).toBeCloseTo(0.336, 9);
    const taught = leastKerfM({ ...pairWith("eps-18"), clearanceShare: 2 });
    expect((taught - 0.635e-3) * 1000).toBeCloseTo(0.252, 9);
  });

  it("dense board wants the heavier wire, hair wire is slow: top feeds at the hottest a bare wire may be (common practice)", () => {
    // Each wire at the heat that keeps it at 450 degC in air: what its own circuit can hold without lighting the foam.
    const top = (diameter: number, foam: string) => {
      const pair = pairWith(foam, nicr(diameter));
      return cutAtPower(pair, 0.001, bareLossWPerM(pair.wire, 450, { ambientC: 20 })).maxFeedMPerS;
    };
    for (const foam of ["eps-45", "xps-48"]) {
      expect(top(0.64, foam)).toBeGreaterThan(top(0.41, foam));
      expect(top(0.41, foam)).toBeGreaterThan(top(0.16, foam));
    }
    expect(top(0.1, "xps-35")).toBeLessThan(0.9 * top(0.41, "xps-35"));
  });

  it("a wire in foam is never hotter than bare at the same heat (common practice), and is the gap's temperature where that is cooler", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 1.2, noNaN: true }),
        fc.constantFrom("eps-12", "eps-20", "xps-35", "xps-48", "epp-30", "pe-33"),
        fc.double({ min: 0.5, max: 200, noNaN: true }),
        fc.double({ min: 0.05, max: 60, noNaN: true }),
        (diameter, foam, heat, feed) => {
          const pair = pairWith(foam, nicr(diameter));
          const cut = cutAtPower(pair, feed / 1000, heat);
          const bare = bareWireDriven(pair.wire, { powerWPerM: heat }, { ambientC: 20 }).temperatureC;
          // The published correlation of still air steps down by 0.13 % where its first range ends (Ra = 0.01): there two temperatures give off the same heat.
          expect(cut.wireC).toBeLessThanOrEqual(bare + 1e-5 + SEAM * (bare - 20));
          // Whichever law rules, the wire gives off just its own heat.
          expect(Math.abs(kerfLossWPerM(pair, cut.kerfM, cut.wireC) / heat - 1)).toBeLessThan(1e-5 + SEAM);
        },
      ),
      { examples: [[0.17729490846092819, "eps-12", 0.9164149301947648, 0.05]] },
    );
    const wide = cutAtPower(pairWith("eps-12", nicr(0.16)), 0.0004, 12);
    expect(wide.wireC).toBeCloseTo(bareWireDriven(nicr(0.16), { powerWPerM: 12 }, { ambientC: 20 }).temperatureC, 4);
  });

  it("wire temperature in the kerf: 70 W/m in XPS 35 at 4 mm/s is 358 degC at a kerf of 1.91 mm", () => {
    const cut = cutAtPower(pairWith("xps-35"), 0.004, 70);
    expect(cut.kerfM * 1000).toBeCloseTo(1.91, 2);
    expect(cut.wireC).toBeCloseTo(358, 0);
    expect(cut.verdict).toBe("clean");
    expect(gapHeatWPerM(pairWith("xps-35"), cut.kerfM, cut.wireC)).toBeCloseTo(70, 6);
  });

  it.each([
    ["xps-25", 6, 5.29],
    ["xps-35", 4, 13.05],
  ])("lag of %s at %f mm/s over 1.22 m at 66.7 N is %f mm", (foam, feed, lagMm) => {
    const cut = cutAtPower(pairWith(foam), feed / 1000, 60);
    expect(midSpanLag(cut.dragNPerM as number, 1.22, 1.22, 66.7).lagM * 1000).toBeCloseTo(lagMm, 2);
  });

  it("a fast cut follows the published effective heat input: kerf = sqrt(2/(pi e)) q'/(rho c (Tc-T0) v)", () => {
    const pair = pairWith("eps-20");
    const cut = cutAtPower(pair, 0.3, 2000);
    const limit = (Math.sqrt(2 / (Math.PI * Math.E)) * 2000) / (20 * 1400 * 88 * 0.3);
    expect(Math.abs(cut.kerfM / limit - 1)).toBeLessThan(1e-4);
  });

  it("four seconds an inch with 0.9 mm wire in light EPS is a clean cut (common practice)", () => {
    const pair = pairWith("eps-15", resolveWire({ alloy: "nicr-80-20", diameter_mm: 0.9 }));
    const heats = cleanHeats(pair, 0.00635, JUDGEMENT.acceptedKerfMm / 1000);
    expect(heats.to).toBeGreaterThan(heats.from);
    expect(cutAtPower(pair, 0.00635, (heats.from + heats.to) / 2).verdict).toBe("clean");
  });

  it("about 70 W/m pulls 1.2 m of wire through 60-psi board with a few newtons (common practice: 2.5 to 3 N)", () => {
    // 60 psi nominal is XPS 35. At a slow pull the drag is of that order.
    const cut = cutAtPower(pairWith("xps-35"), 0.0036, 70);
    expect((cut.dragNPerM as number) * 1.2).toBeGreaterThan(2);
    expect((cut.dragNPerM as number) * 1.2).toBeLessThan(6);
  });

  it("polypropylene needs a clearly hotter wire than polystyrene for the same cut (common practice)", () => {
    const wireC = (foam: string) => {
      const pair = pairWith(foam);
      return cutAtPower(pair, 0.004, cleanHeats(pair, 0.004, 0.0025).from).wireC;
    };
    expect(wireC("epp-30")).toBeGreaterThan(wireC("eps-29") + 40);
  });
});

describe("the cut's laws", () => {
  it("faster never widens the kerf, hotter never narrows it", () => {
    for (const foam of ["eps-12", "xps-48", "epp-45", "pe-33"]) {
      const pair = pairWith(foam);
      for (let feed = 0.5; feed < 40; feed *= 1.7) {
        const here = cutAtPower(pair, feed / 1000, 50);
        expect(cutAtPower(pair, (feed * 1.1) / 1000, 50).kerfM).toBeLessThan(here.kerfM);
        expect(cutAtPower(pair, feed / 1000, 55).kerfM).toBeGreaterThan(here.kerfM);
      }
    }
  });

  it("drag grows without end towards the top feed and has no figure past it", () => {
    const pair = pairWith("eps-20");
    const top = cutAtPower(pair, 0.006, 60).maxFeedMPerS;
    expect(cutAtPower(pair, top * 0.999, 60).dragNPerM as number).toBeGreaterThan(100 * (cutAtPower(pair, top * 0.5, 60).dragNPerM as number));
    const past = cutAtPower(pair, top * 1.01, 60);
    expect(past.dragNPerM).toBeNull();
    expect(past.verdict).toBe("drags");
    expect(past.warnings.map((warning) => warning.code)).toContain("above-top-feed");
  });

  it("current and heat name the same cut once the wire's own temperature is counted", () => {
    for (const alloy of ["nicr-80-20", "ss-304"]) {
      const pair = pairWith("xps-35", resolveWire({ alloy, diameter_mm: 0.4 }));
      const cut = cutAtCurrent(pair, 0.004, 2);
      expect(cut.powerWPerM).toBeCloseTo(4 * resistanceOhmPerM(pair.wire, cut.wireC), 5);
      expect(cutAtPower(pair, 0.004, cut.powerWPerM).kerfM).toBeCloseTo(cut.kerfM, 12);
    }
  });

  it("the clean windows end exactly where the verdict turns", () => {
    for (const foam of ["eps-20", "xps-35", "epp-30"]) {
      const pair = pairWith(foam);
      for (const power of [25, 45, 80, 110]) {
        const feeds = cleanFeeds(pair, power, 0.0025);
        expect(cutAtPower(pair, feeds.to * 1.0001, power).verdict).toBe("drags");
        if (feeds.from < feeds.to) {
          expect(cutAtPower(pair, feeds.to * 0.9999, power).verdict).toBe("clean");
          expect(cutAtPower(pair, feeds.from * 1.0001, power).verdict).toBe("clean");
          expect(cutAtPower(pair, feeds.from * 0.9999, power).verdict).toBe(feeds.below);
        }
      }
      const heats = cleanHeats(pair, 0.005, 0.0025);
      expect(cutAtPower(pair, 0.005, heats.from * 0.9999).verdict).toBe("drags");
      if (heats.from < heats.to) {
        expect(cutAtPower(pair, 0.005, heats.from * 1.0001).verdict).toBe("clean");
        expect(cutAtPower(pair, 0.005, heats.to * 0.9999).verdict).toBe("clean");
        expect(cutAtPower(pair, 0.005, heats.to * 1.0001).verdict).toBe(heats.above);
      }
    }
  });

  it("the map's cells are the same cuts, one by one", () => {
    const pair = pairWith("eps-20");
    const map = computeCutMap(pair, { from: 5, to: 120, count: 12 }, { from: 0.5e-3, to: 20e-3, count: 15 });
    for (const [row, column] of [
      [0, 0],
      [5, 7],
      [11, 14],
      [3, 1],
    ] as const) {
      const cut = cutAtPower(pair, 0.5e-3 + (19.5e-3 * column) / 14, 5 + (115 * row) / 11);
      const at = row * 15 + column;
      expect(map.kerf[at]).toBeCloseTo(cut.kerfM, 12);
      expect(map.wireC[at]).toBeCloseTo(cut.wireC, 5);
      expect(MAP_VERDICTS[map.verdict[at] as number]).toBe(cut.verdict);
      expect(map.maxFeed[row]).toBeCloseTo(cut.maxFeedMPerS, 12);
    }
  });

  it("a latent heat slows the cut as a larger specific heat would", () => {
    const plain = kerfFeedProduct(pairWith({ family: "epp", density_kg_m3: 30, latent_kJ_kg: 0 }), 60);
    const latent = kerfFeedProduct(pairWith({ family: "epp", density_kg_m3: 30, latent_kJ_kg: 60 }), 60);
    const spread = kerfFeedProduct(pairWith({ family: "epp", density_kg_m3: 30, latent_kJ_kg: 0, specificHeat_J_kgK: 1900 + 60000 / 130 }), 60);
    expect(latent).toBeLessThan(plain);
    expect(spread).toBeCloseTo(latent, 12);
  });
});
