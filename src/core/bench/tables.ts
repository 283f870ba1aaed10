const TABLE_STEP_C = 4;
const HEAT_ROWS = 360;
/** Heat below which nothing melts, W/m: the first row of a table over heat. */
export const LEAST_HEAT = 0.05;
const MOST_HEAT = 5e3;

/** A law kept as a table over temperature. */
export class TemperatureTable {
  private readonly rows: Float64Array;
  constructor(
    law: (wireC: number) => number,
    private readonly fromC: number,
    toC: number,
  ) {
    const count = Math.ceil((toC - fromC) / TABLE_STEP_C) + 2;
    this.rows = Float64Array.from({ length: count }, (_, i) => law(fromC + i * TABLE_STEP_C));
  }
  at(wireC: number): number {
    const x = (wireC - this.fromC) / TABLE_STEP_C;
    const k = Math.max(0, Math.min(this.rows.length - 2, Math.floor(x)));
    const low = this.rows[k] as number;
    return low + ((this.rows[k + 1] as number) - low) * (x - k);
  }
  slope(wireC: number): number {
    const k = Math.max(0, Math.min(this.rows.length - 2, Math.floor((wireC - this.fromC) / TABLE_STEP_C)));
    return ((this.rows[k + 1] as number) - (this.rows[k] as number)) / TABLE_STEP_C;
  }
}

/** A law of heat kept as a table over the logarithm of W/m. */
export class HeatTable {
  private readonly rows: Float64Array;
  private readonly scale = (HEAT_ROWS - 1) / Math.log(MOST_HEAT / LEAST_HEAT);
  constructor(law: (powerWPerM: number) => number) {
    this.rows = Float64Array.from({ length: HEAT_ROWS }, (_, i) => law(LEAST_HEAT * Math.exp(i / this.scale)));
  }
  at(powerWPerM: number): number {
    if (powerWPerM <= LEAST_HEAT) return this.rows[0] as number;
    const x = Math.log(powerWPerM / LEAST_HEAT) * this.scale;
    const k = Math.min(HEAT_ROWS - 2, Math.floor(x));
    const low = this.rows[k] as number;
    return low + ((this.rows[k + 1] as number) - low) * (x - k);
  }
}
