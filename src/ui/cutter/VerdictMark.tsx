import { VERDICT_WORD } from "@/core/cutters/solve/describe";
import type { DesignVerdict } from "@/core/cutters/solve/evaluate";

const MARK_WIDTH = 34;
const MARK_HEIGHT = 22;
/** Strokes of each drawing. */
const STROKES: Readonly<Record<DesignVerdict, string>> = {
  clean: "M2 8H32M2 14H32",
  drags: "M2 8q4 -5 8 0t8 0 8 0 6 0M2 15l4 3 4 -4 5 4 4 -4 5 4 4 -4 4 3",
  wide: "M2 4H32M2 18H32",
  smokes: "M2 17H32M9 12q-4 -3 0 -6t0 -5M18 12q-4 -3 0 -6t0 -5M27 12q-4 -3 0 -6t0 -5",
  overload: "M2 11h9l3 -7M20 11h12M14 18l6 -14",
  "too-cold": "M2 11H32",
  "short-wire": "M2 11H14M24 4V18M32 4V18",
};
const DASH: Readonly<Partial<Record<DesignVerdict, string>>> = { "too-cold": "1 5" };

/** A small drawing of the cut face each verdict leaves: said in shape, never by colour alone. 34 x 22 CSS pixels. */
export function VerdictMark({ verdict }: { verdict: DesignVerdict }) {
  return (
    <svg width={MARK_WIDTH} height={MARK_HEIGHT} role="img" aria-label={VERDICT_WORD[verdict]}>
      <path d={STROKES[verdict]} fill="none" stroke="var(--graphite)" strokeWidth={2} strokeLinecap="round" strokeDasharray={DASH[verdict]} />
    </svg>
  );
}

/**
 * The same drawings as CSS images, variables of this prefix and the verdict's name, for tables of hundreds of cells, where an element each (or a mask, which the browser composes one by
 * one) would be slow. An image cannot take its ink from the page, so there is one set for each scheme.
 * @param ink colour of the strokes
 */
export function markImages(prefix: string, ink: string): Readonly<Record<string, string>> {
  return Object.fromEntries(
    (Object.keys(STROKES) as DesignVerdict[]).map((verdict) => {
      const dash = DASH[verdict] ? ` stroke-dasharray='${DASH[verdict]}'` : "";
      const drawing = `<svg xmlns='http://www.w3.org/2000/svg' width='${MARK_WIDTH}' height='${MARK_HEIGHT}'><path d='${STROKES[verdict]}' fill='none' stroke='${ink}' stroke-width='2' stroke-linecap='round'${dash}/></svg>`;
      return [`${prefix}${verdict}`, `url("data:image/svg+xml,${encodeURIComponent(drawing)}")`];
    }),
  );
}

/**
 * {@link markImages} as bitmaps: a browser paints hundreds of those in a tenth of the time it takes for drawings.
 * @param ratio device pixels a CSS pixel
 * @returns the drawings themselves where the page cannot draw
 */
export function markBitmaps(prefix: string, ink: string, ratio: number): Readonly<Record<string, string>> {
  const canvas = document.createElement("canvas");
  canvas.width = Math.ceil(MARK_WIDTH * ratio);
  canvas.height = Math.ceil(MARK_HEIGHT * ratio);
  const ctx = canvas.getContext("2d");
  if (!ctx) return markImages(prefix, ink);
  ctx.scale(ratio, ratio);
  ctx.strokeStyle = ink;
  ctx.lineWidth = 2;
  ctx.lineCap = "round";
  return Object.fromEntries(
    (Object.keys(STROKES) as DesignVerdict[]).map((verdict) => {
      ctx.clearRect(0, 0, MARK_WIDTH, MARK_HEIGHT);
      ctx.setLineDash(DASH[verdict]?.split(" ").map(Number) ?? []);
      ctx.stroke(new Path2D(STROKES[verdict]));
      return [`${prefix}${verdict}`, `url("${canvas.toDataURL()}")`];
    }),
  );
}
