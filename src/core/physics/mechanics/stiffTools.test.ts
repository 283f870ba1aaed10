import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { parseFoamId, resolveFoam } from "../../materials/foams";
import { kerfFeedProduct, leastKerfM, referenceDragNPerM, wireInKerfC } from "../cut/cut";
import { resolveWire } from "../heat/wire";
import { stiffBowM, stiffWireM } from "./stiffBow";
import { solderingTip, wandCut } from "./stiffTools";

const wire = resolveWire({ alloy: "nicr-80-20", diameter_mm: 1 });
const pair = { wire, foam: resolveFoam(parseFoamId("eps-20")), ambientC: 20 };
/** Hot: eight tenths of the cold modulus; a round wire's second moment. */
const FLEX = 0.8 * 214e9 * (Math.PI / 64) * 1e-12;

describe("a bent wire on a handle, by hand", () => {
  it("uses there and back for a wand, round three sides for a loop", () => {
    expect(stiffWireM({ kind: "wand", depthM: 0.15 })).toBeCloseTo(0.3, 12);
    expect(stiffWireM({ kind: "loop", depthM: 0.15, widthM: 0.08 })).toBeCloseTo(0.38, 12);
  });

  it("a wand's tip moves by w h^4/8 E I with its drag on two legs; a loop adds its crosspiece's pull and bow", () => {
    // One leg has half of the drag on each metre: (F'/2) h^4/(8 E I).
    expect(stiffBowM({ kind: "wand", depthM: 0.1 }, wire, 3)).toBeCloseTo((1.5 * 0.1 ** 4) / (8 * FLEX), 12);
    const loop = { kind: "loop", depthM: 0.1, widthM: 0.05 } as const;
    // Each leg carries half the crosspiece at its end, P = F' b/2: P h^3/(3 E I); its own drag: F' h^4/(8 E I); the crosspiece between clamps: F' b^4/(384 E I).
    const [end, own, across] = [(0.5 * 3 * 0.05 * 0.1 ** 3) / (3 * FLEX), (3 * 0.1 ** 4) / (8 * FLEX), (3 * 0.05 ** 4) / (384 * FLEX)];
    expect(stiffBowM(loop, wire, 3)).toBeCloseTo(end + own + across, 12);
    // Strands bend each for itself.
    const strands = resolveWire({ alloy: "nicr-80-20", diameter_mm: 1, strands: 3 });
    expect(stiffBowM(loop, strands, 3)).toBeCloseTo((end + own + across) / 3, 12);
  });
});

describe("the cut of a wand", () => {
  it("has both legs' heat on one line and a slot as wide as both, their gap and the room beside one", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 10, max: 90, noNaN: true }),
        fc.double({ min: 0.2, max: 12, noNaN: true }),
        fc.double({ min: 0, max: 4, noNaN: true }),
        (heat, feed, gap) => {
          const cut = wandCut(pair, feed / 1000, heat, gap / 1000);
          const product = kerfFeedProduct(pair, 2 * heat);
          const least = leastKerfM(pair) + 1e-3 + gap / 1000;
          expect(cut.kerfM * (feed / 1000)).toBeCloseTo(product, 12);
          expect(cut.maxFeedMPerS * least).toBeCloseTo(product, 12);
          expect(cut.feedRatio).toBeCloseTo(feed / 1000 / cut.maxFeedMPerS, 9);
          expect(cut.wireC).toBe(wireInKerfC(pair, heat, cut.kerfM / 2));
          if (cut.feedRatio < 1) expect(cut.dragNPerM).toBeCloseTo((2 * referenceDragNPerM(pair) * cut.feedRatio) / (1 - cut.feedRatio), 9);
          else expect(cut.dragNPerM).toBeNull();
        },
      ),
    );
  });
});

describe("a tip in a soldering iron", () => {
  const { wire: _, ...foam } = pair;
  const tip = { metal: "copper", diameterM: 0.003, depthM: 0.06 } as const;
  const strong = { watts: 200, atC: 350 };

  it("is hottest at its root, and takes just what the foam takes from it; copper carries further than steel", () => {
    const copper = solderingTip(foam, tip, strong, 0.002);
    expect(copper.rootC).toBe(350);
    expect(copper.ironFalls).toBe(false);
    expect(copper.endC).toBeLessThan(350);
    expect(copper.endC).toBeGreaterThan(20);
    expect(copper.rootKerfM).toBeGreaterThan(copper.endKerfM);
    const steel = solderingTip(foam, { ...tip, metal: "steel" }, strong, 0.002);
    const brass = solderingTip(foam, { ...tip, metal: "brass" }, strong, 0.002);
    expect([copper.endC > brass.endC, brass.endC > steel.endC]).toEqual([true, true]);
    expect([copper.takesW > brass.takesW, brass.takesW > steel.takesW]).toEqual([true, true]);
    expect(copper.cutsM).toBeGreaterThanOrEqual(steel.cutsM);
    // A short tip cuts all along; a long one only as deep as heat comes.
    expect(solderingTip(foam, { ...tip, depthM: 0.005 }, strong, 0.0005).cutsM).toBe(0.005);
    const deep = solderingTip(foam, { ...tip, metal: "steel", depthM: 0.2 }, strong, 0.002);
    expect(deep.cutsM).toBeLessThan(0.2);
    expect(deep.endKerfM).toBe(0);
  });

  it("a rod that carries heat without loss stands all at the iron's temperature: a very short one nearly does", () => {
    const stub = solderingTip(foam, { metal: "copper", diameterM: 0.01, depthM: 0.002 }, strong, 0.001);
    expect(stub.endC).toBeGreaterThan(348);
  });

  it("a weak iron falls until it gives no more than its watts", () => {
    const weak = solderingTip(foam, tip, { watts: 3, atC: 350 }, 0.002);
    expect(weak.ironFalls).toBe(true);
    expect(weak.takesW).toBeLessThanOrEqual(3.0001);
    expect(weak.takesW).toBeGreaterThan(2.99);
    expect(weak.rootC).toBeLessThan(350);
  });

  it("an iron no hotter than the foam's own melting is refused", () => {
    const at = (atC: number) => () => solderingTip(foam, tip, { watts: 50, atC }, 0.002);
    expect(at(pair.foam.collapseC)).toThrow(/iron_C must be above/);
    expect(at(pair.foam.collapseC + 20)).not.toThrow();
  });
});
