import { CoreError } from "../../kernel/errors";
import type { Relation } from "../../kernel/provenance";
import { FEED_ALONG } from "../../motion/path/feedAlong";
import { ONE_PATH } from "../../motion/path/onePath";
import { RETRACT_PATH } from "../../motion/path/retractPath";
import { VISIT_ORDER } from "../../motion/path/visitOrder";
import { CARRIAGES } from "../../motion/program/carriages";
import { PROGRAM } from "../../motion/program/program";
import { correctedSteps, MOVE_TIME, moveTimeS, STEP_RELATION, stepsPerMm } from "../../motion/program/steps";
import { FRAME_FIELDS, FRAME_START, type FrameRig } from "../frame/fields";
import { frameJob, frameProgram, straightest } from "../frame/path";
import { figureOf, type RigNote, type RigRecord } from "../record";
import { Sketch } from "../sketch";

export const FRAME_FORCE: Relation = {
  id: "frame-force",
  title: "What a motor can hurry along",
  formula: "F = 2 pi torque/travel of a turn; most acceleration = F/2/m",
  words:
    "A turn of the motor does the work of its torque over the travel of that turn; half of that force is kept for friction, the wire's drag and a cold morning.",
  range: "torque at the running speed; friction small beside half the force",
  basis: "estimate",
  source: "work of a turn; half in hand is this project's judgement",
};

/** Half of a motor's force is kept in hand. */
const IN_HAND = 0.5;
const mean = (values: readonly number[]): number => values.reduce((sum, each) => sum + each, 0) / values.length;

/** What measuring says: steps a millimetre corrected, how far repeats differ, and what is lost on turning round, mm. */
export function measuredFrame(rig: FrameRig) {
  const setPerMm = stepsPerMm(rig.stepsPerTurn, rig.microsteps, rig.travelPerTurn_mm);
  if (rig.asked_mm === null || rig.there_mm.length === 0) return { setPerMm, correctedPerMm: null, repeatMm: null, backlashMm: null };
  const spread = (values: readonly number[]) => (values.length > 1 ? Math.max(...values) - Math.min(...values) : 0);
  return {
    setPerMm,
    correctedPerMm: correctedSteps(setPerMm, rig.asked_mm, mean(rig.there_mm)),
    repeatMm: Math.max(spread(rig.there_mm), spread(rig.back_mm)),
    backlashMm: rig.back_mm.length > 0 ? Math.abs(mean(rig.there_mm) - mean(rig.back_mm)) : null,
  };
}

/** What is wired to what, under the frame: the motors' supply and the wire's own apart, one ground, and what takes the heat off on its own. */
function wiring(sketch: Sketch, rig: FrameRig, top: number, wide: number, m: number): void {
  const motors = (rig.carriages === "free" ? 4 : 2) + (rig.table ? 1 : 0);
  const [boxWide, boxHigh, gap] = [wide / 4.6, 2.4 * m, 1.6 * m];
  const x = (column: number) => column * (wide / 4) + (wide / 4 - boxWide) / 2;
  const y = (row: number) => top - (row + 1) * boxHigh - row * gap;
  const put = (column: number, row: number, words: string, layer: "metal" | "wire" | "thread" = "metal") => {
    sketch.box(layer, x(column), y(row), boxWide, boxHigh);
    sketch.words([x(column) + 0.4 * m, y(row) + 0.9 * m], words);
  };
  const join = (a: readonly [number, number], b: readonly [number, number], layer: "metal" | "wire" | "thread" = "thread") => {
    const across = a[1] === b[1];
    sketch.line(
      layer,
      across
        ? [
            [x(a[0]) + boxWide, y(a[1]) + boxHigh / 2],
            [x(b[0]), y(b[1]) + boxHigh / 2],
          ]
        : [
            [x(a[0]) + boxWide / 2, y(Math.min(a[1], b[1]))],
            [x(b[0]) + boxWide / 2, y(Math.max(a[1], b[1])) + boxHigh],
          ],
    );
  };
  sketch.words([0, top + 0.6 * m], "wiring");
  put(0, 0, "motors' supply");
  put(1, 0, `${motors} drivers`);
  put(2, 0, `${motors} motors`);
  put(0, 1, "emergency stop");
  put(1, 1, "controller", "thread");
  put(2, 1, `switches, ${rig.switches === "closed" ? "closed" : "open"}`, "thread");
  put(3, 1, "watchdog relay", "wire");
  put(0, 2, "wire's supply", "wire");
  put(1, 2, rig.heat === "share" ? "heat by share" : "heat switch", "wire");
  put(2, 2, "own switch", "wire");
  put(3, 2, "the wire", "wire");
  join([0, 0], [1, 0], "metal");
  join([1, 0], [2, 0], "metal");
  join([1, 0], [1, 1]);
  join([0, 1], [1, 1]);
  join([1, 1], [2, 1]);
  join([1, 1], [1, 2]);
  join([0, 2], [1, 2], "wire");
  join([1, 2], [2, 2], "wire");
  join([2, 2], [3, 2], "wire");
  join([3, 1], [3, 2], "wire");
  sketch.words([0, y(2) - 1.2 * m], "both supplies share one ground; the relay opens on its own when the controller is silent");
}

export const frameRig: RigRecord<FrameRig> = {
  kind: "frame",
  title: "Motorised frame",
  purpose: "Motors lead the wire: two axes for straight parts, four for tapered ones, a turntable for columns.",
  fields: FRAME_FIELDS,
  start: FRAME_START,
  // The wire that was worked out is the one between the carriages, its block in the middle.
  sized: (started, { width_mm, wire_mm }) => {
    const apart_mm = Math.min(10_000, Math.max(20, wire_mm));
    return { ...started, apart_mm, toBlock_mm: Math.max(0, Math.floor((apart_mm - width_mm) / 2)) };
  },
  takesPlan: true,
  laws: [STEP_RELATION, MOVE_TIME, CARRIAGES, ONE_PATH, VISIT_ORDER, FEED_ALONG, PROGRAM, RETRACT_PATH, FRAME_FORCE],
  solve: (rig, around, show) => {
    if (rig.toBlock_mm >= rig.apart_mm)
      throw new CoreError("out-of-range", "toBlock_mm", `toBlock_mm must be less than the carriages' distance, ${rig.apart_mm} mm`);
    const found = measuredFrame(rig);
    const { cut, cutter } = around;
    const forceN = (2 * Math.PI * rig.torque_N_mm) / rig.travelPerTurn_mm;
    const most = (1000 * IN_HAND * forceN) / (rig.mass_g / 1000);
    const skew = Math.hypot(rig.wide_mm, rig.high_mm);
    const stretch = rig.carriages === "free" ? Math.hypot(rig.apart_mm, skew) - rig.apart_mm : 0;
    const off = found.correctedPerMm === null ? 0 : found.correctedPerMm / found.setPerMm - 1;
    const line = straightest(rig.heatAt);
    const notes: RigNote[] = [
      ...(rig.switches === "open"
        ? [
            {
              code: "open-switches",
              severity: "caution",
              words:
                "Normally open, a broken lead goes unseen until the carriage meets the frame, and the wire's and the motors' noise trips it: normally closed rides it out.",
              basis: "common practice",
              field: "switches",
              cure: { words: "wire them normally closed", change: { switches: "closed" } },
            } as const,
          ]
        : []),
      ...(rig.acceleration_mm_s2 > most
        ? [
            {
              code: "loses-steps",
              severity: "caution",
              words: `By its torque this motor hurries ${show("mass", rig.mass_g)} along at ${most.toFixed(0)} mm/s² with half its force in hand: above that it may lose steps.`,
              basis: "estimate",
              field: "acceleration_mm_s2",
              cure: { words: "take that", change: { acceleration_mm_s2: Math.max(1, Math.floor(most)) } },
            } as const,
          ]
        : []),
      ...(found.backlashMm !== null && found.backlashMm > 0.1
        ? [
            {
              code: "backlash",
              severity: "caution",
              words: `Turning round it loses ${show("kerf", found.backlashMm)}: tighten the ${rig.drive === "belt" ? "belt" : "nut"} before anything is corrected by steps.`,
              basis: "common practice",
              field: "back_mm",
            } as const,
          ]
        : []),
      ...(Math.abs(off) > 0.002
        ? [
            {
              code: "steps-off",
              severity: "note",
              words: `Measured, it goes ${(100 * Math.abs(off)).toFixed(1)} % ${off > 0 ? "short" : "far"}: set ${found.correctedPerMm?.toFixed(3)} steps a millimetre and measure again.`,
              basis: "published",
              field: "there_mm",
            } as const,
          ]
        : []),
      ...(stretch > rig.spring_mm
        ? [
            {
              code: "spring-short",
              severity: "caution",
              words: `From corner to corner the wire is ${show("length", stretch)} longer: the spring has ${show("length", rig.spring_mm)}. Limit the skew, or a longer spring.`,
              basis: "published",
              field: "spring_mm",
            } as const,
          ]
        : []),
      ...(cutter && rig.feed_mm_s > cut.maxFeedMmS
        ? [
            {
              code: "outruns",
              severity: "caution",
              words: `Faster than the wire clears, ${show("feed", cut.maxFeedMmS)}: a program's feeds must stay under it.`,
              basis: "estimate",
              field: "feed_mm_s",
            } as const,
          ]
        : []),
      ...(line && cutter && cutter.evaluation.circuit.currentA > Math.max(...rig.heatAt.map(([, amps]) => amps))
        ? [
            {
              code: "heat-short",
              severity: "caution",
              words: `The cut takes ${show("current", cutter.evaluation.circuit.currentA)}, and no more than ${show("current", Math.max(...rig.heatAt.map(([, amps]) => amps)))} was measured: the program asks for that much and no more.`,
              basis: "estimate",
              field: "heatAt",
            } as const,
          ]
        : []),
      ...(line && line.worst > 0.05
        ? [
            {
              code: "heat-bends",
              severity: "note",
              words: `Amps do not go as S: off a straight line by up to ${(100 * line.worst).toFixed(0)} %. Take the amps wanted off these figures.`,
              basis: "estimate",
              field: "heatAt",
            } as const,
          ]
        : []),
      {
        code: "two-supplies",
        severity: "note",
        words:
          "Motors and wire each have a supply of their own, one ground between them: the wire's switching would reset the controller. Heat must fall to nothing on its own when the controller stops.",
        basis: "common practice",
        field: "heat",
      },
    ];
    return {
      says: `${(found.correctedPerMm ?? found.setPerMm).toFixed(2)} steps a millimetre${found.correctedPerMm === null ? ", not measured yet" : ", as measured"}; ${show("length", 100)} at ${show("feed", rig.feed_mm_s)} take ${moveTimeS(100, rig.feed_mm_s, rig.acceleration_mm_s2).toFixed(1)} s.`,
      figures: [
        { id: "steps", label: "Steps a millimetre, by its turn", value: found.setPerMm.toFixed(3), why: STEP_RELATION },
        ...(found.correctedPerMm === null
          ? []
          : [{ id: "corrected", label: "corrected by what was measured", value: found.correctedPerMm.toFixed(3), why: STEP_RELATION }]),
        ...(found.repeatMm === null ? [] : [figureOf("repeat", "Repeats within", "kerf", found.repeatMm)]),
        ...(found.backlashMm === null ? [] : [figureOf("backlash", "Lost on turning round", "kerf", found.backlashMm)]),
        figureOf("soft-wide", "Soft limits along", "length", rig.wide_mm - rig.pullOff_mm),
        figureOf("soft-high", "and up", "length", rig.high_mm - rig.pullOff_mm),
        { id: "time-100", label: "100 mm, stop to stop", value: `${moveTimeS(100, rig.feed_mm_s, rig.acceleration_mm_s2).toFixed(2)} s`, why: MOVE_TIME },
        { id: "time-1", label: "1 mm, stop to stop", value: `${moveTimeS(1, rig.feed_mm_s, rig.acceleration_mm_s2).toFixed(2)} s` },
        figureOf("force", "Motor pushes with", "force", forceN, { decimals: 1, why: FRAME_FORCE }),
        { id: "most", label: "Most acceleration by its torque", value: `${most.toFixed(0)} mm/s²`, why: FRAME_FORCE },
        ...(rig.carriages === "free" ? [figureOf("stretch", "Wire longer, corner to corner", "length", stretch, { decimals: 1, why: CARRIAGES })] : []),
        ...(rig.table
          ? [{ id: "table", label: "Turntable, steps a degree", value: ((rig.stepsPerTurn * rig.microsteps * rig.tableGear) / 360).toFixed(3) }]
          : []),
        ...(line ? [{ id: "heat-scale", label: "S for an ampere", value: (1 / line.perS).toFixed(1) }] : []),
      ],
      curves: line
        ? [
            {
              id: "heat",
              title: "Amps by S, as measured",
              x: { label: "S", quantity: null },
              y: { label: "amps", quantity: "current" },
              points: [...rig.heatAt].sort((a, b) => a[0] - b[0]),
            },
          ]
        : [],
      tables: [
        {
          id: "home",
          title: "Homing, in this order",
          columns: ["do", "why"],
          rows: [
            ["up first, off the block", "the wire must not be drawn through foam cold"],
            ["then along", "both carriages, one after the other"],
            [`pull off by ${show("length", rig.pullOff_mm, 1)}, and again slowly`, "a switch that is met slowly repeats better"],
            ["set nought there", "soft limits are computed from it"],
          ],
        },
        {
          id: "trial",
          title: "Fastest feed and acceleration by trial",
          columns: ["step", "go on when"],
          rows: [
            ["ten times the whole travel at half the feed", "it comes back to the mark"],
            ["a quarter more feed, again", "until it does not: then a quarter less"],
            ["the same with the acceleration", "the wire hot and in foam for the last one"],
          ],
        },
      ],
      notes,
    };
  },
  draw: (rig, around, show) => {
    const size = Math.max(rig.wide_mm * 2.5 + rig.apart_mm * 0.2, rig.high_mm * 1.6);
    const sketch = new Sketch(size);
    const m = size / 40;
    // From the block's end: the frame, its travel from home, the block where it is.
    sketch.box("wood", -m, -m, rig.wide_mm + 2 * m, rig.high_mm + 2 * m);
    sketch.box("ways", 0, 0, rig.wide_mm, rig.high_mm);
    sketch.box("ways", rig.pullOff_mm, rig.pullOff_mm, Math.max(1, rig.wide_mm - 2 * rig.pullOff_mm), Math.max(1, rig.high_mm - 2 * rig.pullOff_mm));
    sketch.words([m * 0.4, m * 0.4], "home");
    const block = around.plan?.evaluation.block;
    const [wide, high] = block ? [block.maxX - block.minX, block.maxY - block.minY] : [rig.wide_mm * 0.5, rig.high_mm * 0.3];
    sketch.box("foam", rig.blockX_mm, rig.blockY_mm, wide, high);
    sketch.arc("wire", [rig.blockX_mm + wide / 2, rig.blockY_mm + high * 0.6], size / 200);
    sketch.measure([0, -m], [rig.wide_mm, -m], -m, show("length", rig.wide_mm));
    sketch.measure([-m, 0], [-m, rig.high_mm], m, show("length", rig.high_mm));
    sketch.words([0, rig.high_mm + m * 1.5], `from the block's end: ${[...rig.near].join(" along, ")} up`);
    // From above: carriage to carriage, the block between them, the wire askew where the carriages are free.
    const right = rig.wide_mm + 5 * m;
    const k = Math.min(1, (rig.wide_mm * 1.3) / rig.apart_mm);
    sketch.bar("metal", [right, 0], [right, rig.wide_mm], m / 2).bar("metal", [right + rig.apart_mm * k, 0], [right + rig.apart_mm * k, rig.wide_mm], m / 2);
    const span = Math.min(around.plan?.plan.part.span_mm ?? rig.apart_mm * 0.6, rig.apart_mm - rig.toBlock_mm);
    sketch.box("foam", right + rig.toBlock_mm * k, rig.blockX_mm, span * k, wide);
    const at = rig.blockX_mm + wide / 2;
    sketch.line("wire", [
      [right, at],
      [right + rig.apart_mm * k, rig.carriages === "free" ? at * 0.7 : at],
    ]);
    sketch.measure([right, 0], [right + rig.apart_mm * k, 0], -m * 1.4, show("length", rig.apart_mm));
    sketch.words([right, rig.wide_mm + m * 0.8], `from above${k < 1 ? `, across at ${Math.round(100 * k)} %` : ""}`);
    wiring(sketch, rig, -6 * m, right + rig.apart_mm * k, m);
    return sketch.done("Motorised frame");
  },
  program: (rig, around) => frameProgram(rig, frameJob(rig, around)),
  build: (rig, _around, show) => [
    { of: "wood", words: `A base that stays flat, ${show("length", rig.wide_mm + 200)} by ${show("length", rig.apart_mm + 200)}; two uprights square to it.` },
    {
      of: "hardware",
      words: `${rig.carriages === "free" ? "Four" : "Two"} stepping motors of ${rig.stepsPerTurn} steps, ${rig.drive === "belt" ? "toothed belts and pulleys" : "screws with nuts that take up play"} of ${show("length", rig.travelPerTurn_mm, 2)} a turn; rails for both ways.`,
    },
    { of: "hardware", words: `Springs at both ends of the wire, bridged by clips, ${show("length", rig.spring_mm)} of travel in hand.` },
    ...(rig.table
      ? ([{ of: "hardware", words: `A turntable on its own motor, ${rig.tableGear} turns to one; a pin and a square to set the block by.` }] as const)
      : []),
    {
      of: "wiring",
      words: `A motion controller with ${(rig.carriages === "free" ? 4 : 2) + (rig.table ? 1 : 0)} motor drivers, a supply for the motors, and an emergency stop that takes the heat off too.`,
    },
    {
      of: "wiring",
      words: `The wire's own supply, ${rig.heat === "share" ? "turned by the controller's share output" : "switched by the controller through a relay or a transistor"}, with its own switch; leads of 18 to 20 AWG in a loop that follows the carriages.`,
    },
    { of: "wiring", words: `Limit switches, ${rig.switches === "closed" ? "normally closed" : "normally open"}, twisted pairs away from the motor leads.` },
    { of: "wiring", words: "What stops the heat when the controller, its lead or its computer fails: a watchdog relay that must be kept up." },
  ],
  logged: [
    { key: "asked_mm", label: "Asked for", quantity: "length", min: 0, max: 10_000 },
    { key: "measured_mm", label: "Measured", quantity: "length", min: 0, max: 10_000 },
    { key: "seconds", label: "Time, s", quantity: null, min: 0, max: 86_400 },
  ],
  example: {
    name: "Marionette for lettering",
    cutter: "Long Tom",
    plan: "LANTERN lettering",
    notes: "Letters for the parade's front float, one path a word. Strung with Long Tom's wire while its own is tried on bead foam.",
    rig: {
      ...FRAME_START,
      wide_mm: 900,
      high_mm: 300,
      asked_mm: 250,
      there_mm: [250.4, 250.5, 250.4],
      back_mm: [250.4, 250.3],
      heat: "share",
      heatAt: [
        [200, 0.9],
        [400, 1.8],
        [600, 2.7],
        [800, 3.5],
        [1000, 4.3],
      ],
    },
  },
};
