import { eq, sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { newDesign } from "@/core/cutters/solve/defaults";
import { demoLog } from "@/core/log/demoLog";
import type { LogEntry } from "@/core/log/entries";
import { entriesToCsv, entriesToJson } from "@/core/log/files";
import { cutterRepository } from "@/server/features/cutters/repository";
import { addItem, listDrawer } from "@/server/features/drawer/repository";
import { addEntry, addPhoto, getPhoto, importLog, listLog, listLogWhole, previewLog, removeEntry, saveEntry } from "@/server/features/log/repository";
import type { Database } from "@/server/kernel/db/client";
import { logEntries } from "@/server/kernel/db/schema";
import { engines } from "../../../../tests/helpers/engines";

describe.each(await engines())("on %s", (_name, open) => {
  let db: Database;
  let close: () => Promise<void>;
  beforeAll(async () => {
    ({ db, close } = await open());
  }, 60_000);
  afterAll(() => close());

  const check = (at: string, tension_N: number): LogEntry => ({ kind: "tension-check", at, tension_N, how: "spring", hot: true, note: "after the parade 🏮" });
  const NOWHERE = "00000000-0000-4000-8000-000000000000";
  const cutter = async (name: string) => (await cutterRepository.create(db, newDesign("bow", name))).id;

  describe("a cutter's log", () => {
    it("an entry that is sent again under its id is kept once, and its wire comes off the spool once", async () => {
      const [own, other] = [await cutter("Sent twice"), await cutter("Another")];
      const spool = { kind: "wire", name: "Spool sent twice", alloy: "nicr-80-20", diameter_mm: 0.4, length_m: 5 } as const;
      await addItem(db, { ...spool } as never);
      const id = "7f1c1f5e-0000-4000-8000-00000000abcd";
      const change = {
        kind: "wire-change",
        at: "2026-11-01T08:00:00Z",
        why: "worn",
        wire: { alloy: "nicr-80-20", diameter_mm: 0.4 },
        spool: spool.name,
        cut_mm: 1200,
        note: "",
      } as unknown as LogEntry;
      const first = await addEntry(db, own, change, id);
      expect(await addEntry(db, own, change, id)).toEqual(first);
      expect(await listLog(db, own)).toHaveLength(1);
      const left = (await listDrawer(db)).find(({ item }) => item.name === spool.name)?.item as { length_m?: number };
      expect(left.length_m).toBeCloseTo(3.8, 9);
      await expect(addEntry(db, other, change, id)).rejects.toMatchObject({ code: "name-taken" });
      expect(await listLog(db, other)).toEqual([]);
    });

    it("an entry that cannot be read hides none of the others, is counted in its page, and can be struck out", async () => {
      const own = await cutter("Spoilt log");
      for (let day = 1; day <= 4; day++) await addEntry(db, own, check(`2026-11-0${day}T08:00:00Z`, day));
      const [newest, second] = await listLog(db, own);
      await db
        .update(logEntries)
        .set({ formatVersion: 7 })
        .where(eq(logEntries.id, newest?.id ?? ""));
      await db
        .update(logEntries)
        .set({ entry: { kind: "tension-check" } })
        .where(eq(logEntries.id, second?.id ?? ""));
      const { rows, unreadable, older } = await listLogWhole(db, own, { limit: 3 });
      expect(older).toBe(true);
      expect((await listLogWhole(db, own, { limit: 4 })).older).toBe(false);
      expect(rows.map((row) => row.entry.at)).toEqual(["2026-11-02T08:00:00Z"]);
      expect(unreadable.map((row) => row.name)).toEqual(["tension-check, 2026-11-04 08:00", "tension-check, 2026-11-03 08:00"]);
      expect(unreadable[0]?.why).toMatch(/newer Upwind Rod/);
      await removeEntry(db, own, newest?.id ?? "");
      expect((await listLogWhole(db, own)).unreadable).toHaveLength(1);
    });

    it("keeps entries exactly, newest first by their own date, and each cutter's apart", async () => {
      const [one, two] = [await cutter("One"), await cutter("Two")];
      await addEntry(db, one, check("2026-11-20T08:00:00Z", 60));
      const late = await addEntry(db, one, check("2026-11-22T08:00:00Z", 58));
      await addEntry(db, one, check("2026-11-21T08:00:00Z", 59));
      await addEntry(db, two, check("2026-11-21T08:00:00Z", 12));
      expect((await listLog(db, one)).map((row) => row.entry)).toEqual([
        check("2026-11-22T08:00:00Z", 58),
        check("2026-11-21T08:00:00Z", 59),
        check("2026-11-20T08:00:00Z", 60),
      ]);
      await expect(removeEntry(db, two, late.id)).rejects.toMatchObject({ code: "not-found" });
      await removeEntry(db, one, late.id);
      expect(await listLog(db, one)).toHaveLength(2);
      await expect(addEntry(db, NOWHERE, check("2026-11-21T08:00:00Z", 1))).rejects.toMatchObject({ code: "not-found" });
    });

    it("an entry may be put right, but not become another kind, and not across cutters", async () => {
      const [one, two] = [await cutter("Right"), await cutter("Wrong")];
      const tried: LogEntry = {
        kind: "diagnosis",
        at: "2026-11-20T08:00:00Z",
        fault: "glossy",
        cause: "too hot",
        change: "turn down",
        outcome: "untried",
        note: "",
      };
      const { id } = await addEntry(db, one, tried);
      const result = { ...tried, outcome: "helped" } as const;
      expect((await saveEntry(db, one, id, 1, result)).entry).toEqual(result);
      await expect(saveEntry(db, two, id, 2, tried)).rejects.toMatchObject({ code: "not-found" });
      await expect(saveEntry(db, one, id, 2, check("2026-11-20T08:00:00Z", 5))).rejects.toMatchObject({ code: "not-found" });
      expect((await listLog(db, one)).map((row) => row.entry)).toEqual([result]);
    });

    it("a wire change shortens its spool, both or neither", async () => {
      const id = await cutter("Spooled");
      const spool = await addItem(db, { kind: "wire", name: "Rib", owned: true, notes: "", alloy: "ss-304", diameter_mm: 0.64, temper: "spring", length_m: 4 });
      const change = (cut_mm: number, name: string): LogEntry => ({
        kind: "wire-change",
        at: "2026-11-20T08:00:00Z",
        why: "worn",
        wire: { alloy: "ss-304", diameter_mm: 0.64, temper: "spring" },
        spool: name,
        cut_mm,
        note: "",
      });
      const left = async () => (await listDrawer(db)).flatMap((row) => (row.id === spool.id && row.item.kind === "wire" ? [row.item.length_m] : []));
      await addEntry(db, id, change(1500, "rib "));
      expect(await left()).toEqual([2.5]);
      await expect(addEntry(db, id, change(2600, "Rib"))).rejects.toMatchObject({ code: "spool-short" });
      await expect(addEntry(db, id, change(100, "No such"))).rejects.toMatchObject({ code: "not-found" });
      expect(await left()).toEqual([2.5]);
      expect(await listLog(db, id)).toHaveLength(1);
    });

    it("goes out and comes in elsewhere with the same figures, once", async () => {
      const [from, to, again] = [await cutter("From"), await cutter("To"), await cutter("Again")];
      for (const entry of demoLog().filter((each) => each.kind !== "wire-change")) await addEntry(db, from, entry);
      const entries = (await listLog(db, from)).map((row) => row.entry);
      const json = entriesToJson("From", entries);
      expect((await importLog(db, to, json)).every((row) => row.status === "new")).toBe(true);
      expect((await listLog(db, to)).map((row) => row.entry)).toEqual(entries);
      expect((await importLog(db, to, json)).every((row) => row.status === "known")).toBe(true);
      expect(await listLog(db, to)).toHaveLength(entries.length);
      // One bad row: the rest is taken; a file that is no log: nothing is.
      const csv = entriesToCsv(entries.map((entry) => ({ cutter: "From", entry }))).replace(",matt,", ",shiny,");
      expect((await previewLog(db, again, csv)).filter((row) => row.status === "refused")).toHaveLength(1);
      await importLog(db, again, csv);
      expect(await listLog(db, again)).toHaveLength(entries.length - 1);
      await expect(importLog(db, again, "nonsense")).rejects.toMatchObject({ code: "wrong-format" });
    });

    it("keeps a picture next to its entry, refuses what is none, and clears away those nobody took up", async () => {
      const [id, other] = [await cutter("Pictured"), await cutter("Other")];
      const png = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 1, 2, 3);
      const [photo, unused] = [await addPhoto(db, id, png), await addPhoto(db, id, png)];
      expect(await getPhoto(db, photo)).toEqual({ type: "image/png", bytes: png });
      const cut = demoLog().find((entry) => entry.kind === "test-cut");
      if (cut?.kind !== "test-cut") throw new Error("no cut");
      const { id: entry } = await addEntry(db, id, { ...cut, photo });
      await expect(addEntry(db, other, { ...cut, photo })).rejects.toMatchObject({ code: "not-found" });
      await expect(addPhoto(db, id, new TextEncoder().encode("<svg/>"))).rejects.toMatchObject({ status: 415 });
      await db.execute(sql`update photos set created_at = now() - interval '2 hours'`);
      await addPhoto(db, id, png);
      await expect(getPhoto(db, unused)).rejects.toMatchObject({ code: "not-found" });
      expect((await getPhoto(db, photo)).bytes).toEqual(png);
      await removeEntry(db, id, entry);
      await expect(getPhoto(db, photo)).rejects.toMatchObject({ code: "not-found" });
    });
  });
});
