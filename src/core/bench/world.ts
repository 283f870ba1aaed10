import type { Design } from "../cutters/design/schema";
import { circuitInput, knobOf, liveMm, pairOf, withSetting } from "../cutters/solve/evaluate";
import { type DeviceName, PwmInstrument, type SimulatedDevice, SupplyInstrument, scale, thermometer } from "../devices/instruments";
import { controlRecord } from "../physics/power/controls";
import { type Supply, supplyEmfV, supplyRecordOf } from "../physics/power/supplies";
import { type BenchNotes, type BenchReport, ENTRY_M, reportOf } from "./face";
import { EVEN, grainOf } from "./grain";
import type { BenchPath, Hand } from "./setup";
import { BENCH_STEP_S, BenchSimulator, START_GAP_M } from "./simulator";

/** How a design is set on the bench. */
export interface BenchOptions {
  seed: number;
  /** Length of the block along the cut, mm. */
  block_mm: number;
  /** Corner of 90 degrees so far from the face, mm; null for a straight cut. */
  corner_mm: number | null;
  /** A board with recycled content: things in it stop the wire. */
  recycled: boolean;
  /** Foam without beads: for checks. */
  even?: boolean | undefined;
}

export const BENCH_DEFAULTS: BenchOptions = { seed: 1, block_mm: 150, corner_mm: null, recycled: false };
const BENCH_CORNER_DEG = 90;
/** Volts nobody could tell apart. */
const SAME_V = 1e-6;
/** Resting at a corner means: ends within this of it, m, and slower than this, m/s. */
const AT_CORNER_M = 0.003;
const RESTING_M_PER_S = 3e-4;

/** A supply as its instrument puts out: at so many volts, and at its limit where it holds one. */
function withOutput(supply: Supply, volts: number, amperes: number): Supply {
  const { record, own } = supplyRecordOf(supply);
  const at = record.atVolts?.(own, volts) ?? own;
  return (record.atLimit && record.holdsLimit ? record.atLimit(at, amperes) : at) as unknown as Supply;
}

/** The bench with its devices: the simulator, a supply, a PWM controller where the design has one, a thermometer and a scale. */
export class BenchWorld {
  readonly sim: BenchSimulator;
  readonly devices: Partial<Record<DeviceName, SimulatedDevice>> & { supply: SupplyInstrument };
  private readonly pwm: PwmInstrument | null;
  private wasTripped = false;
  /** What the wire was last fed with. */
  private fed = { volts: Number.NaN, amperes: 0, duty: 0 };
  private readonly ticking: readonly SimulatedDevice[];
  readonly notes: BenchNotes = { lastTurnS: 0, enteredS: null, trips: 0, feeds: [], heats: [], mostLagM: 0, dwellS: 0 };

  constructor(
    private design: Design,
    readonly options: BenchOptions,
  ) {
    const pair = pairOf(design);
    const { cutting: _, ...circuit } = circuitInput(design, pair);
    const path: BenchPath = { cornerAtM: options.corner_mm === null ? null : options.corner_mm / 1000, turnDeg: BENCH_CORNER_DEG };
    // The clip's live length is the wire that matters here; the rest carries nothing.
    const lengthM = liveMm(design) / 1000;
    this.sim = new BenchSimulator({
      pair,
      circuit: { ...circuit, lengthM, control: controlRecord(design.control.kind).shortens ? { kind: "direct" } : design.control },
      widthM: Math.min(design.job.width_mm / 1000, lengthM),
      blockM: options.block_mm / 1000,
      tensionN: design.tension.hot_N,
      acceptedKerfM: design.job.maxKerf_mm / 1000,
      path,
      grain: options.even ? EVEN : grainOf(design.job.foam.family, options.seed, options.recycled || design.job.foam.recycled === true),
    });
    const { supply, control } = design;
    const emf = supplyEmfV(supply);
    const { record, own } = supplyRecordOf(supply);
    const adjustable = record.holdsLimit;
    this.pwm = control.kind === "pwm" ? new PwmInstrument(control.duty, options.seed + 11) : null;
    const instrument = new SupplyInstrument(
      {
        volts: emf,
        amperes: Math.min(999, record.limitA(own)),
        maxVolts: adjustable ? Math.max(record.mostV(own), emf) : emf,
        maxAmperes: adjustable ? Math.max(record.mostA(own), record.limitA(own)) : 0,
        adjustable,
      },
      { volts: () => this.sim.currentA * this.sim.wireOhm, amperes: () => this.sim.currentA },
      options.seed + 10,
    );
    this.devices = {
      supply: instrument,
      ...(this.pwm ? { pwm: this.pwm } : {}),
      thermometer: thermometer(() => this.sim.wireC[this.sim.middle] as number, options.seed + 12),
      scale: scale(() => this.sim.forceN, options.seed + 13),
    };
    this.ticking = Object.values(this.devices);
  }

  /** Says a line to a device. @returns its answer, or null; undefined where this set-up has no such device */
  say(device: DeviceName, line: string): string | null | undefined {
    const spoken = this.devices[device];
    if (!spoken) return undefined;
    const before = this.settingNow();
    const reply = spoken.handle(line);
    if (this.settingNow() !== before) this.notes.lastTurnS = this.sim.timeS;
    return reply;
  }

  private settingNow(): string {
    const { supply } = this.devices;
    return `${supply.setV} ${supply.limitA} ${supply.on} ${this.pwm?.duty}`;
  }

  /** Turns the design's own heat knob, in the knob's unit; through the devices where they hold it. */
  turn(setting: number): void {
    this.design = withSetting(this.design, setting);
    this.notes.lastTurnS = this.sim.timeS;
    const { supply, control } = this.design;
    if (knobOf(this.design)?.kind === "voltage") this.say("supply", `VOLT ${setting}`);
    else if (control.kind === "pwm") this.say("pwm", `SOUR:PULS:DCYC ${(control.duty * 100).toFixed(4)}`);
    else if (!controlRecord(control.kind).shortens)
      this.sim.setCircuit({ supply: supplyRecordOf(supply).record.charge ? this.sim.supplyNow : supply, control });
  }

  /** Switches the supply's output. */
  heat(on: boolean): void {
    this.say("supply", on ? "OUTP ON" : "OUTP OFF");
  }

  hand(hand: Hand): void {
    this.sim.setHand(hand);
  }

  /** What the devices put out reaches the wire. */
  private connect(): void {
    const { supply } = this.devices;
    this.sim.heatOn = supply.on;
    this.sim.interrupted = !supply.live;
    const out = Math.max(0.001, supply.outV);
    const duty = this.pwm?.outDuty ?? 1;
    const { fed } = this;
    if (Math.abs(out - fed.volts) < SAME_V && supply.limitA === fed.amperes && duty === fed.duty) return;
    this.fed = { volts: out, amperes: supply.limitA, duty };
    const now = this.sim.supplyNow;
    const { control } = this.sim.circuitNow;
    this.sim.setCircuit({
      supply: withOutput(now, out, supply.limitA),
      control: this.pwm && control.kind === "pwm" ? { ...control, duty } : control,
    });
  }

  private note(dt: number): void {
    const { sim, notes } = this;
    const tripped = sim.supply === "tripped";
    if (tripped && !this.wasTripped) notes.trips += 1;
    this.wasTripped = tripped;
    if (!sim.inFoam[sim.middle]) return;
    notes.enteredS ??= sim.timeS;
    notes.feeds.push({ timeS: sim.timeS, feedMPerS: sim.endFeedMPerS });
    // Heat is that of the cut under way: past the entry, and moving.
    if ((sim.p[sim.middle] as number) > ENTRY_M && sim.middleFeedMPerS > RESTING_M_PER_S) notes.heats.push(sim.heatWPerM[sim.middle] as number);
    notes.mostLagM = Math.max(notes.mostLagM, sim.lagM);
    const { cornerAtM } = sim.setup.path;
    if (cornerAtM !== null && Math.abs(sim.pathM - START_GAP_M - cornerAtM) < AT_CORNER_M && sim.endFeedMPerS < RESTING_M_PER_S) notes.dwellS += dt;
  }

  /** Goes on by so many seconds. */
  run(seconds: number): void {
    const ticks = Math.max(1, Math.round(seconds / (2 * BENCH_STEP_S)));
    for (let i = 0; i < ticks; i++) {
      const dt = seconds / ticks;
      for (const device of this.ticking) device.tick(dt);
      this.connect();
      this.sim.run(dt);
      this.note(dt);
    }
  }

  report(): BenchReport {
    return reportOf(this.sim, this.notes);
  }
}
