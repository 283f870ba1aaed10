import { z } from "zod";
import {
  after,
  apply,
  boundsOf,
  heightsAt,
  linesOf,
  type Outline,
  type Point,
  perimeter,
  type Region,
  regionArea,
  scaling,
  transformed,
  translation,
  turning,
} from "../geometry/points";
import { TOLERANCE } from "../geometry/tolerance";
import { bounded, boundedWhole } from "../kernel/bounded";
import type { Warning } from "../kernel/errors";
import { exactlyOne, type Verb, verb, withWarnings } from "../kernel/verb";
import { foamSchema } from "../materials/foamSchema";
import { resolveFoam } from "../materials/foams";
import { resolveWire } from "../physics/heat/wire";
import { wireSchema } from "../physics/heat/wireSchema";
import { ambient, figure } from "../units/figure";
import { allowanceMm, guideOf, lossesOf, thickest } from "./guide";
import { readCoordinates } from "./imports/coordinates";
import { readDxf } from "./imports/dxf";
import { type ImportWarning, sizeOf, UNITS_MM } from "./imports/imported";
import { readSvg } from "./imports/svg";
import type { OutDrawing } from "./outputs/drawing";
import { writeDxf } from "./outputs/dxf";
import { writeSvg } from "./outputs/svg";
import { chordOf } from "./place";
import { drawShape, shapeSchema } from "./shapes";
import { toChord } from "./shapes/given";
import { faceLine, MOST_PARTS, MOST_STATIONS, type Station, stationsOf } from "./stations";
import { leastTaper, type TaperEnd, taperEnds } from "./taper";

const chord = figure("chord_mm");
const asPairs = (points: readonly Point[]) => points.map(([x, y]) => [x, y]);

const sectionVerb = verb(
  "section",
  "A shape drawn at a chord: its outline, the heights of its faces at shares of the chord, area, perimeter and greatest thickness.",
  z.strictObject({
    section: shapeSchema,
    chord_mm: chord.optional(),
    at: z
      .array(
        z
          .number()
          .min(0, { error: "must be a number from 0 to 1 (share of the chord)" })
          .max(1, { error: "must be a number from 0 to 1 (share of the chord)" }),
      )
      .max(10_000, { error: "has room for 10000 places" })
      .default([]),
  }),
  { section: { kind: "naca4", code: "2412" }, chord_mm: 200, at: [0.0125, 0.3, 0.9] },
  ({ section, chord_mm, at }) => {
    const { regions, notes, nose, tail } = drawShape(section, chord_mm);
    const { outline } = regions[0] as Region;
    const { minX, maxX } = boundsOf(regions.flatMap((region) => region.outline));
    const length = chord_mm ?? maxX - minX;
    // A numbered section is measured on its own chord line, which begins at 0 though a cambered nose may reach before it.
    const from = section.kind === "naca4" || section.kind === "naca5" ? 0 : minX;
    const heights = at.map((share) => heightsAt(outline, Math.min(maxX, Math.max(minX, from + share * length))));
    return {
      outline_mm: asPairs(outline),
      holes_mm: regions[0]?.holes.map(asPairs) ?? [],
      ...(regions.length > 1 ? { more: regions.slice(1).map((region) => ({ outline_mm: asPairs(region.outline), holes_mm: region.holes.map(asPairs) })) } : {}),
      upper_mm: heights.map((each) => each?.upper ?? null),
      lower_mm: heights.map((each) => each?.lower ?? null),
      area_mm2: regions.reduce((sum, region) => sum + regionArea(region), 0),
      perimeter_mm: regions.reduce((sum, region) => sum + linesOf(region).reduce((all, line) => all + perimeter(line), 0), 0),
      thickness_mm: Math.max(...regions.map((region) => thickest(region.outline).thicknessMm)),
      nose_mm: [...nose],
      tail_mm: { upper: [...tail.upper], lower: [...tail.lower] },
      ...(notes.length > 0 ? { notes } : {}),
    };
  },
);

const importVerb = verb(
  "import",
  "A drawing read: what it fills, as outlines with their holes in mm; what was joined, dropped and closed on the way; and, as warnings, what was not read, each with the share of the drawing that it concerns.",
  z.strictObject({
    format: z.enum(["svg", "dxf", "coordinates"], { error: "must be one of svg, dxf, coordinates" }),
    text: z.string({ error: "is required: the text of the file" }),
    unit: z.enum(["mm", "in", "cm", "px"], { error: "must be one of mm, in, cm, px" }).optional(),
    chord_mm: chord.optional(),
    gap_mm: z
      .number({ error: "must be a number from 0 to 10 mm" })
      .min(0, { error: "must be a number from 0 to 10 mm" })
      .max(10, { error: "must be a number from 0 to 10 mm" })
      .default(TOLERANCE.gap),
  }),
  {
    format: "svg",
    text: '<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="20mm" viewBox="0 0 40 20"><rect x="5" y="5" width="30" height="10" rx="2"/></svg>',
  },
  ({ format, text, unit, chord_mm, gap_mm }) => {
    let regions: readonly Region[];
    let notes: string[];
    let warnings: ImportWarning[];
    if (format === "coordinates") {
      const read = readCoordinates(text);
      ({ notes, warnings } = read);
      const scale = chord_mm === undefined ? UNITS_MM[unit ?? "mm"] : 1;
      if (chord_mm === undefined && unit === undefined) notes.push("unit: the file does not say, millimetres taken");
      regions = [{ outline: transformed(read.outline, scaling(scale)), holes: [] }];
    } else {
      const read = format === "svg" ? readSvg(text, unit, gap_mm) : readDxf(text, unit, gap_mm);
      ({ regions, notes, warnings } = read);
    }
    if (chord_mm !== undefined) regions = toChord(regions, chord_mm, true);
    return {
      shapes: regions.map((region) => {
        const { widthMm, heightMm } = sizeOf(region);
        return { outline_mm: asPairs(region.outline), holes_mm: region.holes.map(asPairs), width_mm: widthMm, height_mm: heightMm, notes };
      }),
      notes,
      warnings,
    };
  },
);

const endFields = ({ feedMmS, cut }: TaperEnd, wireMm: number) => ({
  feed_mm_s: feedMmS,
  kerf_mm: cut.kerfM * 1000,
  feedRatio: cut.feedRatio,
  wireTemperature_C: cut.wireC,
  allowance_mm: allowanceMm("edge", cut.kerfM * 1000, wireMm, 0),
  verdict: cut.verdict,
});

const taperVerb = verb(
  "taper",
  "Both ends of a tapered part under one heat: the slower end cuts wider and hotter. leastRatio is the taper below which no one heat is clean at both ends: it drags at the root, or cuts wide or smokes at the tip.",
  z
    .strictObject({
      wire: wireSchema,
      foam: foamSchema,
      ambient_C: ambient,
      current_A: figure("drivingCurrent_A").optional(),
      power_W_per_m: figure("power_W_per_m").optional(),
      rootFeed_mm_s: figure("feed_mm_s"),
      maxKerf_mm: figure("maxKerf_mm").default(2.5),
      ratio: z
        .number({ error: "must be a number from 0.02 to 50" })
        .min(0.02, { error: "must be a number from 0.02 to 50" })
        .max(50, { error: "must be a number from 0.02 to 50" }),
    })
    .superRefine(exactlyOne("current_A", "power_W_per_m")),
  { wire: { alloy: "ss-304", diameter_mm: 0.64 }, foam: "eps-18", power_W_per_m: 44, rootFeed_mm_s: 6.5, ratio: 0.6 },
  (input) => {
    const pair = { wire: resolveWire(input.wire), foam: resolveFoam(input.foam), ambientC: input.ambient_C };
    const heat = input.current_A === undefined ? { powerWPerM: input.power_W_per_m as number } : { currentA: input.current_A };
    const { root, tip } = taperEnds(pair, heat, input.rootFeed_mm_s, input.ratio);
    const least = leastTaper(pair, input.rootFeed_mm_s, input.maxKerf_mm / 1000);
    const wireMm = pair.wire.outerDiameterM * 1000;
    const seen = new Map([...root.cut.warnings, ...tip.cut.warnings].map((warning) => [warning.code, warning]));
    return withWarnings(
      { root: endFields(root, wireMm), tip: endFields(tip, wireMm), leastRatio: least?.leastRatio ?? null, leastRatioHeat_W_per_m: least?.powerWPerM ?? null },
      [...seen.values()],
    );
  },
);

const templateVerb = verb(
  "template",
  "The line a wire is led along for one end of a part: the shape's outline, or one face with its run-out, set off by the allowance; what is lost; as SVG and DXF in mm.",
  z.strictObject({
    section: shapeSchema,
    chord_mm: chord.optional(),
    wire: wireSchema,
    kerf_mm: figure("maxKerf_mm"),
    skin_mm: z
      .number({ error: "must be a number from 0 to 50 mm" })
      .min(0, { error: "must be a number from 0 to 50 mm" })
      .max(50, { error: "must be a number from 0 to 50 mm" })
      .default(0),
    guidance: z.enum(["edge", "centre"], { error: "must be edge or centre" }).default("edge"),
    face: z.enum(["whole", "lower", "upper"], { error: "must be one of whole, lower, upper" }).default("whole"),
    runOut_mm: z
      .number({ error: "must be a number from 0 to 500 mm" })
      .min(0, { error: "must be a number from 0 to 500 mm" })
      .max(500, { error: "must be a number from 0 to 500 mm" })
      .default(25),
    formats: z
      .array(z.enum(["svg", "dxf"], { error: "must be svg or dxf" }))
      .max(2, { error: "has room for svg and dxf" })
      .default([]),
  }),
  { section: { kind: "naca4", code: "2412" }, chord_mm: 200, wire: { alloy: "ss-304", diameter_mm: 0.64 }, kerf_mm: 1.4, face: "upper" },
  (input) => {
    const wireMm = resolveWire(input.wire).outerDiameterM * 1000;
    const offMm = allowanceMm(input.guidance, input.kerf_mm, wireMm, input.skin_mm);
    const drawn = drawShape(input.section, input.chord_mm);
    const guide = guideOf(drawn, { face: input.face, offMm, runOutMm: input.runOut_mm });
    const whole = input.face === "whole";
    const drawing: OutDrawing = {
      title: "template",
      lines: [
        ...(whole
          ? guide.regions.flatMap(linesOf).map((points) => ({ layer: "guide", points, closed: true }))
          : [{ layer: "guide", points: guide.line, closed: false }]),
        ...drawn.regions.flatMap(linesOf).map((points: Outline) => ({ layer: "finished part", points, closed: true })),
      ],
      texts: [],
    };
    const warnings: Warning[] = [];
    if (input.kerf_mm < wireMm)
      warnings.push({
        code: "kerf-under-wire",
        message: `A kerf of ${input.kerf_mm} mm is narrower than the wire, ${wireMm.toFixed(3)} mm: no wire leaves that.`,
      });
    const losses = lossesOf(drawn.regions, offMm, Math.max(0, offMm));
    for (const loss of losses.slice(0, 20)) {
      const where = `at ${loss.at[0].toFixed(1)}, ${loss.at[1].toFixed(1)} mm`;
      warnings.push(
        loss.kind === "left"
          ? {
              code: "corner-left",
              message: `An inner corner ${where} is tighter than the wire can make: up to ${loss.depthMm.toFixed(2)} mm of foam stays in it.`,
            }
          : {
              code: "nose-taken",
              message: `A place ${where} is too thin for a guide ${Math.abs(offMm).toFixed(2)} mm inside it: up to ${loss.depthMm.toFixed(2)} mm is lost there.`,
            },
      );
    }
    if (drawn.regions.length > guide.regions.length)
      warnings.push({
        code: "run-together",
        message: `Of ${drawn.regions.length} shapes ${guide.regions.length} guides are left: some lie closer than the kerf and run together, or vanish.`,
      });
    return withWarnings(
      {
        allowance_mm: offMm,
        guide_mm: asPairs(guide.line),
        ...(whole && (guide.regions.length > 1 || (guide.regions[0]?.holes.length ?? 0) > 0) ? { guides_mm: guide.regions.flatMap(linesOf).map(asPairs) } : {}),
        losses: losses.map(({ at, depthMm, areaMm2, kind }) => ({ at: [...at], depth_mm: depthMm, area_mm2: areaMm2, kind })),
        ...(input.formats.length > 0
          ? {
              files: {
                ...(input.formats.includes("svg") ? { svg: writeSvg(drawing) } : {}),
                ...(input.formats.includes("dxf") ? { dxf: writeDxf(drawing) } : {}),
              },
            }
          : {}),
      },
      warnings,
    );
  },
);

const stationEnd = z.strictObject({ section: shapeSchema, chord_mm: chord.optional() });
const pairSchema = z.tuple([boundedWhole(0, 10_000), boundedWhole(0, 10_000)], {
  error: "must be [which corner at the root, which at the tip], counted from 0",
});

const stationsVerb = verb(
  "stations",
  "Numbered marks on both ends of a part, matched at the nose and at corners, by equal shares of arc length between; each number split in parts. Corners that do not pair are reported, and pairs may be given.",
  z.strictObject({
    root: stationEnd,
    tip: stationEnd,
    face: z.enum(["whole", "upper", "lower"], { error: "must be one of whole, upper, lower" }),
    count: boundedWhole(1, MOST_STATIONS),
    parts: boundedWhole(1, MOST_PARTS).default(4),
    washout_deg: bounded(-45, 45, "degrees").default(0),
    washoutAt: bounded(0, 1, "(share of the chord)").default(0.25),
    sweep_mm: bounded(-5000, 5000, "mm").default(0),
    offset_mm: bounded(-5000, 5000, "mm").default(0),
    feed_mm_s: figure("feed_mm_s").optional(),
    pairs: z.array(pairSchema).max(1000, { error: "has room for 1000 pairs" }).default([]),
  }),
  {
    root: { section: { kind: "naca4", code: "2415" }, chord_mm: 320 },
    tip: { section: { kind: "naca4", code: "0012" }, chord_mm: 180 },
    face: "upper",
    count: 4,
    parts: 2,
    feed_mm_s: 6.5,
  },
  (input) => {
    const [root, tip] = [drawShape(input.root.section, input.root.chord_mm), drawShape(input.tip.section, input.tip.chord_mm)];
    const found = stationsOf(faceLine(root, input.face), faceLine(tip, input.face), input.count, input.parts, input.pairs);
    const tipChord = input.tip.chord_mm ?? chordOf(tip);
    const place = after(translation(input.sweep_mm, input.offset_mm), turning(input.washout_deg, [input.washoutAt * tipChord, 0]));
    const row = ({ label, root: at, tip: there, rootAlongMm, tipAlongMm, at: kind }: Station) => ({
      label,
      root: [...at],
      tip: [...apply(place, there)],
      rootAlong_mm: rootAlongMm,
      tipAlong_mm: tipAlongMm,
      ...(input.feed_mm_s === undefined ? {} : { time_s: rootAlongMm / input.feed_mm_s }),
      ...(kind === null ? {} : { at: kind }),
    });
    const warnings: Warning[] = found.leftOver.map(({ end, index, at }) => ({
      code: "unpaired-corner",
      message: `corner ${index} of the ${end}, at ${at[0].toFixed(1)}, ${at[1].toFixed(1)} mm, has none to go with at the other end: pair it by hand, or it is passed between numbers`,
    }));
    return withWarnings(
      {
        stations: found.stations.filter(({ whole: is }) => is).map(row),
        parts: found.stations.filter(({ whole: is }) => !is).map(row),
        leftOver: found.leftOver.map(({ end, index, at }) => ({ end, index, at: [...at] })),
        rootLength_mm: found.rootLengthMm,
        tipLength_mm: found.tipLengthMm,
        ratio: found.tipLengthMm / found.rootLengthMm,
      },
      warnings,
    );
  },
);

export const PLAN_VERBS: readonly Verb[] = [sectionVerb, importVerb, taperVerb, templateVerb, stationsVerb];
