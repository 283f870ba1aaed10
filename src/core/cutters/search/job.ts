import type { UnitSystem } from "../../units/units";
import type { Design } from "../design/schema";
import { learntOhm, pairOf } from "../solve/evaluate";
import type { SearchJob } from "./readyWire";

/** The job of a cutter as the search knows it: its foam as test cuts taught it, width, feed, leads and the length between its posts. */
export function jobOf(design: Design, units?: UnitSystem): SearchJob {
  const { foam, heatShare, dragShare, clearanceShare } = pairOf(design);
  return {
    foam,
    heatShare,
    dragShare,
    clearanceShare,
    extraOhm: learntOhm(design),
    widthM: design.job.width_mm / 1000,
    feedMPerS: design.job.feed_mm_s / 1000,
    acceptedKerfM: design.job.maxKerf_mm / 1000,
    bowM: Math.max(design.wire.length_mm, design.job.width_mm) / 1000,
    ambientC: design.ambient_C,
    leadGaugeAwg: design.leads?.gauge_awg,
    leads: design.leads,
    units,
  };
}
