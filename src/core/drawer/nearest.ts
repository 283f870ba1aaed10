import type { Design } from "../cutters/design/schema";
import { adoptSetup } from "../cutters/search/adopt";
import type { SearchJob } from "../cutters/search/readyWire";
import { aroundOf, type DesignVerdict, knobOf, settable, verdictOf, withSetting } from "../cutters/solve/evaluate";
import { mismatch, touchLimitV } from "../physics/power/circuit";
import { type Control, controlRecord } from "../physics/power/controls";
import { supplyEmfV } from "../physics/power/supplies";
import type { HeldSupply, HeldWire, Holdings } from "./holdings";
import { takenM } from "./matches";

/** What one pair comes nearest to on the desk, where nothing is clean. */
export interface Nearest {
  /** The cutter's design with that set-up on it. */
  design: Design;
  verdict: DesignVerdict;
}

/** Verdicts by how near they are to a usable cut (this project's judgement): a wide kerf can be allowed for, a dragging wire slowed, smoke and overload stand last. */
const NEARNESS: readonly DesignVerdict[] = ["clean", "wide", "drags", "too-cold", "short-wire", "smokes", "overload"];
const KNOB_STEPS = 48;

/**
 * The best a refused pair reaches: each control at hand is turned through its range on the desk's own engine, and of the settings with the best verdict the one next to clean is taken.
 * @returns null where too little is left on the spool, no control at hand goes with the supply, or its volts must not be touched
 */
export function nearestSetup(design: Design, job: SearchJob, held: HeldWire, source: HeldSupply, controls: Holdings["controls"]): Nearest | null {
  if (held.lengthM < takenM(held, job)) return null;
  let nearest: Nearest | null = null;
  const consider = (tried: Design) => {
    const verdict = verdictOf(tried);
    if (!nearest || NEARNESS.indexOf(verdict) < NEARNESS.indexOf(nearest.verdict)) nearest = { design: tried, verdict };
  };
  for (const { kind } of controls) {
    const control = controlRecord(kind).fullyUp({ ...aroundOf(design), emfV: supplyEmfV(source.supply) }) as Control | null;
    if (!control || mismatch(source.supply, control) || supplyEmfV(source.supply) > touchLimitV(source.supply, control)) continue;
    const top = adoptSetup(design, { wire: held.spec, lengthM: job.bowM, supply: source.supply, control, setting: null, tensionN: design.tension.hot_N });
    const knob = knobOf(top);
    if (!knob) {
      consider(top);
      continue;
    }
    // From cold to hot for what is best at its coolest (a wide kerf, smoke), then from hot to cold for what is best at its hottest.
    const [cold, hot] = knob.rising ? [knob.min, knob.max] : [knob.max, knob.min];
    const settings = Array.from({ length: KNOB_STEPS + 1 }, (_, i) => settable(knob, cold + ((hot - cold) * i) / KNOB_STEPS));
    const tried = settings.map((setting) => withSetting(top, setting));
    const verdicts = tried.map(verdictOf);
    const best = NEARNESS.find((verdict) => verdicts.includes(verdict)) as DesignVerdict;
    const at = best === "drags" || best === "too-cold" ? verdicts.lastIndexOf(best) : verdicts.indexOf(best);
    consider(tried[at] as Design);
  }
  return nearest;
}
