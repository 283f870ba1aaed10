/** A figure to so many significant digits, as a number. */
export const toDigits = (value: number, digits: number) => Number(value.toPrecision(digits));

/** A figure to so many decimals, as a number: drops the tails that steps and unit conversion leave. */
export const toDecimals = (value: number, decimals: number) => Number(value.toFixed(decimals));
