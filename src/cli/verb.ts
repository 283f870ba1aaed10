import type { z } from "zod";
import type { Warning } from "@/core/kernel/errors";
import { parseOrThrow } from "@/core/kernel/parse";
import type { CutState } from "@/core/physics/cut/cut";
import type { CircuitAnswer } from "@/core/physics/power/circuit";
import { figure } from "@/core/units/figure";

/** One verb of the headless door: a JSON value in, a JSON value out. */
export interface Verb {
  name: string;
  summary: string;
  example: unknown;
  run: (input: unknown, prefix: string) => unknown;
}

/** A verb whose input goes through a schema first. */
export function verb<T extends z.ZodType>(name: string, summary: string, schema: T, example: z.input<T>, run: (input: z.output<T>) => unknown): Verb {
  return { name, summary, example, run: (input, prefix) => run(parseOrThrow(schema, input, prefix)) };
}

/** Adds `warnings` only where there are some. */
export function withWarnings<T extends object>(answer: T, warnings: Warning[]): T & { warnings?: Warning[] } {
  return warnings.length > 0 ? { ...answer, warnings } : answer;
}

/** Refinement: one of these keys, no more and no fewer. */
export const exactlyOne =
  (...keys: string[]) =>
  (input: Record<string, unknown>, ctx: z.core.$RefinementCtx) => {
    if (keys.filter((key) => input[key] !== undefined).length !== 1) {
      ctx.issues.push({ code: "custom", message: `give exactly one of ${keys.join(", ")}`, path: [], params: { code: "conflict" }, input: undefined });
    }
  };

export const ambient = figure("ambient_C").default(20);

export const cutFields = (state: CutState) => ({
  kerf_mm: state.kerfM * 1000,
  maxFeed_mm_s: state.maxFeedMPerS * 1000,
  feedRatio: state.feedRatio,
  wireTemperature_C: state.wireC,
  drag_N_per_m: state.dragNPerM,
  power_W_per_m: state.powerWPerM,
  verdict: state.verdict,
});

export const circuitFields = (answer: CircuitAnswer) => ({
  current_A: answer.currentA,
  onCurrent_A: answer.onCurrentA,
  wireVoltage_V: answer.wireVoltageV,
  wirePower_W: answer.wirePowerW,
  power_W_per_m: answer.powerWPerM,
  wireTemperature_C: answer.wireC,
  hotResistance_ohm: answer.hotOhm,
  coldResistance_ohm: answer.coldOhm,
  supplyCurrent_A: answer.supplyCurrentA,
  inrush_A: answer.inrushA,
  leadLoss_W: answer.leadLossW,
  leads_C: answer.leadC,
  joints_C: answer.jointC,
  controlLoss_W: answer.controlLossW,
  state: answer.state,
  iterations: answer.iterations,
  residual_A: answer.residualA,
  // A supply that cannot hold, or a wire that melts nothing, makes no cut to print.
  ...(answer.cut && answer.state !== "overload" && answer.cut.wireC > answer.collapseC ? { cut: cutFields(answer.cut) } : {}),
});

/** Adds a refusal of one key to a refinement. */
export const refuse = (ctx: z.core.$RefinementCtx, path: string, message: string) =>
  ctx.issues.push({ code: "custom", message, path: [path], params: { code: "out-of-range" }, input: undefined });
