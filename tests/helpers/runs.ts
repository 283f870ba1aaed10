/** How often a property is tried: a quarter of the whole in `npm test`, the whole in `npm run long -- properties`, or so many times that. */
export const runs = (whole: number): number => Math.ceil(whole * Number(process.env.UPWIND_TIMES ?? 0.25));
