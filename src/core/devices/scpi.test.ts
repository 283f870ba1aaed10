import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { numberIn, readNumber, ScpiInstrument, switchOf } from "./scpi";

function instrument() {
  const state = { volts: 1, on: false, resets: 0 };
  const scpi = new ScpiInstrument(
    "MAKER,MODEL,0,1",
    [
      {
        header: "[SOURce]:VOLTage:[LEVel]",
        ask: () => String(state.volts),
        set: numberIn("V", 0, 30, (volts) => {
          state.volts = volts;
        }),
      },
      {
        header: "OUTPut:[STATe]",
        ask: () => (state.on ? "1" : "0"),
        set: switchOf((on) => {
          state.on = on;
        }),
      },
      { header: "MEASure:TEMPerature", ask: () => "21.5" },
    ],
    () => {
      state.resets += 1;
    },
  );
  return { scpi, state };
}
const cased = (text: string) =>
  fc
    .array(fc.boolean(), { minLength: text.length, maxLength: text.length })
    .map((ups) => [...text].map((c, i) => (ups[i] ? c.toUpperCase() : c.toLowerCase())).join(""));

describe("headers (SCPI-99, volume 1, 6.2)", () => {
  it("short or long, any case, optional nodes there or not: all are one command", () => {
    fc.assert(
      fc.property(
        fc.constantFrom("", "SOUR:", "SOURCE:", ":", ":SOUR:"),
        fc.constantFrom("VOLT", "VOLTAGE"),
        fc.constantFrom("", ":LEV", ":LEVEL"),
        fc.double({ min: 0, max: 30, noNaN: true }),
        (source, volts, level, value) =>
          fc.assert(
            fc.property(cased(`${source}${volts}${level}`), (header) => {
              const { scpi, state } = instrument();
              expect(scpi.handle(`${header} ${value}`)).toBeNull();
              expect(state.volts).toBe(value);
              expect(scpi.handle(`${header}?`)).toBe(String(value));
              expect(scpi.handle("SYST:ERR?")).toBe('0,"No error"');
            }),
            { numRuns: 3 },
          ),
      ),
      { numRuns: 60 },
    );
  });

  it("neither between short and long nor beyond: half-spelt headers are undefined", () => {
    for (const header of ["VOL", "VOLTA", "VOLTAG", "VOLTAGES", "SOUR", "SOUR:LEV", "VOLT:VOLT", "VOLT:LEV:LEV", "OUT", "OUTP:ST", "MEAS", "TEMP"]) {
      const { scpi, state } = instrument();
      scpi.handle(`${header} 5`);
      expect([header, scpi.handle("SYST:ERR?")]).toEqual([header, '-113,"Undefined header"']);
      expect(state).toEqual({ volts: 1, on: false, resets: 0 });
    }
  });

  it("what can only be asked cannot be set, and a query takes no parameter", () => {
    const { scpi } = instrument();
    scpi.handle("MEAS:TEMP 20");
    expect(scpi.handle("SYST:ERR?")).toBe('-113,"Undefined header"');
    expect(scpi.handle("VOLT? 3")).toBeNull();
    expect(scpi.handle("SYST:ERR?")).toBe('-108,"Parameter not allowed"');
  });
});

describe("messages", () => {
  it("joined by semicolons they are done in order, and the answers come in order", () => {
    const { scpi, state } = instrument();
    expect(scpi.handle("VOLT 5; VOLT?;OUTP ON ;OUTP?;;*OPC?")).toBe("5;1;1");
    expect(state).toMatchObject({ volts: 5, on: true });
    expect(scpi.handle("*RST;*IDN?")).toBe("MAKER,MODEL,0,1");
    expect(state.resets).toBe(1);
  });

  it("a bad one in the middle stops none of the others", () => {
    const { scpi, state } = instrument();
    expect(scpi.handle("VOLT 5;NONSENSE;VOLT?")).toBe("5");
    expect(state.volts).toBe(5);
    expect(scpi.handle("SYST:ERR?;SYST:ERR?")).toBe('-113,"Undefined header";0,"No error"');
  });

  it("the queue holds twenty and then says that it overflowed (SCPI-99, 21.8)", () => {
    const { scpi } = instrument();
    for (let i = 0; i < 40; i++) scpi.handle("NONSENSE");
    const errors = Array.from({ length: 21 }, () => scpi.handle("SYST:ERR?"));
    expect(errors.slice(0, 19).every((error) => error === '-113,"Undefined header"')).toBe(true);
    expect(errors[19]).toBe('-350,"Queue overflow"');
    expect(errors[20]).toBe('0,"No error"');
  });
});

describe("parameters", () => {
  it("any number as a program writes it is read exactly, with or without its unit", () => {
    fc.assert(
      // Minus nought is written as nought.
      fc.property(
        fc.double({ noNaN: true, noDefaultInfinity: true }).map((value) => value + 0),
        fc.constantFrom("", "V", " v"),
        (value, unit) => {
          expect(readNumber(`${value}${unit}`, "V")).toBe(value);
        },
      ),
    );
  });

  it("what is no number, or of another unit, is none", () => {
    for (const text of ["", "V", "1.2.3", "0x10", "1e", "--1", "1 A", "NaN", "Infinity", "1e999", "12 volts"])
      expect([text, readNumber(text, "V")]).toEqual([text, null]);
    for (const text of ["1.5", ".5", "5.", "+3", "-0.2e1"]) expect(readNumber(text, "V")).toBe(Number(text));
  });

  it("numbers are held to their range and switches to on and off", () => {
    const { scpi, state } = instrument();
    for (const [line, error] of [
      ["VOLT -0.001", '-222,"Data out of range"'],
      ["VOLT 30.001", '-222,"Data out of range"'],
      ["VOLT", '-109,"Missing parameter"'],
      ["OUTP 2", '-104,"Data type error"'],
      ["OUTP maybe", '-104,"Data type error"'],
    ] as const) {
      scpi.handle(line);
      expect([line, scpi.handle("SYST:ERR?")]).toEqual([line, error]);
    }
    expect(state).toMatchObject({ volts: 1, on: false });
    for (const [word, on] of [
      ["on", true],
      ["OFF", false],
      ["1", true],
      ["0", false],
    ] as const) {
      scpi.handle(`OUTP ${word}`);
      expect(state.on).toBe(on);
    }
  });
});
