import { z } from "zod";
import { PAPERS_MM, type Paper } from "@/core/plans/outputs/tiles";
import { planSchema } from "@/core/plans/plan";
import { documentEndpoints } from "../documents/contract";
import { endpoint } from "../kernel/endpoint";

const OUTPUTS = ["svg", "dxf", "pdf", "coordinates"] as const;
const PAPERS = Object.keys(PAPERS_MM) as [Paper, ...Paper[]];

const panelNumber = z.coerce
  .number({ error: "must be a number from 1 to 13" })
  .int({ error: "must be a number from 1 to 13" })
  .min(1, { error: "must be a number from 1 to 13" })
  .max(13, { error: "must be a number from 1 to 13" })
  .default(1);

export const PLANS = {
  ...documentEndpoints("plans", planSchema),
  /** The cut sheet of one face. */
  sheet: endpoint(
    z.strictObject({
      face: z.enum(["upper", "lower", "whole"], { error: "must be one of upper, lower, whole" }).optional(),
      panel: panelNumber,
      units: z.enum(["metric", "inch"], { error: "must be metric or inch" }).default("metric"),
    }),
    z.unknown(),
  ),
  /** Templates as a file: which end, on which paper, and the printer's own scale as its ruler was measured. */
  templates: endpoint(
    z.strictObject({
      as: z.enum(OUTPUTS, { error: `must be one of ${OUTPUTS.join(", ")}` }),
      end: z.enum(["both", "root", "tip"], { error: "must be one of both, root, tip" }).default("both"),
      /** of a part of several, whose end's coordinates are asked for */
      panel: panelNumber,
      paper: z.enum(PAPERS, { error: `must be one of ${PAPERS.join(", ")}` }).default("a4"),
      /** what the 100 mm ruler measured on the last print */
      ruler_mm: z.coerce
        .number({ error: "must be a number from 90 to 110 mm" })
        .min(90, { error: "must be a number from 90 to 110 mm" })
        .max(110, { error: "must be a number from 90 to 110 mm" })
        .default(100),
    }),
    z.unknown(),
  ),
};
