import { describe, expect, it } from "vitest";
import { extent, overlaps, touches } from "../../../../../tests/helpers/drawn";
import { formatQuantity, type Quantity } from "../../../units/units";
import { resolveWire } from "../../heat/wire";
import { CONTROLS, controlRecord } from ".";
import type { AnyControl, CannotSet, Need, PowerSource, SetFor } from "./record";

type Own = AnyControl & Record<string, unknown>;
const show = (quantity: Quantity, value: number, decimals?: number) => formatQuantity(quantity, value, "metric", decimals);
const print = (value: number) => String(Number(value.toFixed(3)));

/** A source of 24 V with an ohm inside, which its own limit does not hold. */
const soft: PowerSource = { emfV: 24, insideOhm: 1, holdsA: Number.POSITIVE_INFINITY, plateA: 10, alternating: false, ownKnob: false };
const stiff: PowerSource = { ...soft, insideOhm: 0 };
const limited: PowerSource = { ...soft, insideOhm: 0, holdsA: 3 };
/** A wire of 4 ohm cold that gains a tenth of it every hundred degrees, behind an ohm of leads. */
const wireOhmAt = (c: number) => 4 * (1 + 0.001 * (c - 20));
const need = (currentA: number, more: Partial<Need> = {}): Need => ({
  currentA,
  outsideOhm: wireOhmAt(300) + 1,
  wireOhm: wireOhmAt(300),
  wireOhmAt,
  ambientC: 20,
  band: 0.5,
  leastReach: 1.3,
  ...more,
});
const R = wireOhmAt(300) + 1;
const setFor = (kind: string, wanted: Need, source: PowerSource) => controlRecord(kind as "pwm").setFor(wanted, source);
const set = (kind: string, wanted: Need, source: PowerSource) => {
  const solution = setFor(kind, wanted, source);
  if ("why" in solution) throw new Error(`${kind}: ${solution.say()}`);
  return solution as SetFor<Own>;
};
const refused = (kind: string, wanted: Need, source: PowerSource) => {
  const solution = setFor(kind, wanted, source);
  if (!("why" in solution)) throw new Error(`${kind} was set to ${solution.setting}`);
  return solution as CannotSet;
};

describe("controls set for a current, by Ohm's law", () => {
  it("PWM: duty is the square of the share of the on-current, which the supply meets", () => {
    const on = 24 / (R + 1);
    const solution = set("pwm", need(1.5), soft);
    expect(solution.setting).toBeCloseTo((1.5 / on) ** 2, 12);
    expect(solution.control).toEqual({ kind: "pwm", duty: solution.setting });
    expect(solution.supplyA).toBeCloseTo(on, 12);
    expect(solution.reach).toBeCloseTo((on / 1.5) ** 2, 12);
    // Half of the band either side of the chosen heat, in hundredths.
    expect(solution.steps).toBeCloseTo(((1.5 / on) ** 2 * 0.5) / 0.01, 9);
    expect(set("pwm", need(on), soft).setting).toBeCloseTo(1, 12);
    expect(refused("pwm", need(on * 1.1), soft)).toMatchObject({ why: "too-cold", ease: expect.closeTo(1 / 1.21, 9) });
    // Where a limit holds it, not its volts: overload. Just at what it holds it is full on.
    expect(set("pwm", need(3), limited).setting).toBeCloseTo(1, 12);
    expect(refused("pwm", need(3.3), limited)).toMatchObject({ why: "overload", ease: expect.closeTo((3 / 3.3) ** 2, 9) });
    expect(refused("pwm", need(3.3), limited).say()).toBe("overload: 3.3 A asked, limited to 3.0 A");
  });

  it("straight on: the supply's own volts, with its inside ohms; as far as plate and volts reach", () => {
    const solution = set("direct", need(2), soft);
    expect(solution).toMatchObject({ setting: expect.closeTo(2 * (R + 1), 9), supplyA: 2, control: { kind: "direct" } });
    expect(solution.steps).toBeCloseTo((2 * (R + 1) * 0.5) / 2 / 0.1, 9);
    expect(solution.reach).toBeCloseTo((24 / (2 * (R + 1))) ** 2, 9);
    expect(set("direct", need(2), { ...soft, plateA: 2.2 }).reach).toBeCloseTo(1.21, 9);
    expect(set("direct", need(24 / (R + 1)), soft).reach).toBeCloseTo(1, 9);
    const most = 24 / (R + 1);
    expect(refused("direct", need(most * 1.25), soft)).toMatchObject({ why: "too-cold", ease: expect.closeTo(1 / 1.5625, 9) });
    expect(refused("direct", need(most * 1.25), soft).say()).toBe("falls short: 30.0 V needed, 24.0 V there");
  });

  it("buck: its volts are the load's alone; what it draws is its power over its efficiency", () => {
    const solution = set("buck", need(1.5), stiff);
    expect(solution.setting).toBeCloseTo(1.5 * R, 9);
    expect(solution.supplyA).toBeCloseTo((1.5 ** 2 * R) / 0.92 / 24, 9);
    expect(solution.steps).toBeCloseTo((1.5 * R * 0.5) / 2 / 0.1, 9);
    // It is asked how far it goes no further than twice what must be reached; below that, its supply's volts end it.
    expect(solution.reach).toBeCloseTo(2 * 1.3, 6);
    expect(set("buck", need(1.5, { leastReach: 100 }), stiff).reach).toBeCloseTo((24 / (1.5 * R)) ** 2, 4);
    // P/eff = I (E - I r): the smaller root.
    const power = (1.5 ** 2 * R) / 0.92;
    expect(set("buck", need(1.5), soft).supplyA).toBeCloseTo((24 - Math.sqrt(24 ** 2 - 4 * power)) / 2, 9);
    const short = refused("buck", need(6), stiff);
    expect(short).toMatchObject({ why: "too-cold", ease: expect.closeTo((24 / R / 6) ** 2, 4) });
    expect(short.say()).toMatch(/enough for 3\.9 A in the wire, and 6\.0 A are needed/);
    // A limit of 1 A at 24 V hands over 24 W, 22.08 of them to the load.
    const held = refused("buck", need(3), { ...stiff, holdsA: 1 });
    expect(held.why).toBe("overload");
    expect(held.ease).toBeCloseTo((24 * 0.92) / R / 9, 6);
  });

  it("buck: what goes in is what comes out and what is lost, and its input never falls under its output", () => {
    const { drive } = controlRecord("buck");
    const load = { ohm: R, wireOhm: R };
    for (const source of [stiff, soft]) {
      const driven = drive({ kind: "buck", voltage_V: 10 } as Own, source, load);
      expect(driven.rmsA).toBeCloseTo(10 / R, 9);
      const inputW = driven.supplyA * (source.emfV - driven.supplyA * source.insideOhm);
      expect(inputW).toBeCloseTo((10 * driven.rmsA) / 0.92, 9);
      expect(driven.controlLossW).toBeCloseTo(inputW - 10 * driven.rmsA, 9);
      expect(driven.limited).toBe(false);
      expect(driven.onA).toBe(driven.rmsA);
    }
    expect(drive({ kind: "buck", voltage_V: 10, efficiency: 0.8 } as Own, stiff, load).controlLossW).toBeCloseTo((100 / R) * 0.25, 9);
    // Asked for more volts than come in, it gives what comes in.
    expect(drive({ kind: "buck", voltage_V: 30 } as Own, stiff, load).rmsA).toBeCloseTo(24 / R, 6);
    const sagging = drive({ kind: "buck", voltage_V: 24 } as Own, soft, load);
    expect(24 - sagging.supplyA).toBeGreaterThanOrEqual(sagging.rmsA * R - 1e-6);
    expect(sagging.rmsA * R).toBeGreaterThan(18);
    // Just at its limit it is not limited; over it, it gives what the limit lets through.
    const at = drive({ kind: "buck", voltage_V: 10 } as Own, { ...stiff, holdsA: 0.5 }, load);
    expect(at.limited).toBe(true);
    expect(at.supplyA).toBeCloseTo(0.5, 6);
    expect(at.rmsA ** 2 * R).toBeCloseTo(12 * 0.92, 5);
  });

  it("rheostat: what is left over of E/I, and it ends where people's rheostats end", () => {
    const solution = set("rheostat", need(1.5), soft);
    expect(solution.setting).toBeCloseTo(24 / 1.5 - R - 1, 9);
    expect(solution.control).toEqual({ kind: "rheostat", ohm: solution.setting });
    expect(solution.supplyA).toBe(1.5);
    expect(solution.reach).toBeCloseTo((24 / (1.5 * (R + 1))) ** 2, 9);
    expect(solution.steps).toBeCloseTo(((24 / 1.5) * 0.5) / 2 / 0.1, 9);
    expect(set("rheostat", need(24 / (R + 1)), soft).setting).toBeCloseTo(0, 9);
    expect(refused("rheostat", need((24 / (R + 1)) * 1.01), soft).why).toBe("too-cold");
    expect(set("rheostat", need(24 / (R + 1 + 25)), soft).setting).toBeCloseTo(25, 9);
    const hot = refused("rheostat", need(24 / (R + 1 + 27)), soft);
    expect(hot.why).toBe("too-hot");
    expect(hot.say()).toMatch(/a rheostat of 27 ohm would be needed, and they end near 25/);
    const driven = controlRecord("rheostat").drive({ kind: "rheostat", ohm: 3 } as Own, soft, { ohm: R, wireOhm: R });
    expect(driven.controlLossW).toBeCloseTo((24 / (R + 4)) ** 2 * 3, 9);
  });

  it("dimmer: the delay whose share of the volts is needed, found again by adding up the sine", () => {
    const wanted = 1.5;
    const solution = set("phase", need(wanted), soft);
    const delay = solution.setting as number;
    const n = 20000;
    let square = 0;
    for (let i = 0; i < n; i++) {
      const angle = ((i + 0.5) / n) * Math.PI;
      if (angle >= (delay * Math.PI) / 180) square += (2 * Math.sin(angle) ** 2) / n;
    }
    expect(24 * Math.sqrt(square)).toBeCloseTo(wanted * (R + 1), 2);
    expect(solution.supplyA).toBe(wanted);
    expect(solution.reach).toBeCloseTo((24 / (wanted * (R + 1))) ** 2, 9);
    // Steps of one degree across the band: the heat's own slope there.
    const heat = (deg: number) =>
      set("phase", need(wanted), soft) && controlRecord("phase").drive({ kind: "phase", delay_deg: deg } as Own, soft, { ohm: R, wireOhm: R }).rmsA ** 2;
    const slope = Math.abs(heat(delay + 0.5) - heat(delay - 0.5)) / heat(delay);
    expect(solution.steps).toBeCloseTo(0.5 / slope, 6);
    expect(set("phase", need(24 / (R + 1)), soft).setting).toBeCloseTo(0, 3);
    expect(refused("phase", need((24 / (R + 1)) * 1.01), soft).why).toBe("too-cold");
  });

  it("winding's tap: E f = I (R + r f^2), the smaller root; from a twentieth up", () => {
    const solution = set("tap", need(1.5), soft);
    const f = solution.setting as number;
    expect(24 * f).toBeCloseTo(1.5 * (R + f ** 2), 9);
    expect(f).toBeLessThan(1);
    expect(solution.supplyA).toBe(1.5);
    expect(solution.reach).toBeCloseTo((24 / (R + 1) / 1.5) ** 2, 9);
    expect(set("tap", need(1.5), stiff).setting).toBeCloseTo((1.5 * R) / 24, 9);
    expect(set("tap", need(24 / (R + 1)), soft).setting).toBeCloseTo(1, 9);
    // Taps lie far apart: never more than five steps, and fewer where the band is narrow.
    expect(solution.steps).toBe(5);
    expect(set("tap", need(1.5, { band: 0.1 }), soft).steps).toBeCloseTo((f * 0.1) / 2 / 0.01, 9);
    expect(refused("tap", need((24 / (R + 1)) * 1.01), soft).why).toBe("too-cold");
    // So much that the winding's own ohms let it through by no share at all.
    expect(refused("tap", need(20), { ...soft, insideOhm: 6 })).toMatchObject({ why: "too-cold" });
    const hot = refused("tap", need((24 * 0.04) / R), stiff);
    expect(hot.why).toBe("too-hot");
    expect(hot.say()).toBe("too hot: it would have to be turned down to 4.0 %");
    expect(set("tap", need((24 * 0.0501) / R), stiff).setting).toBeCloseTo(0.0501, 9);
  });

  it("held temperature: the heat at which the wire has those ohms; full on it must give as much", () => {
    const solution = set("held", need(1.5), soft);
    expect(solution.setting).toBeCloseTo(300, 6);
    expect(solution.control).toEqual({ kind: "held", hold_C: solution.setting });
    const on = 24 / (R + 1);
    expect(solution.supplyA).toBeCloseTo(on, 9);
    expect(solution.reach).toBeCloseTo((on / 1.5) ** 2, 9);
    expect(solution.steps).toBeCloseTo(((300 - 20) * 0.5) / 5, 6);
    expect(set("held", need(2.5), limited).supplyA).toBe(3);
    const short = refused("held", need(on * 1.1), soft);
    expect(short).toMatchObject({ why: "too-cold", ease: expect.closeTo(1 / 1.21, 9) });
    expect(set("held", need(on), soft).reach).toBeCloseTo(1, 9);
    // Hotter than its dial goes.
    expect(refused("held", need(1.5, { wireOhm: wireOhmAt(700) }), soft).say()).toMatch(/ohms do not tell such a heat/);
    expect(set("held", need(1.5, { wireOhm: wireOhmAt(650) }), soft).setting).toBeCloseTo(650, 6);
  });

  it("held temperature: full on below what is asked, off above it, half on at it; all of it where nobody knows the wire", () => {
    const record = controlRecord("held");
    const at = (ohm: number) => record.drive({ kind: "held", hold_C: 300 } as Own, stiff, { ohm, wireOhm: ohm, wireOhmAt });
    const duty = (ohm: number) => record.duty({ kind: "held", hold_C: 300 } as Own, at(ohm));
    expect(duty(wireOhmAt(300))).toBeCloseTo(0.5, 9);
    expect(duty(wireOhmAt(290))).toBe(1);
    expect(duty(wireOhmAt(310))).toBe(0);
    // Its band is two thousandths of the ohms: a quarter of it up is a quarter of the duty down.
    expect(duty(wireOhmAt(300) * 1.0005)).toBeCloseTo(0.25, 6);
    expect(at(wireOhmAt(300)).onA).toBeCloseTo(24 / wireOhmAt(300), 9);
    expect(record.drive({ kind: "held", hold_C: 300 } as Own, stiff, { ohm: 5, wireOhm: 5 }).rmsA).toBeCloseTo(24 / 5, 9);
    expect(record.duty({ kind: "held", hold_C: 300 } as Own, { rmsA: 0, onA: 0 })).toBe(0);
  });

  it("a clip is turned down: it would take wire away", () => {
    expect(refused("clip", need(1), soft)).toMatchObject({ why: "mismatch" });
    expect(refused("clip", need(1), soft).say()).toMatch(/shortens the wire/);
  });
});

describe("controls in words", () => {
  const result = (kind: string, own: Record<string, unknown>, setting: number) => {
    const record = controlRecord(kind as "pwm");
    const { knob } = record;
    return [record.sentence({ kind, ...own } as Own, show), record.short(setting), record.cure(setting * 0.9, setting, show), knob?.card(setting, show) ?? ""];
  };

  it("say their figure in its own unit, once", () => {
    expect(result("pwm", { duty: 0.42 }, 0.42)).toEqual(["PWM at 42 %", "PWM 42 %", "duty up to 42 %", "PWM 42 %"]);
    expect(controlRecord("pwm").cure(0.5, 0.4, show)).toBe("duty down to 40 %");
    expect(result("buck", { voltage_V: 7.5 }, 7.5)).toEqual([
      "a buck converter at 7.5 V",
      "buck 7.5 V",
      expect.stringMatching(/more \(7\.50? V\)/),
      "buck 7.5 V",
    ]);
    expect(controlRecord("buck").cure(9, 7.5, show)).toMatch(/^1\.50? V less \(7\.50? V\)$/);
    expect(result("held", { hold_C: 310 }, 310)).toEqual(["a controller that holds 310 °C", "held 310 °C", "hold 310 °C", "hold 310 °C"]);
    expect(result("rheostat", { ohm: 3.2 }, 3.2)).toEqual(["a rheostat at 3.2 ohm", "3.2 ohm", "rheostat to 3.2 ohm", "3.2 ohm"]);
    expect(result("clip", { live_mm: 640 }, 640)).toEqual(["a clip leaving 640 mm live", "clip", "clip at 640 mm of live wire", "clip at 640 mm"]);
    expect(result("phase", { delay_deg: 81 }, 81)).toEqual(["a dimmer at 81° of delay", "dimmer 81°", "dimmer to 81° of delay", "dimmer 81 degrees"]);
    expect(result("tap", { fraction: 0.35 }, 0.35)).toEqual(["a tap at 35 %", "tap 35 %", "tap at 35 %", "tap 35 %"]);
    expect(result("direct", {}, 11.04)).toEqual(["no control", "11.0 V", "no control", ""]);
  });

  it("a knob stands as far up its turn as its figure is between the ends of its travel", () => {
    const turn = (kind: string, own: Record<string, unknown>) => controlRecord(kind as "pwm").turn({ kind, ...own } as Own, 24);
    expect(turn("pwm", { duty: 0.3 })).toBe(0.3);
    expect(turn("buck", { voltage_V: 6 })).toBe(0.25);
    expect(turn("held", { hold_C: 355 })).toBeCloseTo(0.5, 9);
    expect(turn("held", { hold_C: 60 })).toBe(0);
    expect(turn("rheostat", { ohm: 5 })).toBeCloseTo(0.8, 9);
    expect(turn("phase", { delay_deg: 45 })).toBeCloseTo(0.75, 9);
    expect(turn("tap", { fraction: 0.6 })).toBe(0.6);
    expect([turn("clip", { live_mm: 500 }), turn("direct", {})]).toEqual([null, null]);
  });

  it("start where there is something to turn: half the volts, half the winding, the whole wire under the clip", () => {
    const around = { emfV: 24, wireMm: 900, foamMm: 400 };
    expect(controlRecord("buck").start(around)).toEqual({ kind: "buck", voltage_V: 12 });
    expect(controlRecord("buck").start({ ...around, emfV: 1e6 }).voltage_V).toBeLessThanOrEqual(120);
    expect(controlRecord("clip").start(around)).toEqual({ kind: "clip", live_mm: 900 });
    expect(controlRecord("clip").knob?.range(around)).toEqual({ min: 400, max: 900 });
    // Foam as wide as the wire leaves the clip a millimetre to move in.
    expect(controlRecord("clip").knob?.range({ ...around, foamMm: 1200 })).toEqual({ min: 900, max: 901 });
    expect(controlRecord("buck").fullyUp(around)).toEqual({ kind: "buck", voltage_V: 24 });
    expect(controlRecord("clip").fullyUp(around)).toBeNull();
    expect(controlRecord("clip").liveMm({ kind: "clip", live_mm: 640 } as Own, 900)).toBe(640);
    for (const { kind, liveMm, shortens, start } of CONTROLS) if (!shortens) expect([kind, liveMm(start(around), 900)]).toEqual([kind, 900]);
  });

  it("say which chop, so that a meter is not believed: all but what gives steady volts", () => {
    const chopping = CONTROLS.filter(({ chops, start }) => chops({ ...start({ emfV: 24, wireMm: 900, foamMm: 400 }), duty: 0.5 })).map(({ kind }) => kind);
    expect(chopping.sort()).toEqual(["held", "phase", "pwm", "tap"]);
    expect(controlRecord("pwm").chops({ kind: "pwm", duty: 1 } as Own)).toBe(false);
  });

  it("are in a netlist with their figures: ohms in series, a share of the volts, or a block of its own", () => {
    const net = (kind: string, own: Record<string, unknown>) => controlRecord(kind as "pwm").netlist({ kind, ...own } as Own, print);
    expect(net("rheostat", { ohm: 3.2 }).series).toEqual({ name: "RHEOSTAT", ohm: 3.2, words: "rheostat" });
    expect(net("tap", { fraction: 0.35 })).toEqual({ remark: ", tap at 35 %", share: 0.35 });
    expect(net("tap", { fraction: 1 })).toEqual({ share: 1 });
    expect(net("phase", { delay_deg: 90 })).toEqual({ remark: ", dimmer at 90 degrees", share: expect.closeTo(Math.SQRT1_2, 9) });
    expect(net("pwm", { duty: 0.42 }).comment).toMatch(/on for 42 % of the time/);
    expect(net("held", { hold_C: 310 }).comment).toMatch(/as at 310 degC/);
    const block = net("buck", { voltage_V: 9 }).block?.("s7");
    expect(block?.node).toBe("b1");
    expect(block?.lines.join("\n")).toMatch(/BOUT b1 0 V = 9\nBIN s7 0 I = V\(b1\)\*I\(VWIRE\)\/\(0\.92\*V\(s7\)\)/);
    expect([net("direct", {}), net("clip", { live_mm: 500 })]).toEqual([{}, {}]);
  });

  it("the held one says what a per cent of reading means on this wire, and on every alloy", () => {
    const notes = (alloy: string) =>
      controlRecord("held").notes?.({ kind: "held", hold_C: 300 } as Own, resolveWire({ alloy, diameter_mm: 0.5 } as never)) ?? [];
    expect(notes("ss-304")[0]).toMatch(/one per cent of its reading is (1\d|[5-9]\.\d) °C/);
    const [, alloys = ""] = notes("nicr-80-20");
    for (const words of ["tainless", "ickel"]) expect(alloys).toContain(words);
    expect(alloys).toMatch(/: \d+(\.\d)? °C/);
    expect(notes("ss-304")).toHaveLength(3);
  });
});

describe("a control's sign in the wiring", () => {
  const around = { emfV: 24, wireMm: 1000, foamMm: 400 };
  const signs = CONTROLS.flatMap((record) => {
    const shapes = record.symbol?.(record.start(around), { x: 100, top: 50, bottom: 110, print });
    return shapes ? [{ ...record, shapes }] : [];
  });

  it.each(signs)("$kind: joins the rails it belongs to, stays in its place, and no words lie on words", ({ kind, shapes, bothRails }) => {
    // Two before it to the fuse's side, thirty-eight after it to the leads: on the upper rail, on both where it is a box on both.
    for (const x of [98, 138]) {
      expect(touches(shapes, x, 50)).toBe(true);
      expect(touches(shapes, x, 110)).toBe(bothRails);
    }
    const around = extent(shapes);
    expect(around).toMatchObject({ left: 98, right: 138 });
    expect(around.top).toBeGreaterThanOrEqual(42);
    expect(around.bottom).toBeLessThanOrEqual(118);
    expect(overlaps(shapes)).toEqual([]);
    const said = shapes.flatMap((shape) => (shape.kind === "text" ? [shape] : []));
    expect(said.some(({ text }) => /\d/.test(text))).toBe(true);
    if (!bothRails) return;
    // Its box, its words and its sign within it, in at the left and out at the right.
    expect(touches(shapes, 102, 42) && touches(shapes, 132, 118)).toBe(true);
    const words = said.map(({ x, anchor, text }) => ({ x, anchor, text }));
    expect(words).toContainEqual({ x: 104, anchor: "start", text: "in" });
    expect(words).toContainEqual({ x: 130, anchor: "end", text: "out" });
    const name = said.find(({ bold }) => bold);
    expect(name).toMatchObject({ x: 117, anchor: "middle", text: expect.stringMatching(kind === "pwm" ? "PWM" : kind) });
    const figure = said.find(({ mono }) => mono);
    expect(figure?.x).toBe(117);
    expect((figure?.y ?? 0) - (name?.y ?? 0)).toBe(7);
    const glyph = shapes.filter((shape) => shape.kind === "path" && shape.stroke === "amber");
    expect(glyph).toHaveLength(1);
    const inside = extent(glyph);
    expect([inside.left >= 104, inside.right <= 130, inside.top >= 56, inside.bottom <= (name?.y ?? 0) - 5]).toEqual([true, true, true, true]);
  });

  it("a rheostat is a zigzag between its ends with an arrow across it", () => {
    const shapes = signs.find(({ kind }) => kind === "rheostat")?.shapes ?? [];
    expect(touches(shapes, 102, 50) && touches(shapes, 130, 50)).toBe(true);
    expect(extent(shapes)).toMatchObject({ top: 42 });
    expect(touches(shapes, 108, 58) && touches(shapes, 124, 42)).toBe(true);
    const [name, figure] = shapes.flatMap((shape) => (shape.kind === "text" ? [shape] : []));
    expect([name?.x, figure?.x, figure?.text]).toEqual([116, 116, "2 ohm"]);
    expect((figure?.y ?? 0) > (name?.y ?? 0) && (name?.y ?? 0) > 58).toBe(true);
  });
});
