/** Table of [x, y] rows with x rising. */
export type Table = readonly (readonly [number, number])[];

/**
 * Straight-line interpolation in a table, clamped to the end rows outside it.
 * @returns the value, its slope (0 when clamped) and whether it was clamped
 */
export function interpolate(table: Table, x: number): { y: number; slope: number; clamped: boolean } {
  const first = table[0] as readonly [number, number];
  const last = table[table.length - 1] as readonly [number, number];
  if (x <= first[0]) return { y: first[1], slope: 0, clamped: x < first[0] };
  if (x >= last[0]) return { y: last[1], slope: 0, clamped: x > last[0] };
  let i = 1;
  while ((table[i] as readonly [number, number])[0] < x) i++;
  const [x0, y0] = table[i - 1] as readonly [number, number];
  const [x1, y1] = table[i] as readonly [number, number];
  const slope = (y1 - y0) / (x1 - x0);
  return { y: y0 + slope * (x - x0), slope, clamped: false };
}
