import { z } from "zod";
import { TENSION_DEVICES } from "../cutters/design/vocabulary";
import { plainText } from "../kernel/parse";
import type { RowKind } from "../kernel/rowDocument";
import { ALLOY_IDS } from "../materials/alloys";
import { foamFamilySchema } from "../materials/foamSchema";
import { oneSize, wireFields } from "../physics/heat/wireSchema";
import { tensionRecord } from "../physics/mechanics/devices";
import { OWNED_CONTROLS } from "../physics/power/controls";
import { supplySchema } from "../physics/power/supplySchema";
import { figure } from "../units/figure";
import { LIMITS } from "../units/limits";
import { blockDensity } from "./block";
import { ITEM_KINDS, type ItemKind } from "./things";

const common = {
  name: plainText(400, "is required: a name for it").trim().min(1, { error: "must be 1 to 80 characters" }).max(80, { error: "must be 1 to 80 characters" }),
  /** In the drawer, or only to be had in a shop. */
  owned: z.boolean({ error: "must be true or false" }).default(true),
  /** In the maker's own money; for wire see price_per_m. */
  price: figure("price").optional(),
  notes: plainText(500, "must be at most 500 characters").default(""),
};

const wireItem = z
  .strictObject({
    kind: z.literal("wire"),
    ...common,
    ...wireFields,
    // A drawer names its alloys; an unknown one is identified by its measured ohms.
    alloy: z.enum(ALLOY_IDS, { error: `must be one of ${ALLOY_IDS.join(", ")}` }),
    /** left on the spool */
    length_m: figure("spoolLength_m"),
    price_per_m: figure("price").optional(),
  })
  .superRefine(oneSize);

const supplyItem = z.strictObject({
  kind: z.literal("supply"),
  ...common,
  /** As typed off the label. */
  plate: plainText(120, "must be at most 120 characters").default(""),
  supply: supplySchema,
});

const controlItem = z.strictObject({
  kind: z.literal("control"),
  ...common,
  control: z.enum(OWNED_CONTROLS, { error: `must be one of ${OWNED_CONTROLS.join(", ")}` }),
  max_A: figure("maxCurrent_A").optional(),
});

const leadItem = z.strictObject({ kind: z.literal("lead"), ...common, gauge_awg: figure("leadGauge_awg"), length_m: figure("oneWay_m") });

const tensionerItem = z
  .strictObject({
    kind: z.literal("tensioner"),
    ...common,
    device: z.enum(TENSION_DEVICES, { error: `must be one of ${TENSION_DEVICES.join(", ")}` }),
    rate_N_per_mm: figure("rate_N_per_mm").optional(),
    travel_mm: figure("travel_mm").optional(),
    /** what it pulls: a weight's heft, a spring's usual load */
    force_N: figure("force_N").optional(),
  })
  .superRefine((item, ctx) => {
    const need = (key: "rate_N_per_mm" | "force_N") =>
      item[key] === undefined && ctx.issues.push({ code: "custom", message: `is required for a ${item.device}`, path: [key], input: undefined });
    const { drawerNeeds } = tensionRecord(item.device);
    if (drawerNeeds) need(drawerNeeds);
  });

const fuseItem = z.strictObject({
  kind: z.literal("fuse"),
  ...common,
  rating_A: figure("maxCurrent_A"),
  count: z
    .int({ error: "must be a whole number from 0 to 1000" })
    .min(0, { error: "must be a whole number from 0 to 1000" })
    .max(1000, { error: "must be a whole number from 0 to 1000" })
    .default(1),
});

const foamItem = z
  .strictObject({
    kind: z.literal("foam"),
    ...common,
    family: foamFamilySchema,
    /** Given, or left out where sizes and mass give it. */
    density_kg_m3: figure("density_kg_m3").optional(),
    block_length_mm: figure("blockSize_mm").optional(),
    block_width_mm: figure("blockSize_mm").optional(),
    block_thickness_mm: figure("blockSize_mm").optional(),
    mass_g: figure("mass_g").optional(),
  })
  .superRefine((item, ctx) => {
    const weighed = blockDensity(item);
    const say = (path: string, message: string) => ctx.issues.push({ code: "custom", message, path: [path], input: undefined });
    if (!weighed && item.mass_g !== undefined) say("block_length_mm", "length, width and thickness are required with a mass");
    else if (!weighed && item.density_kg_m3 === undefined) say("density_kg_m3", "is required, or the block's three sizes and its mass");
    const density = weighed?.densityKgM3 ?? item.density_kg_m3;
    const { min, max } = LIMITS.density_kg_m3;
    if (density !== undefined && !(density >= min && density <= max)) {
      say("mass_g", `gives ${density.toPrecision(3)} kg/m3: a foam has ${min} to ${max}; check sizes and mass`);
    }
  });

/** One thing in the drawer. */
export const itemSchema = z.discriminatedUnion("kind", [wireItem, supplyItem, controlItem, leadItem, tensionerItem, fuseItem, foamItem], {
  error: `kind must be one of ${ITEM_KINDS.join(", ")}`,
});
export type Item = z.output<typeof itemSchema>;
export type ItemOf<K extends ItemKind> = Extract<Item, { kind: K }>;

/** A thing in the drawer as a kind of row. */
export const ITEM_KIND: RowKind<Item> = { one: "thing in the drawer", version: 1, schema: itemSchema, upgrades: {} };
