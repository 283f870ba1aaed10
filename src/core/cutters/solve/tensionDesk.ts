import { storedEnergyJ, stretchM } from "../../physics/mechanics/springs";
import { pitchHz, wireStiffnessNPerM } from "../../physics/mechanics/tension";
import { type WireEnds, wireEnds } from "../../physics/mechanics/wireEnds";
import { formatQuantity, type UnitSystem } from "../../units/units";
import type { Design } from "../design/schema";
import { type DesignEvaluation, tensionDevice } from "./evaluate";

/** One number to set, for one way of measuring. */
export interface SettingNumber {
  how: "spring" | "weight" | "pitch";
  words: string;
}

export interface TensionDesk {
  /** Rate of the device, N/m; null for a weight or a turnbuckle. */
  rateNPerM: number | null;
  /** Stretch of a spring cold and hot, m; null where there is none. */
  stretchColdM: number | null;
  stretchHotM: number | null;
  /** Usable stretch left when cold, when it is longest, m; null where it is not known. */
  travelLeftM: number | null;
  /** Hot tension as a share of what is recommended. */
  ofLimit: number;
  setCold: SettingNumber[];
  setHot: SettingNumber[];
  ends: WireEnds;
  energy: { deviceJ: number; wireJ: number };
  pitchColdHz: number;
  pitchHotHz: number;
}

/** Everything the tension desk shows next to the frame. */
export function tensionDeskOf(design: Design, evaluation: DesignEvaluation, units: UnitSystem): TensionDesk {
  const { tension: set } = design;
  const { tension, wire } = evaluation;
  const spanM = design.wire.length_mm / 1000;
  const device = tensionDevice(design);
  const rateNPerM = "rateNPerM" in device ? device.rateNPerM : null;
  const spring = rateNPerM === null ? null : { rateNPerM, initialN: set.initial_N ?? 0 };
  const stretchColdM = spring && stretchM(spring, tension.coldN);
  const stretchHotM = spring && stretchM(spring, tension.hotN);
  const length = (metres: number) => formatQuantity("kerf", metres * 1000, units, units === "metric" ? 1 : 2);
  const force = (newtons: number) => formatQuantity("force", newtons, units, 1);
  const numbers = (newtons: number, stretch: number | null, hot: boolean): SettingNumber[] => {
    const list: SettingNumber[] = [];
    if (spring && stretch !== null && set.device === "spring") {
      const rest = set.rest_mm;
      list.push({
        how: "spring",
        words:
          rest === undefined
            ? `adjust until the spring is ${length(stretch)} longer than at rest`
            : `adjust until the spring measures ${formatQuantity("kerf", rest + stretch * 1000, units, units === "metric" ? 1 : 2)} (${length(stretch)} beyond its rest)`,
      });
    }
    list.push({
      how: "weight",
      words: `hang ${force(newtons)} (${(newtons / 9.80665).toFixed(2)} kg) on the wire's end over a pulley, mark where the device stands, then bring it to the mark`,
    });
    const hz = pitchHz(wire, spanM, newtons);
    list.push({ how: "pitch", words: `pluck it: ${hz.toFixed(0)} Hz${hot ? ", heat on, in air: mind the wire" : ""}` });
    return list;
  };
  return {
    rateNPerM,
    stretchColdM,
    stretchHotM,
    travelLeftM: stretchColdM === null || set.travel_mm === undefined ? null : set.travel_mm / 1000 - stretchColdM,
    ofLimit: tension.hotN / tension.hotLimits.recommendedN,
    setCold: numbers(tension.coldN, stretchColdM, false),
    setHot: numbers(tension.hotN, stretchHotM, true),
    ends: wireEnds(wire, spanM),
    energy: storedEnergyJ({ tensionN: tension.coldN, rateNPerM, initialN: set.initial_N ?? 0, wireStiffnessNPerM: wireStiffnessNPerM(wire, spanM) }),
    pitchColdHz: tension.pitchColdHz,
    pitchHotHz: tension.pitchHotHz,
  };
}
