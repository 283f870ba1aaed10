import { readFileSync } from "node:fs";
import { RUN } from "@/contract/run/contract";
import { CoreError } from "@/core/kernel/errors";
import { parseOrThrow } from "@/core/kernel/parse";
import { programLines } from "@/core/motion/program/lines";
import type { Machine } from "@/core/motion/program/machine";
import { readProgram } from "@/core/motion/program/reader";

/** A request to start a program, without its text. */
export interface ProgramHead {
  rig: string;
  page: string;
  program: string;
  leadsToDraw: boolean;
}

/** A program that can be followed. */
export interface CheckedProgram {
  /** UTF-8 */
  text: Uint8Array;
  lines: number;
}

/** Message of a body that is no JSON. */
export const NOT_JSON = "The request is not valid JSON.";

/** The request that was received into a file. @throws CoreError `wrong-format` or as its schema says */
function bodyOf(file: string) {
  let value: unknown;
  try {
    value = JSON.parse(readFileSync(file, "utf8"));
  } catch {
    throw new CoreError("wrong-format", "", NOT_JSON);
  }
  return parseOrThrow(RUN.start.request, value);
}

/** Reads what a program is for. */
export function programHead({ file }: { file: string }): ProgramHead {
  const { rig, page, program, leadsToDraw } = bodyOf(file);
  return { rig, page, program, leadsToDraw };
}

/** Checks that a machine can follow a program. @throws CoreError with line and reason */
export function checkProgram({ file, machine }: { file: string; machine: Machine }): CheckedProgram {
  const { text } = bodyOf(file);
  readProgram(text, machine);
  return { text: new TextEncoder().encode(text), lines: programLines(text).length };
}
