/** Segments that one box represents, and boxes that one larger box represents. */
const BLOCK = 16;

/**
 * Distances from many points to one line of many: segments are in boxes, and a box that is farther than the nearest so far is passed over.
 * @param x, y of the line's points, mm; it is open
 * @param to how many of the points count
 */
export function distancesTo(x: Float64Array, y: Float64Array, to = x.length): (px: number, py: number) => number {
  const segments = Math.max(1, to - 1);
  const blocks = Math.ceil(segments / BLOCK);
  const boxes = new Float64Array(4 * blocks);
  for (let b = 0; b < blocks; b++) {
    let [minX, minY, maxX, maxY] = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY];
    for (let i = b * BLOCK; i <= Math.min(to - 1, (b + 1) * BLOCK); i++) {
      minX = Math.min(minX, x[i] as number);
      maxX = Math.max(maxX, x[i] as number);
      minY = Math.min(minY, y[i] as number);
      maxY = Math.max(maxY, y[i] as number);
    }
    boxes.set([minX, minY, maxX, maxY], 4 * b);
  }
  // A long line's boxes are in larger ones: most of those are passed over whole.
  const halls = Math.ceil(blocks / BLOCK);
  const large = new Float64Array(4 * halls);
  for (let h = 0; h < halls; h++) {
    let [minX, minY, maxX, maxY] = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY];
    for (let b = h * BLOCK; b < Math.min(blocks, (h + 1) * BLOCK); b++) {
      minX = Math.min(minX, boxes[4 * b] as number);
      minY = Math.min(minY, boxes[4 * b + 1] as number);
      maxX = Math.max(maxX, boxes[4 * b + 2] as number);
      maxY = Math.max(maxY, boxes[4 * b + 3] as number);
    }
    large.set([minX, minY, maxX, maxY], 4 * h);
  }
  const from = (all: Float64Array, i: number, px: number, py: number): number => {
    const dx = Math.max(0, (all[4 * i] as number) - px, px - (all[4 * i + 2] as number));
    const dy = Math.max(0, (all[4 * i + 1] as number) - py, py - (all[4 * i + 3] as number));
    return dx * dx + dy * dy;
  };
  let near = 0;
  const inBlock = (b: number, px: number, py: number, best: number): number => {
    let least = best;
    for (let i = b * BLOCK; i < Math.min(segments, (b + 1) * BLOCK); i++) {
      const ax = x[i] as number;
      const ay = y[i] as number;
      const j = Math.min(to - 1, i + 1);
      const ux = (x[j] as number) - ax;
      const uy = (y[j] as number) - ay;
      const long = ux * ux + uy * uy;
      const share = long === 0 ? 0 : Math.min(1, Math.max(0, ((px - ax) * ux + (py - ay) * uy) / long));
      const dx = px - ax - ux * share;
      const dy = py - ay - uy * share;
      const square = dx * dx + dy * dy;
      if (square < least) least = square;
    }
    return least;
  };
  return (px, py) => {
    // Neighbouring questions have neighbouring answers: the last one's box first.
    let best = inBlock(near, px, py, Number.POSITIVE_INFINITY);
    for (let h = 0; h < halls; h++) {
      if (from(large, h, px, py) >= best) continue;
      for (let b = h * BLOCK; b < Math.min(blocks, (h + 1) * BLOCK); b++) {
        if (b === near || from(boxes, b, px, py) >= best) continue;
        const found = inBlock(b, px, py, best);
        if (found < best) {
          best = found;
          near = b;
        }
      }
    }
    return Math.sqrt(best);
  };
}
