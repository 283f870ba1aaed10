import { z } from "zod";
import { rigDocumentSchema } from "@/core/rigs/rig";
import { documentEndpoints } from "../documents/contract";
import { endpoint } from "../kernel/endpoint";

const OUTPUTS = ["svg", "dxf", "pdf"] as const;

export const RIGS = {
  ...documentEndpoints("rigs", rigDocumentSchema),
  /** Its drawing at full size, or the build sheet with the drawing to scale. */
  drawing: endpoint(
    z.strictObject({
      as: z.enum(OUTPUTS, { error: `must be one of ${OUTPUTS.join(", ")}` }),
      units: z.enum(["metric", "inch"], { error: "must be metric or inch" }).default("metric"),
    }),
    z.unknown(),
  ),
};
