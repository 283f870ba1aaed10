import { CoreError } from "../../kernel/errors";
import type { Relation } from "../../kernel/provenance";

export const SPRING_TEST: Relation = {
  id: "spring-test",
  title: "A spring by two weights",
  formula: "k = (F2 - F1)/(l2 - l1), F0 = F1 - k (l1 - l_rest)",
  words: "Hang two known weights and read two lengths: the spring's rate, and the pull it was wound with, follow.",
  range: "both weights stretch it, neither past its usable length",
  basis: "published",
  source: "Hooke's law; with more readings a straight line of least squares",
};

/** An extension spring as measured. */
export interface MeasuredSpring {
  rateNPerM: number;
  /** Pull it is wound with: below it nothing stretches. */
  initialN: number;
  restM: number;
  /** Largest miss of a reading from the straight line, N; 0 with two. */
  worstErrorN: number;
}

/**
 * Rate and initial tension of an extension spring. See {@link SPRING_TEST}.
 * @param readings loads (N) with the lengths (m) they stretch it to; at least two, different
 * @throws CoreError `out-of-range` where a heavier weight stretches less, or the readings do not differ
 */
export function measureSpring(restM: number, readings: readonly { forceN: number; lengthM: number }[]): MeasuredSpring {
  const n = readings.length;
  if (n < 2) throw new CoreError("missing-key", "readings", "readings: two weights with their lengths are needed");
  const meanF = readings.reduce((sum, row) => sum + row.forceN, 0) / n;
  const meanL = readings.reduce((sum, row) => sum + row.lengthM, 0) / n;
  const spread = readings.reduce((sum, row) => sum + (row.lengthM - meanL) ** 2, 0);
  const slope = readings.reduce((sum, row) => sum + (row.lengthM - meanL) * (row.forceN - meanF), 0) / spread;
  if (!(spread > 1e-10) || !(slope > 0)) {
    throw new CoreError("out-of-range", "readings", "readings must differ, and the heavier weight must stretch it further: read the lengths again");
  }
  if (readings.some((row) => row.lengthM <= restM)) {
    throw new CoreError("out-of-range", "rest_mm", "rest_mm must be less than every stretched length: a weight that moves nothing measures nothing");
  }
  const at = (lengthM: number) => meanF + slope * (lengthM - meanL);
  return {
    rateNPerM: slope,
    initialN: Math.max(0, at(restM)),
    restM,
    worstErrorN: Math.max(...readings.map((row) => Math.abs(row.forceN - at(row.lengthM)))),
  };
}

/**
 * Rate (N/m) of a spring from one hung weight and the stretch it makes, for a spring that begins to stretch at once.
 * @throws CoreError `out-of-range` where the weight does not pull harder than what it is wound with
 */
export function rateFromWeight(forceN: number, byM: number, initialN = 0): number {
  if (!(forceN > initialN)) throw new CoreError("out-of-range", "force_N", `force_N must be more than the ${initialN} N the spring is wound with`);
  return (forceN - initialN) / byM;
}

/** Stretch (m) beyond its rest length at a pull; 0 while the pull is below what it was wound with. */
export function stretchM(spring: Pick<MeasuredSpring, "rateNPerM" | "initialN">, forceN: number): number {
  return Math.max(0, forceN - spring.initialN) / spring.rateNPerM;
}

export const WHIP: Relation = {
  id: "whip",
  title: "What a breaking wire lets go",
  formula: "E = T^2/(2 k) + T^2 L/(2 E A) (spring wound with F0: (T^2 - F0^2)/(2 k))",
  words: "Spring and wire hold energy like a drawn bow; when the wire breaks it all goes into the loose ends.",
  range: "elastic spring and wire; a weight falls instead, an arm counts as its spring",
  basis: "published",
  source: "work of a linear spring and of a stretched bar",
};

/** Energy (J) stored in the tension device and in the wire. See {@link WHIP}. */
export function storedEnergyJ(input: { tensionN: number; rateNPerM: number | null; initialN?: number; wireStiffnessNPerM: number }): {
  deviceJ: number;
  wireJ: number;
} {
  const { tensionN, rateNPerM, initialN = 0, wireStiffnessNPerM } = input;
  return {
    deviceJ: rateNPerM === null ? 0 : Math.max(0, tensionN ** 2 - initialN ** 2) / (2 * rateNPerM),
    wireJ: tensionN ** 2 / (2 * wireStiffnessNPerM),
  };
}
