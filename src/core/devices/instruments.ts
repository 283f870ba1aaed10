import { seededUniform } from "../numerics/seededUniform";
import { numberIn, type ScpiCommand, ScpiInstrument, switchOf } from "./scpi";

/** What can go wrong with a simulated device, switched on by anyone who tests against it. */
export const DEVICE_FAULTS = ["trip", "dropout", "drift"] as const;
export type DeviceFault = (typeof DEVICE_FAULTS)[number];
export const DEVICES = ["supply", "pwm", "thermometer", "scale"] as const;
export type DeviceName = (typeof DEVICES)[number];

/** A device that answers lines of text. A real one behind a socket can be in its place: nothing else of it is used. */
export interface LineDevice {
  /** @returns the answer's line, or null where nothing was asked */
  handle(line: string): string | null;
}

/** A simulated device: lines, time, and faults. */
export interface SimulatedDevice extends LineDevice {
  /** Lets time pass. */
  tick(seconds: number): void;
  setFault(fault: DeviceFault, on: boolean): void;
  readonly faults: ReadonlySet<DeviceFault>;
}

const VERSION = "1";
const identity = (what: string) => `UPWIND-ROD,SIMULATED ${what.toUpperCase()},0,${VERSION}`;
const figure = (value: number, decimals: number) => value.toFixed(decimals);
/** SCPI's own words for a probe that has come off, and for one past its range. */
const NOT_A_NUMBER = "9.91E37";
const OVER_RANGE = "9.9E37";
/** What the probes reach. */
const THERMOMETER_C = { min: -50, max: 1200 };
const SCALE_N = { min: -5, max: 50 };
/** Every so many seconds a dropping-out device is silent for so long. */
const DROPOUT_EVERY_S = 4;
const DROPOUT_S = 0.4;
/** Drift a second and its most, shares. */
const DRIFT_PER_S = 0.004;
const DRIFT_MOST = 0.15;

/** Faults, noise and time that every simulated device has. */
abstract class Simulated implements SimulatedDevice {
  readonly faults = new Set<DeviceFault>();
  protected elapsedS = 0;
  protected drift = 0;
  private readonly uniform: () => number;
  protected abstract readonly scpi: ScpiInstrument;

  constructor(seed: number) {
    this.uniform = seededUniform(seed);
  }

  handle(line: string): string | null {
    return this.scpi.handle(line);
  }

  setFault(fault: DeviceFault, on: boolean): void {
    if (on) this.faults.add(fault);
    else this.faults.delete(fault);
    if (fault === "drift" && !on) this.drift = 0;
  }

  tick(seconds: number): void {
    this.elapsedS += seconds;
    if (this.faults.has("drift")) this.drift = Math.min(DRIFT_MOST, this.drift + DRIFT_PER_S * seconds);
  }

  protected get droppedOut(): boolean {
    return this.faults.has("dropout") && this.elapsedS % DROPOUT_EVERY_S < DROPOUT_S;
  }

  /** Noise close to a bell, of a standard deviation. */
  protected noise(deviation: number): number {
    return deviation * Math.sqrt(3) * (this.uniform() + this.uniform() + this.uniform() + this.uniform() - 2);
  }
}

/** What the wire takes at the supply's terminals. */
export interface ElectronicLoad {
  volts: () => number;
  amperes: () => number;
}

/** How fast the output follows the knob, share a second. */
const SUPPLY_FOLLOWS_PER_S = 12;

/** A bench supply: volts and current limit set by text, output followed with a little lag, measured with a little noise. */
export class SupplyInstrument extends Simulated {
  setV: number;
  limitA: number;
  on = false;
  /** Volts at its terminals before any load. */
  outV = 0;
  protected readonly scpi: ScpiInstrument;

  /** @param adjustable false for a plate that can only be switched: its VOLTage may be asked but not set */
  constructor(start: { volts: number; amperes: number; maxVolts: number; maxAmperes: number; adjustable: boolean }, load: ElectronicLoad, seed: number) {
    super(seed);
    this.setV = start.volts;
    this.limitA = start.amperes;
    const only =
      (set: NonNullable<ScpiCommand["set"]>): NonNullable<ScpiCommand["set"]> =>
      (parameter) =>
        start.adjustable ? set(parameter) : "conflict";
    const measured = (read: () => number, share: number, floor: number) => () => {
      const value = this.live ? read() : 0;
      return figure(Math.max(0, value + this.noise(share * value + floor)), 3);
    };
    this.scpi = new ScpiInstrument(
      identity("bench supply"),
      [
        {
          header: "[SOURce]:VOLTage:[LEVel]:[IMMediate]:[AMPLitude]",
          ask: () => figure(this.setV, 3),
          set: only(
            numberIn("V", 0, start.maxVolts, (volts) => {
              this.setV = volts;
            }),
          ),
        },
        {
          header: "[SOURce]:CURRent:[LEVel]:[IMMediate]:[AMPLitude]",
          ask: () => figure(this.limitA, 3),
          set: only(
            numberIn("A", 0, start.maxAmperes, (amperes) => {
              this.limitA = amperes;
            }),
          ),
        },
        {
          header: "OUTPut:[STATe]",
          ask: () => (this.live ? "1" : "0"),
          set: switchOf((on) => {
            this.on = on;
            // Switching on again is how a tripped supply is brought back; a standing fault trips it again.
            this.tripped = false;
          }),
        },
        { header: "MEASure:[SCALar]:VOLTage:[DC]", ask: measured(load.volts, 0.001, 0.004) },
        { header: "MEASure:[SCALar]:CURRent:[DC]", ask: measured(load.amperes, 0.002, 0.003) },
      ],
      () => {
        this.on = false;
        this.tripped = false;
        this.setV = start.adjustable ? 0 : start.volts;
        this.limitA = start.amperes;
      },
    );
  }

  private tripped = false;

  /** Whether anything comes out of it. */
  get live(): boolean {
    return this.on && !this.tripped && !this.droppedOut;
  }

  override tick(seconds: number): void {
    super.tick(seconds);
    if (this.faults.has("trip") && this.on) this.tripped = true;
    const wanted = this.live ? this.setV * (1 + this.drift) : 0;
    this.outV += (wanted - this.outV) * (1 - Math.exp(-SUPPLY_FOLLOWS_PER_S * seconds));
  }
}

/** A PWM controller: duty in percent. */
export class PwmInstrument extends Simulated {
  duty: number;
  protected readonly scpi: ScpiInstrument;

  constructor(startDuty: number, seed: number) {
    super(seed);
    this.duty = startDuty;
    this.scpi = new ScpiInstrument(
      identity("pwm controller"),
      [
        {
          header: "[SOURce]:PULSe:DCYCle",
          ask: () => figure(this.duty * 100, 2),
          set: numberIn("PCT", 0, 100, (percent) => {
            this.duty = percent / 100;
          }),
        },
      ],
      () => {
        this.duty = 0;
      },
    );
  }

  /** Duty that reaches the wire. */
  get outDuty(): number {
    if (this.faults.has("trip") || this.droppedOut) return 0;
    return Math.min(1, this.duty * (1 + this.drift));
  }
}

/** A probe: something read, late and with noise. */
class Probe extends Simulated {
  private shown: number;
  protected readonly scpi: ScpiInstrument;

  constructor(
    what: string,
    header: string,
    private readonly read: () => number,
    private readonly range: { min: number; max: number },
    private readonly lagS: number,
    deviation: number,
    decimals: number,
    seed: number,
  ) {
    super(seed);
    this.shown = read();
    this.scpi = new ScpiInstrument(
      identity(what),
      [
        {
          header,
          ask: () => {
            if (this.faults.has("trip") || this.droppedOut) return NOT_A_NUMBER;
            const value = this.shown * (1 + this.drift) + this.noise(deviation);
            // Past its range a probe says so, as SCPI's infinities do.
            if (value > this.range.max) return OVER_RANGE;
            return value < this.range.min ? `-${OVER_RANGE}` : figure(value, decimals);
          },
        },
      ],
      () => undefined,
    );
  }

  override tick(seconds: number): void {
    super.tick(seconds);
    this.shown += (this.read() - this.shown) * (1 - Math.exp(-seconds / this.lagS));
  }
}

/** A thermocouple on the wire, degC: it follows late. */
export const thermometer = (read: () => number, seed: number): SimulatedDevice =>
  new Probe("thermometer", "MEASure:[SCALar]:TEMPerature", read, THERMOMETER_C, 0.8, 1.2, 1, seed);

/** A scale in the pull, N. */
export const scale = (read: () => number, seed: number): SimulatedDevice => new Probe("pull scale", "READ", read, SCALE_N, 0.15, 0.02, 2, seed);
