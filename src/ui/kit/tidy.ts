import { toDecimals } from "@/core/numerics/round";

/** A typed figure without the tails that unit conversion leaves: four decimals are finer than any tool here. */
export const tidy = (value: number) => toDecimals(value, 4);
