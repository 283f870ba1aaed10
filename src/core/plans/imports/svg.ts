import { common, fill, type Rule, united, widened, without } from "../../geometry/offset";
import {
  after,
  apply,
  boundsOf,
  type Line,
  type Outline,
  type Point,
  type Region,
  regionArea,
  scaling,
  type Transform,
  translation,
  withoutDoubles,
} from "../../geometry/points";
import { TOLERANCE } from "../../geometry/tolerance";
import { CoreError } from "../../kernel/errors";
import type { Tell } from "../../kernel/progress";
import { type DrawingUnit, type Imported, type ImportWarning, MOST_DEEP, PointBudget, regionsFrom, requireShort, ringsAsLines, UNITS_MM } from "./imported";
import { joined, many } from "./joined";
import { type Element, lengthOf, numbers, parseSvg, px, transformOf, type Viewport, viewBoxTransform } from "./svgDocument";
import { type DrawnLine, shapeLines } from "./svgShapes";
import { isWhite, luminanceOf, ROOT_STYLE, rulesOf, type Style, type StyleRule, styleOf } from "./svgStyle";

/** Elements that draw nothing by themselves. */
const UNDRAWN = new Set([
  "defs",
  "symbol",
  "clipPath",
  "mask",
  "pattern",
  "marker",
  "linearGradient",
  "radialGradient",
  "metadata",
  "title",
  "desc",
  "style",
  "script",
  "filter",
  "view",
  "animate",
  "animateTransform",
  "set",
  "font",
  "color-profile",
]);
const CONTAINERS = new Set(["svg", "g", "a", "switch"]);

/** A stroke at least this wide that encloses nothing, joined to others or not, is an area of its own; a thinner one is a line. */
const WIDE_STROKE_MM = 1.5;

/** What one element fills, in mm, in the order in which it is painted. */
interface Painted {
  lines: Outline[];
  rule: Rule;
  fill: string;
  stroked: boolean;
  /** what is seen of it lies in all of these */
  clips: readonly Region[][];
}
/** Lines without a fill, in mm. */
interface Stroke {
  lines: DrawnLine[];
  widthMm: number;
  round: boolean;
  clips: readonly Region[][];
}

/** Where the walk is. */
interface Place {
  transform: Transform;
  style: Style;
  viewport: Viewport;
  clips: readonly Region[][];
  deep: number;
}

const spread = ([a, b, c, d]: Transform) => Math.max(Math.hypot(a, b), Math.hypot(c, d), 1e-9);
const clippedBy = (regions: Region[], clips: readonly Region[][]): Region[] => clips.reduce(common, regions);

/** Walks a drawing's elements in the order in which they are painted. */
class Painter {
  readonly painted: Painted[] = [];
  readonly strokes: Stroke[] = [];
  readonly counts = { drawn: 0, text: 0, image: 0, clip: 0, path: 0, other: 0 };
  readonly otherNames = new Set<string>();
  private visits = 0;

  constructor(
    private readonly root: Element,
    private readonly byId: ReadonlyMap<string, Element>,
    private readonly rules: readonly StyleRule[],
    private readonly budget: PointBudget,
  ) {}

  walk(element: Element, place: Place): void {
    this.visits += 1;
    if (place.deep > MOST_DEEP || this.visits > 500_000)
      throw new CoreError("out-of-range", "text", `elements are nested or used in one another more than ${MOST_DEEP} deep`);
    if (element.foreign || UNDRAWN.has(element.name)) return;
    const style = styleOf(element, place.style, this.rules);
    if (!style.shown) return;
    const transform = after(place.transform, transformOf(element.attributes.transform));
    const own = element.name === "use" || CONTAINERS.has(element.name) ? null : shapeLines(element, place.viewport, TOLERANCE.flatten / spread(transform));
    const clips = [...place.clips, ...this.clipsOf(style, transform, place, own?.lines ?? null)];
    const inner: Place = { ...place, transform, style, clips, deep: place.deep + 1 };
    if (element.name === "use") this.use(element, inner);
    else if (CONTAINERS.has(element.name)) this.container(element, inner);
    else this.draw(element, own, inner);
  }

  private use(element: Element, place: Place): void {
    const target = this.byId.get((element.attributes.href ?? "").replace(/^#/, ""));
    if (!target) {
      this.counts.drawn += 1;
      this.counts.other += 1;
      this.otherNames.add("use of something that is not in the file");
      return;
    }
    const at = (name: string) => lengthOf(element, name, place.viewport);
    const transform = after(place.transform, translation(at("x") ?? 0, at("y") ?? 0));
    if (target.name !== "symbol" && target.name !== "svg") {
      this.walk(target, { ...place, transform });
      return;
    }
    const [width, height] = [at("width"), at("height")];
    const laid = {
      ...place,
      transform: after(transform, viewBoxTransform(target, width, height)),
      viewport: viewportOf(target, width, height, place.viewport),
    };
    const style = styleOf(target, place.style, this.rules);
    for (const child of target.children) this.walk(child, { ...laid, style });
  }

  private container(element: Element, place: Place): void {
    let inner = place;
    if (element.name === "svg" && element !== this.root) {
      const at = (name: string) => lengthOf(element, name, place.viewport);
      const [width, height] = [at("width"), at("height")];
      inner = {
        ...place,
        transform: after(after(place.transform, translation(at("x") ?? 0, at("y") ?? 0)), viewBoxTransform(element, width, height)),
        viewport: viewportOf(element, width, height, place.viewport),
      };
    }
    for (const child of element.children) this.walk(child, inner);
  }

  private draw(element: Element, drawn: ReturnType<typeof shapeLines>, { transform, style, clips }: Place): void {
    this.counts.drawn += 1;
    if (!drawn) {
      if (element.name === "text") this.counts.text += 1;
      else if (element.name === "image") this.counts.image += 1;
      else {
        this.counts.other += 1;
        this.otherNames.add(element.name);
      }
      return;
    }
    if (drawn.fault) this.counts.path += 1;
    const lines = drawn.lines.map(({ line, closed }) => ({ line: line.map((point) => apply(transform, point)), closed }));
    for (const { line } of lines) {
      this.budget.take(line.length);
      if (line.some(([x, y]) => !Number.isFinite(x) || !Number.isFinite(y) || Math.abs(x) > 1e7 || Math.abs(y) > 1e7))
        throw new CoreError("out-of-range", "text", "a point of this drawing lies more than 10 km away");
    }
    const stroked = style.stroke !== "none" && style.stroke !== "transparent";
    if (style.fill !== "none" && style.fill !== "transparent" && style.fillOpacity !== 0) {
      // A filled line is closed by its fill.
      const outlines = lines.map(({ line }) => withoutDoubles(line)).filter((line) => line.length > 2);
      if (outlines.length > 0)
        this.painted.push({ lines: outlines, rule: style.fillRule === "evenodd" ? "evenodd" : "nonzero", fill: style.fill, stroked, clips });
      else if (stroked) this.stroke(lines, style, transform, clips);
    } else if (stroked) this.stroke(lines, style, transform, clips);
  }

  private stroke(lines: DrawnLine[], style: Style, transform: Transform, clips: readonly Region[][]): void {
    const [a, b, c, d] = transform;
    // A stroke stretched by its transform is taken at its mean width.
    const widthMm = (px(style.strokeWidth) ?? 1) * Math.sqrt(Math.abs(a * d - b * c));
    this.strokes.push({ lines, widthMm, round: style.strokeEnds === "round", clips });
  }

  /** What an element is clipped to by its clip path and its mask. A clip that cannot be applied is counted. */
  private clipsOf(style: ReturnType<typeof styleOf>, transform: Transform, place: Place, own: readonly DrawnLine[] | null): Region[][] {
    const clips: Region[][] = [];
    for (const [id, kind] of [
      [style.clip, "clipPath"],
      [style.mask, "mask"],
    ] as const) {
      if (id === null) continue;
      const element = this.byId.get(id);
      const region = element?.name === kind ? this.clipRegion(element, kind, transform, place, own) : null;
      if (region) clips.push(region);
      else this.counts.clip += 1;
    }
    return clips;
  }

  private clipRegion(element: Element, kind: "clipPath" | "mask", transform: Transform, place: Place, own: readonly DrawnLine[] | null): Region[] | null {
    let into = after(transform, transformOf(kind === "clipPath" ? element.attributes.transform : undefined));
    if (element.attributes[kind === "clipPath" ? "clipPathUnits" : "maskContentUnits"] === "objectBoundingBox") {
      // A group's own box is not known before all of it is drawn.
      if (!own || own.length === 0) return null;
      const { minX, minY, maxX, maxY } = boundsOf(own.flatMap(({ line }) => line));
      into = after(into, after(translation(minX, minY), scaling(maxX - minX, maxY - minY)));
    }
    const painter = new Painter(this.root, this.byId, this.rules, this.budget);
    const style: Style = { ...ROOT_STYLE, fillRule: "nonzero" };
    for (const child of element.children) painter.walk(child, { transform: into, style, viewport: place.viewport, clips: [], deep: place.deep + 1 });
    const { counts } = painter;
    if (counts.text + counts.image + counts.clip + counts.other > 0) return null;
    if (kind === "clipPath") return united(painter.painted.flatMap(({ lines, rule, clips }) => clippedBy(fill(lines, rule), clips)));
    // A mask shows what is light in it. What is neither black nor white shows through in part.
    if (painter.painted.some(({ fill: colour }) => !isWhite(colour) && luminanceOf(colour) !== 0)) return null;
    return paintedRegions(painter.painted, isWhite);
  }
}

/** User units across and down within an element that has a viewBox of its own. */
function viewportOf(element: Element, width: number | null, height: number | null, outer: Viewport): Viewport {
  const [, , boxWidth = 0, boxHeight = 0] = numbers(element.attributes.viewBox ?? "");
  return boxWidth > 0 && boxHeight > 0 ? { width: boxWidth, height: boxHeight } : { width: width ?? outer.width, height: height ?? outer.height };
}

/** Material after all has been painted in order: what is material covers what is under it, everything else removes it. */
function paintedRegions(painted: readonly Painted[], isMaterial: (fill: string) => boolean): Region[] {
  let regions: Region[] = [];
  let waiting: Region[] = [];
  const flush = () => {
    if (waiting.length === 0) return;
    regions = united([...regions, ...waiting]);
    waiting = [];
  };
  for (const each of painted) {
    const own = clippedBy(fill(each.lines, each.rule), each.clips);
    if (isMaterial(each.fill)) waiting.push(...own);
    else {
      flush();
      if (regions.length > 0) regions = without(regions, own);
    }
  }
  flush();
  return regions;
}

const share = (count: number, of: number) => (of > 0 ? Math.min(1, count / of) : 1);

/**
 * A vector drawing (SVG 1.1 and what of 2 draws the same): all path commands, basic shapes, groups, uses, transforms, units and viewBox; clip paths and masks of black and white; each
 * thing filled by its own rule, all of it painted in order: white shapes over others cut them out. Things with no fill are taken for cut lines and joined; open strokes a millimetre
 * wide and more become outlines. y is turned up.
 * @param unit what a bare number means where the file gives no unit; a pixel of CSS otherwise
 * @throws CoreError `wrong-format` for a text that is no such drawing, `no-solution` where nothing encloses anything
 */
export function readSvg(text: string, unit: DrawingUnit | undefined, gapMm: number, tell?: Tell): Imported {
  requireShort(text);
  tell?.(0, "reading");
  const root = parseSvg(text);
  const notes: string[] = [];
  const warnings: ImportWarning[] = [];
  const byId = new Map<string, Element>();
  const sheets: string[] = [];
  const index = (element: Element) => {
    if (element.attributes.id !== undefined && !byId.has(element.attributes.id)) byId.set(element.attributes.id, element);
    if (element.name === "style") sheets.push(element.text);
    for (const child of element.children) index(child);
  };
  index(root);
  const { rules, passed } = rulesOf(sheets.join("\n"));
  const sized = (name: string) => /[a-z]\s*$/i.test(root.attributes[name] ?? "") && px(root.attributes[name]) !== null;
  // Where the file speaks of millimetres or inches a pixel is what CSS says; where it only has numbers the person may say.
  const mmPerPx = sized("width") || sized("height") || unit === undefined ? UNITS_MM.px : UNITS_MM[unit];
  const [width, height] = [px(root.attributes.width), px(root.attributes.height)];
  const [, , boxWidth = 0, boxHeight = 0] = numbers(root.attributes.viewBox ?? "");
  const high = height ?? (width !== null && boxWidth > 0 ? (width * boxHeight) / boxWidth : boxHeight);
  // y up from the drawing's foot.
  const toMm = after(translation(0, high * mmPerPx), after(scaling(mmPerPx, -mmPerPx), viewBoxTransform(root, width, height)));
  const painter = new Painter(root, byId, rules, new PointBudget());
  painter.walk(root, { transform: toMm, style: ROOT_STYLE, viewport: viewportOf(root, width, height, { width: 0, height: 0 }), clips: [], deep: 0 });
  const { counts, painted } = painter;
  const warn = (code: string, count: number, of: number, message: string) => {
    if (count > 0) warnings.push({ code, message, share: share(count, of) });
  };
  warn("text", counts.text, counts.drawn, `${many(counts.text, "text")} not read: letters are no outlines here. Convert text to paths, then import again`);
  warn("image", counts.image, counts.drawn, `${many(counts.image, "picture")} not read: a picture has no outlines`);
  warn("clip", counts.clip, counts.drawn, `${many(counts.clip, "clip path or mask", "clip paths or masks")} not applied: what is hidden by it is imported too`);
  warn("path", counts.path, counts.drawn, `${many(counts.path, "path")} with a fault in the data: what follows the fault is missing`);
  warn("other", counts.other, counts.drawn, `${many(counts.other, "thing")} not read: ${[...painter.otherNames].join(", ")}`);
  warn(
    "style",
    passed,
    passed + rules.length,
    `${many(passed, "style rule")} not applied, for selecting by more than one name: things may be shown or filled wrongly`,
  );

  // Where everything is white, white is the paper's colour within outlines, not something that covers.
  const allWhite = painted.length > 0 && painted.every(({ fill: colour }) => isWhite(colour));
  const [outlined, filled] = [painted.filter(({ stroked }) => allWhite && stroked), painted.filter(({ stroked }) => !(allWhite && stroked))];
  const material = ringsAsLines(paintedRegions(filled, allWhite ? () => true : (colour) => !isWhite(colour)), warnings);
  if (!allWhite) {
    const white = filled.filter(({ fill: colour }) => isWhite(colour)).length;
    if (white > 0) notes.push(`cut out: ${many(white, "white shape")} from what lies under`);
  } else if (filled.length > 0) warn("all-white", filled.length, counts.drawn, "all fills are white: they are taken as material");

  const strokes = [
    ...painter.strokes,
    ...outlined.map(({ lines, clips }) => ({ lines: lines.map((line) => ({ line, closed: true })), widthMm: 0, round: false, clips })),
  ];
  const cut = strokesRegions(strokes, gapMm, notes, warnings, counts.drawn);
  // A line drawn on material is not seen in the union: say so instead of dropping it.
  const hidden = cut.filter((region) => regionArea(region) > 0 && material.length > 0 && areaOf(common([region], material)) > 0.99 * regionArea(region));
  warn(
    "line-on-fill",
    hidden.length,
    counts.drawn,
    `${many(hidden.length, "outline")} without a fill within filled shapes: not cut. Fill it white to make it a hole`,
  );
  tell?.(0.8, "finding what encloses what");
  return regionsFrom([material, cut.filter((region) => !hidden.includes(region))], notes, warnings);
}

const areaOf = (regions: readonly Region[]): number => regions.reduce((sum, region) => sum + regionArea(region), 0);

/** What lines without a fill enclose, once joined; those that are wide and enclose nothing as areas of their own. */
function strokesRegions(strokes: readonly Stroke[], gapMm: number, notes: string[], warnings: ImportWarning[], drawn: number): Region[] {
  if (strokes.length === 0) return [];
  const lines: Line[] = [];
  const strokeOf = new WeakMap<Point, Stroke>();
  for (const stroke of strokes) {
    for (const { line, closed } of stroke.lines) {
      for (const point of line) strokeOf.set(point, stroke);
      lines.push(closed ? [...line, line[0] as Point] : line);
    }
  }
  const clipped = strokes.filter(({ clips }) => clips.length > 0).length;
  if (clipped > 0)
    warnings.push({ code: "clip", message: `${many(clipped, "line")} imported whole, although a clip path hides a part`, share: share(clipped, drawn) });
  const { closed, open, notes: done } = joined(lines, gapMm);
  notes.push(`taken as lines to cut along: ${strokes.length} things without a fill`, ...done);
  const isWide = (line: Line) => (strokeOf.get(line[0] as Point)?.widthMm ?? 0) >= WIDE_STROKE_MM;
  const wide = open.filter(isWide).flatMap((line) => {
    const { widthMm, round } = strokeOf.get(line[0] as Point) as Stroke;
    return widened(line, widthMm, round);
  });
  if (wide.length > 0) notes.push(`widened: ${wide.length} strokes of ${WIDE_STROKE_MM} mm and more that enclose nothing, to outlines`);
  const lost = open.filter((line) => !isWide(line)).length;
  if (lost > 0)
    warnings.push({
      code: "open-line",
      message: `${many(lost, "line")} not imported: nothing is enclosed, and the ends are more than ${gapMm} mm apart`,
      share: share(lost, open.length + closed.length),
    });
  return [...wide, ...(closed.length > 0 ? fill(closed, "evenodd") : [])];
}
