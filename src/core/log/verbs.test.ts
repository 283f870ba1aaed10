import { describe, expect, it } from "vitest";
import { runVerb } from "@/cli/verbs";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { demoLog } from "@/core/log/demoLog";

const design = DEMO_CUTTERS[0];
const entries = demoLog();
const refusal = (name: string, input: unknown) => {
  try {
    runVerb(name, input);
  } catch (error) {
    return error as { code: string; path: string };
  }
  throw new Error("it was taken");
};

describe("the log by command line", () => {
  it("learn: fits, says what moves and what to cut next; its own design, given back, is moved already", () => {
    const taught = runVerb("learn", { design, entries, at: "2026-11-24T10:00:00Z" }) as {
      cuts: number;
      learnt: { name: string; value: number; before: number; after: number }[];
      moved: { id: string; before: number; after: number }[];
      next: { measure: string; before: number; after: number };
      design: { calibrations: unknown[] };
    };
    expect(taught.cuts).toBe(6);
    for (const figure of taught.learnt) expect(figure.after).toBeLessThanOrEqual(figure.before * 1.0001);
    const drag = taught.learnt.find((figure) => figure.name === "dragShare");
    // The demo's cuts were made with 1.35 times the drag that is believed, measured with noise.
    expect(Math.abs(Math.log((drag?.value ?? 1) / 1.35))).toBeLessThan(2 * (drag?.after ?? 0) + 0.05);
    expect(taught.next.after).toBeLessThan(taught.next.before);
    const before = runVerb("solve", taught.design);
    const plain = runVerb("solve", design);
    expect(JSON.stringify(before)).not.toBe(JSON.stringify(plain));
    const again = runVerb("learn", { design: taught.design, entries }) as typeof taught;
    expect(again.learnt).toEqual(taught.learnt); // never learnt twice from the same cuts
    expect(again.moved.every((figure) => Math.abs(figure.after / figure.before - 1) < 1e-4)).toBe(true);
  });

  it("card: a line a foam, wider wants more volts, and what cannot be cut says so", () => {
    const foams = [
      { family: "eps", density_kg_m3: 18 },
      { family: "epp", density_kg_m3: 60 },
    ];
    type Card = { rows: { foam: string; setting: { knob: { value: number; from: number; to: number }; longerWire_mm: number; calibrated: boolean } | null }[] };
    const usual = runVerb("card", { design, foams }) as Card;
    expect(usual.rows.map((row) => row.foam)).toEqual(["eps-18", "epp-60"]);
    const first = usual.rows[0]?.setting;
    expect(first?.knob.value).toBeGreaterThan(first?.knob.from ?? 99);
    expect(first?.knob.value).toBeLessThan(first?.knob.to ?? 0);
    const wide = (runVerb("card", { design, foams, width_mm: 1800 }) as Card).rows[0]?.setting;
    expect(wide?.longerWire_mm).toBe(520);
    expect(wide?.knob.value).toBeGreaterThan(first?.knob.value ?? 99);
    const weak = { ...DEMO_CUTTERS[1], supply: { kind: "dc", voltage_V: 2, maxCurrent_A: 8 } };
    expect((runVerb("card", { design: weak, foams: [foams[1]] }) as Card).rows[0]?.setting).toBeNull();
  });

  it("diagnose: the newest cut's face, and what was tried comes back to it; spools: what was used", () => {
    type Diagnosis = { fault: string; remedies: { cause: string; before: string | null }[] };
    const result = runVerb("diagnose", { design, entries }) as Diagnosis;
    expect(result.fault).toBe("grooved");
    expect(result.remedies[0]?.cause).toBe("paused");
    const tried = { kind: "diagnosis", at: "2026-11-20T10:00:00Z", fault: "grooved", cause: "paused", change: "x", outcome: "no help" };
    expect((runVerb("diagnose", { design, entries: [...entries, tried] }) as Diagnosis).remedies.at(-1)).toMatchObject({ cause: "paused", before: "no help" });
    expect(runVerb("spools", { entries })).toMatchObject({ spools: [{ spool: "Rib wire, hard-drawn", changes: 2, broke: 1 }] });
  });

  it.each([
    ["learn", { design, entries: [] }, "missing-key", "entries"],
    ["learn", { design, entries: [{ ...entries[0], kerf_mm: 900 }] }, "out-of-range", "entries.0.kerf_mm"],
    ["learn", { design: { ...design, wire: {} }, entries }, "missing-key", "design.wire.alloy"],
    ["card", { design, foams: [] }, "out-of-range", "foams"],
    ["card", { design, foams: [{ family: "pvc", density_kg_m3: 40 }] }, "forbidden-foam", "foams.0.family"],
    ["card", { design, width_mm: -1 }, "out-of-range", "width_mm"],
    ["diagnose", { design, entries: entries.filter((entry) => entry.kind !== "test-cut") }, "missing-key", "entries"],
    ["spools", { entries: [{ kind: "party" }] }, "not-one-of", "entries.0.kind"],
  ])("%s refuses bad input by its path", (name, input, code, path) => {
    expect(refusal(name, input)).toMatchObject({ code, path });
  });
});
