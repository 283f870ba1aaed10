import { knobOf, settingForHeat } from "../../cutters/solve/evaluate";
import type { Point } from "../../geometry/points";
import { CoreError } from "../../kernel/errors";
import type { Relation } from "../../kernel/provenance";
import { youngPa } from "../../materials/strength";
import { massKgPerM, resistanceOhmPerM, resolveWire } from "../../physics/heat/wire";
import { STIFF_ENOUGH, STIFF_TOOL, stiffBowM, stiffWireM } from "../../physics/mechanics/stiffBow";
import { knobLook } from "../../physics/power/controls";
import { choice, number, numberList, onlyWhere, plain, startOf, type ValuesOf } from "../../units/field";
import { awgDiameterMm } from "../../units/gauges";
import type { RigSurroundings } from "../around";
import { figureOf, type RigNote, type RigRecord, type Show } from "../record";
import { Sketch } from "../sketch";
import { FENCE, fence } from "../sums";

const TOOL = "the tool";
const HOLDER = "its holder";
const fields = [
  choice(
    TOOL,
    "tool",
    "Tool",
    [
      ["loop", "a bent loop: grooves, coves, pockets"],
      ["wand", "a wand: two legs side by side, inside holes"],
    ],
    "loop",
  ),
  ...onlyWhere(
    "tool",
    "loop",
    choice(
      TOOL,
      "bottom",
      "Its bottom",
      [
        ["square", "flat"],
        ["round", "round: a cove"],
      ],
      "square",
    ),
    number(TOOL, "groove_mm", "Groove, wide", "length", [0.5, 500], 20, { decimals: 1 }),
  ),
  number(TOOL, "depth_mm", "Deep", "length", [1, 500], 20, { decimals: 1 }),
  number(TOOL, "bend_mm", "Bends of radius", "length", [0, 100], 2, { decimals: 1 }),
  number(TOOL, "kerf_mm", "Kerf, measured", "kerf", [0.05, 50], null, { hint: "empty: as computed for the cutter" }),
  plain(HOLDER, "rod_awg", "Conductors", "AWG", [0, 24], 10, { whole: true }),
  number(HOLDER, "rod_mm", "Conductors, long each", "length", [5, 2000], 120),
  plain(HOLDER, "joint_mohm", "A joint", "milliohm", [0, 200], 2, { hint: "a clean screwed joint about 2 (common practice)" }),
  numberList("one supply, several tools", "tools_mm", "Wire of each tool, mm", "length", [5, 5000], 8, [60, 90, 140]),
];
export type LoopRig = { kind: "loop" } & ValuesOf<typeof fields>;

const start: LoopRig = startOf("loop", fields);

/** A loop's own weight as a beam out of its holder. */
export const FREE_SAG: Relation = {
  id: "free-sag",
  title: "Sag of a free loop",
  formula: "s = g (m b h^3/(6 E I) + m h^4/(8 E I)), E hot taken as 0.8 of E cold",
  words: "Held level, nothing bears the loop but its own stiffness: twice as deep, sixteen times the sag.",
  range: "small bends; legs clamped in the holder",
  basis: "estimate",
  source: "cantilever under its own weight with the cross-wire at its end (strength-of-materials handbooks); hot modulus an estimate",
};

const GRAVITY = 9.80665;
/** Copper at 20 degC, ohm m (published: IEC 60028). */
const COPPER_OHM_M = 1.7241e-8;
/** A bend tighter than so many wire diameters kinks (common practice). */
const LEAST_BEND = 2;
/** A joint that makes more than this needs care, W (this project's judgement). */
const WARM_JOINT_W = 1;
/** The cutter's wire where none is named: what pockets are usually cut with. */
const HABIT_WIRE = { alloy: "nicr-80-20", diameter_mm: 1 } as const;

/** Wire round a groove: three sides with its bends, or a cove's two legs and half round, mm. @param outerMm the loop's outer width */
export function loopWireMm(rig: Pick<LoopRig, "tool" | "bottom" | "depth_mm" | "bend_mm">, outerMm: number, wireMm: number): number {
  if (rig.tool === "wand") return 1000 * stiffWireM({ kind: "wand", depthM: rig.depth_mm / 1000 });
  const across = outerMm - wireMm;
  if (rig.bottom === "round") return 2 * (rig.depth_mm - across / 2) + (Math.PI * across) / 2;
  // A bend is shorter than its corner by (2 - pi/2) of its radius.
  return 2 * rig.depth_mm + across - 2 * (2 - Math.PI / 2) * Math.min(rig.bend_mm, across / 2, rig.depth_mm);
}

/** The cutter's own knob for a wire of another length and the same heat, as a card says it; a dash where it has none, or does not reach. */
function knobFor({ design, heatWPerM }: NonNullable<RigSurroundings["cutter"]>, mm: number, show: Show): string {
  const other = { ...design, wire: { ...design.wire, length_mm: mm }, job: { ...design.job, width_mm: Math.min(design.job.width_mm, mm) } };
  const knob = knobOf(other);
  const setting = settingForHeat(other, heatWPerM);
  if (!knob || setting === null) return "no knob: another supply";
  if (setting < knob.min - 1e-9 || setting > knob.max + 1e-9) return "out of its reach";
  return knobLook(knob.kind).card(setting, show);
}

/** Heat on the foam inside of a bend, against the straight: the same wire before a shorter face. Without end where the kerf's half is as wide as the bend. */
export const bendHeat = (bendMm: number, kerfMm: number): number => (bendMm > kerfMm / 2 ? bendMm / (bendMm - kerfMm / 2) : Number.POSITIVE_INFINITY);

export const BEND_HEAT: Relation = {
  id: "bend-heat",
  title: "Heat inside a bend",
  formula: "r/(r - w/2)",
  words: "Round a bend the same wire faces a shorter edge on the inside: it is heated so much more, and rounds off.",
  range: "bends rounder than half the kerf",
  basis: "estimate",
  source: "lengths of two arcs about one middle",
};

export function looped(rig: LoopRig, { cut, cutter }: RigSurroundings) {
  const wire = cutter?.pair.wire ?? resolveWire(HABIT_WIRE);
  const wireMm = wire.outerDiameterM * 1000;
  const kerfMm = rig.kerf_mm ?? Math.max(cut.kerfMm, wireMm);
  const outerMm = rig.tool === "wand" ? 2 * wireMm : (fence({ wireMm, kerfMm, partMm: 1, grooveMm: rig.groove_mm }).loopMm ?? 0);
  if (rig.tool === "loop" && rig.bottom === "round" && rig.depth_mm < (outerMm - wireMm) / 2)
    throw new CoreError(
      "out-of-range",
      "depth_mm",
      `depth_mm must be a number from ${((outerMm - wireMm) / 2).toFixed(1)} mm: a round bottom is half as deep as the groove is wide`,
    );
  const lengthMm = loopWireMm(rig, outerMm, wireMm);
  const shape =
    rig.tool === "wand"
      ? ({ kind: "wand", depthM: rig.depth_mm / 1000 } as const)
      : ({ kind: "loop", widthM: (outerMm - wireMm) / 1000, depthM: rig.depth_mm / 1000 } as const);
  const flex = 0.8 * youngPa(wire.alloy.id) * ((wire.strands * Math.PI * wire.diameterM ** 4) / 64);
  const own = massKgPerM(wire) * GRAVITY;
  const h = rig.depth_mm / 1000;
  const b = shape.kind === "loop" ? shape.widthM : 0;
  const currentA = cutter?.evaluation.circuit.currentA ?? null;
  const rodOhm = (COPPER_OHM_M * 2 * (rig.rod_mm / 1000)) / ((Math.PI * (awgDiameterMm(rig.rod_awg) / 1000) ** 2) / 4);
  return {
    wire,
    wireMm,
    kerfMm,
    outerMm,
    lengthMm,
    bowMm: stiffBowM(shape, wire, cut.dragNPerM) * 1000,
    // Half of the cross-wire on each leg, and the leg itself.
    sagMm: (1000 * own * ((b * h ** 3) / 6 + h ** 4 / 8)) / flex,
    currentA,
    rodW: currentA === null ? null : currentA ** 2 * rodOhm,
    jointW: currentA === null ? null : (currentA ** 2 * rig.joint_mohm) / 1000,
    tools: cutter
      ? rig.tools_mm.map((mm) => {
          const ohm = (resistanceOhmPerM(wire, cutter.evaluation.cut.wireC) * mm) / 1000;
          const amps = Math.sqrt(cutter.heatWPerM / resistanceOhmPerM(wire, cutter.evaluation.cut.wireC));
          return { mm, amps, volts: amps * (ohm + rodOhm + (2 * rig.joint_mohm) / 1000 + cutter.evaluation.circuit.leadsOhm) };
        })
      : [],
  };
}

export const loopRig: RigRecord<LoopRig> = {
  kind: "loop",
  title: "Loop or wand",
  purpose: "A bent wire in the hand: grooves, coves, pockets and inside holes, stiff by its own shape.",
  fields,
  start,
  takesPlan: false,
  laws: [FENCE, STIFF_TOOL, FREE_SAG, BEND_HEAT],
  solve: (rig, around, show) => {
    const found = looped(rig, around);
    const notes: RigNote[] = [
      ...(found.bowMm > STIFF_ENOUGH * rig.depth_mm
        ? [
            {
              code: "too-soft",
              severity: "caution",
              words: `Pulled through at this feed it bends back ${show("kerf", found.bowMm)}: a thicker wire, a shallower pass, or slower.`,
              basis: "estimate",
              field: "depth_mm",
            } as const,
          ]
        : []),
      ...(found.sagMm > STIFF_ENOUGH * rig.depth_mm
        ? [
            {
              code: "sags",
              severity: "caution",
              words: `Hot and held level it sags ${show("kerf", found.sagMm)} by its own weight.`,
              basis: "estimate",
              field: "depth_mm",
            } as const,
          ]
        : []),
      ...(rig.tool === "loop" && rig.bend_mm < LEAST_BEND * found.wireMm
        ? [
            {
              code: "tight-bend",
              severity: "caution",
              words: `A bend under ${show("length", LEAST_BEND * found.wireMm, 1)} kinks, and both legs heat its inside: it glows there first and eats the corner.`,
              basis: "common practice",
              field: "bend_mm",
              cure: { words: "bend it rounder", change: { bend_mm: Math.ceil(LEAST_BEND * found.wireMm * 10) / 10 } },
            } as const,
          ]
        : []),
      ...(found.jointW !== null && found.jointW > WARM_JOINT_W
        ? [
            {
              code: "warm-joint",
              severity: "caution",
              words: `Each joint makes ${found.jointW.toFixed(1)} W: bright metal, a screw and not solder, and a handle that it does not touch.`,
              basis: "estimate",
              field: "joint_mohm",
            } as const,
          ]
        : []),
      { code: "pocket-air", severity: "note", words: "A pocket holds its smoke: cut with air moving away from the face.", basis: "common practice" },
    ];
    return {
      says:
        rig.tool === "wand"
          ? `${show("length", found.lengthMm)} of wire, there and back, reaches ${show("length", rig.depth_mm)} deep.`
          : `Bend it ${show("length", found.outerMm, 1)} wide over all from ${show("length", found.lengthMm)} of wire.`,
      figures: [
        ...(rig.tool === "loop" ? [figureOf("outer", "Loop, outer width", "kerf", found.outerMm, { why: FENCE })] : []),
        figureOf("wire", "Hot wire", "length", found.lengthMm, { decimals: 1 }),
        ...(rig.tool === "loop" && rig.bottom === "square" && Number.isFinite(bendHeat(rig.bend_mm, found.kerfMm))
          ? [{ id: "bend", label: "Heat inside its bends", value: `${bendHeat(rig.bend_mm, found.kerfMm).toFixed(1)} times the straight's`, why: BEND_HEAT }]
          : []),
        figureOf("bow", "Bends back in the foam", "kerf", found.bowMm, { why: STIFF_TOOL }),
        figureOf("sag", "Sags on its own, held level", "kerf", found.sagMm, { decimals: 3, why: FREE_SAG }),
        figureOf("kerf", rig.kerf_mm === null ? "Kerf, computed" : "Kerf, measured", "kerf", found.kerfMm),
        ...(found.rodW === null ? [] : [figureOf("rod", "Lost in the conductors", "power", found.rodW, { decimals: 2 })]),
        ...(found.jointW === null ? [] : [figureOf("joint", "in each joint", "power", found.jointW, { decimals: 2 })]),
      ],
      tables:
        found.tools.length > 0
          ? [
              {
                id: "tools",
                title: "One supply, several tools: the same heat",
                columns: ["wire", "amps", "volts at the supply", "knob"],
                rows: found.tools.map(({ mm, amps, volts }) => [
                  { quantity: "length", value: mm },
                  { quantity: "current", value: amps },
                  { quantity: "voltage", value: volts, decimals: 2 },
                  around.cutter ? knobFor(around.cutter, mm, show) : "",
                ]),
              },
            ]
          : [],
      notes,
    };
  },
  draw: (rig, around, show) => {
    const found = looped(rig, around);
    const size = Math.max(rig.depth_mm * 3, found.outerMm * 3, 60);
    const sketch = new Sketch(size);
    const half = (found.outerMm - found.wireMm) / 2;
    const top = rig.depth_mm;
    sketch.line(
      "foam",
      [
        [-size / 2, top],
        [-rig.groove_mm / 2, top],
        [-rig.groove_mm / 2, 0],
        [rig.groove_mm / 2, 0],
        [rig.groove_mm / 2, top],
        [size / 2, top],
        [size / 2, -size / 5],
        [-size / 2, -size / 5],
      ],
      true,
    );
    if (rig.tool === "loop" && rig.bottom === "round") {
      const arc = Array.from({ length: 25 }, (_, i): Point => [-half * Math.cos((Math.PI * i) / 24), half - half * Math.sin((Math.PI * i) / 24)]);
      sketch.line("wire", [[-half, top + size / 8], ...arc, [half, top + size / 8]]);
    } else if (rig.tool === "loop") {
      const r = Math.min(rig.bend_mm, half, rig.depth_mm);
      const corner = (x: number, from: number): Point[] =>
        Array.from({ length: 7 }, (_, i): Point => {
          const a = ((from + (90 * i) / 6) * Math.PI) / 180;
          return [x + r * Math.cos(a), r + r * Math.sin(a)];
        });
      sketch.line("wire", [[-half, top + size / 8], ...corner(-half + r, 180), ...corner(half - r, 270), [half, top + size / 8]]);
    } else
      sketch.line("wire", [
        [-found.wireMm / 2, top + size / 8],
        [-found.wireMm / 2, 0],
        [found.wireMm / 2, 0],
        [found.wireMm / 2, top + size / 8],
      ]);
    for (const x of [-Math.max(half, 4), Math.max(half, 4)]) sketch.box("metal", x - 2, top + size / 8, 4, size / 5);
    sketch.box("wood", -Math.max(half, 4) - size / 16, top + size / 8 + size / 5, 2 * Math.max(half, 4) + size / 8, size / 10);
    sketch.measure([-rig.groove_mm / 2, 0], [rig.groove_mm / 2, 0], -size / 14, show("length", rig.groove_mm, 1));
    sketch.measure([rig.groove_mm / 2, 0], [rig.groove_mm / 2, top], -size / 12, show("length", rig.depth_mm, 1));
    if (rig.tool === "loop") sketch.measure([-found.outerMm / 2, top + size / 10], [found.outerMm / 2, top + size / 10], size / 4, show("kerf", found.outerMm));
    return sketch.done(rig.tool === "wand" ? "Wand" : "Loop");
  },
  build: (rig, around, show) => {
    const found = looped(rig, around);
    return [
      { of: "wood", words: "A handle of hard wood or of a plastic that withstands heat, two holes side by side." },
      {
        of: "hardware",
        words: `Two copper rods of ${rig.rod_awg} AWG, ${show("length", rig.rod_mm)} each, a screw terminal at their ends; the wire changes in a minute.`,
      },
      { of: "hardware", words: `${show("length", found.lengthMm + 24)} of wire: ${show("length", 12)} in each terminal.` },
      { of: "wiring", words: "A soft two-core lead, its strain taken by the handle; the switch is at the thumb and lets go on its own." },
    ];
  },
  logged: [
    { key: "wanted_mm", label: "Groove wanted", quantity: "kerf", min: 0, max: 500 },
    { key: "measured_mm", label: "Groove measured", quantity: "kerf", min: 0, max: 500 },
  ],
  example: {
    name: "Limpet's pocket loop",
    cutter: "Limpet",
    notes: "Pockets under the bandstand columns; the kerf as measured once it was turned down.",
    rig: { ...start, groove_mm: 24, depth_mm: 18, kerf_mm: 2.6 },
  },
};
