import { eq } from "drizzle-orm";
import fc from "fast-check";
import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { itemFromCells } from "@/core/drawer/columns";
import { DEMO_DRAWER } from "@/core/drawer/demoDrawer";
import {
  addItem,
  exportDrawer,
  importDrawer,
  listDrawer,
  listDrawerWhole,
  previewImport,
  removeItem,
  restoreItem,
  saveItem,
} from "@/server/features/drawer/repository";
import type { Database } from "@/server/kernel/db/client";
import { drawerItems } from "@/server/kernel/db/schema";
import { engines } from "../../../../tests/helpers/engines";

describe.each(await engines())("on %s", (_name, open) => {
  let db: Database;
  let close: () => Promise<void>;
  beforeAll(async () => {
    ({ db, close } = await open());
  }, 60_000);
  afterAll(() => close());
  beforeEach(() => db.delete(drawerItems));

  const fuse = (name: string, rating = "5 A") => itemFromCells({ kind: "fuse", name, rating_A: rating });

  describe("the drawer in the database", () => {
    it("keeps every kind of thing exactly, out and in again by CSV", async () => {
      for (const item of DEMO_DRAWER) await addItem(db, item);
      const before = (await listDrawer(db)).map((row) => row.item);
      expect(before).toHaveLength(DEMO_DRAWER.length);
      for (const item of DEMO_DRAWER) expect(before).toContainEqual(item);
      const text = await exportDrawer(db);
      await db.delete(drawerItems);
      await importDrawer(db, text);
      expect((await listDrawer(db)).map((row) => row.item)).toEqual(before);
      expect((await previewImport(db, text)).every((row) => row.status === "same")).toBe(true);
    });

    it("a row of a newer program, or one that is corrupt, is listed by name and hides none of the others", async () => {
      const [good, newer, corrupt] = [await addItem(db, fuse("Good")), await addItem(db, fuse("Newer")), await addItem(db, fuse("Spoilt"))];
      await db.update(drawerItems).set({ formatVersion: 9 }).where(eq(drawerItems.id, newer.id));
      await db
        .update(drawerItems)
        .set({ item: { kind: "fuse", name: "Spoilt", rating_A: -3 } })
        .where(eq(drawerItems.id, corrupt.id));
      const { rows, unreadable } = await listDrawerWhole(db);
      expect(rows.map((row) => row.id)).toEqual([good.id]);
      expect(unreadable.map(({ id, name }) => ({ id, name }))).toEqual([
        { id: newer.id, name: "Newer" },
        { id: corrupt.id, name: "Spoilt" },
      ]);
      expect(unreadable[0]?.why).toMatch(/newer Upwind Rod \(format 9; this one reads up to 1\)/);
      expect(unreadable[1]?.why).toMatch(/rating_A must be/);
      expect(await listDrawer(db)).toHaveLength(1);
    });

    it("has one name of a kind, upper or lower case; a stale save gets the stored version", async () => {
      const made = await addItem(db, fuse("Blade"));
      await expect(addItem(db, fuse("BLADE"))).rejects.toMatchObject({ code: "name-taken", extra: { path: "name" } });
      await saveItem(db, made.id, 1, fuse("Blade", "10 A"));
      await expect(saveItem(db, made.id, 1, fuse("Blade", "15 A"))).rejects.toMatchObject({ code: "stale-revision", extra: { current: { revision: 2 } } });
      await removeItem(db, made.id);
      const other = await addItem(db, fuse("blade"));
      await expect(restoreItem(db, made.id)).rejects.toMatchObject({ code: "name-taken" });
      await removeItem(db, other.id);
      expect((await restoreItem(db, made.id)).item).toMatchObject({ rating_A: 10 });
    });

    it("takes the readable rows of a file with two bad ones, and says which and why", async () => {
      const rows = await importDrawer(db, "kind,name,rating_A\nfuse,One,5\nfuse,Two,lots\nfuse,,5\nfuse,Three,2\n");
      expect(rows.map((row) => row.status)).toEqual(["new", "refused", "refused", "new"]);
      expect((await listDrawer(db)).map((row) => row.item.name)).toEqual(["One", "Three"]);
    });

    it("hundreds of broken files: each is taken whole or not at all, and the drawer always reads back", async () => {
      await importDrawer(db, "kind,name,rating_A\nfuse,Keep,5\n");
      const good = "kind,name,rating_A,count\nfuse,A,5,1\nfuse,B,7.5,2\nfuse,C,10,3\n";
      await fc.assert(
        fc.asyncProperty(fc.nat(good.length), fc.nat(12), fc.string({ unit: fc.constantFrom(..."\"',;\n\t0x9\u0000\ud800é") }), async (at, cut, put) => {
          const before = (await listDrawer(db)).length;
          let added = 0;
          try {
            added = (await importDrawer(db, good.slice(0, at) + put + good.slice(at + cut))).filter((row) => row.status === "new").length;
          } catch (error) {
            expect((error as { code?: string }).code).toMatch(/^(wrong-format|unknown-key|conflict|out-of-range)$/);
          }
          expect((await listDrawer(db)).length).toBe(before + added);
        }),
        { numRuns: 300 },
      );
    });
  });
});
