import { learnFrom } from "@/core/calibration/learn";
import { serve } from "../kit/serve";
import type { LearnTasks } from "./protocol";

serve<LearnTasks>({ learn: ({ design, cuts, trusted }) => learnFrom(design, cuts, trusted) });
