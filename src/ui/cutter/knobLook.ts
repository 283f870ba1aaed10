import type { Knob as KnobState } from "@/core/cutters/solve/evaluate";

/** What each knob is called, and how its own unit is shown: `scale` turns the stored figure into the shown one. */
export const KNOB_LOOK: Readonly<Record<KnobState["kind"], { name: string; unit: string; scale: number; decimals: number }>> = {
  duty: { name: "PWM duty", unit: "%", scale: 100, decimals: 0 },
  voltage: { name: "Volts knob", unit: "V", scale: 1, decimals: 1 },
  delay: { name: "Dimmer, delay angle", unit: "°", scale: 1, decimals: 0 },
  buck: { name: "Buck converter, volts out", unit: "V", scale: 1, decimals: 1 },
  rheostat: { name: "Rheostat", unit: "ohm", scale: 1, decimals: 1 },
  fraction: { name: "Tap, share of the winding", unit: "%", scale: 100, decimals: 0 },
  live: { name: "Clip, live wire", unit: "mm", scale: 1, decimals: 0 },
};
