import { JUDGEMENT, STEFAN_BOLTZMANN, ZERO_CELSIUS_K } from "../kernel/constants";
import type { Relation } from "../kernel/provenance";
import { kerfFeedProduct, leastKerfM, referenceDragNPerM } from "../physics/cut/cut";
import { airConductivity } from "../physics/heat/air";
import { bareLossWPerM, HOTTEST_C } from "../physics/heat/bareWire";
import { massKgPerM, resistanceOhmPerM } from "../physics/heat/wire";
import { type CircuitInput, driveInto, dutyOf } from "../physics/power/circuit";
import { leadsOhm } from "../physics/power/leads";
import { type Supply, supplyRecordOf } from "../physics/power/supplies";
import { grainAt } from "./grain";
import { stationaryGrowthM2PerS } from "./meltWidth";
import type { BenchLedger, BenchSetup, Hand, SupplyTrouble, TraceSeries, TrackRow } from "./setup";
import { HeatTable, LEAST_HEAT, TemperatureTable } from "./tables";

export const BENCH: Relation = {
  id: "bench",
  title: "The virtual bench",
  formula:
    "each stretch of wire: m' cp dT/dt = I^2 R'(T) - q'(T, w); T_pull y'' = F'(v) across the foam, v = v_max F'/(F' + F_ref); kerf as in 'A kerf that opens and narrows in time'",
  words: "The same heat, drag and string laws as the desk, followed in time, so that warming, the entry bite, the bow, a corner and a pause come out of them.",
  range: "foam in the middle of the wire; heat along the wire left out (the desk's heat along the wire has it); hand as stiff as a steady arm",
  basis: "estimate",
  source: "implicit steps of the models named; the drag constant and the gap are this project's estimates until test cuts confirm them",
};

/** Stretches of wire across the foam: odd, so that one is the middle. */
const CELLS = 17;
/** Longest step, s. */
export const BENCH_STEP_S = 1 / 100;
/** Gap between wire and foam at the start, m. */
export const START_GAP_M = 0.012;
/** Kerf times feed below which a heat melts nothing, m2/s. */
const LEAST_PRODUCT = 1e-15;
/** Foam next to the cut that a corner leads out through, m. */
export const SIDE_M = 0.05;
/** Hardest a hand pushes, N; then it stops, regardless of what was asked. */
export const HAND_LIMIT_N = 60;
/** A bow past this share of the span stops the hand: the wire is about to leave its posts or break. */
const MOST_BOW_SHARE = 0.12;
/** A hand's give: how fast it moves for each newton that its push is over the drag, m/s per N. */
const HAND_GIVE = 0.3;
/** Fastest a hand leads, m/s, and how quickly it closes on where it is led. */
const LEAD_MOST_M_PER_S = 0.12;
const LEAD_PER_S = 12;
/** A brick that is asked for too much lets go after this long, and tries again after that long, s (common practice: hiccup). */
const TRIP_AFTER_S = 0.06;
/** A controller that takes a cold wire for a short circuit lets go at once, s. */
const TOUCHY_TRIP_S = 0.005;
const HICCUP_S = 1.5;
/** Loss to foam that is touched but not yet melting, as a share of the foam's own 2 pi k (estimate): it only matters while the wire warms in the foam. */
const COLD_TOUCH = 0.25;
const LEAST_RISE_K = 1e-3;
/** Way between kept rows of a track, m, and time between kept rows of the traces, s. */
const TRACK_EVERY_M = 0.0004;
const TRACE_EVERY_S = 0.05;
const MOST_TRACE = 6000;

/** Length of a plane vector; the standard one guards against overflow at a price that shows here. */
const length2 = (a: number, b: number) => Math.sqrt(a * a + b * b);

/**
 * A cutter on the bench, followed in time. Coordinates: p along the first direction of the cut, q across it (positive toward the corner's turn), both from
 * the middle of the foam's near face; x along the wire.
 */
export class BenchSimulator {
  readonly n = CELLS;
  /** Middles of the stretches across the foam, m from the left post. */
  readonly xM: Float64Array;
  readonly p: Float64Array;
  readonly q: Float64Array;
  readonly wireC: Float64Array;
  readonly kerfM: Float64Array;
  readonly heatWPerM: Float64Array;
  readonly inFoam: Uint8Array;
  /** Bare ends of the wire, degC. */
  airC: number;
  timeS = 0;
  /** Way the ends have gone, m from the start. */
  pathM = 0;
  endFeedMPerS = 0;
  forceN = 0;
  currentA = 0;
  wireOhm = 0;
  supply: SupplyTrouble = "off";
  broken = false;
  heatOn = false;
  /** The supply is on but gives nothing: a device's trip or dropout. */
  interrupted = false;
  readonly ledger: BenchLedger = { generated: 0, toAir: 0, toFoam: 0 };
  /** The middle and an end of the foam, as they went. */
  readonly tracks: { middle: TrackRow[]; edge: TrackRow[] } = { middle: [], edge: [] };
  readonly traces: TraceSeries = { timeS: [], forceN: [], airC: [], foamC: [], feedMmS: [], currentA: [] };

  private circuit: CircuitInput;
  private hand: Hand = { mode: "still" };
  private readonly cellM: number;
  private readonly airM: number;
  private readonly endGapM: number;
  private readonly capacity: number;
  private readonly diameterM: number;
  /** Kerf that just lets the wire through. */
  private readonly leastKerfM: number;
  private readonly referenceN: number;
  private readonly startC: number;
  private readonly air: TemperatureTable;
  private readonly ohm: TemperatureTable;
  /** Parts of the gap law that hang on the wire's temperature: conduction over 2 pi, and radiation. */
  private readonly gap: TemperatureTable;
  private readonly glow: TemperatureTable;
  private readonly product: HeatTable;
  private readonly growth: HeatTable;
  private readonly coldTouch: number;
  private readonly meltsC: number;
  private readonly feeds: Float64Array;
  private readonly topFeeds: Float64Array;
  private readonly loads: Float64Array;
  private readonly lower: Float64Array;
  private readonly diagonal: Float64Array;
  private readonly upper: Float64Array;
  private readonly rightP: Float64Array;
  private readonly rightQ: Float64Array;
  private overFor = 0;
  private offFor = 0;
  private lastTrace = -1;

  constructor(readonly setup: BenchSetup) {
    const { pair, circuit, widthM } = setup;
    const { wire, foam, ambientC } = pair;
    // Leads warm far slower than the wire: their ohms are computed once.
    this.circuit = { ...circuit, leads: undefined, springOhm: (circuit.springOhm ?? 0) + leadsOhm(circuit.leads, ambientC) };
    const spanM = circuit.lengthM;
    const width = Math.min(widthM, spanM * 0.98);
    this.cellM = width / CELLS;
    this.airM = spanM - width;
    const left = (spanM - width) / 2;
    this.endGapM = left + this.cellM / 2;
    this.xM = Float64Array.from({ length: CELLS }, (_, i) => left + (i + 0.5) * this.cellM);
    const array = () => new Float64Array(CELLS);
    this.p = array().fill(-START_GAP_M);
    this.q = array();
    this.wireC = array().fill(ambientC);
    this.diameterM = wire.outerDiameterM;
    this.leastKerfM = leastKerfM(pair);
    this.kerfM = array().fill(this.diameterM);
    this.heatWPerM = array();
    this.inFoam = new Uint8Array(CELLS);
    this.feeds = array();
    this.topFeeds = array();
    this.loads = array();
    this.lower = array();
    this.diagonal = array();
    this.upper = array();
    this.rightP = array();
    this.rightQ = array();
    this.airC = ambientC;
    this.startC = ambientC;
    this.capacity = massKgPerM(wire) * wire.alloy.specificHeatJKgK;
    this.referenceN = referenceDragNPerM(pair);
    const { collapseC } = foam;
    this.coldTouch = COLD_TOUCH * 2 * Math.PI * foam.conductivityWMK;
    // A wire past its melting point breaks; tables end a little above the hottest that can stand.
    this.meltsC = Math.min(HOTTEST_C, wire.alloy.meltsC ?? 1400);
    const top = this.meltsC + 200;
    this.air = new TemperatureTable((c) => (c <= ambientC ? 0 : bareLossWPerM(wire, c, { ambientC })), ambientC, top);
    this.ohm = new TemperatureTable((c) => resistanceOhmPerM(wire, c), ambientC, top);
    this.gap = new TemperatureTable(
      (c) => (c <= collapseC ? 0 : 2 * Math.PI * airConductivity((c + collapseC) / 2 + ZERO_CELSIUS_K) * (c - collapseC)),
      ambientC,
      top,
    );
    const fourth = (c: number) => (c + ZERO_CELSIUS_K) ** 4;
    this.glow = new TemperatureTable(
      (c) => (c <= collapseC ? 0 : wire.alloy.emissivity * STEFAN_BOLTZMANN * Math.PI * this.diameterM * (fourth(c) - fourth(collapseC))),
      ambientC,
      top,
    );
    this.product = new HeatTable((power) => kerfFeedProduct(pair, power));
    this.growth = new HeatTable((power) => stationaryGrowthM2PerS(pair, power));
  }

  /** Middle stretch. */
  get middle(): number {
    return CELLS >> 1;
  }

  setHand(hand: Hand): void {
    this.hand = hand;
  }

  get circuitNow(): CircuitInput {
    return this.circuit;
  }

  /** The supply as it is now: a battery with what is left in it. */
  get supplyNow(): CircuitInput["supply"] {
    return this.circuit.supply;
  }

  /** Turns the knob, or lets the supply answer as a device says. */
  setCircuit(change: Pick<CircuitInput, "supply" | "control">): void {
    this.circuit = { ...this.circuit, ...change };
  }

  /** Where the ends are for a way along the path, and which way they head. */
  endAt(pathM: number): { p: number; q: number; dp: number; dq: number } {
    const { cornerAtM, turnDeg } = this.setup.path;
    const s = pathM - START_GAP_M;
    if (cornerAtM === null || s <= cornerAtM) return { p: s, q: 0, dp: 1, dq: 0 };
    const turn = (turnDeg * Math.PI) / 180;
    return { p: cornerAtM + (s - cornerAtM) * Math.cos(turn), q: (s - cornerAtM) * Math.sin(turn), dp: Math.cos(turn), dq: Math.sin(turn) };
  }

  private isInside(p: number, q: number): boolean {
    return p >= 0 && p < this.setup.blockM && q < SIDE_M;
  }

  /** The whole wire has come out at the far face, or out of the side the corner leads to. */
  get through(): boolean {
    const { blockM, path } = this.setup;
    const done = path.cornerAtM === null ? blockM : path.cornerAtM + SIDE_M;
    return this.pathM - START_GAP_M > done && this.lagM < 0.5e-3 + this.diameterM;
  }

  /** How far the middle trails the ends, m. */
  get lagM(): number {
    const end = this.endAt(this.pathM);
    return length2(end.p - (this.p[this.middle] as number), end.q - (this.q[this.middle] as number));
  }

  /** Feed of the middle, m/s. */
  get middleFeedMPerS(): number {
    return this.feeds[this.middle] as number;
  }

  /** Top feed of a stretch, m/s; 0 where nothing melts, and where there is no foam. */
  topFeedOf(i: number): number {
    const top = this.topFeeds[i] as number;
    return top === Number.POSITIVE_INFINITY ? 0 : top;
  }

  private ohmNow(): number {
    let sum = 0;
    for (let i = 0; i < CELLS; i++) sum += this.ohm.at(this.wireC[i] as number);
    return sum * this.cellM + this.ohm.at(this.airC) * this.airM;
  }

  private electric(dt: number): void {
    this.wireOhm = this.ohmNow();
    if (!this.heatOn || this.broken) {
      this.currentA = 0;
      this.supply = "off";
      this.offFor = 0;
      return;
    }
    if (this.offFor > 0) {
      this.offFor -= dt;
      this.currentA = 0;
      this.supply = "tripped";
      return;
    }
    if (this.interrupted) {
      this.currentA = 0;
      this.supply = "tripped";
      return;
    }
    const driven = driveInto(this.circuit, this.wireOhm);
    const { rmsA, supplyA } = driven;
    const { supply } = this.circuit;
    this.currentA = rmsA;
    this.supply = "ok";
    // A bench supply holds its limit and a battery has none: only plates trip.
    const source = supplyRecordOf(supply);
    const over = !source.record.holdsLimit && supplyA > source.record.limitA(source.own);
    this.overFor = over ? this.overFor + dt : 0;
    if (this.overFor > (source.record.tripsOnRush(source.own) ? TOUCHY_TRIP_S : TRIP_AFTER_S)) {
      this.overFor = 0;
      this.offFor = HICCUP_S;
    }
    const { charge } = source.record;
    if (charge) {
      // A chopper draws its on-current for its duty only.
      const meanA = supplyA * dutyOf(this.circuit.control, driven);
      const left = Math.max(0, charge.left(source.own) - (meanA * dt) / (3600 * charge.ampereHours(source.own)));
      this.circuit = { ...this.circuit, supply: charge.withLeft(source.own, left) as unknown as Supply };
    }
  }

  private moveHand(dt: number): void {
    const { hand } = this;
    const { tensionN } = this.setup;
    const held = this.forceN > HAND_LIMIT_N || this.lagM > MOST_BOW_SHARE * this.circuit.lengthM;
    let feed = 0;
    switch (hand.mode) {
      case "still":
        break;
      case "pace":
        feed = held ? 0 : hand.mPerS;
        break;
      case "lead":
        feed = held ? 0 : Math.max(0, Math.min(LEAD_MOST_M_PER_S, (hand.toM - this.pathM) * LEAD_PER_S));
        break;
      case "push": {
        // A free wire gives way at a hand's pace; a loaded one until its drag balances the push. The string's own stiffness keeps the step stable.
        const stiffness = (2 * tensionN) / this.endGapM;
        feed = Math.max(0, Math.min(0.06, (HAND_GIVE * (hand.newtons - this.forceN)) / (1 + dt * HAND_GIVE * stiffness)));
        break;
      }
    }
    this.pathM += feed * dt;
    this.endFeedMPerS = feed;
  }

  /** Moves the wire: straight where nothing holds it, at the speed its own load drives where foam does. Two rounds of the lagged load, one tridiagonal solve each. */
  private moveWire(dt: number): void {
    const { p, q, feeds, topFeeds, loads, lower, diagonal, upper, rightP, rightQ, cellM, endGapM, referenceN } = this;
    const { tensionN, pair, grain } = this.setup;
    const end = this.endAt(this.pathM);
    const last = CELLS - 1;
    // In air before the foam nothing bends it: it goes where its ends go.
    if (end.p < 0) {
      feeds.fill(this.endFeedMPerS);
      topFeeds.fill(Number.POSITIVE_INFINITY);
      p.fill(end.p);
      this.forceN = 0;
      return;
    }
    for (let i = 0; i < CELLS; i++) {
      this.inFoam[i] = this.isInside(p[i] as number, q[i] as number) ? 1 : 0;
      if (this.inFoam[i] && !this.broken) {
        const grainHere = grainAt(grain, this.xM[i] as number, p[i] as number, q[i] as number);
        const melts = (this.wireC[i] as number) > pair.foam.collapseC;
        topFeeds[i] = melts ? (this.product.at(this.heatWPerM[i] as number) / this.leastKerfM) * grainHere : 0;
      } else topFeeds[i] = Number.POSITIVE_INFINITY;
    }
    for (let round = 0; round < 2; round++) {
      for (let i = 0; i < CELLS; i++) {
        const toLeft = tensionN / (i === 0 ? endGapM : cellM);
        const toRight = tensionN / (i === last ? endGapM : cellM);
        const top = topFeeds[i] as number;
        // Mobility of the stretch: metres a second for each newton on it.
        const mobility = top === Number.POSITIVE_INFINITY ? 1e6 : top / (((loads[i] as number) + referenceN) * cellM);
        const k = dt * mobility;
        lower[i] = i === 0 ? 0 : -k * toLeft;
        upper[i] = i === last ? 0 : -k * toRight;
        diagonal[i] = 1 + k * (toLeft + toRight);
        rightP[i] = (p[i] as number) + (i === 0 ? k * toLeft * end.p : 0) + (i === last ? k * toRight * end.p : 0);
        rightQ[i] = (q[i] as number) + (i === 0 ? k * toLeft * end.q : 0) + (i === last ? k * toRight * end.q : 0);
      }
      for (let i = 1; i < CELLS; i++) {
        const factor = (lower[i] as number) / (diagonal[i - 1] as number);
        diagonal[i] = (diagonal[i] as number) - factor * (upper[i - 1] as number);
        rightP[i] = (rightP[i] as number) - factor * (rightP[i - 1] as number);
        rightQ[i] = (rightQ[i] as number) - factor * (rightQ[i - 1] as number);
      }
      rightP[last] = (rightP[last] as number) / (diagonal[last] as number);
      rightQ[last] = (rightQ[last] as number) / (diagonal[last] as number);
      for (let i = last - 1; i >= 0; i--) {
        rightP[i] = ((rightP[i] as number) - (upper[i] as number) * (rightP[i + 1] as number)) / (diagonal[i] as number);
        rightQ[i] = ((rightQ[i] as number) - (upper[i] as number) * (rightQ[i + 1] as number)) / (diagonal[i] as number);
      }
      for (let i = 0; i < CELLS; i++) {
        const beforeP = i === 0 ? end.p : (rightP[i - 1] as number);
        const afterP = i === last ? end.p : (rightP[i + 1] as number);
        const beforeQ = i === 0 ? end.q : (rightQ[i - 1] as number);
        const afterQ = i === last ? end.q : (rightQ[i + 1] as number);
        const toLeft = tensionN / (i === 0 ? endGapM : cellM);
        const toRight = tensionN / (i === last ? endGapM : cellM);
        const loadP = toLeft * (beforeP - (rightP[i] as number)) + toRight * (afterP - (rightP[i] as number));
        const loadQ = toLeft * (beforeQ - (rightQ[i] as number)) + toRight * (afterQ - (rightQ[i] as number));
        loads[i] = length2(loadP, loadQ) / cellM;
      }
    }
    const perM = tensionN / endGapM;
    const forceP = perM * (2 * end.p - (rightP[0] as number) - (rightP[last] as number));
    const forceQ = perM * (2 * end.q - (rightQ[0] as number) - (rightQ[last] as number));
    this.forceN = this.broken ? 0 : length2(forceP, forceQ);
    for (let i = 0; i < CELLS; i++) {
      const moved = length2((rightP[i] as number) - (p[i] as number), (rightQ[i] as number) - (q[i] as number));
      feeds[i] = moved / dt;
      p[i] = rightP[i] as number;
      q[i] = rightQ[i] as number;
    }
  }

  /** Warms each stretch and opens or narrows its kerf. Energy is booked with the very heat each step uses, so it closes. */
  private heat(dt: number): void {
    const square = this.currentA * this.currentA;
    const { ambientC, foam } = this.setup.pair;
    const { collapseC } = foam;
    for (let i = 0; i < CELLS; i++) {
      const here = this.wireC[i] as number;
      const made = square * this.ohm.at(here);
      let loss: number;
      let slope: number;
      if (this.inFoam[i]) {
        const log = Math.log(Math.max((this.kerfM[i] as number) / this.diameterM, JUDGEMENT.leastGapRatio));
        const gap = this.gap.at(here) / log + this.glow.at(here);
        // A wire in foam is the cooler one: it hands over at least what open air would take.
        const open = here > collapseC ? this.air.at(here) : 0;
        const melting = Math.max(gap, open);
        const touch = this.coldTouch * (Math.min(here, collapseC) - ambientC);
        loss = Math.max(touch, melting);
        slope =
          touch > melting ? (here < collapseC ? this.coldTouch : 0) : open > gap ? this.air.slope(here) : this.gap.slope(here) / log + this.glow.slope(here);
        this.heatWPerM[i] = melting;
      } else {
        loss = this.air.at(here);
        slope = this.air.slope(here);
        this.heatWPerM[i] = 0;
      }
      const rise = (dt * (made - loss)) / (this.capacity + dt * slope);
      this.wireC[i] = here + rise;
      this.ledger.generated += made * this.cellM * dt;
      const lost = (loss + slope * rise) * this.cellM * dt;
      if (this.inFoam[i]) this.ledger.toFoam += lost;
      else this.ledger.toAir += lost;
      this.widen(i, dt);
    }
    const made = square * this.ohm.at(this.airC);
    const slope = this.air.slope(this.airC);
    const loss = this.air.at(this.airC);
    const rise = (dt * (made - loss)) / (this.capacity + dt * slope);
    this.airC += rise;
    this.ledger.generated += made * this.airM * dt;
    this.ledger.toAir += (loss + slope * rise) * this.airM * dt;
    if (this.airC > this.meltsC || this.wireC.some((c) => c > this.meltsC)) this.broken = true;
  }

  private widen(i: number, dt: number): void {
    const least = JUDGEMENT.leastGapRatio * this.diameterM;
    if (!this.inFoam[i]) {
      this.kerfM[i] = least;
      return;
    }
    const heat = this.heatWPerM[i] as number;
    if (heat <= LEAST_HEAT) return;
    const growth = this.growth.at(heat);
    const product = this.product.at(heat);
    if (product < LEAST_PRODUCT) return;
    const feed = this.feeds[i] as number;
    const w = this.kerfM[i] as number;
    // w1^2 = w^2 + g dt (1 - w1/w_s): implicit, so that a quick wire takes its narrow kerf at once without overshooting.
    const b = (growth * dt * feed) / product;
    this.kerfM[i] = Math.max(least, (-b + Math.sqrt(b * b + 4 * (w * w + growth * dt))) / 2);
  }

  private keep(track: TrackRow[], i: number): void {
    if (!this.inFoam[i]) return;
    const last = track[track.length - 1];
    const p = this.p[i] as number;
    const q = this.q[i] as number;
    const row: TrackRow = {
      timeS: this.timeS,
      p,
      q,
      kerfM: this.kerfM[i] as number,
      wireC: this.wireC[i] as number,
      feedMPerS: this.feeds[i] as number,
      ratio: Math.min(99, (this.feeds[i] as number) / Math.max(1e-9, this.topFeeds[i] as number)),
    };
    if (!last || length2(p - last.p, q - last.q) >= TRACK_EVERY_M) track.push(row);
    // At rest the place stays the same and its kerf grows.
    else if (row.kerfM > last.kerfM)
      Object.assign(last, { kerfM: row.kerfM, wireC: Math.max(last.wireC, row.wireC), feedMPerS: Math.min(last.feedMPerS, row.feedMPerS) });
  }

  /** One step of at most {@link BENCH_STEP_S}. */
  private step(dt: number): void {
    this.electric(dt);
    this.moveHand(dt);
    this.moveWire(dt);
    this.heat(dt);
    this.timeS += dt;
    this.keep(this.tracks.middle, this.middle);
    this.keep(this.tracks.edge, 0);
    if (this.timeS - this.lastTrace >= TRACE_EVERY_S && this.traces.timeS.length < MOST_TRACE) {
      this.lastTrace = this.timeS;
      const { traces } = this;
      traces.timeS.push(this.timeS);
      traces.forceN.push(this.forceN);
      traces.airC.push(this.airC);
      traces.foamC.push(this.wireC[this.middle] as number);
      traces.feedMmS.push(this.endFeedMPerS * 1000);
      traces.currentA.push(this.currentA);
    }
  }

  /** Goes on by so many seconds with the hand and knob as they are. */
  run(seconds: number): void {
    const steps = Math.max(1, Math.round(seconds / BENCH_STEP_S));
    for (let i = 0; i < steps; i++) this.step(seconds / steps);
  }

  /** Heat held in the wire since the start, J. */
  storedJ(): number {
    let sum = (this.airC - this.startC) * this.airM;
    for (let i = 0; i < CELLS; i++) sum += ((this.wireC[i] as number) - this.startC) * this.cellM;
    return sum * this.capacity;
  }

  /** (made - lost - stored)/made since the start. Less heat than a thousandth of a degree holds is taken as that much: below it rounding is all there is. */
  energyImbalance(): number {
    const { generated, toAir, toFoam } = this.ledger;
    const least = this.capacity * this.setup.circuit.lengthM * LEAST_RISE_K;
    return (generated - toAir - toFoam - this.storedJ()) / Math.max(generated, least);
  }
}
