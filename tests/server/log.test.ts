import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { newDesign } from "@/core/design/defaults";
import type { LogEntry } from "@/core/log/entries";
import { type Database, openDatabase } from "@/server/db/client";
import { createCutter } from "@/server/repositories/cutters";
import { addEntry, listLog, removeEntry } from "@/server/repositories/log";

let db: Database;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ db, close } = await openDatabase(undefined));
}, 60_000);
afterAll(() => close());

const check = (at: string, tension_N: number): LogEntry => ({ kind: "tension-check", at, tension_N, how: "spring", hot: true, note: "after the parade 🏮" });

describe("a cutter's log", () => {
  it("keeps entries exactly, newest first by their own date, and each cutter's apart", async () => {
    const [one, two] = [await createCutter(db, newDesign("bow", "One")), await createCutter(db, newDesign("bow", "Two"))];
    await addEntry(db, one.id, check("2026-11-20T08:00:00Z", 60));
    const late = await addEntry(db, one.id, check("2026-11-22T08:00:00Z", 58));
    await addEntry(db, one.id, check("2026-11-21T08:00:00Z", 59));
    await addEntry(db, two.id, check("2026-11-21T08:00:00Z", 12));
    expect((await listLog(db, one.id)).map((row) => row.entry)).toEqual([
      check("2026-11-22T08:00:00Z", 58),
      check("2026-11-21T08:00:00Z", 59),
      check("2026-11-20T08:00:00Z", 60),
    ]);
    await expect(removeEntry(db, two.id, late.id)).rejects.toMatchObject({ code: "not-found" });
    await removeEntry(db, one.id, late.id);
    expect(await listLog(db, one.id)).toHaveLength(2);
    await expect(addEntry(db, "00000000-0000-4000-8000-000000000000", check("2026-11-21T08:00:00Z", 1))).rejects.toMatchObject({ code: "not-found" });
  });
});
