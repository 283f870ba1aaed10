import { evaluateDesign } from "@/core/cutters/solve/evaluate";
import { planPace } from "@/core/pace/planPace";
import { serve } from "../kit/serve";
import type { PaceTasks } from "./protocol";

serve<PaceTasks>({ pace: ({ job, design }, tell) => planPace(job, evaluateDesign(design).pair, tell) });
