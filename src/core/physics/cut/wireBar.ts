import { ZERO_CELSIUS_K } from "../../kernel/constants";
import type { Relation } from "../../kernel/provenance";
import { airConductivity } from "../heat/air";
import { bareLossWPerM } from "../heat/bareWire";
import { massKgPerM, resistanceOhmPerM, type Wire } from "../heat/wire";
import type { CutPair } from "./cut";
import { heatIntoFoam } from "./heatIntoFoam";

export const TEMPLATE_EDGE: Relation = {
  id: "template-edge",
  title: "Heat a template's edge takes from the wire",
  formula: "G = 1/(R_gap + R_sheet), R_gap = acosh(1 + 2 delta/d)/(2 pi k_air), R_sheet = ln(20 mm/d)/(pi k_sheet)",
  words: "Where the wire slides on a template it is cooled across a thin film of air and through the sheet: metal cools it hard, laminate little.",
  range: "edge smooth, wire pressed on with a film of 20 micrometres; sheet at room temperature 10 mm in",
  basis: "estimate",
  source:
    "shape factors of a cylinder next to a plane and of a half disc (heat-transfer handbooks); film thickness and sheet radius are this project's estimate",
};

/** Conductivity of a template sheet, W/mK. From memory of materials handbooks. */
export const TEMPLATE_CONDUCTIVITY = { aluminium: 200, laminate: 0.3, plywood: 0.12, card: 0.06 } as const;
export type TemplateMaterial = keyof typeof TEMPLATE_CONDUCTIVITY;
export const TEMPLATE_MATERIALS = Object.keys(TEMPLATE_CONDUCTIVITY) as [TemplateMaterial, ...TemplateMaterial[]];

const FILM_M = 20e-6;
const SHEET_RADIUS_M = 0.01;
const FILM_C = 200;

/** Heat a template's edge takes, W per metre of contact and kelvin. See {@link TEMPLATE_EDGE}. */
export function templateEdgeWPerMK(wire: Wire, material: TemplateMaterial): number {
  const d = wire.outerDiameterM;
  const gap = Math.acosh(1 + (2 * FILM_M) / d) / (2 * Math.PI * airConductivity(FILM_C + ZERO_CELSIUS_K));
  const sheet = Math.log(Math.max(2, (2 * SHEET_RADIUS_M) / d)) / (Math.PI * TEMPLATE_CONDUCTIVITY[material]);
  return 1 / (gap + sheet);
}

/** A template the wire slides on. */
export interface TemplateEdge {
  /** Middle of the contact from the left clamp, m. */
  atM: number;
  /** Thickness of the sheet, m. */
  thicknessM: number;
  material: TemplateMaterial;
}

export interface BarInput {
  wire: Wire;
  lengthM: number;
  ambientC: number;
  clampC: number;
  /** The foam lies on [fromM, toM]. */
  foam?: { pair: CutPair; feedMPerS: number; fromM: number; toM: number } | undefined;
  edges?: readonly TemplateEdge[] | undefined;
  cells?: number | undefined;
}

/** Laws put in place of the shipped ones, for closed-form checks. */
export interface BarLaws {
  loss?: (wireC: number) => number;
  ohmPerM?: (wireC: number) => number;
}

const TABLE_STEP_C = 4;
const TABLE_TOP_C = 1600;

/** A law as a table of straight lines over temperature, from the room up: fast, and energy closes exactly on it. */
function tabled(law: (wireC: number) => number, fromC: number): Float64Array {
  const count = Math.ceil((TABLE_TOP_C - fromC) / TABLE_STEP_C) + 1;
  return Float64Array.from({ length: count }, (_, i) => law(fromC + i * TABLE_STEP_C));
}

/** Value of a table at a share of the way from row k to the next. */
function between(table: Float64Array, k: number, part: number): number {
  return (table[k] as number) + ((table[k + 1] as number) - (table[k] as number)) * part;
}

const DEFAULT_CELLS = 400;

/** Heat flows of a wire at its temperatures, W. */
export interface BarFlows {
  generatedW: number;
  lossToAirW: number;
  lossToFoamW: number;
  lossToEdgesW: number;
  lossToClampsW: number;
}

/** A wire cut into equal cells between two clamps, with the zones each cell lies in. Steady and timed solutions are on this one description. */
export class WireBar {
  readonly n: number;
  readonly dx: number;
  /** Cell centres, m. */
  readonly positionM: Float64Array;
  /** Heat capacity of a cell, J/K. */
  readonly cellJPerK: number;
  /** Conductance between neighbouring cell centres, W/K. */
  readonly conductWPerK: number;
  /** Share of each cell in the foam; zero while the foam is off the wire. */
  readonly foamShare: Float64Array;
  private readonly foamPlace: Float64Array;
  private readonly edgeShare: Float64Array;
  private readonly edgeWPerMK: Float64Array;
  /** Laws over temperature on one grid, so that a cell finds its row once: heat to air, heat to foam, ohms per metre. */
  private readonly air: Float64Array;
  private readonly inFoam: Float64Array;
  private readonly ohm: Float64Array;
  private readonly tableFromC: number;

  constructor(
    readonly input: BarInput,
    laws: BarLaws = {},
  ) {
    const { wire, ambientC, clampC, lengthM, foam, edges = [] } = input;
    this.n = input.cells ?? DEFAULT_CELLS;
    this.dx = lengthM / this.n;
    const start = Math.min(ambientC, clampC);
    this.tableFromC = start;
    this.air = tabled(laws.loss ?? ((c) => (c <= ambientC ? 0 : bareLossWPerM(wire, c, { ambientC }))), start);
    this.inFoam = foam ? tabled(heatIntoFoam(foam.pair, foam.feedMPerS), start) : this.air;
    this.ohm = tabled(laws.ohmPerM ?? ((c) => resistanceOhmPerM(wire, c)), start);
    this.conductWPerK = (wire.alloy.conductivityWMK * wire.metalAreaM2) / this.dx;
    this.cellJPerK = massKgPerM(wire) * wire.alloy.specificHeatJKgK * this.dx;
    this.positionM = Float64Array.from({ length: this.n }, (_, i) => (i + 0.5) * this.dx);
    // Share of each cell that lies in a zone, so that an edge inside a cell is counted right.
    const shareOf = (fromM: number, toM: number) =>
      this.positionM.map((x) => Math.max(0, Math.min(x + this.dx / 2, toM) - Math.max(x - this.dx / 2, fromM)) / this.dx);
    this.foamPlace = foam ? shareOf(foam.fromM, foam.toM) : new Float64Array(this.n);
    this.foamShare = Float64Array.from(this.foamPlace);
    this.edgeShare = new Float64Array(this.n);
    this.edgeWPerMK = new Float64Array(this.n);
    for (const edge of edges) {
      const conductance = templateEdgeWPerMK(wire, edge.material);
      const shares = shareOf(edge.atM - edge.thicknessM / 2, edge.atM + edge.thicknessM / 2);
      for (let i = 0; i < this.n; i++) {
        const share = Math.min(shares[i] as number, 1 - (this.foamPlace[i] as number) - (this.edgeShare[i] as number));
        if (share <= 0) continue;
        this.edgeShare[i] = (this.edgeShare[i] as number) + share;
        this.edgeWPerMK[i] = (this.edgeWPerMK[i] as number) + share * conductance;
      }
    }
  }

  /** Puts the foam on the wire or takes it off. */
  setInFoam(inFoam: boolean): void {
    if (inFoam) this.foamShare.set(this.foamPlace);
    else this.foamShare.fill(0);
  }

  /** Row of the tables a temperature lies in; straight on beyond their ends. */
  private row(wireC: number): number {
    const i = Math.floor((wireC - this.tableFromC) / TABLE_STEP_C);
    return i < 0 ? 0 : Math.min(i, this.ohm.length - 2);
  }

  /**
   * Heat each cell still gains at temperatures `at` and a current squared, W, into `gain`, and how fast that falls with the cell's own temperature, W/K, into `slope`.
   * Returns the sum of the gains' sizes.
   */
  linearise(at: Float64Array, squareA: number, gain: Float64Array, slope: Float64Array): number {
    const { n, dx, conductWPerK, air, inFoam, ohm, tableFromC, foamShare, edgeShare, edgeWPerMK } = this;
    const { clampC, ambientC } = this.input;
    let sum = 0;
    let before = 2 * clampC - (at[0] as number);
    for (let i = 0; i < n; i++) {
      const here = at[i] as number;
      const after = i === n - 1 ? 2 * clampC - here : (at[i + 1] as number);
      const k = this.row(here);
      const part = (here - tableFromC) / TABLE_STEP_C - k;
      const foam = foamShare[i] as number;
      const bare = 1 - foam - (edgeShare[i] as number);
      const edge = edgeWPerMK[i] as number;
      // One mixed law for the cell: what it makes less what its zones take.
      const low = squareA * (ohm[k] as number) - bare * (air[k] as number) - foam * (inFoam[k] as number);
      const high = squareA * (ohm[k + 1] as number) - bare * (air[k + 1] as number) - foam * (inFoam[k + 1] as number);
      const value = conductWPerK * (before - 2 * here + after) + dx * (low + (high - low) * part - edge * (here - ambientC));
      gain[i] = value;
      slope[i] = conductWPerK * (2 + (i === 0 ? 1 : 0) + (i === n - 1 ? 1 : 0)) + dx * (edge - (high - low) / TABLE_STEP_C);
      sum += Math.abs(value);
      before = here;
    }
    return sum;
  }

  /** Where the heat goes at temperatures `at`. */
  flows(at: Float64Array, squareA: number): BarFlows {
    const { n, dx, air, inFoam, ohm, tableFromC } = this;
    const { clampC, ambientC } = this.input;
    let generatedW = 0;
    let lossToAirW = 0;
    let lossToFoamW = 0;
    let lossToEdgesW = 0;
    for (let i = 0; i < n; i++) {
      const here = at[i] as number;
      const k = this.row(here);
      const part = (here - tableFromC) / TABLE_STEP_C - k;
      const foam = this.foamShare[i] as number;
      generatedW += dx * squareA * between(ohm, k, part);
      lossToAirW += dx * (1 - foam - (this.edgeShare[i] as number)) * between(air, k, part);
      lossToFoamW += dx * foam * between(inFoam, k, part);
      lossToEdgesW += dx * (this.edgeWPerMK[i] as number) * (here - ambientC);
    }
    const lossToClampsW = 2 * this.conductWPerK * ((at[0] as number) - clampC + (at[n - 1] as number) - clampC);
    return { generatedW, lossToAirW, lossToFoamW, lossToEdgesW, lossToClampsW };
  }

  /** Ohms of the whole wire at temperatures `at`. */
  ohms(at: Float64Array): number {
    let sum = 0;
    for (let i = 0; i < this.n; i++) {
      const here = at[i] as number;
      const k = this.row(here);
      sum += between(this.ohm, k, (here - this.tableFromC) / TABLE_STEP_C - k);
    }
    return sum * this.dx;
  }
}

/**
 * Solves the symmetric tridiagonal system of a bar in place (Thomas): `diagonal`, `-conduct` next to it, right side `right`.
 * Both arrays are overwritten; the answer is left in `right`.
 */
export function solveTridiagonal(conduct: number, diagonal: Float64Array, right: Float64Array): void {
  const n = right.length;
  for (let i = 1; i < n; i++) {
    const factor = -conduct / (diagonal[i - 1] as number);
    diagonal[i] = (diagonal[i] as number) + factor * conduct;
    right[i] = (right[i] as number) - factor * (right[i - 1] as number);
  }
  right[n - 1] = (right[n - 1] as number) / (diagonal[n - 1] as number);
  for (let i = n - 2; i >= 0; i--) right[i] = ((right[i] as number) + conduct * (right[i + 1] as number)) / (diagonal[i] as number);
}
