import { searchSetups } from "@/core/cutters/search/search";
import { deferredEvaluationOf } from "@/core/cutters/solve/deferredEvaluation";
import { matchMatrix, oneThing } from "@/core/drawer/matches";
import { edgeCosts } from "@/core/plans/edges";
import { chooseSetups } from "@/core/start/choices";
import { serve } from "../kit/serve";
import { drawMap } from "./mapPicture";
import type { EngineTasks } from "./protocol";

serve<EngineTasks>({
  map: drawMap,
  edges: ({ design, spanMm, feedMmS, thicknessMm }) => edgeCosts(design, spanMm, feedMmS, thicknessMm),
  deferred: (design) => deferredEvaluationOf(design),
  matches: ({ job, holdings }) => matchMatrix(job, holdings),
  oneThing: ({ jobs, holdings, offers }) => oneThing(jobs, holdings, offers),
  search: ({ job, wires, supplies, controls, prices }) => searchSetups(job, wires, supplies, controls, prices),
  start: ({ answers, held, units }) => chooseSetups(answers, held, units),
});
