import { readFileSync } from "node:fs";
import path from "node:path";
import { BENCH_VERBS } from "@/core/bench/verbs";
import { CALIBRATION_VERBS } from "@/core/calibration/verbs";
import { SEARCH_VERBS } from "@/core/cutters/search/verbs";
import { CUTTER_VERBS } from "@/core/cutters/solve/verbs";
import { DIAGNOSIS_VERBS } from "@/core/diagnosis/verbs";
import { DRAWER_VERBS } from "@/core/drawer/verbs";
import { JOB_VERBS } from "@/core/jobs/verbs";
import { CoreError } from "@/core/kernel/errors";
import type { Verb } from "@/core/kernel/verb";
import { LOG_VERBS } from "@/core/log/verbs";
import { MOTION_VERBS } from "@/core/motion/program/verbs";
import { PACE_VERBS } from "@/core/pace/verbs";
import { CUT_VERBS } from "@/core/physics/cut/verbs";
import { HEAT_VERBS } from "@/core/physics/heat/verbs";
import { MECHANICS_VERBS } from "@/core/physics/mechanics/verbs";
import { POWER_VERBS } from "@/core/physics/power/verbs";
import { STRING_VERBS } from "@/core/physics/string/verbs";
import { knowFont, OWN_FONT } from "@/core/plans/shapes/text";
import { PLAN_VERBS } from "@/core/plans/verbs";
import { RIG_VERBS } from "@/core/rigs/verbs";
import { SHEET_VERBS } from "@/core/sheets/verbs";

// The command line reads the app's own font from the disk.
knowFont(OWN_FONT, () => new Uint8Array(readFileSync(path.join(process.cwd(), "node_modules", "dejavu-fonts-ttf", "ttf", "DejaVuSans-Bold.ttf"))).buffer);

/** Every module's verbs, in the order of the work. */
const computing: readonly Verb[] = [
  ...HEAT_VERBS,
  ...CUT_VERBS,
  ...POWER_VERBS,
  ...MECHANICS_VERBS,
  ...CUTTER_VERBS,
  ...SEARCH_VERBS,
  ...DRAWER_VERBS,
  ...BENCH_VERBS,
  ...LOG_VERBS,
  ...CALIBRATION_VERBS,
  ...DIAGNOSIS_VERBS,
  ...SHEET_VERBS,
  ...PLAN_VERBS,
  ...STRING_VERBS,
  ...PACE_VERBS,
  ...RIG_VERBS,
  ...MOTION_VERBS,
  ...JOB_VERBS,
];

const helpVerb: Verb = {
  name: "help",
  summary: "Lists the verbs, one example each.",
  example: null,
  run: () => ({ verbs: VERBS.map(({ name, summary, example }) => ({ verb: name, summary, example })) }),
};

/** Every verb of the command-line interface. */
export const VERBS: readonly Verb[] = [...computing, helpVerb];

/**
 * Answers one verb. A list in gives a list of the same length out; any refusal refuses the whole, its path beginning with the index.
 * @throws CoreError for an unknown verb or bad input
 */
export function runVerb(name: string, input: unknown): unknown {
  const found = VERBS.find((row) => row.name === name);
  if (!found) throw new CoreError("unknown-verb", "", `unknown verb "${name}": use one of ${VERBS.map((row) => row.name).join(", ")}`);
  if (!Array.isArray(input)) return run(found, input, "");
  return input.map((item, i) => run(found, item, String(i)));
}

function run(found: Verb, input: unknown, prefix: string): unknown {
  try {
    return found.run(input, prefix);
  } catch (error) {
    if (!(error instanceof CoreError) || prefix === "" || error.path.startsWith(prefix)) throw error;
    throw new CoreError(error.code, error.path ? `${prefix}.${error.path}` : prefix, error.message);
  }
}
