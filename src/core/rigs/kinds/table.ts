import type { Point } from "../../geometry/points";
import { JUDGEMENT } from "../../kernel/constants";
import { CoreError } from "../../kernel/errors";
import { number, plain, startOf, toggle, type ValuesOf } from "../../units/field";
import type { RigSurroundings } from "../around";
import { figureOf, type RigNote, type RigRecord, type RigTable } from "../record";
import { Sketch } from "../sketch";
import { FENCE, fence } from "../sums";

const FENCES = "fence and mitre";
const PIN = "on a pin";
const ARM = "arm and table";
const fields = [
  number(FENCES, "part_mm", "Part, fence to cut", "length", [0.1, 10_000], 40, { decimals: 1 }),
  number(FENCES, "height_mm", "Height of the foam", "length", [0.1, 5000], 100),
  number(FENCES, "tilt_deg", "Bevel: the wire leans by", "angle", [-80, 80], 0),
  number(FENCES, "mitre_deg", "Mitre: the fence turned by", "angle", [-80, 80], 0),
  number(FENCES, "blank_mm", "Blank, for strips off it", "length", [0, 10_000], 600),
  number(FENCES, "kerf_mm", "Kerf, measured", "kerf", [0.05, 50], null, { hint: "empty: as computed for the cutter" }),
  number(PIN, "disc_mm", "Disc or ring, outer radius", "length", [0, 5000], 60, { decimals: 1, hint: "0: none" }),
  number(PIN, "inner_mm", "Ring, inner radius", "length", [0, 5000], 0, { decimals: 1, hint: "0: a whole disc" }),
  number(PIN, "coneFoot_mm", "Cone, radius at the table", "length", [0, 5000], 0),
  number(PIN, "coneTop_mm", "Cone, radius on top", "length", [0, 5000], 0),
  number(PIN, "coneHigh_mm", "Cone, high", "length", [0, 5000], 0, { hint: "0: none" }),
  plain(PIN, "sides", "Column of so many sides", "sides", [0, 60], 0, { whole: true, hint: "0: none" }),
  plain(ARM, "copies", "Copies stacked", "copies", [1, 100], 1, { whole: true }),
  number(ARM, "copy_mm", "Each copy, thick", "length", [0.1, 1000], 25, { decimals: 1 }),
  number(ARM, "clear_mm", "Table to arm", "length", [1, 5000], 300),
  toggle(ARM, "inside", "an inside cut: unhook, thread, hook in again"),
  toggle(ARM, "sleeve", "the wire's hole in the table is sleeved with glass or ceramic", true),
  number(ARM, "gap_mm", "Gap between two halves, one turned over", "kerf", [-50, 50], 0, { hint: "nothing where the wire is square" }),
];
export type TableRig = { kind: "table" } & ValuesOf<typeof fields>;

const start: TableRig = startOf("table", fields);

const rad = (deg: number) => (deg * Math.PI) / 180;

/** The wire's lean that cuts a cone on a pin, and how far the pin is where the wire comes through the table, mm. */
export function coneOf({ coneTop_mm: top, coneFoot_mm: foot, coneHigh_mm: high }: TableRig, kerfMm: number) {
  const leanDeg = (Math.atan2(foot - top, high) * 180) / Math.PI;
  // Half a kerf is square to the wire: along the table it is more.
  return { leanDeg, pinMm: foot + kerfMm / 2 / Math.cos(rad(leanDeg)), slantMm: Math.hypot(foot - top, high) };
}

export function onTable(rig: TableRig, { cut, cutter }: RigSurroundings) {
  const kerfMm = rig.kerf_mm ?? cut.kerfMm;
  const lean = Math.cos(rad(rig.tilt_deg));
  if (rig.height_mm / lean > 10 * rig.height_mm) throw new CoreError("out-of-range", "tilt_deg", "tilt_deg must be a number from -84 to 84 degrees");
  const straight = fence({ wireMm: cut.wireMm, kerfMm, partMm: rig.part_mm, heightMm: rig.height_mm, tiltDeg: rig.tilt_deg });
  const disc = rig.disc_mm > 0 ? fence({ wireMm: cut.wireMm, kerfMm, partMm: rig.part_mm, discMm: rig.disc_mm }) : null;
  const hole = rig.inner_mm > 0 ? fence({ wireMm: cut.wireMm, kerfMm, partMm: rig.part_mm, discMm: rig.inner_mm }) : null;
  if (rig.inner_mm > 0 && rig.inner_mm >= rig.disc_mm)
    throw new CoreError("out-of-range", "inner_mm", `inner_mm must be less than the outer radius, ${rig.disc_mm} mm`);
  // The whole wire between table and arm grows with its lean, and its ohms with it: the same amps, the same heat a metre, by so many more volts.
  const longer = 1 / lean;
  const volts = cutter ? cutter.evaluation.circuit.wireVoltageV : null;
  return {
    kerfMm,
    straight,
    disc,
    hole,
    liveMm: straight.liveWireMm ?? rig.height_mm,
    longer,
    volts,
    leaningV: volts === null ? null : volts * longer,
    strips: rig.blank_mm > 0 ? Math.floor((rig.blank_mm + kerfMm) / (rig.part_mm + kerfMm) + 1e-9) : 0,
    stackMm: rig.copies * rig.copy_mm,
    // Square to the fence's own turn: the stop along a turned fence is farther.
    mitreMm: straight.toCentreMm / Math.cos(rad(rig.mitre_deg)),
    cone: rig.coneHigh_mm > 0 ? coneOf(rig, kerfMm) : null,
    outOfSquareDeg: (Math.atan(rig.gap_mm / (2 * rig.height_mm)) * 180) / Math.PI,
  };
}

export const tableRig: RigRecord<TableRig> = {
  kind: "table",
  title: "Table with a fence",
  purpose: "An upright wire through a table: strips along a fence, mitres and bevels, discs and rings on a pin.",
  fields,
  start,
  takesPlan: false,
  laws: [FENCE],
  solve: (rig, around, show) => {
    const found = onTable(rig, around);
    const { cutter } = around;
    const most = cutter ? cutter.evaluation.reach.toWPerM : null;
    const notes: RigNote[] = [
      ...(rig.sleeve
        ? []
        : [
            {
              code: "bare-hole",
              severity: "caution",
              words: "The wire touches the table: it chars timber and shorts on metal. A glass or ceramic sleeve in its hole.",
              basis: "common practice",
              field: "sleeve",
              cure: { words: "sleeve it", change: { sleeve: true } },
            } as const,
          ]),
      ...(found.stackMm > rig.clear_mm
        ? [
            {
              code: "too-high",
              severity: "danger",
              words: `The stack is ${show("length", found.stackMm)} high, the arm ${show("length", rig.clear_mm)} over the table.`,
              basis: "published",
              field: "copies",
            } as const,
          ]
        : []),
      ...(rig.tilt_deg !== 0 && found.leaningV !== null && found.volts !== null
        ? [
            {
              code: "lean-volts",
              severity: found.leaningV > JUDGEMENT.touchDcCautionV ? "danger" : "caution",
              words: `Leaning, the wire is ${(100 * (found.longer - 1)).toFixed(0)} % longer: ${show("voltage", found.leaningV, 1)} across it in place of ${show("voltage", found.volts, 1)} for the same heat.${most !== null && cutter && cutter.heatWPerM * found.longer > most ? " This supply may not reach it: see its own band." : ""}`,
              basis: "published",
              field: "tilt_deg",
            } as const,
          ]
        : []),
      ...(Math.abs(found.outOfSquareDeg) > 0.05
        ? [
            {
              code: "not-square",
              severity: "caution",
              words: `The wire leans by ${show("angle", Math.abs(found.outOfSquareDeg), 2)}: move its upper end ${show("kerf", Math.abs(Math.tan(rad(found.outOfSquareDeg)) * rig.clear_mm))} ${rig.gap_mm > 0 ? "away from" : "toward"} the fence.`,
              basis: "published",
              field: "gap_mm",
            } as const,
          ]
        : []),
      ...(rig.inside
        ? [
            {
              code: "unhook",
              severity: "caution",
              words:
                "Inside cut: switch off and let the wire go dark before unhooking; pierce with a hot rod or a drill; thread, hook in again, set the tension, look that the wire is square and the joint bright, then heat.",
              basis: "common practice",
              field: "inside",
            } as const,
          ]
        : []),
    ];
    const tables: RigTable[] = [
      {
        id: "settings",
        title: "Settings, from the wire",
        columns: ["for", "to its near side", "to its middle"],
        rows: [
          ["fence", { quantity: "kerf", value: found.straight.toWireMm }, { quantity: "kerf", value: found.straight.toCentreMm }],
          ...(rig.mitre_deg === 0 ? [] : [["stop along the turned fence", "", { quantity: "kerf" as const, value: found.mitreMm }]]),
          ...(found.disc
            ? [
                [
                  "pin, for the disc",
                  { quantity: "kerf" as const, value: (found.disc.pinDiscMm ?? 0) - around.cut.wireMm / 2 },
                  { quantity: "kerf" as const, value: found.disc.pinDiscMm ?? 0 },
                ],
              ]
            : []),
          ...(found.hole
            ? [
                [
                  "pin, for the ring's hole",
                  { quantity: "kerf" as const, value: (found.hole.pinHoleMm ?? 0) - around.cut.wireMm / 2 },
                  { quantity: "kerf" as const, value: found.hole.pinHoleMm ?? 0 },
                ],
              ]
            : []),
          ...(found.cone ? [["pin, for the cone, at the table", "", { quantity: "kerf" as const, value: found.cone.pinMm }]] : []),
        ],
      },
      ...(rig.inside
        ? [
            {
              id: "inside",
              title: "Before the heat comes on again",
              columns: ["look at", "right when"],
              rows: [
                ["tension", "the spring's mark, or the same note when plucked"],
                ["wire", "square to the table, no kink at the hook"],
                ["joint", "bright metal on bright metal; no warmer than the lead after a minute"],
                ["amps", cutter ? show("current", cutter.evaluation.circuit.currentA) : "as before"],
              ],
            },
          ]
        : []),
      ...(rig.sides >= 3
        ? [
            {
              id: "sides",
              title: "Column on the pin",
              columns: ["passes", "turn after each", "flat from the pin"],
              rows: [
                [
                  String(rig.sides),
                  { quantity: "angle" as const, value: 360 / rig.sides, decimals: 1 },
                  { quantity: "kerf" as const, value: rig.disc_mm + found.kerfMm / 2 },
                ],
              ],
            },
          ]
        : []),
    ];
    return {
      says: `Fence ${show("kerf", found.straight.toWireMm)} from the wire's near side, ${show("kerf", found.straight.toCentreMm)} from its middle.`,
      figures: [
        figureOf("near", "Fence to the wire's near side", "kerf", found.straight.toWireMm, { why: FENCE }),
        figureOf("middle", "Fence to its middle", "kerf", found.straight.toCentreMm),
        figureOf("live", "Wire in the foam", "length", found.liveMm, { decimals: 1 }),
        ...(found.leaningV === null || rig.tilt_deg === 0 ? [] : [figureOf("volts", "Volts across it, leaning", "voltage", found.leaningV, { decimals: 1 })]),
        ...(found.strips > 0 ? [{ id: "strips", label: "Strips off the blank, stop left as it is", value: String(found.strips) }] : []),
        ...(found.disc ? [figureOf("pin-disc", "Pin to the wire's middle, disc", "kerf", found.disc.pinDiscMm ?? 0)] : []),
        ...(found.hole ? [figureOf("pin-hole", "Pin to the wire's middle, ring's hole", "kerf", found.hole.pinHoleMm ?? 0)] : []),
        ...(found.cone
          ? [
              figureOf("cone", "Wire leans for the cone", "angle", found.cone.leanDeg, { decimals: 1 }),
              figureOf("cone-pin", "Pin from it at the table", "kerf", found.cone.pinMm),
            ]
          : []),
        figureOf("kerf", rig.kerf_mm === null ? "Kerf, computed" : "Kerf, measured", "kerf", found.kerfMm),
        figureOf("stack", "Stack of copies", "length", found.stackMm),
      ],
      tables,
      notes,
    };
  },
  draw: (rig, around, show) => {
    const found = onTable(rig, around);
    const reach = Math.max(rig.part_mm * 2.4, rig.disc_mm * 2.4, 160);
    const size = reach * 2;
    const sketch = new Sketch(size);
    // From above: the wire as a dot, the fence to its left, the strip between; the pin to its right.
    const turn = rad(rig.mitre_deg);
    // The fence's face, not its middle, is what a measure goes to.
    const barMm = reach / 30;
    const along = (t: number): Point => [
      -(found.straight.toCentreMm + barMm / 2) * Math.cos(turn) + Math.sin(turn) * t,
      (found.straight.toCentreMm + barMm / 2) * Math.sin(turn) + Math.cos(turn) * t,
    ];
    sketch.box("wood", -reach, -reach * 0.6, 2 * reach, reach * 1.2);
    sketch.bar("metal", along(-reach * 0.55), along(reach * 0.55), barMm);
    sketch.arc("wire", [0, 0], Math.max(around.cut.wireMm / 2, size / 260));
    const near: Point = [-found.straight.toCentreMm * Math.cos(turn), found.straight.toCentreMm * Math.sin(turn)];
    sketch.measure(near, [0, 0], -size / 18, show("kerf", found.straight.toCentreMm));
    sketch.words([near[0] - size / 40, reach * 0.5], "fence", "end");
    sketch.line("ways", [
      [0, -reach * 0.55],
      [0, reach * 0.55],
    ]);
    if (found.disc) {
      const pin: Point = [found.disc.pinDiscMm ?? 0, 0];
      sketch.arc("foam", pin, rig.disc_mm);
      sketch.arc("metal", pin, size / 200);
      sketch.measure([0, 0], pin, size / 9, show("kerf", found.disc.pinDiscMm ?? 0));
      if (found.hole) sketch.arc("ways", pin, rig.inner_mm);
      sketch.words([pin[0], pin[1] + sketch.wordsMm * 0.6], "pin", "middle");
    }
    sketch.words([-reach * 0.96, reach * 0.52], "from above", "start");
    // From the side, under it: the wire's lean through the foam between table and arm.
    const foot = -reach * 0.75 - rig.clear_mm * 0.8;
    const scale = 0.8;
    const lean = Math.tan(rad(rig.tilt_deg));
    sketch.line("wood", [
      [-reach * 0.7, foot],
      [reach * 0.7, foot],
    ]);
    sketch.line(
      "foam",
      [
        [-reach * 0.4, foot],
        [reach * 0.2, foot],
        [reach * 0.2, foot + rig.height_mm * scale],
        [-reach * 0.4, foot + rig.height_mm * scale],
      ],
      true,
    );
    sketch.line("wire", [
      [0, foot - size / 30],
      [lean * rig.clear_mm * scale, foot + rig.clear_mm * scale],
    ]);
    sketch.bar("metal", [lean * rig.clear_mm * scale, foot + rig.clear_mm * scale], [reach * 0.68, foot + rig.clear_mm * scale], size / 70);
    sketch.bar("metal", [reach * 0.68, foot + rig.clear_mm * scale], [reach * 0.68, foot], size / 70);
    sketch.measure([-reach * 0.4, foot], [-reach * 0.4, foot + rig.height_mm * scale], size / 24, show("length", rig.height_mm));
    sketch.words([-reach * 0.7, foot + rig.clear_mm * scale], `from the side, at ${Math.round(scale * 100)} %`, "start");
    return sketch.done("Table with a fence");
  },
  build: (rig, _around, show) => [
    { of: "wood", words: "A table of plywood faced with plastic laminate, flat, waxed; the fence on a rail at its near edge with a clamp at both ends." },
    {
      of: "hardware",
      words: `Arm: ${show("length", 200)} of ${show("length", 25)} by ${show("length", 3)} bar bent to 80° and pulled to 90 by the wire, ${show("length", rig.clear_mm)} over the table; it turns at its foot for bevels.`,
    },
    { of: "hardware", words: "A glass or ceramic sleeve where the wire passes the table; the anchor below set off, so that the wire is upright." },
    { of: "hardware", words: "Pins: a sharp nail in a slide that moves square to the fence, with a scale." },
    ...(rig.tilt_deg !== 0 ? ([{ of: "hardware", words: "A longer spring or a second clip for the leaning wire." }] as const) : []),
    { of: "wiring", words: "The arm is live at one end of the wire: insulate its foot, and lead it apart from the table's metal." },
    { of: "wiring", words: "A foot switch that must be held, and the supply's own switch within reach." },
  ],
  logged: [
    { key: "wanted_mm", label: "Part wanted", quantity: "kerf", min: 0, max: 10_000 },
    { key: "measured_mm", label: "Part measured", quantity: "kerf", min: 0, max: 10_000 },
    { key: "pieces", label: "Pieces", quantity: null, min: 1, max: 100_000 },
  ],
  example: {
    name: "Gatepost for discs",
    cutter: "Gatepost",
    notes: "Lantern floors: discs of 90 mm on the pin, rings for the rims.",
    rig: { ...start, disc_mm: 90, inner_mm: 70, height_mm: 50, part_mm: 60 },
  },
};
