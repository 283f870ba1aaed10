import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Source } from "../kernel/provenance";
import type { Table } from "../numerics/interpolate";
import { RELATIONS } from "../relations";
import { ALLOYS } from "./alloys";
import { CELLS } from "./batteries";
import { FOAM_FAMILIES, FORBIDDEN_FOAMS, forbiddenFoam, parseFoamId, resolveFoam } from "./foams";
import { STRENGTHS, strengthAt, youngPa } from "./strength";

const STANDINGS = ["published", "common practice", "from memory", "estimate"];
const sourced = (source: Source) => {
  expect(STANDINGS).toContain(source.basis);
  expect(source.source.length).toBeGreaterThan(5);
};
const rising = (table: Table) => {
  for (let i = 1; i < table.length; i++) expect(table[i]?.[0]).toBeGreaterThan(table[i - 1]?.[0] as number);
};

describe("no source, no row", () => {
  it("every figure of an alloy, foam, cell and strength says where it is from, and what is from memory says so", () => {
    for (const alloy of ALLOYS) for (const source of Object.values(alloy.origin)) sourced(source);
    for (const family of FOAM_FAMILIES) for (const source of Object.values(family.origin)) sourced(source);
    for (const cell of Object.values(CELLS)) sourced(cell);
    for (const strength of Object.values(STRENGTHS)) sourced(strength);
    for (const source of [...ALLOYS.flatMap((alloy) => Object.values(alloy.origin)), ...Object.values(CELLS)]) {
      if (/memory/.test(source.source)) expect(source.basis).toBe("from memory");
    }
  });

  it("every relation has a title, a formula, words, a range and a source of its own", () => {
    const ids = RELATIONS.map((relation) => relation.id);
    expect(new Set(ids).size).toBe(ids.length);
    for (const relation of RELATIONS) {
      sourced(relation);
      for (const text of [relation.title, relation.formula, relation.words, relation.range]) expect(text.length).toBeGreaterThan(3);
    }
  });
});

describe("alloys", () => {
  it("have tables that rise in temperature, begin at 1 at 20 degC, and figures a metal can have", () => {
    for (const alloy of ALLOYS) {
      rising(alloy.temperatureFactor);
      expect(alloy.temperatureFactor[0]).toEqual([20, 1]);
      expect(alloy.resistivityUohmM).toBeGreaterThan(0.3);
      expect(alloy.resistivityUohmM).toBeLessThan(1.6);
      expect(alloy.densityKgM3).toBeGreaterThan(7000);
      expect(alloy.densityKgM3).toBeLessThan(9000);
      expect(alloy.emissivity).toBeGreaterThan(0.2);
      expect(alloy.emissivity).toBeLessThanOrEqual(1);
      expect(alloy.meltsC).toBeGreaterThan(1200);
      expect(alloy.gains.length).toBeGreaterThan(5);
      expect(alloy.costs.length).toBeGreaterThan(5);
    }
    // Stainless climbs with heat, nickel-chromium hardly: what makes the one steady itself on fixed volts and the other not (handbooks, from memory).
    const climb = (id: string) => ALLOYS.find((alloy) => alloy.id === id)?.temperatureFactor.find(([c]) => c >= 400)?.[1] ?? 0;
    expect(climb("ss-304")).toBeGreaterThan(1.3);
    expect(climb("nicr-80-20")).toBeLessThan(1.1);
  });

  it("weaken with heat, never strengthen; hard-drawn wire is the strong one cold", () => {
    for (const alloy of ALLOYS) {
      const strength = (temper: "annealed" | "spring", c: number) => strengthAt({ alloyId: alloy.id, temper }, c);
      for (const temper of ["annealed", "spring"] as const) {
        let before = { proofPa: Number.POSITIVE_INFINITY, ultimatePa: Number.POSITIVE_INFINITY };
        for (let c = 0; c <= 800; c += 25) {
          const here = strength(temper, c);
          expect(here.proofPa).toBeLessThanOrEqual(before.proofPa);
          expect(here.ultimatePa).toBeLessThanOrEqual(before.ultimatePa);
          expect(here.proofPa).toBeGreaterThan(0);
          // No metal yields past what breaks it.
          expect(here.ultimatePa).toBeGreaterThan(here.proofPa);
          before = here;
        }
      }
      expect(strength("spring", 20).proofPa).toBeGreaterThanOrEqual(strength("annealed", 20).proofPa);
      expect(youngPa(alloy.id)).toBeGreaterThan(1.4e11);
    }
    const of = (alloyId: string, temper: "annealed" | "spring", c: number) => strengthAt({ alloyId, temper }, c);
    expect(of("ss-304", "spring", 300).proofPa).toBeCloseTo(1.175e9, -6);
    expect(of("ss-304", "spring", 400).ultimatePa).toBeCloseTo(1.35e9, -6);
    expect(of("nicr-80-20", "spring", 20).annealedTaken).toBe(true);
    expect(of("custom", "annealed", 20).proofPa).toBe(of("nicr-80-20", "annealed", 20).proofPa);
  });
});

describe("foams", () => {
  it("any density of a family in its range is read from its short name; one outside is refused by the range", () => {
    fc.assert(
      fc.property(fc.constantFrom(...FOAM_FAMILIES), fc.integer({ min: 1, max: 300 }), (family, density) => {
        const inside = density >= family.densityMinKgM3 && density <= family.densityMaxKgM3;
        if (inside) expect(parseFoamId(`${family.id.toUpperCase()}-${density} `)).toEqual({ family: family.id, density_kg_m3: density });
        else expect(() => parseFoamId(`${family.id}-${density}`)).toThrow(`from ${family.densityMinKgM3} to ${family.densityMaxKgM3}`);
      }),
    );
    for (const nonsense of ["", "eps", "eps-", "20", "eps 20", "eps--20", "eps-2e1"]) expect(() => parseFoamId(nonsense)).toThrow(/must be family-density/);
  });

  it("denser is stronger, held at the ends; what the maker measured takes the place of the family's", () => {
    for (const family of FOAM_FAMILIES) {
      rising(family.strength10);
      const strength = (density: number) => resolveFoam({ family: family.id, density_kg_m3: density }).strength10Pa;
      for (let d = 6; d < 100; d++) expect(strength(d + 1)).toBeGreaterThanOrEqual(strength(d));
      const first = family.strength10[0];
      expect(strength(5)).toBe(1000 * (first?.[1] ?? 0));
      expect(family.flashIgnitionC).toBeLessThan(family.selfIgnitionC);
      expect(family.fumeCautionC).toBeLessThan(family.fumeLimitC);
      expect(family.collapseC).toBeLessThan(family.fumeCautionC);
    }
    const measured = resolveFoam({ family: "xps", density_kg_m3: 33, collapse_C: 104, conductivity_W_mK: 0.03, strength10_kPa: 300, latent_kJ_kg: 10 });
    expect(measured).toMatchObject({ collapseC: 104, conductivityWMK: 0.03, strength10Pa: 300_000, latentJKg: 10_000, specificHeatJKgK: 1400 });
    // XPS 29 at 10 % strain: 276 kPa, 40 psi (grades of the trade, from memory).
    expect(resolveFoam(parseFoamId("xps-29")).strength10Pa / 6894.757).toBeCloseTo(40, 0);
  });

  it("what gives off poison is known by every name it goes by, and none of the others is mistaken for it", () => {
    for (const row of FORBIDDEN_FOAMS) {
      expect(row.why.length).toBeGreaterThan(10);
      for (const name of [row.id, ...row.aliases]) {
        expect(forbiddenFoam(` ${name.toUpperCase()} `)?.id).toBe(row.id);
        expect(forbiddenFoam(`${name}-30`)?.id).toBe(row.id);
        expect(() => parseFoamId(`${name}-30`)).toThrow(/must never be cut with a hot wire/);
      }
    }
    for (const family of FOAM_FAMILIES) expect(forbiddenFoam(family.id)).toBeUndefined();
  });
});

describe("cells", () => {
  it("give more volts the fuller they are, stay above their floor at rest, and resist less the larger they are", () => {
    for (const cell of Object.values(CELLS)) {
      rising(cell.emfV);
      for (let i = 1; i < cell.emfV.length; i++) expect(cell.emfV[i]?.[1]).toBeGreaterThan(cell.emfV[i - 1]?.[1] as number);
      expect(cell.emfV.at(-1)?.[1]).toBeGreaterThan(cell.floorV);
      expect(cell.ohmAh).toBeGreaterThan(0);
    }
  });
});
