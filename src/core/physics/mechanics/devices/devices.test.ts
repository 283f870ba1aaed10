import { readdirSync } from "node:fs";
import path from "node:path";
import { describe, expect, it } from "vitest";
import { formatQuantity } from "../../../units/units";
import { TENSION_DEVICES, TENSION_RECORDS, tensionRecord } from ".";
import type { Written } from "./record";

const show: Written = (quantity, value) => formatQuantity(quantity, value, "metric");

describe("tension devices", () => {
  it("a file that is not in the list is found", () => {
    const files = readdirSync(path.join(process.cwd(), "src/core/physics/mechanics/devices"))
      .map((name) => name.replace(/\.ts$/, ""))
      .filter((name) => !["index", "record", "devices.test"].includes(name));
    expect(files.sort()).toEqual([...TENSION_DEVICES].sort());
  });

  it.each(TENSION_RECORDS.map((record) => [record.device, record] as const))(
    "%s says what it is, and its model is one that gives as it says",
    (device, record) => {
      expect(tensionRecord(device)).toBe(record);
      for (const words of [record.name, record.short, record.words, record.part({ hot_N: 60, rate_N_per_mm: 1.5 }, 3, show)])
        expect(words.length).toBeGreaterThan(2);
      const model = record.model(1.5);
      // One with a rate gives so many newtons a millimetre; one without either gives all or nothing.
      if (record.usualRateNPerMm === null) expect(["weight", "rigid"]).toContain(model.kind);
      else expect(model).toEqual({ kind: device, rateNPerM: 1500 });
      // What is asked of a drawer's thing is what it is then held against.
      const near = (a: number, b: number) => Math.abs(a / b - 1) < 0.15;
      if (record.drawerNeeds === "force_N") {
        expect(record.serves({ force_N: 62 }, { hot_N: 60 }, near)).toBe(true);
        expect(record.serves({ force_N: 90 }, { hot_N: 60 }, near)).toBe(false);
      } else {
        expect(record.serves({ rate_N_per_mm: 1.6 }, { hot_N: 60, rate_N_per_mm: 1.5 }, near)).toBe(true);
        expect(record.serves({ rate_N_per_mm: 3 }, { hot_N: 60, rate_N_per_mm: 1.5 }, near)).toBe(false);
        expect(record.serves({}, { hot_N: 60 }, near)).toBe(true);
      }
    },
  );

  it("what stretches carries no current, what is measured has a rate, and only what fails on its own is cautioned against", () => {
    expect(TENSION_RECORDS.filter(({ stretches }) => stretches).map(({ device }) => device)).toEqual(["spring", "band"]);
    for (const { measured, usualRateNPerMm } of TENSION_RECORDS) if (measured) expect(usualRateNPerMm).not.toBeNull();
    expect(TENSION_RECORDS.filter(({ caution }) => caution).map(({ caution }) => caution?.code)).toEqual(["goes-slack", "band-fades"]);
    expect(tensionRecord("turnbuckle").caution?.words({ growthM: 0.012, coldN: 400, hot_N: 60 }, show)).toMatch(/grows 12.* mm.*60 N hot.*400 N cold/);
    expect(() => tensionRecord("rope" as never)).toThrow(/no tension device is called rope/);
  });
});
