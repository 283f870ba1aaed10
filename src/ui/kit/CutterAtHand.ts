import type { Design } from "@/core/cutters/design/schema";

/** The cutter last worked on, with the job it is set for. */
export interface CutterAtHand {
  id: string;
  name: string;
  job: Design["job"];
}
