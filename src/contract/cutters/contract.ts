import { z } from "zod";
import { designSchema } from "@/core/cutters/design/schema";
import { documentEndpoints } from "../documents/contract";
import { exchange } from "../kernel/exchange";

const documents = documentEndpoints("cutters", "cutter", "design", designSchema);
/** A cutter as it is sent and received. */
export const cutterRow = documents.row;

export const CUTTERS = {
  ...documents.endpoints,
  sheet: exchange(z.strictObject({ units: z.enum(["metric", "inch"], { error: "must be metric or inch" }).default("metric") }), z.unknown()),
};
