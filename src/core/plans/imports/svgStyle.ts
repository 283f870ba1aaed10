import type { Element } from "./svgDocument";

/** What a thing drawn inherits from what it is in. */
export interface Style {
  fill: string;
  fillRule: string;
  stroke: string;
  strokeWidth: string;
  /** `stroke-linecap` */
  strokeEnds: string;
  shown: boolean;
  /** neither drawn nor filled to the eye: 0 where it cannot be seen */
  fillOpacity: number;
}
export const ROOT_STYLE: Style = { fill: "black", fillRule: "nonzero", stroke: "none", strokeWidth: "1", strokeEnds: "butt", shown: true, fillOpacity: 1 };

export interface StyleRule {
  match: (element: Element) => boolean;
  weight: number;
  declarations: Record<string, string>;
}

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
export function rulesOf(text: string): { rules: StyleRule[]; passed: number } {
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
  return { rules: rules.sort((a, b) => a.weight - b.weight), passed };
}

/** The declarations of an element: its attributes, then style sheets, then its own style. */
function ownOf(element: Element, rules: readonly StyleRule[]): Record<string, string> {
  const own: Record<string, string> = { ...element.attributes };
  for (const rule of rules) if (rule.match(element)) Object.assign(own, rule.declarations);
  return Object.assign(own, declarationsOf(element.attributes.style ?? ""));
}

const opacityOf = (text: string | undefined): number => (text === undefined ? 1 : text.trim().endsWith("%") ? Number.parseFloat(text) / 100 : Number(text));

export function styleOf(element: Element, from: Style, rules: readonly StyleRule[]): Style & { clip: string | null; mask: string | null } {
  const own = ownOf(element, rules);
  const taken = (name: string, inherited: string) => (own[name] === undefined || own[name] === "inherit" ? inherited : (own[name] as string));
  const reference = (name: string) => /url\(\s*["']?#([^"')]+)/.exec(own[name] ?? "")?.[1]?.trim() ?? null;
  return {
    fill: taken("fill", from.fill),
    fillRule: taken("fill-rule", from.fillRule),
    stroke: taken("stroke", from.stroke),
    strokeWidth: taken("stroke-width", from.strokeWidth),
    strokeEnds: taken("stroke-linecap", from.strokeEnds),
    // Opacity is that of a group as a whole: nothing in one of 0 is seen.
    shown: from.shown && own.display !== "none" && own.visibility !== "hidden" && own.visibility !== "collapse" && opacityOf(own.opacity) !== 0,
    fillOpacity: own["fill-opacity"] === undefined ? from.fillOpacity : opacityOf(own["fill-opacity"]),
    clip: reference("clip-path"),
    mask: reference("mask"),
  };
}

const NAMED_LUMINANCE: Readonly<Record<string, number>> = { white: 1, snow: 0.98, ivory: 0.99, black: 0, currentcolor: 0 };
/**
 * How light a colour is, from 0 (black) to 1 (white). Null for colours by another name and for gradients.
 */
export function luminanceOf(colour: string): number | null {
  const text = colour.trim().toLowerCase();
  if (NAMED_LUMINANCE[text] !== undefined) return NAMED_LUMINANCE[text] as number;
  const hex = /^#([\da-f]{3,8})$/.exec(text)?.[1];
  const channels = hex
    ? (hex.length < 6 ? [...hex].map((digit) => digit + digit) : (hex.match(/../g) ?? [])).slice(0, 3).map((pair) => Number.parseInt(pair, 16) / 255)
    : (/^rgba?\(([^)]*)\)$/.exec(text)?.[1] ?? "")
        .split(/[\s,/]+/)
        .filter(Boolean)
        .slice(0, 3)
        .map((part) => (part.endsWith("%") ? Number.parseFloat(part) / 100 : Number(part) / 255));
  if (channels.length !== 3 || channels.some((channel) => !Number.isFinite(channel))) return null;
  const [red = 0, green = 0, blue = 0] = channels;
  return 0.2126 * red + 0.7152 * green + 0.0722 * blue;
}
/** As light as paper. */
export const isWhite = (colour: string): boolean => (luminanceOf(colour) ?? 0) > 0.98;
