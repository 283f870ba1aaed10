import { z } from "zod";
import { endpoint, nothing } from "../kernel/endpoint";

/** Figures that an instrument wired to the app can give. */
export const MEASURED = ["volts_V", "current_A", "duty_percent", "wire_C", "pull_N"] as const;

export const INSTRUMENTS = {
  /** `troubles` says what could not be read; `wired` is empty where there are none. */
  read: endpoint(nothing, z.object({ figures: z.partialRecord(z.enum(MEASURED), z.number()), troubles: z.array(z.string()), wired: z.array(z.string()) })),
};
export type InstrumentReadings = z.output<typeof INSTRUMENTS.read.response>;
