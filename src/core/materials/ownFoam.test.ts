import { readdirSync, readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import { exportDesign, importDesign } from "../cutters/design/fileFormat";
import { type Design, designSchema } from "../cutters/design/schema";
import { calibrationOf, evaluateDesign, pairOf } from "../cutters/solve/evaluate";
import { foamSchema } from "./foamSchema";
import { FOAM_FAMILIES, foamWords, ownFoamFault, resolveFoam, sameFoam } from "./foams";

const tom = designSchema.parse(DEMO_CUTTERS[0]);
const withFoam = (foam: unknown): Design => designSchema.parse({ ...tom, job: { ...tom.job, foam } });

describe("the families that come along", () => {
  it("are a file each, all of them listed, each with its two colours", () => {
    const files = readdirSync(`${import.meta.dirname}/foams`)
      .map((name) => name.replace(".ts", ""))
      .filter((name) => name !== "family");
    expect(FOAM_FAMILIES.map((family) => family.id).sort()).toEqual(files.sort());
    const tokens = readFileSync("src/ui/kit/theme/tokens.css", "utf8");
    for (const { id } of FOAM_FAMILIES) expect(tokens.split(`--foam-${id}:`), id).toHaveLength(3);
  });
});

describe("a foam family of a person's own", () => {
  const cork = { family: "eps", own: { name: "Cork-filled bead" }, density_kg_m3: 33, collapse_C: 121, conductivity_W_mK: 0.041 };

  it("is solved with its own figures, and with its nearest kin's where it gives none", () => {
    const foam = resolveFoam(withFoam(cork).job.foam);
    expect(foam).toMatchObject({ name: "Cork-filled bead 33", collapseC: 121, conductivityWMK: 0.041, fumeLimitC: 420, specificHeatJKgK: 1400 });
    expect(resolveFoam({ family: "eps", own: { name: "Shy", fumeLimit_C: 380 }, density_kg_m3: 20 }).fumeLimitC).toBe(380);
    // Hotter to give way, and heavier: the same cut wants more heat.
    const least = (design: Design) => evaluateDesign(design).heats.from;
    expect(least(withFoam(cork))).toBeGreaterThan(least(withFoam({ family: "eps", density_kg_m3: 33 })));
    expect(foamWords(withFoam(cork).job.foam)).toBe("Cork-filled bead");
  });

  it("goes out to a file and comes back", () => {
    expect(importDesign(exportDesign(withFoam(cork)))).toEqual(withFoam(cork));
  });

  it("is refused by the name of what must never meet a hot wire, or of nothing", () => {
    for (const name of ["Soft PU", "polyurethane offcut", "PVC board", "unknown", "foil-faced sheet"]) {
      expect(foamSchema.safeParse({ ...cork, own: { name } }).error?.issues[0]?.message, name).toMatch(/must never be cut with a hot wire/);
      expect(ownFoamFault(name)).toMatch(/never/);
    }
    expect(ownFoamFault(" ")).toMatch(/1 to 40/);
    expect(ownFoamFault("Pump core")).toBeNull();
    expect(foamSchema.safeParse({ ...cork, own: { name: "x", fumeCaution_C: 400, fumeLimit_C: 300 } }).error?.issues[0]?.path).toEqual([
      "own",
      "fumeCaution_C",
    ]);
    expect(foamSchema.safeParse({ ...cork, own: { name: "x", smell: 3 } }).success).toBe(false);
  });

  it("keeps what was learnt of it apart from its kin's", () => {
    const learnt = {
      at: "2026-11-01T10:00:00Z",
      cuts: 5,
      heatShare: 1.2,
      collapseShift_K: 0,
      densityShare: 1,
      dragShare: 1,
      clearanceShare: 1,
      extra_ohm: 0,
      factor: new Array(15).fill(0),
    };
    const taught = designSchema.parse({ ...withFoam(cork), calibrations: [{ ...learnt, foam: { family: "eps", density_kg_m3: 33 } }] });
    expect(calibrationOf(taught)).toBeUndefined();
    const own = designSchema.parse({ ...taught, calibrations: [{ ...learnt, foam: { family: "eps", own: { name: "Cork-filled bead" }, density_kg_m3: 33 } }] });
    expect(calibrationOf(own)?.heatShare).toBe(1.2);
    expect(pairOf(own)).not.toEqual(pairOf(taught));
    expect(sameFoam({ family: "eps", density_kg_m3: 20 }, { family: "eps", density_kg_m3: 21 })).toBe(false);
  });
});
