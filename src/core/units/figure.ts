import { bounded } from "../kernel/bounded";
import { LIMITS, type LimitName } from "./limits";

/** A number inside one of the {@link LIMITS}; messages name the range. */
export function figure(name: LimitName) {
  const { min, max, unit } = LIMITS[name];
  return bounded(min, max, unit);
}

/** The room's temperature, degC, as every question about a wire takes it: 20 where it is not said. */
export const ambient = figure("ambient_C").default(20);
