import { eq } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { newDesign } from "@/core/cutters/solve/defaults";
import { cutterRepository } from "@/server/features/cutters/repository";
import { seedDemo } from "@/server/features/demo/seedDemo";
import type { Database } from "@/server/kernel/db/client";
import { cutters } from "@/server/kernel/db/schema";
import type { ServerError } from "@/server/kernel/errors";
import { engines } from "../../../../tests/helpers/engines";

describe.each(await engines())("on %s", (_name, open) => {
  let db: Database;
  let close: () => Promise<void>;
  beforeAll(async () => {
    ({ db, close } = await open());
  }, 60_000);
  afterAll(() => close());

  describe("cutters in the database", () => {
    it("seeds the demo once, and never over somebody's data", async () => {
      const mine = await cutterRepository.create(db, newDesign("bow", "Mine"));
      expect(await seedDemo(db)).toBe(0);
      await db.delete(cutters);
      expect(await seedDemo(db)).toBe(DEMO_CUTTERS.length);
      expect(await seedDemo(db)).toBe(0);
      expect((await cutterRepository.list(db)).readable.map((cutter) => cutter.document.name).sort()).toEqual(DEMO_CUTTERS.map((design) => design.name).sort());
      await expect(cutterRepository.get(db, mine.id)).rejects.toMatchObject({ code: "not-found" });
    });

    it("keeps a design exactly, and counts revisions", async () => {
      const design = newDesign("table", "Exact");
      const made = await cutterRepository.create(db, design);
      const saved = await cutterRepository.save(db, made.id, 1, { ...design, notes: "ß 漢 🙂" });
      expect(saved.revision).toBe(2);
      expect((await cutterRepository.get(db, made.id)).document).toEqual({ ...design, notes: "ß 漢 🙂" });
    });

    it("refuses a stale save and hands over what is there", async () => {
      const made = await cutterRepository.create(db, newDesign("bow", "Contested"));
      const both = await Promise.allSettled([1, 2].map((n) => cutterRepository.save(db, made.id, 1, { ...made.document, notes: `tab ${n}` })));
      const won = both.filter((result) => result.status === "fulfilled");
      const lost = both.find((result) => result.status === "rejected") as PromiseRejectedResult;
      expect(won).toHaveLength(1);
      const error = lost.reason as ServerError;
      expect(error.code).toBe("stale-revision");
      expect(error.extra.current).toMatchObject({ revision: 2, document: { notes: (await cutterRepository.get(db, made.id)).document.notes } });
    });

    it("deletes with a way back", async () => {
      const made = await cutterRepository.create(db, newDesign("loop", "Archived"));
      await cutterRepository.setDeleted(db, made.id, true);
      await expect(cutterRepository.get(db, made.id)).rejects.toMatchObject({ code: "not-found" });
      await expect(cutterRepository.save(db, made.id, 1, made.document)).rejects.toMatchObject({ code: "not-found" });
      expect((await cutterRepository.list(db, { deleted: true })).readable.map((cutter) => cutter.id)).toEqual([made.id]);
      await cutterRepository.setDeleted(db, made.id, false);
      expect((await cutterRepository.get(db, made.id)).document).toEqual(made.document);
      await expect(cutterRepository.setDeleted(db, made.id, false)).rejects.toMatchObject({ code: "not-found" });
    });

    it("shows a row of a newer program as unreadable, and the others all the same", async () => {
      const made = await cutterRepository.create(db, newDesign("bow", "From the future"));
      await db
        .update(cutters)
        .set({ document: { ...made.document, version: 99 } as never })
        .where(eq(cutters.id, made.id));
      const list = await cutterRepository.list(db);
      expect(list.unreadable).toEqual([{ id: made.id, name: "From the future", why: expect.stringMatching(/newer/) }]);
      expect(list.readable.length).toBeGreaterThan(0);
      await db.delete(cutters).where(eq(cutters.id, made.id));
    });

    it("copies under a name that is free and not too long", async () => {
      const made = await cutterRepository.create(db, newDesign("bow", "x".repeat(80)));
      const names = [(await cutterRepository.duplicate(db, made.id)).document.name, (await cutterRepository.duplicate(db, made.id)).document.name];
      expect(names).toEqual([`${"x".repeat(68)}, copy`, `${"x".repeat(68)}, copy 2`]);
    });
  });
});
