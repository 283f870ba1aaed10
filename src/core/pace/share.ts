import type { Point } from "../geometry/points";
import type { PlanEvaluation } from "../plans/evaluate";
import type { Plan } from "../plans/plan";
import { facesOf, paceJob, planPace } from "./planPace";

/** A plan's answer with its templates moved so that they share the middle's lag, as they are given out where that is asked for. */
export function withSharedError(plan: Plan, evaluation: PlanEvaluation): PlanEvaluation {
  const { cutter } = evaluation;
  if (!plan.pace.share || !cutter) return evaluation;
  let mostMm = 0;
  const moves = new Map(
    facesOf(plan).flatMap((face) => {
      const job = paceJob(plan, evaluation, face);
      if (!job) return [];
      const { pace, shared } = planPace(job, cutter.pair, undefined, false);
      mostMm = Math.max(mostMm, shared.mostMm);
      return [[face, { root: pace.path, tip: pace.tipPath, movedMm: shared.movedMm }] as const];
    }),
  );
  const end = (name: "root" | "tip"): PlanEvaluation["root"] => {
    const here = evaluation[name];
    const [a, b, c, d] = here.place;
    const det = a * d - b * c;
    return {
      ...here,
      templates: here.templates.map((template) => {
        const move = moves.get(template.face);
        if (!move || template.piece > 0) return template;
        const [e, f] = [here.place[4], here.place[5]];
        return {
          ...template,
          line: template.line.map(([x, y]): Point => {
            // The move is given in the part's frame; the template lies in its own chord's frame.
            const at: Point = [a * x + c * y + e, b * x + d * y + f];
            const paths = move[name];
            let best = 0;
            for (let i = 1; i < paths.length; i++) {
              const [p, q] = [paths[i] as Point, paths[best] as Point];
              if (Math.hypot(p[0] - at[0], p[1] - at[1]) < Math.hypot(q[0] - at[0], q[1] - at[1])) best = i;
            }
            const [mx, my] = move.movedMm[best] as Point;
            return [x + (d * mx - c * my) / det, y + (a * my - b * mx) / det];
          }),
        };
      }),
    };
  };
  return { ...evaluation, root: end("root"), tip: end("tip"), sharedMm: mostMm };
}
