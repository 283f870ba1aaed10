import { describe, expect, it } from "vitest";
import { corners, extent, overlaps } from "../../../tests/helpers/drawn";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import { type Design, designSchema } from "../cutters/design/schema";
import { evaluateDesign, liveMm } from "../cutters/solve/evaluate";
import type { Shape } from "../kernel/drawing";
import { fuseAdvice } from "../physics/power/powerAdvice";
import { schematicOf } from "./schematic";

const demo = DEMO_CUTTERS.map((design) => designSchema.parse(design));
const tom = demo.find(({ name }) => name === "Long Tom") as Design;
const gatepost = demo.find(({ name }) => name === "Gatepost") as Design;
const change = (base: Design, more: object) => designSchema.parse({ ...base, ...more });
const iron = { kind: "transformer", voltage_Vrms: 24, rating_VA: 150 };
const battery = { kind: "battery", chemistry: "lead-acid", cells: 6, capacity_Ah: 18 };
const clip = change(gatepost, { control: { kind: "clip", live_mm: 120 } });
const CASES: Record<string, Design> = {
  ...Object.fromEntries(demo.map((design) => [design.name, design])),
  "a transformer and its dimmer": change(gatepost, { supply: iron, control: { kind: "phase", delay_deg: 100 } }),
  "a transformer's tap": change(gatepost, { supply: iron, control: { kind: "tap", fraction: 0.4 } }),
  "a battery": change(tom, { supply: battery, control: { kind: "direct" } }),
  "a buck": change(gatepost, { control: { kind: "buck", voltage_V: 7 } }),
  "a rheostat": change(gatepost, { control: { kind: "rheostat", ohm: 2.2 } }),
  "a clip near the post": clip,
  "a clip far along": change(gatepost, { control: { kind: "clip", live_mm: 400 } }),
  "a clip two thirds along": change(gatepost, { control: { kind: "clip", live_mm: 290 } }),
  "no jumper": change(tom, { wiring: { ...tom.wiring, jumper: false } }),
  "nothing insulated, fused or switched": change(tom, { wiring: { fuse_A: null, switch: "none", insulatedPost: false } }),
  "a weight": change(tom, { tension: { device: "weight", hot_N: 65 } }),
};
type Word = Extract<Shape, { kind: "text" }>;
type Pen = Extract<Shape, { kind: "path" }>;
const drawn = (design: Design) => {
  const { drawing, notes } = schematicOf(design, evaluateDesign(design), "metric");
  const words = drawing.shapes.filter((shape): shape is Word => shape.kind === "text");
  const pens = drawing.shapes.filter((shape): shape is Pen => shape.kind === "path");
  const word = (pattern: RegExp) => words.find(({ text }) => pattern.test(text));
  const the = <T>(found: T | undefined, what: string): T => {
    if (found === undefined) throw new Error(`no ${what}`);
    return found;
  };
  return {
    drawing,
    notes,
    word,
    has: (pattern: RegExp) => word(pattern) !== undefined,
    /** The wire as a resistance, the lead there and the lead back, the frame. */
    wire: the(
      pens.find(({ stroke, width }) => stroke === "amber" && width === 1.2),
      "wire",
    ),
    there: the(
      pens.find((pen) => pen.stroke === "ember" && pen.width === 0.9 && /H.*V.*H/.test(pen.d)),
      "lead there",
    ),
    back: the(
      pens.find((pen) => pen.stroke === undefined && pen.width === 0.9),
      "lead back",
    ),
    frame: the(
      pens.find(({ stroke, width }) => stroke === "soft" && width === 2),
      "frame",
    ),
    device: pens.find(({ d, width }) => width === 0.9 && /h34|l1\.500/.test(d)),
    dashed: pens.filter(({ dash }) => dash !== undefined),
    insulator: pens.find(({ fill }) => fill === "line"),
    pens,
  };
};
const first = (pen: Pen) => corners(pen)[0] as [number, number];
const last = (pen: Pen) => corners(pen).at(-1) as [number, number];
const close = ([a, b]: [number, number], [c, d]: [number, number]) => Math.hypot(a - c, b - d) < 1e-6;

describe("the wiring drawn", () => {
  it.each(Object.entries(CASES))("%s: no words over words, nothing off the sheet, in the order the current takes", (_, design) => {
    const { drawing, word, there, wire, back } = drawn(design);
    expect(overlaps(drawing.shapes)).toEqual([]);
    const { left, right, top, bottom } = extent(drawing.shapes);
    expect(left).toBeGreaterThanOrEqual(0);
    expect(right).toBeLessThanOrEqual(drawing.width);
    expect(top).toBeGreaterThanOrEqual(0);
    expect(bottom).toBeLessThanOrEqual(drawing.height);
    const order = [word(/fuse$/)?.x, word(/switch$/)?.x, word(/^lead$/)?.x, first(wire)[0], last(wire)[0]] as number[];
    expect(order).not.toContain(undefined);
    for (let i = 1; i < order.length; i++) expect(order[i]).toBeGreaterThan(order[i - 1] as number);
    // The lead there ends where the wire begins; the lead back begins on the other rail, below it.
    expect(close(last(there), first(wire))).toBe(true);
    expect(first(back)[1]).toBeGreaterThan(first(there)[1]);
    expect(first(there)[1]).toBeLessThan(first(wire)[1]);
  });
  it("the lead goes back from where the live wire ends: its far end, a clip's place, or through the spring where no jumper bridges it", () => {
    const plain = drawn(tom);
    expect(close(last(plain.back), last(plain.wire))).toBe(true);
    for (const live of [120, 300]) {
      const clipped = drawn(change(gatepost, { control: { kind: "clip", live_mm: live } }));
      expect(last(clipped.back)[0]).toBeCloseTo(last(clipped.wire)[0], 6);
      const rest = clipped.dashed.find((pen) => close(first(pen), last(clipped.wire)) && corners(pen).length === 3) as Pen;
      const whole = last(rest)[0] - first(clipped.wire)[0];
      const share = liveMm(change(gatepost, { control: { kind: "clip", live_mm: live } })) / gatepost.wire.length_mm;
      expect((last(clipped.wire)[0] - first(clipped.wire)[0]) / whole).toBeCloseTo(share, 6);
      expect(clipped.word(/^clip, /)?.text).toBe(`clip, ${live} mm live`);
    }
    expect(plain.has(/^clip/)).toBe(false);
    const bare = drawn(CASES["no jumper"] as Design);
    expect(last(bare.back)[0]).toBeGreaterThan(last(bare.wire)[0] + 30);
    expect(bare.device?.stroke).toBe("ember");
    expect(plain.device?.stroke).toBe("cool");
    expect(last(bare.back)[0]).toBeCloseTo(last(bare.frame)[0], 6);
    expect(close(first(plain.device as Pen), last(plain.wire))).toBe(true);
  });
  it("a clip's lead parts the words from where there is no room: they are to its left where it is far along, to its right where it is near", () => {
    const side = (live_mm: number) => {
      const { word, back } = drawn(change(gatepost, { control: { kind: "clip", live_mm } }));
      return [word(/^wire \d/)?.anchor, (word(/^wire \d/)?.x ?? 0) < last(back)[0]];
    };
    expect(side(400)).toEqual(["end", true]);
    expect(side(60)).toEqual(["start", false]);
    expect(drawn(gatepost).word(/^wire \d/)?.anchor).toBe("middle");
  });
  it("the frame is on an insulator above the wire, or is named live; the jumper bridges the spring, and only a spring", () => {
    const safe = drawn(tom);
    const { left, right, bottom } = extent([safe.insulator as Pen]);
    const [x, y] = first(safe.wire);
    expect((left + right) / 2).toBeCloseTo(x, 6);
    expect(bottom).toBeLessThan(y);
    expect(y - bottom).toBeLessThan(2);
    expect(safe.word(/^frame/)).toMatchObject({ text: "frame: carries no current", ink: "soft" });
    expect(safe.has(/^insulated post/)).toBe(true);
    const live = drawn(change(tom, { wiring: { ...tom.wiring, insulatedPost: false } }));
    expect(live.insulator).toBeUndefined();
    expect(live.word(/^frame/)).toMatchObject({ text: "frame: live", ink: "ember" });
    expect(live.word(/not insulated/)).toMatchObject({ ink: "ember" });
    const bridge = safe.dashed.find((pen) => /c4 -15/.test(pen.d)) as Pen;
    expect(close(first(bridge), last(safe.wire))).toBe(true);
    expect(safe.has(/^flexible jumper/)).toBe(true);
    const bare = drawn(change(tom, { wiring: { ...tom.wiring, jumper: false } }));
    expect(bare.dashed.some((pen) => /c4 -15/.test(pen.d))).toBe(false);
    expect(bare.has(/jumper/)).toBe(false);
    const weight = drawn(CASES["a weight"] as Design);
    expect(weight.has(/jumper/)).toBe(false);
    expect(weight.device?.d).toMatch(/h34$/);
    expect(close(last(weight.back), last(weight.wire))).toBe(true);
  });
  it("what is on the mains side is dashed in ember and left to an electrician; a battery has none, and room to the left", () => {
    const plugged = drawn(gatepost);
    const boundary = plugged.pens.find(({ stroke, dash }) => stroke === "ember" && dash) as Pen;
    expect(boundary.fill).toBe("none");
    expect(plugged.word(/^mains side/)?.ink).toBe("ember");
    expect(plugged.has(/^plug, earthed/)).toBe(true);
    expect(plugged.has(/^RCD/)).toBe(true);
    const dimmed = drawn(CASES["a transformer and its dimmer"] as Design);
    expect(dimmed.has(/^dimmer for/)).toBe(true);
    expect(dimmed.has(/^plug/)).toBe(false);
    expect(plugged.has(/^dimmer/)).toBe(false);
    const alone = drawn(CASES["a battery"] as Design);
    expect(alone.has(/mains|RCD|plug/)).toBe(false);
    expect(alone.pens.some(({ stroke, dash, fill }) => stroke === "ember" && dash && fill === "none")).toBe(false);
    expect(alone.word(/^fuse$/)?.x).toBeLessThan((plugged.word(/^fuse$/)?.x ?? 0) - 20);
  });
  it("fuse and switch as they are chosen: none in ember; else the fuse asked for, or the one that is advised, or a word that the leads forbid any", () => {
    const wired = (wiring: object, more: object = {}) => drawn(change(tom, { ...more, wiring }));
    expect(wired({ fuse_A: null }).word(/^no fuse/)?.ink).toBe("ember");
    expect(wired({ fuse_A: 6.3 }).has(/^6\.3 A$/)).toBe(true);
    const { fuseA } = fuseAdvice(evaluateDesign(tom).circuit.supplyCurrentA, tom.leads?.gauge_awg);
    expect(wired({}).has(new RegExp(`^${fuseA} A$`))).toBe(true);
    expect(wired({}, { leads: { gauge_awg: 28, oneWay_m: 1 } }).has(/^see leads$/)).toBe(true);
    expect(wired({ switch: "none" }).word(/^no switch/)?.ink).toBe("ember");
    const [foot, hand] = [wired({ switch: "foot" }), wired({ switch: "hand" })];
    expect([foot.has(/^foot switch/), hand.has(/^hand switch/), wired({}).has(/^hand switch/)]).toEqual([true, true, true]);
    // A pedal has a plate to tread on.
    expect(foot.pens.some(({ d }) => /h9$/.test(d))).toBe(true);
    expect(hand.pens.some(({ d }) => /h9$/.test(d))).toBe(false);
  });
  it("names leads, wire and ohms; and never without what must not be done", () => {
    const { word, notes, drawing } = drawn(tom);
    const { circuit } = evaluateDesign(tom);
    expect(drawing.title).toBe("Wiring of Long Tom");
    expect(word(/AWG each way/)?.text).toMatch(new RegExp(`of ${tom.leads?.gauge_awg} AWG each way$`));
    expect(drawn(change(tom, { leads: undefined })).has(/^leads$/)).toBe(true);
    expect(word(/ohm cold/)).toMatchObject({ text: `${circuit.coldOhm.toFixed(2)} ohm cold, ${circuit.hotOhm.toFixed(2)} hot`, mono: true });
    const never = notes.filter((note) => note.never).map(({ words }) => words);
    expect(never.slice(0, 3).join()).toMatch(/tension spring.*frame.*mains side/s);
    expect(notes.filter((note) => !note.never).length).toBeGreaterThan(1);
    expect(drawn(CASES["a transformer and its dimmer"] as Design).notes.filter((note) => note.never).length).toBeGreaterThan(never.length - 1);
  });
});
