import { type CutterFrame, type FrameResult, solveFrame } from "../../physics/mechanics/frame";
import type { UnitSystem } from "../../units/units";
import type { Design } from "../design/schema";

/** The design's frame as the frame model takes it; null where none is described. */
function frameModel({ frame }: Design): CutterFrame | null {
  if (!frame) return null;
  switch (frame.kind) {
    case "bow-saw":
      return {
        kind: "bow-saw",
        wireArmM: frame.wire_arm_mm / 1000,
        cableArmM: frame.cable_arm_mm / 1000,
        arm: { material: frame.arm_material, section: frame.arm },
        spreader: { material: frame.spreader_material, section: frame.spreader, lengthM: frame.spreader_mm / 1000, ends: frame.ends },
      };
    case "c-frame":
      return { kind: "c-frame", throatM: frame.throat_mm / 1000, backM: frame.back_mm / 1000, member: frame };
    case "table-arm":
      return { kind: "table-arm", armM: frame.arm_mm / 1000, member: frame };
    case "camber-tube":
      return { kind: "camber-tube", spanM: frame.span_mm / 1000, riseM: frame.rise_mm / 1000, member: frame };
  }
}

/** Forces and movement of the design's frame under its tension, cold: that is when it pulls hardest. */
export function frameOf(design: Design, tensionN = design.tension.hot_N, units: UnitSystem = "metric"): FrameResult | null {
  const frame = frameModel(design);
  return frame && solveFrame(frame, tensionN, units);
}
