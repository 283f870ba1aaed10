import { XMLParser, XMLValidator } from "fast-xml-parser";
import { after, IDENTITY, scaling, type Transform, translation, turning } from "../../geometry/points";
import { CoreError } from "../../kernel/errors";
import { MOST_DEEP } from "./imported";

/** One element: its name, attributes and children in order. */
export interface Element {
  name: string;
  /** of another vocabulary, such as an editor's own settings */
  foreign: boolean;
  attributes: Readonly<Record<string, string>>;
  children: Element[];
  text: string;
}

/** Lengths with a unit, in px (CSS: 96 to the inch). */
const UNIT_PX: Readonly<Record<string, number>> = { px: 1, "": 1, in: 96, cm: 96 / 2.54, mm: 96 / 25.4, q: 96 / 101.6, pt: 96 / 72, pc: 16 };

const NAMED: Readonly<Record<string, string>> = { amp: "&", lt: "<", gt: ">", quot: '"', apos: "'" };
/** Text with its character references resolved: the five that XML names and those by number. Entities that a file declares are left alone: they could grow without end. */
const withReferences = (text: string): string =>
  text.replaceAll(/&(?:#(\d{1,7})|#x([\da-f]{1,6})|(amp|lt|gt|quot|apos));/gi, (whole, decimal?: string, hex?: string, name?: string) => {
    if (name) return NAMED[name.toLowerCase()] as string;
    const code = decimal === undefined ? Number.parseInt(hex as string, 16) : Number(decimal);
    return code > 0 && code <= 0x10ffff ? String.fromCodePoint(code) : whole;
  });

/** A drawing's elements. @throws CoreError `wrong-format` for a text that is no such drawing */
export function parseSvg(text: string): Element {
  const valid = XMLValidator.validate(text, { allowBooleanAttributes: true });
  if (valid !== true) throw new CoreError("wrong-format", "text", `this is no vector drawing that can be read: ${valid.err.msg} (line ${valid.err.line})`);
  const raw = new XMLParser({
    preserveOrder: true,
    ignoreAttributes: false,
    attributeNamePrefix: "",
    allowBooleanAttributes: true,
    parseAttributeValue: false,
    parseTagValue: false,
    processEntities: false,
    maxNestedTags: 10_000,
  }).parse(text) as Record<string, unknown>[];
  const build = (node: Record<string, unknown>, deep: number): Element | null => {
    if (deep > 4 * MOST_DEEP) throw new CoreError("out-of-range", "text", `elements are in one another more than ${4 * MOST_DEEP} deep`);
    const key = Object.keys(node).find((each) => each !== ":@");
    if (!key || key.startsWith("?") || key.startsWith("#")) return null;
    const inner = node[key] as Record<string, unknown>[];
    return {
      name: key.replace(/^.*:/, ""),
      foreign: key.includes(":") && !key.startsWith("svg:"),
      attributes: Object.fromEntries(
        Object.entries((node[":@"] as Record<string, string> | undefined) ?? {}).map(([name, value]) => [
          name.replace(/^xlink:/, ""),
          withReferences(String(value)),
        ]),
      ),
      children: Array.isArray(inner) ? inner.map((each) => build(each, deep + 1)).filter((each) => each !== null) : [],
      text: Array.isArray(inner) ? inner.map((each) => ("#text" in each ? withReferences(String(each["#text"])) : "")).join("") : "",
    };
  };
  const root = raw.map((node) => build(node, 0)).find((each) => each?.name === "svg");
  if (!root) throw new CoreError("wrong-format", "text", "this is no vector drawing: it has no svg element");
  return root;
}

const LENGTH = /^\s*([-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?)\s*([a-z%]*)\s*$/i;
/** A length in px; null where it is none or a share of something. */
export function px(text: string | undefined): number | null {
  const found = LENGTH.exec(text ?? "");
  const unit = UNIT_PX[(found?.[2] ?? "").toLowerCase()];
  return found && unit !== undefined ? Number(found[1]) * unit : null;
}

/** Width and height, in user units, of which lengths in per cent are shares. */
export interface Viewport {
  width: number;
  height: number;
}
/** What a length of an attribute is a share of, by the attribute's name (SVG 1.1, 7.10). */
const ACROSS = new Set(["x", "x1", "x2", "cx", "dx", "width", "rx"]);
const DOWN = new Set(["y", "y1", "y2", "cy", "dy", "height", "ry"]);
/** A length of an element's attribute in user units; null where it has none. */
export function lengthOf(element: Element, name: string, { width, height }: Viewport): number | null {
  const text = element.attributes[name];
  const plain = px(text);
  if (plain !== null) return plain;
  const found = LENGTH.exec(text ?? "");
  if (found?.[2] !== "%") return null;
  const whole = ACROSS.has(name) ? width : DOWN.has(name) ? height : Math.hypot(width, height) / Math.SQRT2;
  return (Number(found[1]) / 100) * whole;
}
export const numbers = (text: string): number[] => (text.match(/[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?/gi) ?? []).map(Number);

export function transformOf(text: string | undefined): Transform {
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

/** How a viewBox is laid into a width and height. */
export function viewBoxTransform(element: Element, width: number | null, height: number | null): Transform {
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
