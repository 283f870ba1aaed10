import type { Design } from "../cutters/design/schema";
import { liveMm } from "../cutters/solve/evaluate";
import { CoreError } from "../kernel/errors";
import type { Plan, PlanEnd } from "./plan";

/** A plan and the cutter that it names do not fit each other: nothing is paced, printed or run until they do. */
export interface Misfit {
  code: "short-wire";
  /** the plan's field that it is about */
  path: string;
  words: string;
  cures: MisfitCure[];
}

/** What would make them fit: a changed plan, or a place to go to. */
export interface MisfitCure {
  words: string;
  plan?: Plan;
  /** the cutter's own page, or the choice of another one */
  open?: "cutter" | "other-cutter";
}

/** Wire beyond the foam, both sides together, mm: on a short bow and on a long one (common practice). */
const CLEARANCE = { shortMm: 50, longMm: 100, longFromMm: 600 } as const;
/** Live wire that a block so wide wants, mm. Common practice. */
export const wireForMm = (widthMm: number): number => widthMm + (widthMm < CLEARANCE.longFromMm ? CLEARANCE.shortMm : CLEARANCE.longMm);

/** The plan's part in so many equal panels; null where its ends are different shapes, between which nothing can be interpolated. */
export function inPanels(plan: Plan, count: number): Plan | null {
  const { root, tip, part } = plan;
  const end = tip ?? root;
  const same = JSON.stringify({ ...root, chord_mm: 0, x_mm: 0, y_mm: 0 }) === JSON.stringify({ ...end, chord_mm: 0, x_mm: 0, y_mm: 0 });
  if (plan.panels.length > 0 || !same || part.washout_deg !== 0) return null;
  const between = (from: number, to: number, share: number) => Math.round((from + (to - from) * share) * 100) / 100;
  const at = (share: number): PlanEnd => ({
    ...root,
    ...(root.chord_mm === undefined || end.chord_mm === undefined ? {} : { chord_mm: between(root.chord_mm, end.chord_mm, share) }),
    x_mm: between(root.x_mm, end.x_mm, share),
    y_mm: between(root.y_mm, end.y_mm, share),
  });
  const lie = {
    span_mm: between(0, part.span_mm, 1 / count),
    sweep_mm: between(0, part.sweep_mm, 1 / count),
    offset_mm: between(0, part.offset_mm, 1 / count),
  };
  return {
    ...plan,
    tip: tip === null && count > 1 ? null : at(1 / count),
    part: { ...part, ...lie },
    panels: Array.from({ length: count - 1 }, (_, i) => ({ tip: at((i + 2) / count), ...lie, washout_deg: 0 })),
  };
}

/** Where a plan does not fit the cutter that it names. */
export function misfitsOf(plan: Plan, design: Design): Misfit[] {
  const misfits: Misfit[] = [];
  const spanMm = plan.part.span_mm;
  const live = liveMm(design);
  if (spanMm > live) {
    const wanted = Math.ceil(wireForMm(spanMm) / 10) * 10;
    const most = live - (wireForMm(live) - live);
    const panels = most > 0 ? Math.ceil(spanMm / most) : 0;
    const parted = panels >= 2 && panels <= 12 ? inPanels(plan, panels) : null;
    misfits.push({
      code: "short-wire",
      path: "part.span_mm",
      words: `The part is ${spanMm.toFixed(0)} mm along the wire, and ${design.name} has ${live.toFixed(0)} mm of hot wire. It cannot be cut.`,
      cures: [
        ...(parted ? [{ words: `Make it in ${panels} panels of ${parted.part.span_mm.toFixed(0)} mm`, plan: parted }] : []),
        { words: `Give the cutter ${wanted} mm of wire`, open: "cutter" as const },
        { words: "Choose another cutter", open: "other-cutter" as const },
      ],
    });
  }
  return misfits;
}

/** Depth from the wire to the frame behind it, mm; null where the frame is not described or has none. */
function throatMm({ frame }: Design): number | null {
  switch (frame?.kind) {
    case "bow-saw":
      return frame.wire_arm_mm;
    case "c-frame":
      return frame.throat_mm;
    case "table-arm":
      return frame.arm_mm;
    default:
      return null;
  }
}

/** What weights on the block need above it, mm (common practice). */
const WEIGHTS_MM = 60;

/** Whether the frame passes over the block: how deep its throat is, and how deep it should be, mm. Null where it does, or nothing is known. */
export function shallowThroat(boardMm: number, design: Design): { throatMm: number; wantedMm: number } | null {
  const throat = throatMm(design);
  return throat === null || throat >= boardMm + WEIGHTS_MM ? null : { throatMm: throat, wantedMm: Math.ceil((boardMm + WEIGHTS_MM) / 10) * 10 };
}

/** Refuses work on a plan that its cutter cannot cut. @throws CoreError `conflict` with the plan's field */
export function requireFits({ misfits }: { misfits: readonly Misfit[] }): void {
  const [first] = misfits;
  if (first) throw new CoreError("conflict", first.path, `${first.words} ${first.cures.map(({ words }) => words).join(", or: ")}.`);
}
