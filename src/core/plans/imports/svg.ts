import { XMLParser, XMLValidator } from "fast-xml-parser";
import svgpath from "svgpath";
import { arcSteps, cubicPoints, quadraticPoints } from "../../geometry/flatten";
import type { Rule } from "../../geometry/offset";
import {
  after,
  apply,
  IDENTITY,
  type Line,
  type Outline,
  type Point,
  scaling,
  type Transform,
  translation,
  turning,
  withoutDoubles,
} from "../../geometry/points";
import { TOLERANCE } from "../../geometry/tolerance";
import { CoreError } from "../../kernel/errors";
import type { Tell } from "../../kernel/progress";
import { type DrawingUnit, type Imported, MOST_DEEP, PointBudget, regionsFrom, requireShort, UNITS_MM } from "./imported";
import { joined } from "./joined";

/** One element: its name, attributes and children in order. */
interface Element {
  name: string;
  attributes: Readonly<Record<string, string>>;
  children: Element[];
  text: string;
}

/** Lengths with a unit, in px (CSS: 96 to the inch). */
const UNIT_PX: Readonly<Record<string, number>> = { px: 1, "": 1, in: 96, cm: 96 / 2.54, mm: 96 / 25.4, q: 96 / 101.6, pt: 96 / 72, pc: 16 };

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
]);
const CONTAINERS = new Set(["svg", "g", "a", "switch"]);
/** What a thing drawn inherits from what it stands in. */
interface Style {
  fill: string;
  fillRule: string;
  stroke: string;
  shown: boolean;
}

interface StyleRule {
  match: (element: Element) => boolean;
  weight: number;
  declarations: Record<string, string>;
}

function parse(text: string): Element {
  const valid = XMLValidator.validate(text, { allowBooleanAttributes: true });
  if (valid !== true) throw new CoreError("wrong-format", "text", `this is no vector drawing that can be read: ${valid.err.msg} (line ${valid.err.line})`);
  const raw = new XMLParser({
    preserveOrder: true,
    ignoreAttributes: false,
    attributeNamePrefix: "",
    allowBooleanAttributes: true,
    parseAttributeValue: false,
    parseTagValue: false,
    // Entities a file declares could grow without end; a drawing's geometry needs none.
    processEntities: false,
    maxNestedTags: 10_000,
  }).parse(text) as Record<string, unknown>[];
  const build = (node: Record<string, unknown>, deep: number): Element | null => {
    if (deep > 4 * MOST_DEEP) throw new CoreError("out-of-range", "text", `elements stand in one another more than ${4 * MOST_DEEP} deep`);
    const key = Object.keys(node).find((each) => each !== ":@");
    if (!key || key.startsWith("?") || key.startsWith("#")) return null;
    const inner = node[key] as Record<string, unknown>[];
    return {
      name: key.replace(/^.*:/, ""),
      attributes: Object.fromEntries(
        Object.entries((node[":@"] as Record<string, string> | undefined) ?? {}).map(([name, value]) => [name.replace(/^xlink:/, ""), String(value)]),
      ),
      children: Array.isArray(inner) ? inner.map((each) => build(each, deep + 1)).filter((each) => each !== null) : [],
      text: Array.isArray(inner) ? inner.map((each) => ("#text" in each ? String(each["#text"]) : "")).join("") : "",
    };
  };
  const root = raw.map((node) => build(node, 0)).find((each) => each?.name === "svg");
  if (!root) throw new CoreError("wrong-format", "text", "this is no vector drawing: it has no svg element");
  return root;
}

const LENGTH = /^\s*([-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?)\s*([a-z%]*)\s*$/i;
/** A length in px; null where it is none or a share of something. */
function px(text: string | undefined): number | null {
  const found = LENGTH.exec(text ?? "");
  const unit = UNIT_PX[(found?.[2] ?? "").toLowerCase()];
  return found && unit !== undefined ? Number(found[1]) * unit : null;
}
const number = (element: Element, name: string, otherwise = 0): number => px(element.attributes[name]) ?? otherwise;
const numbers = (text: string): number[] => (text.match(/[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?/gi) ?? []).map(Number);

function declarationsOf(text: string): Record<string, string> {
  const found: Record<string, string> = {};
  for (const each of text.split(";")) {
    const colon = each.indexOf(":");
    if (colon > 0)
      found[each.slice(0, colon).trim().toLowerCase()] = each
        .slice(colon + 1)
        .replace("!important", "")
        .trim();
  }
  return found;
}

/** Rules of a style sheet that name one element, class or id; the others are counted. */
function rulesOf(text: string, notes: string[]): StyleRule[] {
  const rules: StyleRule[] = [];
  let passed = 0;
  for (const [, selectors, body] of text
    .replaceAll(/\/\*[\s\S]*?\*\//g, "")
    .replaceAll(/<!\[CDATA\[|\]\]>/g, "")
    .matchAll(/([^{}]+)\{([^{}]*)\}/g)) {
    for (const selector of (selectors ?? "").split(",").map((each) => each.trim())) {
      const found = /^([a-z]*)?(?:([.#])([\w-]+))?$/i.exec(selector);
      if (!found || selector === "") {
        passed += 1;
        continue;
      }
      const [, tag, sign, name] = found;
      rules.push({
        match: (element) =>
          (!tag || element.name === tag) &&
          (!sign || (sign === "#" ? element.attributes.id === name : (element.attributes.class ?? "").split(/\s+/).includes(name ?? ""))),
        weight: (tag ? 1 : 0) + (sign === "." ? 10 : sign === "#" ? 100 : 0),
        declarations: declarationsOf(body ?? ""),
      });
    }
  }
  if (passed > 0) notes.push(`refused: ${passed} style rules that name more than one thing`);
  return rules.sort((a, b) => a.weight - b.weight);
}

function transformOf(text: string | undefined): Transform {
  let transform: Transform = IDENTITY;
  for (const [, name, inner] of (text ?? "").matchAll(/([a-z]+)\s*\(([^)]*)\)/gi)) {
    const n = numbers(inner ?? "");
    const [a = 0, b = 0, c = 0, d = 0, e = 0, f = 0] = n;
    const tan = (degrees: number) => Math.tan((degrees * Math.PI) / 180);
    const next: Transform | null =
      name === "matrix" && n.length === 6
        ? [a, b, c, d, e, f]
        : name === "translate"
          ? translation(a, b)
          : name === "scale"
            ? scaling(a, n.length > 1 ? b : a)
            : name === "rotate"
              ? turning(a, [b, c])
              : name === "skewX"
                ? [1, 0, tan(a), 1, 0, 0]
                : name === "skewY"
                  ? [1, tan(a), 0, 1, 0, 0]
                  : null;
    if (next) transform = after(transform, next);
  }
  return transform;
}

/** An elliptic arc's points after its first (SVG 1.1, appendix F.6). */
function svgArc(from: Point, rx0: number, ry0: number, turnDeg: number, large: boolean, sweep: boolean, to: Point, tolerance: number): Point[] {
  if (from[0] === to[0] && from[1] === to[1]) return [];
  let [rx, ry] = [Math.abs(rx0), Math.abs(ry0)];
  if (rx === 0 || ry === 0) return [to];
  const [cos, sin] = [Math.cos((turnDeg * Math.PI) / 180), Math.sin((turnDeg * Math.PI) / 180)];
  const [dx, dy] = [(from[0] - to[0]) / 2, (from[1] - to[1]) / 2];
  const [x1, y1] = [cos * dx + sin * dy, -sin * dx + cos * dy];
  const lambda = (x1 / rx) ** 2 + (y1 / ry) ** 2;
  if (lambda > 1) [rx, ry] = [rx * Math.sqrt(lambda), ry * Math.sqrt(lambda)];
  const under = (rx * ry) ** 2 - (rx * y1) ** 2 - (ry * x1) ** 2;
  const k = (large === sweep ? -1 : 1) * Math.sqrt(Math.max(0, under / ((rx * y1) ** 2 + (ry * x1) ** 2)));
  const [cx1, cy1] = [(k * rx * y1) / ry, (-k * ry * x1) / rx];
  const [cx, cy] = [cos * cx1 - sin * cy1 + (from[0] + to[0]) / 2, sin * cx1 + cos * cy1 + (from[1] + to[1]) / 2];
  const start = Math.atan2((y1 - cy1) / ry, (x1 - cx1) / rx);
  let angle = Math.atan2((-y1 - cy1) / ry, (-x1 - cx1) / rx) - start;
  if (sweep && angle < 0) angle += 2 * Math.PI;
  if (!sweep && angle > 0) angle -= 2 * Math.PI;
  const steps = arcSteps(Math.max(rx, ry), angle, tolerance);
  return Array.from({ length: steps }, (_, i) => {
    if (i === steps - 1) return to;
    const at = start + (angle * (i + 1)) / steps;
    const [x, y] = [rx * Math.cos(at), ry * Math.sin(at)];
    return [cx + cos * x - sin * y, cy + sin * x + cos * y] as const;
  });
}

interface Drawn {
  line: Line;
  closed: boolean;
}

/** A path's lines in its own coordinates. `fault` says where its data ends early: what stands before is drawn, as the standard asks. */
function pathLines(d: string, tolerance: number): { lines: Drawn[]; fault: boolean } {
  const path = svgpath(d);
  const lines: Drawn[] = [];
  let line: Point[] = [];
  let here: Point = [0, 0];
  let begun: Point = [0, 0];
  const end = (closed: boolean) => {
    if (line.length > 1) lines.push({ line, closed });
    line = [];
  };
  const go = (points: readonly Point[]) => {
    if (line.length === 0) line.push(here);
    for (const point of points) line.push(point);
    here = line.at(-1) as Point;
  };
  path
    .abs()
    .unshort()
    .iterate(([command, ...n]) => {
      const [a, b, c, e, f, g, h] = n as number[] as [number, number, number, number, number, number, number];
      switch (command) {
        case "M":
          end(false);
          here = [a, b];
          begun = here;
          break;
        case "L":
          go([[a, b]]);
          break;
        case "H":
          go([[a, here[1]]]);
          break;
        case "V":
          go([[here[0], a]]);
          break;
        case "C":
          go(cubicPoints(here, [a, b], [c, e], [f, g], tolerance));
          break;
        case "Q":
          go(quadraticPoints(here, [a, b], [c, e], tolerance));
          break;
        case "A":
          go(svgArc(here, a, b, c, Boolean(e), Boolean(f), [g, h], tolerance));
          break;
        case "Z":
        case "z":
          end(true);
          here = begun;
          break;
      }
    });
  end(false);
  return { lines, fault: Boolean((path as unknown as { err?: string }).err) };
}

/** What a basic shape draws; null for another element. */
function shapeLines(element: Element, tolerance: number): { lines: Drawn[]; fault: boolean } | null {
  const round = (cx: number, cy: number, rx: number, ry: number): Drawn[] => {
    if (!(rx > 0 && ry > 0)) return [];
    const steps = 4 * Math.ceil(arcSteps(Math.max(rx, ry), 2 * Math.PI, tolerance) / 4);
    return [
      {
        line: Array.from({ length: steps }, (_, i): Point => [cx + rx * Math.cos((2 * Math.PI * i) / steps), cy + ry * Math.sin((2 * Math.PI * i) / steps)]),
        closed: true,
      },
    ];
  };
  const pairs = () => {
    const n = numbers(element.attributes.points ?? "");
    return Array.from({ length: n.length >> 1 }, (_, i): Point => [n[2 * i] as number, n[2 * i + 1] as number]);
  };
  switch (element.name) {
    case "path":
      return pathLines(element.attributes.d ?? "", tolerance);
    case "rect": {
      const [x, y, w, h] = ["x", "y", "width", "height"].map((name) => number(element, name)) as [number, number, number, number];
      if (!(w > 0 && h > 0)) return { lines: [], fault: false };
      const [rx0, ry0] = [px(element.attributes.rx), px(element.attributes.ry)];
      const rx = Math.min(w / 2, rx0 ?? ry0 ?? 0);
      const ry = Math.min(h / 2, ry0 ?? rx0 ?? 0);
      if (!(rx > 0 && ry > 0)) {
        return {
          lines: [
            {
              line: [
                [x, y],
                [x + w, y],
                [x + w, y + h],
                [x, y + h],
              ],
              closed: true,
            },
          ],
          fault: false,
        };
      }
      return pathLines(
        `M${x + rx} ${y}H${x + w - rx}A${rx} ${ry} 0 0 1 ${x + w} ${y + ry}V${y + h - ry}A${rx} ${ry} 0 0 1 ${x + w - rx} ${y + h}H${x + rx}A${rx} ${ry} 0 0 1 ${x} ${y + h - ry}V${y + ry}A${rx} ${ry} 0 0 1 ${x + rx} ${y}Z`,
        tolerance,
      );
    }
    case "circle":
      return { lines: round(number(element, "cx"), number(element, "cy"), number(element, "r"), number(element, "r")), fault: false };
    case "ellipse":
      return { lines: round(number(element, "cx"), number(element, "cy"), number(element, "rx"), number(element, "ry")), fault: false };
    case "line":
      return {
        lines: [
          {
            line: [
              [number(element, "x1"), number(element, "y1")],
              [number(element, "x2"), number(element, "y2")],
            ],
            closed: false,
          },
        ],
        fault: false,
      };
    case "polyline":
      return { lines: [{ line: pairs(), closed: false }], fault: false };
    case "polygon":
      return { lines: [{ line: pairs(), closed: true }], fault: false };
    default:
      return null;
  }
}

const spread = ([a, b, c, d]: Transform) => Math.max(Math.hypot(a, b), Math.hypot(c, d), 1e-9);

/** How a viewBox is laid into a width and height. */
function viewBoxTransform(element: Element, width: number | null, height: number | null): Transform {
  const box = numbers(element.attributes.viewBox ?? "");
  const [x = 0, y = 0, w = 0, h = 0] = box;
  if (box.length !== 4 || !(w > 0 && h > 0)) return IDENTITY;
  const wide = width ?? (height === null ? w : (height * w) / h);
  const high = height ?? (width === null ? h : (width * h) / w);
  const fit = element.attributes.preserveAspectRatio ?? "xMidYMid meet";
  if (fit.trim().startsWith("none")) return after(scaling(wide / w, high / h), translation(-x, -y));
  const scale = fit.includes("slice") ? Math.max(wide / w, high / h) : Math.min(wide / w, high / h);
  const room = (axis: "x" | "y", left: number) =>
    fit.includes(`${axis === "x" ? "x" : "Y"}Min`) ? 0 : fit.includes(`${axis === "x" ? "x" : "Y"}Max`) ? left : left / 2;
  return after(translation(room("x", wide - w * scale), room("y", high - h * scale)), after(scaling(scale), translation(-x, -y)));
}

/**
 * A vector drawing (SVG 1.1 and what of 2 draws the same): all path commands, basic shapes, groups, uses, transforms, units and viewBox; each thing filled by its own rule, all of it united.
 * Things with no fill are taken for cut lines and joined. y is turned up.
 * @param unit what a bare number means where the file gives no unit; a pixel of CSS otherwise
 * @throws CoreError `wrong-format` for a text that is no such drawing, `no-solution` where nothing encloses anything
 */
export function readSvg(text: string, unit: DrawingUnit | undefined, gapMm: number, tell?: Tell): Imported {
  requireShort(text);
  tell?.(0, "reading");
  const root = parse(text);
  const notes: string[] = [];
  const byId = new Map<string, Element>();
  const sheets: string[] = [];
  const index = (element: Element) => {
    if (element.attributes.id !== undefined && !byId.has(element.attributes.id)) byId.set(element.attributes.id, element);
    if (element.name === "style") sheets.push(element.text);
    for (const child of element.children) index(child);
  };
  index(root);
  const rules = rulesOf(sheets.join("\n"), notes);
  const sized = (name: string) => /[a-z]\s*$/i.test(root.attributes[name] ?? "") && px(root.attributes[name]) !== null;
  // Where the file speaks of millimetres or inches a pixel is what CSS says; where it only has numbers the person may say.
  const mmPerPx = sized("width") || sized("height") || unit === undefined ? UNITS_MM.px : UNITS_MM[unit];
  const [width, height] = [px(root.attributes.width), px(root.attributes.height)];
  const [, , boxWidth = 0, boxHeight = 0] = numbers(root.attributes.viewBox ?? "");
  const high = height ?? (width !== null && boxWidth > 0 ? (width * boxHeight) / boxWidth : boxHeight);
  // y up from the drawing's foot.
  const toMm = after(translation(0, high * mmPerPx), after(scaling(mmPerPx, -mmPerPx), viewBoxTransform(root, width, height)));
  const budget = new PointBudget();
  const sets: { lines: Outline[]; rule: Rule }[] = [];
  const loose: Line[] = [];
  const counts = { text: 0, image: 0, clip: 0, path: 0, stroked: 0 };

  const styleOf = (element: Element, from: Style): Style => {
    const own: Record<string, string> = {};
    for (const name of ["fill", "fill-rule", "stroke", "display", "visibility"]) {
      const value = element.attributes[name];
      if (value !== undefined) own[name] = value;
    }
    for (const rule of rules) if (rule.match(element)) Object.assign(own, rule.declarations);
    Object.assign(own, declarationsOf(element.attributes.style ?? ""));
    const taken = (name: string, inherited: string) => (own[name] === undefined || own[name] === "inherit" ? inherited : own[name]);
    return {
      fill: taken("fill", from.fill),
      fillRule: taken("fill-rule", from.fillRule),
      stroke: taken("stroke", from.stroke),
      shown: from.shown && own.display !== "none" && own.visibility !== "hidden" && own.visibility !== "collapse",
    };
  };

  let visits = 0;
  const walk = (element: Element, outer: Transform, inherited: Style, deep: number): void => {
    visits += 1;
    if (deep > MOST_DEEP || visits > 500_000)
      throw new CoreError("out-of-range", "text", `elements stand or are used in one another more than ${MOST_DEEP} deep`);
    const style = styleOf(element, inherited);
    if (!style.shown) return;
    const transform = after(outer, transformOf(element.attributes.transform));
    if (element.attributes["clip-path"] || element.attributes.mask) counts.clip += 1;
    if (element.name === "use") {
      const target = byId.get((element.attributes.href ?? "").replace(/^#/, ""));
      if (!target) return;
      const moved = after(transform, translation(number(element, "x"), number(element, "y")));
      if (target.name === "symbol" || target.name === "svg") {
        const laid = after(moved, viewBoxTransform(target, px(element.attributes.width), px(element.attributes.height)));
        const inner = styleOf(target, style);
        for (const child of target.children) walk(child, laid, inner, deep + 1);
      } else walk(target, moved, style, deep + 1);
      return;
    }
    if (UNDRAWN.has(element.name)) return;
    if (CONTAINERS.has(element.name)) {
      const inner =
        element.name === "svg" && element !== root
          ? after(
              after(transform, translation(number(element, "x"), number(element, "y"))),
              viewBoxTransform(element, px(element.attributes.width), px(element.attributes.height)),
            )
          : transform;
      for (const child of element.children) walk(child, inner, style, deep + 1);
      return;
    }
    if (element.name === "text") counts.text += 1;
    if (element.name === "image") counts.image += 1;
    const drawn = shapeLines(element, TOLERANCE.flatten / spread(transform));
    if (!drawn) return;
    if (drawn.fault) counts.path += 1;
    const lines = drawn.lines.map(({ line, closed }) => ({ line: line.map((point) => apply(transform, point)), closed }));
    for (const { line } of lines) {
      budget.take(line.length);
      if (line.some(([x, y]) => !Number.isFinite(x) || !Number.isFinite(y) || Math.abs(x) > 1e7 || Math.abs(y) > 1e7))
        throw new CoreError("out-of-range", "text", "a point of this drawing lies more than 10 km away");
    }
    if (style.fill !== "none" && style.fill !== "transparent") {
      // A filled line is closed by its fill.
      sets.push({
        lines: lines.map(({ line }) => withoutDoubles(line)).filter((line) => line.length > 2),
        rule: style.fillRule === "evenodd" ? "evenodd" : "nonzero",
      });
    } else if (style.stroke !== "none") {
      counts.stroked += 1;
      for (const { line, closed } of lines) loose.push(closed ? [...line, line[0] as Point] : line);
    }
  };
  walk(root, toMm, { fill: "black", fillRule: "nonzero", stroke: "none", shown: true }, 0);
  if (counts.text > 0) notes.push(`refused: ${counts.text} text, whose letters are not outlines here`);
  if (counts.image > 0) notes.push(`refused: ${counts.image} pictures`);
  if (counts.clip > 0) notes.push(`refused: ${counts.clip} clips or masks, which are not applied`);
  if (counts.path > 0) notes.push(`refused: what follows a fault in ${counts.path} paths`);
  if (loose.length > 0) {
    const { closed, notes: done } = joined(loose, gapMm);
    notes.push(`taken as lines to cut along: ${counts.stroked} things without a fill`, ...done);
    if (closed.length > 0) sets.push({ lines: closed, rule: "evenodd" });
  }
  tell?.(0.8, "finding what encloses what");
  return regionsFrom(sets, notes);
}
