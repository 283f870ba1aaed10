import { z } from "zod";
import { plainText } from "../../kernel/parse";

const word = (most = 24) => plainText(most, `must be at most ${most} characters`);

/** The words of a controller's commands and reports. The maker sets them, so that a real controller can replace the simulated one. An empty word is one it does not know. */
export const controllerWordsSchema = z.strictObject({
  /** each line of the program begins with N and its number */
  numbered: z.boolean({ error: "must be true or false" }).default(true),
  /** begins its answer to a line it has taken, and to one it has not */
  taken: word().min(1, { error: "must be the word by which a line is acknowledged" }).default("taken"),
  refused: word().min(1, { error: "must be the word by which a line is refused" }).default("refused"),
  /** begins what it says of a fault of its own */
  fault: word().default("fault"),
  hold: word().default("hold"),
  resume: word().default("resume"),
  stop: word().default("stop"),
  home: word().default("home"),
  clear: word().default("clear"),
  where: word().default("where"),
  /** lines sent ahead of those acknowledged */
  ahead: z
    .number({ error: "must be a whole number from 1 to 256" })
    .int({ error: "must be a whole number from 1 to 256" })
    .min(1, { error: "must be a whole number from 1 to 256" })
    .max(256, { error: "must be a whole number from 1 to 256" })
    .default(64),
});
export type ControllerWords = z.output<typeof controllerWordsSchema>;

/** A word as it goes over the line: one that begins with \x and two hexadecimal digits is that one byte and no line. */
export function spoken(said: string): string {
  const byte = /^\\x([0-9a-fA-F]{2})$/.exec(said);
  return byte ? String.fromCharCode(Number.parseInt(byte[1] as string, 16)) : `${said}\n`;
}
