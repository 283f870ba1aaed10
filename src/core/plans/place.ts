import { without } from "../geometry/offset";
import {
  after,
  apply,
  boundsOf,
  heightsAt,
  type Outline,
  type Point,
  type Region,
  regionArea,
  scaling,
  type Transform,
  transformedRegion,
  translation,
  turning,
} from "../geometry/points";
import { CoreError } from "../kernel/errors";
import type { Plan, PlanEnd } from "./plan";
import { drawShape } from "./shapes";
import { type Drawn, endsOf } from "./shapes/record";

/** x extent of what was drawn. */
export function chordOf({ regions }: Pick<Drawn, "regions">): number {
  const { minX, maxX } = boundsOf(regions.flatMap(({ outline }) => outline));
  return maxX - minX;
}

const movedDrawn = (drawn: Drawn, by: Transform): Drawn => ({
  ...drawn,
  regions: drawn.regions.map((region) => transformedRegion(region, by)),
  nose: apply(by, drawn.nose),
  tail: { upper: apply(by, drawn.tail.upper), lower: apply(by, drawn.tail.lower) },
});

/** One end's shape in its own chord frame: turned, as long as its chord, as thick as asked, where it lies. @throws CoreError where it cannot be drawn */
export function drawEnd({ shape, chord_mm, thickness, turn_deg, x_mm, y_mm }: PlanEnd): Drawn {
  let drawn = drawShape(shape, chord_mm);
  if (turn_deg !== 0) {
    const turned = drawn.regions.map((region) => transformedRegion(region, turning(turn_deg)));
    const { minX, maxX } = boundsOf(turned.flatMap(({ outline }) => outline));
    const scale = chord_mm === undefined ? 1 : chord_mm / (maxX - minX);
    // What was foremost before is not any more.
    const regions = turned.map((region) => transformedRegion(region, after(scaling(scale), translation(-minX, 0))));
    drawn = { regions, ...endsOf(regions[0]?.outline ?? []), notes: drawn.notes };
  }
  if (thickness !== 1) drawn = movedDrawn(drawn, scaling(1, thickness));
  return x_mm === 0 && y_mm === 0 ? drawn : movedDrawn(drawn, translation(x_mm, y_mm));
}

/** A slot for a spar, open to its face, at a share of an end's chord: what is taken out of the section. */
export interface Slot {
  minX: number;
  maxX: number;
  /** the slot's floor, and the face's height where it opens */
  floor: number;
  mouth: number;
}

/** Where a plan's spar is at an end; null where it has none. @throws CoreError where the section is not thick enough there */
export function slotOf(spar: Plan["template"]["spar"], outline: Outline, chordMm: number): Slot | null {
  if (!spar) return null;
  const middle = boundsOf(outline).minX + spar.at * chordMm;
  const [minX, maxX] = [middle - spar.width_mm / 2, middle + spar.width_mm / 2];
  const [left, here, right] = [heightsAt(outline, minX), heightsAt(outline, middle), heightsAt(outline, maxX)];
  if (!left || !here || !right) throw new CoreError("no-solution", "template.spar", "the spar's slot reaches beyond the section: move it or make it narrower");
  const up = spar.face === "upper";
  // The floor lies so deep below the lowest place of its mouth that a spar of that depth is flush there.
  const mouth = up ? Math.min(left.upper, here.upper, right.upper) : Math.max(left.lower, here.lower, right.lower);
  const floor = mouth + (up ? -spar.depth_mm : spar.depth_mm);
  const far = up ? Math.max(left.lower, here.lower, right.lower) : Math.min(left.upper, here.upper, right.upper);
  if (up ? floor <= far : floor >= far)
    throw new CoreError(
      "no-solution",
      "template.spar",
      `the section is ${Math.abs(mouth - far).toFixed(1)} mm thick there: a slot ${spar.depth_mm} mm deep would go through`,
    );
  return { minX, maxX, floor, mouth };
}

/** A section without what its spar's slot takes. */
export function withSlot(drawn: Drawn, spar: Plan["template"]["spar"], chordMm: number): Drawn {
  const [main, ...rest] = drawn.regions;
  if (spar?.as !== "slot" || !main) return drawn;
  const slot = slotOf(spar, main.outline, chordMm) as Slot;
  const { minY, maxY } = boundsOf(main.outline);
  const beyond = spar.face === "upper" ? maxY + 1 : minY - 1;
  const corners: Point[] = [
    [slot.minX, slot.floor],
    [slot.maxX, slot.floor],
    [slot.maxX, beyond],
    [slot.minX, beyond],
  ];
  const cut: Region = { outline: spar.face === "upper" ? corners : [...corners].reverse(), holes: [] };
  const left = without([main], [cut]).sort((a, b) => regionArea(b) - regionArea(a));
  return { ...drawn, regions: [...left, ...rest] };
}

/**
 * An end whose outline is given by points that lie as they are drawn: chord, thickness and turning are in the points themselves, so that a point moved by hand goes where the hand is.
 * Every other kind of shape becomes points too, with all its pieces and their holes.
 * @param simplify makes an outline of fewer points
 */
export function asPoints(end: PlanEnd, simplify: (outline: Outline) => Outline = (outline) => outline): PlanEnd {
  const { chord_mm: _chord, ...rest } = end;
  const { regions } = drawEnd({ ...end, x_mm: 0, y_mm: 0 });
  const [main, ...islands] = regions;
  const holes = regions.flatMap((region) => region.holes);
  const plain = (line: Outline) => simplify(line).map(([x, y]): Point => [Number(x.toFixed(4)), Number(y.toFixed(4))]);
  return {
    ...rest,
    thickness: 1,
    turn_deg: 0,
    shape: {
      kind: "points",
      points_mm: plain(main?.outline ?? []),
      ...(holes.length > 0 ? { holes_mm: holes.map(plain) } : {}),
      ...(islands.length > 0 ? { islands_mm: islands.map(({ outline }) => plain(outline)) } : {}),
    },
  };
}
