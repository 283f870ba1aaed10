import { z } from "zod";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { designFrom } from "@/core/cutters/solve/verbs";
import { diagnose } from "@/core/diagnosis/diagnosis";
import { CoreError } from "@/core/kernel/errors";
import { type Verb, verb } from "@/core/kernel/verb";
import type { Diagnosis, TestCut } from "@/core/log/entries";
import { EXAMPLE_LOG, entriesSchema } from "@/core/log/verbs";

const diagnoseVerb = verb(
  "diagnose",
  "What went wrong with the newest test cut of a log, by its face and its own figures: causes, likeliest first, each with one change; what did not help before comes last.",
  z.strictObject({ design: z.unknown(), entries: entriesSchema }),
  { design: DEMO_CUTTERS[0], entries: EXAMPLE_LOG },
  (input) => {
    const design = designFrom(input.design, "design");
    const newest = [...input.entries].sort((a, b) => (a.at < b.at ? 1 : -1));
    const cut = newest.find((entry): entry is TestCut => entry.kind === "test-cut");
    if (!cut) throw new CoreError("missing-key", "entries", "entries: none is a test cut");
    const past = newest.filter((entry): entry is Diagnosis => entry.kind === "diagnosis");
    const { fault, remedies } = diagnose(design, cut, past, "metric");
    return { fault, remedies: remedies.map(({ cause, reading, change, before }) => ({ cause, reading, change, before })) };
  },
);

/** The headless verbs of this room. */
export const DIAGNOSIS_VERBS: readonly Verb[] = [diagnoseVerb];
