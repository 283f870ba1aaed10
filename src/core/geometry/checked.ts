import type { Path64 } from "clipper2-ts";
import { CoreError } from "../kernel/errors";
import type { Region } from "./points";
import type { Difference } from "./scanline";
import { TOLERANCE } from "./tolerance";

/** The clipping library's faults depend on the direction in which lines run: what fails in one mirror works in another. */
const MIRRORS = [
  { x: 1, y: 1 },
  { x: 1, y: -1 },
  { x: -1, y: 1 },
  { x: -1, y: -1 },
] as const;
export type Mirror = (typeof MIRRORS)[number];

/** A path in a mirror; mirroring it twice gives it back. */
export const mirrored = (path: Path64, { x, y }: Mirror): Path64 => (x === 1 && y === 1 ? path : path.map((point) => ({ x: point.x * x, y: point.y * y })));

/**
 * Runs an operation in the first mirror in which its result agrees with an independent check.
 * @throws CoreError `no-solution` with the place where every result loses or adds material
 */
export function checked(run: (mirror: Mirror) => Region[], faultOf: (result: readonly Region[]) => Difference | null): Region[] {
  let fault: Difference | null = null;
  for (const mirror of MIRRORS) {
    const result = run(mirror);
    const found = faultOf(result);
    if (!found) return result;
    fault ??= found;
  }
  const { area, at } = fault as Difference;
  const steps = TOLERANCE.stepsPerMm;
  const [x, y] = [at.x / steps, at.y / steps];
  throw new CoreError(
    "no-solution",
    "shapes",
    `${(area / steps ** 2).toPrecision(3)} mm2 of this drawing would be lost or added near x ${x.toFixed(2)}, y ${y.toFixed(2)} mm. Nothing was made of it. Look for lines there that touch or cross themselves, and draw them once`,
  );
}
