import { CoreError } from "@/core/kernel/errors";
import type { Verb } from "@/core/kernel/verb";

/** How work is refused: its error, with code, path and words. @throws where it was taken, or failed in another way */
export function refusal(work: () => unknown): CoreError {
  try {
    work();
  } catch (error) {
    if (error instanceof CoreError) return error;
    throw error;
  }
  throw new Error("was not refused");
}

/** A room's headless verbs as a script asks them. */
export function headlessOf(verbs: readonly Verb[]): {
  runVerb: (name: string, input: unknown) => unknown;
  /** Path of the field that is refused, or that nothing was. */
  refusal: (name: string, input: unknown) => string;
} {
  const runVerb = (name: string, input: unknown) => {
    const verb = verbs.find((each) => each.name === name);
    if (!verb) throw new Error(`there is no verb ${name} here`);
    return verb.run(input, "");
  };
  return {
    runVerb,
    refusal(name, input) {
      try {
        runVerb(name, input);
      } catch (error) {
        if (error instanceof CoreError) return error.path;
        throw error;
      }
      return "was not refused";
    },
  };
}
