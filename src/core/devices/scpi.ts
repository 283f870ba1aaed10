/**
 * A text instrument that understands the plain part of SCPI: one message a line, headers in long or short form, any case, `?` asks, `;` joins.
 * It keeps an error queue (`SYSTem:ERRor?`) and answers the common commands `*IDN?`, `*RST`, `*CLS`, `*OPC?`. Standard: SCPI-99 and IEEE 488.2.
 */

/** An error of the queue: SCPI's own numbers. */
const FAULTS = {
  undefined: [-113, "Undefined header"],
  missing: [-109, "Missing parameter"],
  notAllowed: [-108, "Parameter not allowed"],
  type: [-104, "Data type error"],
  range: [-222, "Data out of range"],
  conflict: [-221, "Settings conflict"],
  overflow: [-350, "Queue overflow"],
} as const;
export type ScpiFault = keyof typeof FAULTS;

const MOST_QUEUED = 20;
/** Longest line taken: what is longer is no command of these instruments. */
export const LONGEST_LINE = 256;

/** One command: its header as SCPI writes it, upper case for the short form and brackets for what may be left out. */
export interface ScpiCommand {
  header: string;
  /** Answers a query; a string goes on the line, a fault into the queue. */
  ask?: () => string;
  /** Takes a parameter; returns a fault or nothing. */
  set?: (parameter: string) => ScpiFault | undefined;
}

/** All spellings of one node: "VOLTage" is VOLT or VOLTAGE. */
function spells(node: string, typed: string): boolean {
  const short = node.replace(/[a-z]/g, "");
  return typed === short || typed === node.toUpperCase();
}

/** Whether typed nodes are this header, optional nodes left out or not. */
function matches(header: string, typed: readonly string[]): boolean {
  const nodes = header.split(":").map((node) => (node.startsWith("[") ? { node: node.slice(1, -1), optional: true } : { node, optional: false }));
  const walk = (i: number, j: number): boolean => {
    const here = nodes[i];
    if (!here) return j === typed.length;
    const word = typed[j];
    return (word !== undefined && spells(here.node, word) && walk(i + 1, j + 1)) || (here.optional && walk(i + 1, j));
  };
  return walk(0, 0);
}

/** Reads a number with an optional unit that the command expects, such as "12.5 V". */
export function readNumber(parameter: string, unit: string): number | null {
  const found = /^([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)\s*([a-z%]*)$/i.exec(parameter.trim());
  if (!found) return null;
  const typed = (found[2] ?? "").toUpperCase();
  if (typed !== "" && typed !== unit) return null;
  const value = Number(found[1]);
  return Number.isFinite(value) ? value : null;
}

/** A setter of a number within a range. */
export const numberIn =
  (unit: string, min: number, max: number, take: (value: number) => void) =>
  (parameter: string): ScpiFault | undefined => {
    const value = readNumber(parameter, unit);
    if (value === null) return "type";
    if (value < min || value > max) return "range";
    take(value);
    return undefined;
  };

/** A setter of ON or OFF, 1 or 0. */
export const switchOf =
  (take: (on: boolean) => void) =>
  (parameter: string): ScpiFault | undefined => {
    const word = parameter.trim().toUpperCase();
    if (word === "ON" || word === "1") take(true);
    else if (word === "OFF" || word === "0") take(false);
    else return "type";
    return undefined;
  };

export class ScpiInstrument {
  private readonly queue: [number, string][] = [];

  /**
   * @param identity what `*IDN?` answers: four fields with commas
   * @param reset back to the state at power-on
   */
  constructor(
    private readonly identity: string,
    private readonly commands: readonly ScpiCommand[],
    private readonly reset: () => void,
  ) {}

  private fault(kind: ScpiFault): void {
    if (this.queue.length >= MOST_QUEUED) this.queue[MOST_QUEUED - 1] = [...FAULTS.overflow];
    else this.queue.push([...FAULTS[kind]]);
  }

  private common(header: string): string | null | undefined {
    switch (header) {
      case "*IDN?":
        return this.identity;
      case "*OPC?":
        return "1";
      case "*RST":
        this.reset();
        return null;
      case "*CLS":
        this.queue.length = 0;
        return null;
      default:
        return undefined;
    }
  }

  private message(text: string): string | null {
    const found = /^(\S+)(?:\s+(.*))?$/s.exec(text.trim());
    if (!found) return null;
    const typed = (found[1] as string).toUpperCase();
    const parameter = (found[2] ?? "").trim();
    const common = this.common(typed);
    if (common !== undefined) return common;
    const asks = typed.endsWith("?");
    const nodes = typed.replace(/^:/, "").replace(/\?$/, "").split(":");
    if (asks && matches("SYSTem:ERRor:[NEXT]", nodes)) {
      const [code, words] = this.queue.shift() ?? [0, "No error"];
      return `${code},"${words}"`;
    }
    const command = this.commands.find((each) => matches(each.header, nodes) && (asks ? each.ask : each.set));
    if (!command) {
      this.fault("undefined");
      return null;
    }
    if (asks) {
      if (parameter !== "") this.fault("notAllowed");
      return parameter === "" && command.ask ? command.ask() : null;
    }
    if (parameter === "") {
      this.fault("missing");
      return null;
    }
    const trouble = command.set?.(parameter);
    if (trouble) this.fault(trouble);
    return null;
  }

  /** Takes one line; answers what was asked, answers joined by `;`, or null where nothing was. */
  handle(line: string): string | null {
    if (line.length > LONGEST_LINE) {
      this.fault("undefined");
      return null;
    }
    const answers = line
      .split(";")
      .map((part) => this.message(part))
      .filter((reply) => reply !== null);
    return answers.length > 0 ? answers.join(";") : null;
  }
}
