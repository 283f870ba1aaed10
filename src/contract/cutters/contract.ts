import { z } from "zod";
import { designSchema } from "@/core/cutters/design/schema";
import { documentEndpoints } from "../documents/contract";
import { endpoint } from "../kernel/endpoint";

export const CUTTERS = {
  ...documentEndpoints("cutters", designSchema),
  sheet: endpoint(z.strictObject({ units: z.enum(["metric", "inch"], { error: "must be metric or inch" }).default("metric") }), z.unknown()),
};
