import type { Lesson, LessonResult } from "@/core/bench/lessons";
import { BenchWorld } from "@/core/bench/world";
import type { Design } from "@/core/cutters/design/schema";
import { knobOf, withSetting } from "@/core/cutters/solve/evaluate";

/** What a maker at the bench does: how long they wait, where they set the knob, their pace, their wait at a corner. */
export interface Maker {
  warmS?: number;
  knob?: number;
  paceMmS?: number;
  dwellS?: number;
  /** Turns up step by step, waiting, until the foam goes. */
  creeps?: boolean;
  /** Turns during the cut: seconds into it, setting. */
  turns?: [number, number][];
}

/** Plays a lesson as this maker would, and has it judged. */
export function play(lesson: Lesson, maker: Maker): LessonResult {
  let design: Design = lesson.design;
  if (maker.knob !== undefined && design.control.kind === "clip") design = withSetting(design, maker.knob);
  const world = new BenchWorld(design, lesson.options);
  const { sim } = world;
  const turn = (setting: number) => {
    world.turn(setting);
    design = withSetting(design, setting);
  };
  world.heat(true);
  if (maker.knob !== undefined && design.control.kind !== "clip") turn(maker.knob);
  world.run(maker.warmS ?? 15);
  const { currentA, wireOhm } = sim;
  const pace = { mode: "pace", mPerS: (maker.paceMmS ?? lesson.design.job.feed_mm_s) / 1000 } as const;
  if (lesson.hand === "push") world.hand({ mode: "push", newtons: lesson.pushN ?? 1 });
  else world.hand(pace);
  const knob = knobOf(lesson.design);
  if (maker.creeps && knob) {
    for (let setting = knob.value, i = 0; i < 60 && !sim.through; i++) {
      world.run(4);
      if (sim.middleFeedMPerS < 0.0012) {
        setting += knob.step;
        turn(setting);
      }
    }
  }
  const corner = lesson.options.corner_mm;
  let dwelt = 0;
  for (let t = 0; t < 120 && !sim.through; t += 0.1) {
    const atCorner = corner !== null && Math.abs(sim.pathM - 0.012 - corner / 1000) < 0.0006;
    if (atCorner && dwelt < (maker.dwellS ?? 0)) {
      world.hand({ mode: "still" });
      dwelt += 0.1;
    } else if (lesson.hand !== "push") world.hand(pace);
    for (const [at, setting] of maker.turns ?? []) if (Math.abs(t - at) < 0.05) turn(setting);
    world.run(0.1);
  }
  return lesson.judge({ report: world.report(), design, currentA, volts: currentA * wireOhm });
}
