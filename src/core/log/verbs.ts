import { z } from "zod";
import { type Verb, verb } from "@/core/kernel/verb";
import { demoLog } from "@/core/log/demoLog";
import { entrySchema } from "@/core/log/entries";
import { spoolUse } from "@/core/log/spools";

const MOST_ENTRIES = 500;

export const entriesSchema = z.array(entrySchema).max(MOST_ENTRIES, { error: `has room for ${MOST_ENTRIES} entries` });

/** The demo's log, as the verbs' examples show it. */
export const EXAMPLE_LOG = demoLog();

const spoolsVerb: Verb = verb(
  "spools",
  "What a log's wire changes took from each spool, how many wires broke, and the work done with them.",
  z.strictObject({ entries: entriesSchema }),
  { entries: EXAMPLE_LOG },
  (input) => ({
    spools: spoolUse(input.entries).map(({ spool, changes, usedM, broke, cutM, hotMin }) => ({
      spool,
      changes,
      used_m: usedM,
      broke,
      cut_m: cutM,
      hot_min: hotMin,
    })),
  }),
);

/** The headless verbs of this room. */
export const LOG_VERBS: readonly Verb[] = [spoolsVerb];
