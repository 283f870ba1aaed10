import { z } from "zod";
import { designSchema } from "@/core/cutters/design/schema";
import { documentEndpoints } from "../documents/contract";
import { exchange } from "../kernel/exchange";

export const CUTTERS = {
  ...documentEndpoints("cutters", "cutter", "design", designSchema),
  sheet: exchange(z.strictObject({ units: z.enum(["metric", "inch"], { error: "must be metric or inch" }).default("metric") }), z.unknown()),
};
