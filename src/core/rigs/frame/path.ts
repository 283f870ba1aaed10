import { boundsOf, type Line, lineLength, type Point, type Region } from "../../geometry/points";
import { CoreError } from "../../kernel/errors";
import { carriagesOf, widestStretch } from "../../motion/carriages";
import type { Machine } from "../../motion/machine";
import { onePath } from "../../motion/onePath";
import { writeProgram } from "../../motion/program";
import { facesOf, paceJob } from "../../pace/planPace";
import { missOf } from "../../physics/string/traceError";
import type { RigProgram } from "../answer";
import type { Around } from "../around";
import type { FrameRig } from "./fields";

/** Seconds of heat before the first move. */
const WARM_UP_S = 5;

/** The frame as a program knows it. @param spanMm of the block between the carriages */
export const machineOf = (rig: FrameRig, spanMm: number): Machine => ({
  axes: [...rig.near, ...(rig.carriages === "free" ? rig.far : "")],
  stand: rig.carriages === "free" ? { lengthMm: rig.apart_mm, toBlockMm: rig.toBlock_mm, spanMm } : null,
  travelMm: [
    [0, rig.wide_mm],
    [0, rig.high_mm],
  ],
  turn: rig.table ? { axis: rig.carriages === "free" && rig.far === "AB" ? "C" : "A", deg: 360 / rig.passes, passes: rig.passes } : null,
});

/** A plan's parts and ways moved so that its block's corner stands where it is said. */
const movedBy = (by: Point, line: Line): Point[] => line.map(([x, y]) => [x + by[0], y + by[1]]);

const TRIED = { nodes: 30, steps: 500 };

/**
 * A program for the plan beside the frame: one unbroken path where both ends are alike, a face's two ways where they are not.
 * @throws CoreError where there is no plan, or it cannot be led on this frame
 */
export function frameProgram(rig: FrameRig, { plan }: Around): RigProgram {
  if (!plan) throw new CoreError("no-solution", "", "name the plan it cuts: a path is made of its outlines");
  const { answer } = plan;
  const { block, root } = answer;
  const by: Point = [rig.blockX_mm - block.minX, rig.blockY_mm - block.minY];
  const machine = machineOf(rig, plan.plan.part.span_mm);
  const feed = Math.min(rig.feed_mm_s, root.feedMmS);
  const frame: Line = movedBy(by, [
    [block.minX, block.minY],
    [block.maxX, block.minY],
    [block.maxX, block.maxY],
    [block.minX, block.maxY],
  ]);
  if (rig.carriages === "locked") {
    const parts = root.placed.map(({ outline, holes }): Region => ({ outline: movedBy(by, outline), holes: holes.map((hole) => movedBy(by, hole)) }));
    const found = onePath({
      shapes: parts,
      kerfMm: root.kerfMm,
      join: rig.join,
      barMm: rig.bar_mm,
      // From the block's edge on the side of home, so high as the part's middle.
      start: [
        Math.max(0, (frame[0] as Point)[0] - 5),
        (boundsOf(parts.flatMap(({ outline }) => outline)).minY + boundsOf(parts.flatMap(({ outline }) => outline)).maxY) / 2,
      ],
    });
    const timesS = [0];
    for (let i = 1; i < found.path.length; i++)
      timesS.push((timesS[i - 1] as number) + lineLength([found.path[i - 1] as Point, found.path[i] as Point]) / feed);
    const { text, timeS } = writeProgram(machine, found.path, null, timesS, WARM_UP_S, plan.plan.name);
    return {
      text,
      timeS,
      lengthMm: found.lengthMm,
      block: frame,
      parts,
      ways: [found.path],
      links: found.links,
      slits: found.slits,
      bars: found.bars,
      missMm: null,
      stretchMm: 0,
    };
  }
  const face = facesOf(plan.plan).find((each) => each === rig.face) ?? (facesOf(plan.plan)[0] as FrameRig["face"]);
  const job = paceJob(plan.plan, answer, face);
  if (!job) throw new CoreError("no-solution", "", "the plan's cutter does not cut: its heat is too little for a kerf");
  const [near, far] = [movedBy(by, job.root), movedBy(by, job.tip)];
  const timesS = [0];
  for (let i = 1; i < near.length; i++)
    timesS.push(
      (timesS[i - 1] as number) + Math.max(lineLength([near[i - 1] as Point, near[i] as Point]), lineLength([far[i - 1] as Point, far[i] as Point])) / feed,
    );
  const { text, timeS } = writeProgram(machine, near, far, timesS, WARM_UP_S, `${plan.plan.name}, ${face} face`);
  const { left, right } = carriagesOf(machine.stand as NonNullable<Machine["stand"]>, near, far);
  const led = { path: job.root, tipPath: job.tip, timesS };
  return {
    text,
    timeS,
    lengthMm: lineLength(near),
    block: frame,
    parts: [],
    ways: [near, far],
    links: [],
    slits: [],
    bars: [],
    missMm: missOf(job.wire, led, led, TRIED),
    stretchMm: widestStretch(rig.apart_mm, left, right).mm,
  };
}
