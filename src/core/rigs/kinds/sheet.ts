import { CoreError } from "../../kernel/errors";
import type { Relation } from "../../kernel/provenance";
import { slabGrams } from "../../materials/foams";
import { choice, number, onlyWhere, plain, rows, startOf, toggle, type ValuesOf } from "../../units/field";
import type { RigSurroundings } from "../around";
import { packed } from "../panes";
import { figureOf, type RigNote, type RigRecord, type RigTable } from "../record";
import { Sketch } from "../sketch";
import { CALCULATION_SHEET, sheet } from "../sums";

const SHEETS = "sheets";
const SPACER = "what the wire lies on";
const fields = [
  number(SHEETS, "sheet_mm", "Sheet", "kerf", [0.1, 1000], 2),
  number(SHEETS, "block_mm", "Block, high", "length", [0.1, 3000], 100),
  number(SHEETS, "blockLong_mm", "Block, along the cut", "length", [1, 5000], 300),
  number(SHEETS, "blockWide_mm", "Block, across", "length", [1, 5000], 180),
  number(SHEETS, "first_mm", "First slice off", "length", [0, 3000], 3, { decimals: 1 }),
  plain(SHEETS, "price", "Price of the block", "of the maker's money", [0, 1_000_000], null),
  toggle(SHEETS, "moulded", "moulded packaging, with hollows"),
  ...onlyWhere("moulded", true, number(SHEETS, "void_mm", "Its hollows are deep", "length", [0, 3000], 0)),
  choice(
    SPACER,
    "method",
    "Height by",
    [
      ["spacers", "spacers"],
      ["screw", "a screw at each end"],
    ],
    "spacers",
  ),
  ...onlyWhere("method", "screw", number(SPACER, "pitch_mm", "Rise of a turn", "kerf", [0.1, 20], 1)),
  choice(
    SPACER,
    "spacer",
    "Spacers of",
    [
      ["card", "card"],
      ["foil", "metal foil on card"],
      ["glass", "glass"],
      ["wood", "hard wood"],
    ],
    "card",
  ),
  ...onlyWhere(
    "spacer",
    "foil",
    number(SPACER, "foilWide_mm", "Foil, along the wire", "length", [1, 200], 25),
    number(SPACER, "foilThick_mm", "Foil, thick", "diameter", [0.005, 1], 0.05),
  ),
  number("as measured", "kerf_mm", "Kerf", "kerf", [0.05, 50], null, { hint: "empty: as computed for the cutter" }),
  plain("as measured", "stack", "Sheets stacked", "sheets", [2, 200], 10, { whole: true }),
  number("as measured", "stack_mm", "The stack measures", "length", [0.1, 3000], null, { decimals: 1 }),
  rows(
    "panes",
    "panes_mm",
    "Strips and panes, one kind a line",
    [
      { label: "long", min: 1, max: 5000 },
      { label: "wide", min: 1, max: 5000 },
      { label: "how many", min: 1, max: 500 },
    ],
    30,
    [
      [120, 80, 6],
      [180, 25, 8],
    ],
  ),
];
export type SheetRig = { kind: "sheet" } & ValuesOf<typeof fields>;

const start: SheetRig = startOf("sheet", fields);

/** Card browns from about here, degC (from memory). */
const CARD_CHARS_C = 200;
/** Of aluminium, W/mK (common handbook value), and still air on both sides of a foil, W/m2K (estimate). */
const FOIL = { conductivity: 230, film: 10 } as const;

export const FOIL_SHUNT: Relation = {
  id: "foil-shunt",
  title: "Foil under a hot wire",
  formula: "live wire L - 2b, same volts: heat per metre (L/(L - 2b))^2; each foil is a fin: b sqrt(2 h k t) dT each way",
  words: "Foil carries the current past the wire that lies on it, and draws its heat away: what is left burns hotter, the edges of the sheet stay uncut.",
  range: "foils that do not touch each other; even volts",
  basis: "estimate",
  source: "Ohm's law and the long thin fin of heat-transfer handbooks",
};

/** Kinds of panes are lettered where they lie. */
const letterOf = (kind: number): string => String.fromCharCode(97 + (kind % 26));

/** The kerf computed from a stack: what each sheet lacks of its spacer, both sides. */
export const kerfOfStack = (spacerMm: number, wireMm: number, stackMm: number, sheets: number): number => wireMm + 2 * (spacerMm - stackMm / sheets);

export function sliced(rig: SheetRig, { cut, cutter }: RigSurroundings) {
  const { wireMm } = cut;
  const kerfMm = rig.kerf_mm ?? cut.kerfMm;
  const firstMm = Math.max(rig.first_mm, rig.moulded ? rig.void_mm : 0);
  if (firstMm >= rig.block_mm)
    throw new CoreError(
      "out-of-range",
      rig.moulded ? "void_mm" : "first_mm",
      `the first slice takes the whole block: less than ${rig.block_mm} mm must come off`,
    );
  const { spacerMm, turns, sheets } = sheet({ wireMm, kerfMm, sheetMm: rig.sheet_mm, pitchMm: rig.pitch_mm, blockMm: rig.block_mm, firstMm });
  const stackKerfMm = rig.stack_mm === null ? null : kerfOfStack(spacerMm, wireMm, rig.stack_mm, rig.stack);
  const measuredSheetMm = rig.stack_mm === null ? null : rig.stack_mm / rig.stack;
  const foil =
    rig.spacer === "foil" && cutter
      ? (() => {
          const whole = cutter.design.wire.length_mm;
          const live = whole - 2 * rig.foilWide_mm;
          if (live <= 0)
            throw new CoreError(
              "out-of-range",
              "foilWide_mm",
              `foilWide_mm must be less than half of the wire, ${whole / 2} mm: the foils would carry all of the current`,
            );
          const rise = cutter.evaluation.circuit.wireC - cutter.design.ambient_C;
          return {
            heatRatio: (whole / live) ** 2,
            currentRatio: whole / live,
            lossW: 2 * (rig.foilWide_mm / 1000) * 2 * Math.sqrt(2 * FOIL.film * FOIL.conductivity * (rig.foilThick_mm / 1000)) * rise,
          };
        })()
      : null;
  return { wireMm, kerfMm, firstMm, spacerMm, turns: turns ?? 0, sheets: sheets ?? 0, stackKerfMm, measuredSheetMm, foil };
}

export const sheetRig: RigRecord<SheetRig> = {
  kind: "sheet",
  title: "Sheet slicer",
  purpose: "A wire held over a flat board by spacers or screws takes thin even sheets off a block.",
  fields,
  start,
  // What a pane measures depends on the sheet: none is laid out until somebody asks for one.
  sized: (started, { width_mm, thickness_mm }) => ({
    ...started,
    blockWide_mm: Math.min(5000, width_mm),
    block_mm: thickness_mm,
    first_mm: Math.min(started.first_mm, thickness_mm / 4),
    sheet_mm: Math.max(0.1, Math.min(started.sheet_mm, thickness_mm / 2)),
    panes_mm: [],
  }),
  takesPlan: false,
  onWire: (rig) => ({ mm: rig.blockWide_mm, field: "blockWide_mm" }),
  laws: [CALCULATION_SHEET, FOIL_SHUNT],
  solve: (rig, around, show) => {
    const found = sliced(rig, around);
    const { cut, cutter } = around;
    const push = (cut.dragNPerM * rig.blockWide_mm) / 1000;
    const panes = packed(rig.panes_mm, rig.blockLong_mm, rig.blockWide_mm, found.kerfMm, "panes_mm");
    const notes: RigNote[] = [
      ...(rig.spacer === "card" && cutter && cutter.evaluation.circuit.wireC > CARD_CHARS_C
        ? [
            {
              code: "card-chars",
              severity: "caution",
              words: `Bare, this wire runs at ${show("temperature", cutter.evaluation.circuit.wireC)}: card browns under it and the spacer shrinks. Glass or foil under the wire, or switch on only while foam is on it.`,
              basis: "from memory",
              field: "spacer",
              cure: { words: "glass instead of card", change: { spacer: "glass" } },
            } as const,
          ]
        : []),
      ...(found.foil
        ? [
            {
              code: "foil-conducts",
              severity: found.foil.heatRatio > 1.1 ? "caution" : "note",
              words: `The foils carry the current past ${show("length", 2 * rig.foilWide_mm)} of wire: ${(100 * (found.foil.currentRatio - 1)).toFixed(0)} % more amps and ${(100 * (found.foil.heatRatio - 1)).toFixed(0)} % more heat in the rest, and about ${found.foil.lossW.toFixed(1)} W run off into them. Turn down, or glass instead.`,
              basis: "estimate",
              field: "foilWide_mm",
            } as const,
          ]
        : []),
      ...(rig.moulded && rig.void_mm > rig.first_mm
        ? [
            {
              code: "voids",
              severity: "note",
              words: `The first slice goes as deep as the hollows, ${show("length", rig.void_mm)}: under them the foam is whole.`,
              basis: "common practice",
              field: "void_mm",
            } as const,
          ]
        : []),
      ...(found.stackKerfMm !== null && Math.abs(found.stackKerfMm - found.kerfMm) > 0.03
        ? [
            {
              code: "stack-tells",
              severity: "note",
              words: `By the stack the kerf is ${show("kerf", found.stackKerfMm)}, not ${show("kerf", found.kerfMm)}.`,
              basis: "common practice",
              field: "stack_mm",
              ...(found.stackKerfMm > found.wireMm
                ? { cure: { words: "compute with that kerf", change: { kerf_mm: Math.round(found.stackKerfMm * 1000) / 1000, stack_mm: null } } }
                : {}),
            } as const,
          ]
        : []),
      ...(found.sheets === 0
        ? [{ code: "no-sheet", severity: "caution", words: "The block gives no sheet of this thickness.", basis: "published", field: "block_mm" } as const]
        : []),
    ];
    const tables: RigTable[] = [
      {
        id: "panes",
        title: "Strips and panes out of the sheets",
        columns: ["sheet", "pieces"],
        rows: panes.sheets.map((pieces, i) => [
          `${i + 1}`,
          pieces.map(({ long, wide, count }) => `${count} of ${show("length", long)} by ${show("length", wide)}`).join(", "),
        ]),
      },
      {
        id: "heights",
        title: "Heights, slice by slice",
        columns: ["slice", rig.method === "screw" ? "turns from the board" : "spacers", "the block is then"],
        rows: [
          ["first, off", rig.method === "screw" ? found.firstMm / rig.pitch_mm : found.firstMm, rig.block_mm - found.firstMm] as const,
          ...Array.from(
            { length: Math.min(5, found.sheets) },
            (_, i) =>
              [
                `sheet ${i + 1}`,
                rig.method === "screw" ? found.turns : found.spacerMm,
                rig.block_mm - found.firstMm - (i + 1) * (rig.sheet_mm + found.kerfMm),
              ] as const,
          ),
        ].map(([name, height, left]) => [
          name,
          rig.method === "screw" ? `${height.toFixed(2)} turns` : { quantity: "kerf" as const, value: height },
          { quantity: "length" as const, value: left, decimals: 1 },
        ]),
      },
    ];
    return {
      says: `${rig.method === "screw" ? `${found.turns.toFixed(2)} turns up` : `Spacers of ${show("kerf", found.spacerMm)}`} for a sheet of ${show("kerf", rig.sheet_mm)}; ${found.sheets} from this block.`,
      figures: [
        figureOf("spacer", "Wire over the board", "kerf", found.spacerMm, { why: CALCULATION_SHEET }),
        ...(rig.method === "screw" ? [{ id: "turns", label: "Turns of the screw", value: found.turns.toFixed(2) }] : []),
        { id: "sheets", label: "Sheets from the block", value: String(found.sheets), why: CALCULATION_SHEET },
        figureOf("first", "First slice off", "length", found.firstMm, { decimals: 1 }),
        figureOf("kerf", rig.kerf_mm === null ? "Kerf, computed" : "Kerf, measured", "kerf", found.kerfMm),
        figureOf("push", "Push, by hand or a weight", "force", push, { decimals: 2 }),
        ...(cutter
          ? [
              figureOf("mass", "A sheet weighs", "mass", slabGrams(rig.blockLong_mm, rig.blockWide_mm, rig.sheet_mm, cutter.design.job.foam.density_kg_m3), {
                decimals: 1,
              }),
            ]
          : []),
        { id: "time", label: "A sheet takes", value: `${(rig.blockLong_mm / cut.feedMmS).toFixed(0)} s` },
        ...(panes.sheets.length > 0 ? [{ id: "pane-sheets", label: "Sheets that the panes take", value: String(panes.sheets.length) }] : []),
        ...(rig.price !== null && found.sheets > 0 ? [{ id: "price", label: "A sheet costs", value: (rig.price / found.sheets).toFixed(2) }] : []),
        ...(found.stackKerfMm === null ? [] : [figureOf("stack-kerf", "Kerf by the stack", "kerf", found.stackKerfMm)]),
        ...(found.measuredSheetMm === null ? [] : [figureOf("stack-sheet", "Sheets came out", "kerf", found.measuredSheetMm)]),
      ],
      tables,
      notes: [
        ...notes,
        ...(panes.sheets.length > found.sheets
          ? [
              {
                code: "too-few",
                severity: "caution",
                words: `The panes take ${panes.sheets.length} sheets: this block gives ${found.sheets}.`,
                basis: "published",
                field: "panes_mm",
              } as const,
            ]
          : []),
      ],
    };
  },
  draw: (rig, around, show) => {
    const { spacerMm, kerfMm } = sliced(rig, around);
    const size = Math.max(rig.blockWide_mm * 1.5, rig.block_mm * 2.2);
    const sketch = new Sketch(size);
    const wide = rig.blockWide_mm;
    // From the end: the board, the wire on its two spacers, the block pushed under it. Heights as they are; a thin sheet drawn as thin.
    sketch.box("wood", -wide * 0.25, -size / 20, wide * 1.5, size / 20);
    sketch.box("foam", 0, 0, wide, rig.block_mm);
    for (const x of [-wide * 0.16, wide * 1.06]) sketch.box(rig.spacer === "foil" ? "metal" : "wood", x, 0, wide * 0.1, Math.max(spacerMm, size / 300));
    sketch.line("wire", [
      [-wide * 0.25, spacerMm + around.cut.wireMm / 2],
      [wide * 1.25, spacerMm + around.cut.wireMm / 2],
    ]);
    sketch.line("ways", [
      [0, rig.sheet_mm + kerfMm],
      [wide, rig.sheet_mm + kerfMm],
    ]);
    sketch.measure([0, rig.block_mm], [wide, rig.block_mm], size / 24, show("length", wide));
    sketch.measure([wide, 0], [wide, rig.block_mm], -size / 8, show("length", rig.block_mm));
    sketch.words([-wide * 0.25, spacerMm + size / 40], `wire ${show("kerf", spacerMm)} over the board`, "start");
    sketch.words([0, rig.block_mm + size / 9], "from the end", "start");
    // The sheet as it is marked out, under it.
    const panes = packed(rig.panes_mm, rig.blockLong_mm, rig.blockWide_mm, kerfMm, "panes_mm");
    const [first] = panes.placed;
    if (first) {
      const down = -size / 6 - rig.blockWide_mm;
      sketch.box("foam", 0, down, rig.blockLong_mm, rig.blockWide_mm);
      for (const { x, y, wide: w, high: h, blank } of first) {
        sketch.box("ways", x, down + y, w, h);
        sketch.words([x + w / 2, down + y + h / 2 - sketch.wordsMm / 3], letterOf(Number(blank)), "middle");
      }
      for (const [i, { long, wide: across }] of (panes.sheets[0] ?? []).entries())
        sketch.words(
          [0, down - sketch.wordsMm * (1.4 + 1.3 * i)],
          `${letterOf(rig.panes_mm.findIndex(([l, w]) => l === long && w === across))}: ${show("length", long)} by ${show("length", across)}`,
          "start",
        );
      sketch.words([0, down + rig.blockWide_mm + sketch.wordsMm * 0.5], "the first sheet, marked out", "start");
    }
    return sketch.done("Sheet slicer");
  },
  build: (rig, around, show) => {
    const { spacerMm } = sliced(rig, around);
    return [
      {
        of: "wood",
        words: `A flat board ${show("length", rig.blockWide_mm + 120)} by ${show("length", Math.max(200, rig.blockLong_mm))}, raised ${show("length", 25)} at its middle so that the wire's ends go down past its edges.`,
      },
      ...(rig.method === "spacers"
        ? ([{ of: "hardware", words: `Two stacks of ${rig.spacer}, ${show("kerf", spacerMm)} high: measure ten together and divide.` }] as const)
        : ([
            {
              of: "hardware",
              words: `Two screws of ${show("kerf", rig.pitch_mm)} a turn in loose holes, each with a stop; or one screw within another that lifts the wire.`,
            },
          ] as const)),
      { of: "hardware", words: "Rubber loops or small springs pull both ends of the wire down past the board; 12 mm of wire rolled into each loop." },
      { of: "wiring", words: "Clips on the wire outside both spacers; the spacers must not join them." },
      ...(rig.spacer === "foil" ? ([{ of: "wiring", words: "Foils apart from each other and from anything of metal: they are live." }] as const) : []),
    ];
  },
  logged: [
    { key: "stack", label: "Sheets stacked", quantity: null, min: 1, max: 200 },
    { key: "stack_mm", label: "The stack measured", quantity: "length", min: 0.1, max: 3000 },
    { key: "spacer_mm", label: "Spacer or height", quantity: "kerf", min: 0.05, max: 1000 },
  ],
  example: {
    name: "Thimble for lantern panes",
    cutter: "Thimble",
    notes: "Panes for the lanterns; stack ten, measure, and the kerf is known.",
    rig: { ...start, sheet_mm: 3, block_mm: 60, spacer: "glass" },
  },
};
