import { controlOfKnob } from "../../physics/power/controls";
import { voltsCure } from "../../physics/power/controls/record";
import { formatNumber, formatQuantity, type Quantity, type UnitSystem } from "../../units/units";
import type { Design } from "../design/schema";
import type { DesignVerdict } from "./evaluate";

/** What a cure turns or changes: a knob by its name, or a part. */
export type CureKnob = string;

/** The smallest change of one thing that fixes a design. */
export interface Cure {
  knob: CureKnob;
  /** Before and after, in the knob's canonical unit (mm/s, duty 0..1, V, mm of diameter or length, A). */
  from: number;
  to: number;
  /** Whole gauge steps for `gauge`, + is thicker. */
  steps?: number;
  design: Design;
  /** The verdict after it: clean, or what is then left to fix. */
  leaves: DesignVerdict;
}

/** A cure in words that say what changes: "1.5 mm/s slower (6.0 mm/s)". */
export function describeCure(cure: Cure, units: UnitSystem): string {
  const more = cure.to > cure.from;
  const difference = Math.abs(cure.to - cure.from);
  const show = (quantity: Quantity, value: number, decimals?: number) => formatQuantity(quantity, value, units, decimals);
  switch (cure.knob) {
    case "feed":
      return units === "metric"
        ? `${formatNumber("feed", difference, units)} mm/s ${more ? "faster" : "slower"} (${formatQuantity("feed", cure.to, units)})`
        : `${more ? "faster" : "slower"}: ${formatQuantity("feed", cure.to, units, 2)}`;
    case "voltage":
    case "supply-voltage":
      return voltsCure(cure.from, cure.to, show);
    case "gauge": {
      const count = Math.abs(cure.steps ?? 0);
      return `${count === 1 ? "one gauge" : `${count} gauges`} ${(cure.steps ?? 0) > 0 ? "thicker" : "thinner"} (${formatQuantity("diameter", cure.to, units, units === "metric" ? 2 : undefined)})`;
    }
    case "length":
      return `a wire ${formatQuantity("length", difference, units)} longer (${formatQuantity("length", cure.to, units)})`;
    case "add-pwm":
      return `add PWM at ${Math.round(cure.to * 100)} %`;
    case "supply-current":
      return `a supply good for ${formatQuantity("current", cure.to, units, 1)}`;
    default:
      return controlOfKnob(cure.knob)?.cure(cure.from, cure.to, show) ?? `${cure.knob} at ${cure.to}`;
  }
}
