import type { MEASURED } from "@/contract/instruments/contract";
import { readNumber } from "@/core/devices/scpi";
import { ServerError } from "../../kernel/errors";
import { queryInstrument, readAddress } from "./lineClient";

/** Environment variable that names each instrument's address, and the lines that read it. */
const WIRED = {
  supply: { variable: "UPWIND_SUPPLY", lines: ["MEAS:VOLT?", "MEAS:CURR?"], figures: ["volts_V", "current_A"] },
  pwm: { variable: "UPWIND_PWM", lines: ["SOUR:PULS:DCYC?"], figures: ["duty_percent"] },
  thermometer: { variable: "UPWIND_THERMOMETER", lines: ["MEAS:TEMP?"], figures: ["wire_C"] },
  scale: { variable: "UPWIND_SCALE", lines: ["READ?"], figures: ["pull_N"] },
} as const;

/** SCPI's not-a-number: a probe that has come off. */
const NOT_A_NUMBER = 9e37;

export interface Readings {
  /** By figure; a figure whose instrument gave no number is left out. */
  figures: Partial<Record<(typeof MEASURED)[number], number>>;
  /** What could not be read, in words. */
  troubles: string[];
  /** Instruments that are wired to this app. */
  wired: string[];
}

/**
 * Reads every instrument that the person who started the app wired to it by environment variable: the page can name none, so it can reach nothing else.
 * @param environment such as process.env
 */
export async function readInstruments(environment: Readonly<Record<string, string | undefined>>): Promise<Readings> {
  const readings: Readings = { figures: {}, troubles: [], wired: [] };
  for (const [name, { variable, lines, figures }] of Object.entries(WIRED)) {
    const text = environment[variable];
    if (!text) continue;
    readings.wired.push(name);
    const address = readAddress(text);
    if (!address) {
      readings.troubles.push(`${variable} must be an address such as 127.0.0.1:5025 (it is "${text}").`);
      continue;
    }
    try {
      const answers = await queryInstrument(address, lines);
      for (const [i, figure] of figures.entries()) {
        const value = readNumber(answers[i] ?? "", "");
        if (value === null || Math.abs(value) >= NOT_A_NUMBER) readings.troubles.push(`The ${name} gives no figure for ${figure.replace(/_.*/, "")}.`);
        else readings.figures[figure] = value;
      }
    } catch (error) {
      if (!(error instanceof ServerError)) throw error;
      readings.troubles.push(error.message);
    }
  }
  return readings;
}
