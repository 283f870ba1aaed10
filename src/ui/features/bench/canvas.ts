import { type RefObject, useEffect, useRef } from "react";
import type { BenchPainter, BenchScene } from "./useBench";

/** The drawing colours of the scheme in force, as a canvas can use them. */
export interface CanvasInk {
  paper: string;
  bright: string;
  graphite: string;
  soft: string;
  line: string;
  cool: string;
  ember: string;
  foam: string;
  /** What is cut out of the foam: paper or graphite, the one that contrasts with it. */
  hollow: string;
  /** [degC, red, green, blue] rising: cold wire, straw, amber, ember. */
  heat: [number, number, number, number][];
}

const HEAT_STOPS: readonly [number, string][] = [
  [80, "--cold-wire"],
  [200, "--straw"],
  [350, "--amber"],
  [520, "--ember"],
];

/** Red, green and blue of a colour as style sheets write it; they come shortened, "#fff" for "#ffffff". */
export const bytes = (hex: string): [number, number, number] => {
  const digits = hex.slice(1);
  const value = Number.parseInt(digits.length === 3 ? [...digits].map((digit) => digit + digit).join("") : digits, 16);
  return [(value >> 16) & 255, (value >> 8) & 255, value & 255];
};

/** How light a colour is, 0 to 1. */
export const lightness = (hex: string) => bytes(hex).reduce((sum, part, i) => sum + part * ([0.3, 0.59, 0.11][i] ?? 0), 0) / 255;

function readInk(element: Element, foamVariable: string): CanvasInk {
  const style = getComputedStyle(element);
  const of = (name: string) => style.getPropertyValue(name).trim();
  const foam = lightness(of(foamVariable));
  const [paper, graphite] = [of("--paper"), of("--graphite")];
  return {
    hollow: Math.abs(lightness(paper) - foam) > Math.abs(lightness(graphite) - foam) ? paper : graphite,
    paper,
    bright: of("--paper-bright"),
    graphite,
    soft: of("--graphite-soft"),
    line: of("--line"),
    cool: of("--cool"),
    ember: of("--ember"),
    foam: of(foamVariable),
    heat: HEAT_STOPS.map(([c, name]) => [c, ...bytes(of(name))]),
  };
}

/** A wire's colour by temperature, for a canvas. */
export function inkOfHeat(ink: CanvasInk, wireC: number): string {
  const { heat } = ink;
  const above = heat.findIndex(([c]) => wireC < c);
  const at = above === 0 ? heat[0] : above === -1 ? heat[heat.length - 1] : undefined;
  if (at) return `rgb(${at[1]} ${at[2]} ${at[3]})`;
  const from = heat[above - 1] as [number, number, number, number];
  const to = heat[above] as [number, number, number, number];
  const share = (wireC - from[0]) / (to[0] - from[0]);
  const mixed = [1, 2, 3].map((k) => Math.round((from[k] as number) + share * ((to[k] as number) - (from[k] as number))));
  return `rgb(${mixed.join(" ")})`;
}

const INK_EVERY_MS = 700;

/**
 * A canvas that is painted once a frame, sharp on any screen. `paint` draws in CSS pixels from the top left.
 * @param size CSS pixels
 */
export function usePainted(
  addPainter: (painter: BenchPainter) => () => void,
  size: { width: number; height: number },
  foamVariable: string,
  paint: (context: CanvasRenderingContext2D, scene: BenchScene, ink: CanvasInk, nowMs: number) => void,
): RefObject<HTMLCanvasElement | null> {
  const ref = useRef<HTMLCanvasElement>(null);
  const latest = useRef(paint);
  latest.current = paint;
  const { width, height } = size;
  useEffect(() => {
    const canvas = ref.current;
    const context = canvas?.getContext("2d");
    if (!canvas || !context) return;
    const sharp = window.devicePixelRatio || 1;
    canvas.width = Math.round(width * sharp);
    canvas.height = Math.round(height * sharp);
    let ink = readInk(canvas, foamVariable);
    let readAt = 0;
    return addPainter((scene, nowMs) => {
      if (nowMs - readAt > INK_EVERY_MS) {
        readAt = nowMs;
        ink = readInk(canvas, foamVariable);
      }
      context.setTransform(sharp, 0, 0, sharp, 0, 0);
      context.clearRect(0, 0, width, height);
      latest.current(context, scene, ink, nowMs);
    });
  }, [addPainter, width, height, foamVariable]);
  return ref;
}
