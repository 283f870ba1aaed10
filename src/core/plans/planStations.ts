import { offset } from "../geometry/offset";
import { distance, nearest, type Point, regionArea } from "../geometry/points";
import { CoreError } from "../kernel/errors";
import type { PlanEvaluation } from "./evaluate";
import type { PartFace } from "./guide";
import type { Plan } from "./plan";
import type { Drawn } from "./shapes/record";
import { countFor, faceLine, type Stations, stationsOf } from "./stations";

/** An end's shape set off by so much, with its nose and tail where they then are: the line that the wire itself takes. */
function setOff(drawn: Drawn, byMm: number): Drawn {
  if (byMm === 0) return drawn;
  const [main] = offset(drawn.regions, byMm, "sharp").sort((a, b) => regionArea(b) - regionArea(a));
  if (!main) throw new CoreError("no-solution", "kerf_mm", "nothing is left of this shape for the wire to go round");
  const near = (to: Point) => main.outline.reduce((best, point) => (distance(point, to) < distance(best, to) ? point : best), main.outline[0] as Point);
  return { ...drawn, regions: [main], nose: nearest(drawn.nose, main.outline).at, tail: { upper: near(drawn.tail.upper), lower: near(drawn.tail.lower) } };
}

/** Both ends' stations on the wire's own line of a face, in their own chord frames. @throws CoreError as {@link stationsOf} */
export function planStations(plan: Plan, evaluation: PlanEvaluation, face: PartFace): Stations {
  const wireMm = evaluation.cutter?.wireMm ?? 0;
  const line = (end: "root" | "tip") =>
    faceLine(
      setOff(
        { ...evaluation[end].drawn, regions: evaluation[end].drawn.regions.slice(0, 1) },
        evaluation[end].guideMm + (plan.cut.guidance === "edge" ? wireMm / 2 : 0),
      ),
      face,
    );
  const [root, tip] = [line("root"), line("tip")];
  const pairs = plan.stations.pairs[face];
  const wanted = plan.stations.count ?? countFor(root.along.at(-1) as number, evaluation.root.feedMmS, plan.stations.seconds);
  // By the clock there may be fewer numbers than stretches between corners: each stretch then has one.
  return stationsOf(
    root,
    tip,
    plan.stations.count === null ? Math.max(wanted, 1 + Math.min(root.breaks.length, tip.breaks.length)) : wanted,
    plan.stations.parts,
    pairs,
  );
}
