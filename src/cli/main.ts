import { readFileSync, writeSync } from "node:fs";
import { CoreError } from "@/core/kernel/errors";
import { runVerb } from "./verbs";

/** Writes all of a text to a descriptor, pipes that fill included. */
function writeAll(descriptor: number, text: string): void {
  const bytes = Buffer.from(text);
  let at = 0;
  while (at < bytes.length) {
    try {
      at += writeSync(descriptor, bytes, at);
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== "EAGAIN") throw error;
    }
  }
}

function readInput(verb: string): unknown {
  if (verb === "help") return null;
  const text = readFileSync(0, "utf8");
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new CoreError("bad-json", "", `standard input is not one JSON value: ${(error as Error).message}`);
  }
}

try {
  const verb = process.argv[2] ?? "help";
  writeAll(1, `${JSON.stringify(runVerb(verb, readInput(verb)))}\n`);
} catch (error) {
  if (!(error instanceof CoreError)) throw error;
  writeAll(2, `${JSON.stringify({ error: { code: error.code, path: error.path, message: error.message } })}\n`);
  process.exitCode = 2;
}
