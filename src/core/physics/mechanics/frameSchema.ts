import { z } from "zod";
import { fail } from "../../kernel/parse";
import { FRAMING_IDS } from "../../materials/framing";
import { figure } from "../../units/figure";

const frameSize = figure("frameSize_mm");
const sectionSize = figure("sectionSize_mm");
/** A cross-section that bends. */
export const sectionSchema = z
  .discriminatedUnion(
    "shape",
    [
      z.strictObject({ shape: z.literal("bar"), width_mm: sectionSize, depth_mm: sectionSize }),
      z.strictObject({ shape: z.literal("rod"), diameter_mm: sectionSize }),
      z.strictObject({ shape: z.literal("tube"), diameter_mm: sectionSize, wall_mm: sectionSize }),
    ],
    { error: "shape must be one of bar, rod, tube" },
  )
  .superRefine((section, ctx) => {
    if (section.shape === "tube" && 2 * section.wall_mm > section.diameter_mm) {
      fail(ctx as z.core.$RefinementCtx, "out-of-range", `must be at most half of diameter_mm (${section.diameter_mm / 2} mm)`, ["wall_mm"]);
    }
  });
const framing = z.enum(FRAMING_IDS, { error: `must be one of ${FRAMING_IDS.join(", ")}` });

/** The frame that holds the wire. */
export const frameSchema = z.discriminatedUnion(
  "kind",
  [
    z.strictObject({
      kind: z.literal("bow-saw"),
      wire_arm_mm: frameSize,
      cable_arm_mm: frameSize,
      arm_material: framing,
      arm: sectionSchema,
      spreader_mm: frameSize,
      spreader_material: framing,
      spreader: sectionSchema,
      ends: z.enum(["pinned", "one fixed", "fixed"], { error: "must be one of pinned, one fixed, fixed" }),
    }),
    z.strictObject({ kind: z.literal("c-frame"), throat_mm: frameSize, back_mm: frameSize, material: framing, section: sectionSchema }),
    z.strictObject({ kind: z.literal("table-arm"), arm_mm: frameSize, material: framing, section: sectionSchema }),
    z.strictObject({ kind: z.literal("camber-tube"), span_mm: frameSize, rise_mm: frameSize, material: framing, section: sectionSchema }),
  ],
  { error: "kind must be one of bow-saw, c-frame, table-arm, camber-tube" },
);
