import { createHash } from "node:crypto";
import { existsSync, mkdirSync, readdirSync, utimesSync, writeFileSync } from "node:fs";
import path from "node:path";
import { strToU8, unzipSync, zipSync } from "fflate";
import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { BACKUPS } from "@/contract/backups/contract";
import { newDesign } from "@/core/cutters/solve/defaults";
import { cutters, drawerItems, logEntries, photoBytes, photos, plans, rigs, workshop } from "@/server/kernel/db/schema";
import { readWhole, weighArchive } from "../../../../tests/helpers/archives";
import { TestApp } from "../../../../tests/helpers/testApp";
import { seedDemo } from "../demo/seedDemo";
import { readFact, writeFact } from "../workshop/facts";
import { backupName } from "./archiveFiles";
import { backupToday } from "./automatic";
import { moveWorkshop, weighWorkshop } from "./move";

interface Count {
  kind: string;
  inArchive: number;
  here: number;
  same: number;
  differ: number;
  onlyArchive: number;
  onlyHere: number;
}
interface Backup {
  name: string;
  at: string;
  bytes: number;
}
const TABLES = [photos, logEntries, drawerItems, cutters, plans, rigs, workshop];
const PNG = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 9, 8, 7);
let app: TestApp;
/** The demo, a deleted cutter and a picture, packed once. */
let packed: Uint8Array;
beforeAll(async () => {
  app = await TestApp.open();
  await seedDemo(app.db);
  const { body } = await app.request<{ cutter: { id: string } }>("POST", "/api/cutters", { design: newDesign("bow", "In the loft") });
  await app.request("POST", `/api/cutters/${body.cutter.id}/photos`, PNG);
  await app.request("DELETE", `/api/cutters/${body.cutter.id}`);
  packed = new Uint8Array((await app.request("GET", "/api/backup")).bytes);
});
afterAll(() => app.close());

const restore = (bytes: Uint8Array, mode = "") => app.request<{ put: number; undo: string }>("POST", `/api/backups/restore${mode}`, bytes);
const counts = async (bytes: Uint8Array) => {
  const { status, body } = await app.request<{ made: string; counts: Count[] }>("POST", "/api/backups/preview", bytes);
  expect(status).toBe(200);
  expect(BACKUPS.preview.response.safeParse(body).error).toBeUndefined();
  return Object.fromEntries(body.counts.map(({ kind, ...rest }) => [kind, rest]));
};
const sum = async () => weighWorkshop(app.db);
beforeEach(async () => {
  await restore(packed);
});

/** An archive changed from within, its sums made right again unless the test says otherwise. */
function changed(change: (files: Record<string, Uint8Array>) => void, { sums = true, manifest = (m: Record<string, unknown>) => m } = {}): Uint8Array {
  const files = unzipSync(packed);
  change(files);
  const result = JSON.parse(Buffer.from(files["manifest.json"] as Uint8Array).toString("utf8")) as Record<string, unknown>;
  if (sums)
    result.sums = Object.fromEntries(
      Object.entries(files)
        .filter(([name]) => name !== "manifest.json")
        .map(([name, bytes]) => [name, createHash("sha256").update(bytes).digest("hex")]),
    );
  files["manifest.json"] = strToU8(JSON.stringify(manifest(result)));
  return zipSync(files);
}
const rows = (files: Record<string, Uint8Array>, part: string) =>
  JSON.parse(Buffer.from(files[part] as Uint8Array).toString("utf8")) as Record<string, unknown>[];
const rewritten = (part: string, change: (all: Record<string, unknown>[]) => unknown) =>
  changed((files) => {
    const all = rows(files, part);
    files[part] = strToU8(JSON.stringify(change(all) ?? all));
  });

describe("everything in one archive", () => {
  it("holds what is here, what was archived and pictures too, and is put back as it was", async () => {
    const archive = await readWhole(packed);
    expect([archive.cutters.length, archive.plans.length, archive.rigs.length, archive.drawer.length].every((many) => many > 3)).toBe(true);
    expect(archive.cutters.filter(({ deletedAt }) => deletedAt !== null).map(({ name }) => name)).toEqual(["In the loft"]);
    expect(archive.bytes).toEqual([PNG]);
    const before = await sum();
    for (const table of TABLES) await app.db.delete(table);
    expect((await sum()).every(({ kind, rows: many }) => many === 0 || kind === "facts")).toBe(true);
    const { status, body } = await restore(packed);
    expect(status).toBe(200);
    expect(body.put).toBe(before.reduce((all, { rows: many }) => all + many, 0));
    expect(await sum()).toEqual(before);
    // Equal workshops make equal archives, but for the moment they were made.
    const again = unzipSync(new Uint8Array((await app.request("GET", "/api/backup")).bytes));
    for (const [name, bytes] of Object.entries(unzipSync(packed)))
      if (name !== "manifest.json") expect(Buffer.from(again[name] ?? []).equals(bytes), name).toBe(true);
  });

  it("is shown first: what is the same, what differs, what is only there and only here", async () => {
    expect((await counts(packed)).cutters).toMatchObject({ differ: 0, onlyArchive: 0, onlyHere: 0 });
    const archive = await readWhole(packed);
    const [one, two] = archive.cutters.filter(({ deletedAt }) => deletedAt === null) as { id: string; design: object; revision: number; name: string }[];
    await app.request("PUT", `/api/cutters/${one?.id}`, { revision: one?.revision, design: { ...one?.design, name: "Renamed since" } });
    await app.request("POST", "/api/cutters", { design: newDesign("bow", "Made since") });
    await app.db.delete(photos);
    await app.db.delete(logEntries);
    const result = await counts(packed);
    const many = archive.cutters.length;
    expect(result.cutters).toEqual({ inArchive: many, here: many + 1, same: many - 1, differ: 1, onlyArchive: 0, onlyHere: 1 });
    expect(result.photos).toEqual({ inArchive: 1, here: 0, same: 0, differ: 0, onlyArchive: 1, onlyHere: 0 });
    expect(result.log).toMatchObject({ here: 0, onlyArchive: archive.log.length });
    expect(result.plans).toMatchObject({ same: archive.plans.length, differ: 0 });
    expect(Object.keys(result)).toEqual(["cutters", "plans", "rigs", "drawer", "log", "photos"]);
    // Nothing was changed by looking.
    expect((await app.request<{ cutter: { design: { name: string } } }>("GET", `/api/cutters/${one?.id}`)).body.cutter.design.name).toBe("Renamed since");
    // Added, what is here stays as it is; put in its place, what came since is gone, and is in the archive that undoes it.
    const added = await restore(packed, "?mode=add");
    expect(added.body.put).toBe(archive.log.length + 1);
    expect((await counts(packed)).cutters).toMatchObject({ differ: 1, onlyHere: 1 });
    const { body } = await restore(packed, "?mode=replace");
    expect((await counts(packed)).cutters).toMatchObject({ same: many, differ: 0, onlyHere: 0 });
    const undone = await app.request<{ put: number }>("POST", "/api/backups/restore", { name: body.undo });
    expect(undone.status).toBe(200);
    expect((await counts(packed)).cutters).toMatchObject({ differ: 1, onlyHere: 1 });
    expect(two).toBeDefined();
  });

  it("puts in more rows than go in at once", async () => {
    const many = rewritten("drawer.json", (all) =>
      Array.from({ length: 450 }, (_, i) => {
        const id = `00000000-0000-4000-8000-${String(i).padStart(12, "0")}`;
        return { ...all[0], id, name: `Thing ${i}`, nameKey: `${all[0]?.kind}:thing ${i}`, item: { ...(all[0]?.item as object), name: `Thing ${i}` } };
      }),
    );
    expect((await restore(many)).status).toBe(200);
    expect((await app.request<{ items: unknown[] }>("GET", "/api/drawer")).body.items).toHaveLength(450);
  });

  it("an archive of an older program lacks what there was not yet, and is taken all the same", async () => {
    const older = (version: number, without: string[]) =>
      changed(
        (files) => {
          for (const part of without) delete files[part];
          if (version < 4)
            for (const part of ["cutters.json", "drawer.json", "log.json"])
              files[part] = strToU8(JSON.stringify(rows(files, part).map(({ changedBy: _by, ...row }) => row)));
        },
        { manifest: (m) => ({ ...m, version }) },
      );
    expect((await readWhole(older(1, ["plans.json", "rigs.json"]))).plans).toEqual([]);
    const second = await readWhole(older(2, ["rigs.json"]));
    expect([second.plans.length > 0, second.rigs, second.cutters[0]?.changedBy]).toEqual([true, [], null]);
    await expect(readWhole(older(3, ["rigs.json"]))).rejects.toThrow(/has no rigs\.json/);
    await expect(readWhole(older(2, ["plans.json", "rigs.json"]))).rejects.toThrow(/has no plans\.json/);
  });

  it.each<[string, () => Uint8Array, string, RegExp]>([
    ["no archive at all", () => strToU8("PK but not really"), "wrong-format", /not an archive/],
    ["cut short", () => packed.slice(0, packed.length - 40), "wrong-format", /cut short/],
    ["of a newer program", () => changed(() => undefined, { manifest: (m) => ({ ...m, version: 5 }) }), "newer-format", /newer Upwind Rod/],
    ["of no version", () => changed(() => undefined, { manifest: (m) => ({ ...m, version: 0 }) }), "wrong-format", /from 1 to 4/],
    ["of half a version", () => changed(() => undefined, { manifest: (m) => ({ ...m, version: 1.5 }) }), "wrong-format", /whole number/],
    ["of another format", () => changed(() => undefined, { manifest: (m) => ({ ...m, format: "other" }) }), "not-one-of", /must be "upwind-rod\/backup"/],
    [
      "with a part changed after it was written",
      () =>
        changed(
          (files) => {
            files["log.json"] = strToU8("[]");
          },
          { sums: false },
        ),
      "wrong-format",
      /log\.json is not as it was written/,
    ],
    [
      "with a part that its list does not name",
      () =>
        changed(
          (files) => {
            files.more = strToU8("x");
          },
          { sums: false },
        ),
      "wrong-format",
      /more is not as it was written/,
    ],
    [
      "without a part that its list names",
      () => changed(() => undefined, { manifest: (m) => ({ ...m, sums: { ...(m.sums as object), gone: "00" } }) }),
      "wrong-format",
      /gone is missing/,
    ],
    [
      "with a part that is no JSON",
      () =>
        changed((files) => {
          files["plans.json"] = strToU8("{");
        }),
      "wrong-format",
      /plans\.json is not readable/,
    ],
    [
      "without a picture",
      () =>
        changed((files) => {
          for (const name of Object.keys(files)) if (name.startsWith("photos/")) delete files[name];
        }),
      "wrong-format",
      /photos\/.* is missing/,
    ],
    [
      "with a picture that is another",
      () =>
        changed((files) => {
          for (const name of Object.keys(files)) if (name.startsWith("photos/")) files[name] = strToU8("<svg/>");
        }),
      "wrong-format",
      /is not the picture it is said to be/,
    ],
    [
      "with a log of no cutter",
      () => rewritten("log.json", (all) => all.map((row) => ({ ...row, cutterId: "00000000-0000-4000-8000-000000000000" }))),
      "wrong-format",
      /belongs to a cutter that is not in the archive/,
    ],
    [
      "with a picture of no cutter",
      () => rewritten("photos.json", (all) => all.map((row) => ({ ...row, cutterId: "00000000-0000-4000-8000-000000000000" }))),
      "wrong-format",
      /photos\.json\[0\] belongs/,
    ],
    [
      "with a cutter that is none",
      () => rewritten("cutters.json", (all) => all.map((row, i) => (i === 1 ? { ...row, design: { ...(row.design as object), job: 7 } } : row))),
      "wrong-type",
      /^cutters\.json\[1\]: /,
    ],
    [
      "with a plan that is none",
      () => rewritten("plans.json", (all) => all.map((row, i) => (i === 0 ? { ...row, plan: { ...(row.plan as object), part: 7 } } : row))),
      "wrong-type",
      /^plans\.json\[0\]: /,
    ],
    [
      "with a rig that is none",
      () => rewritten("rigs.json", (all) => all.map((row, i) => (i === 0 ? { ...row, rig: { ...(row.rig as object), notes: 7 } } : row))),
      "wrong-type",
      /^rigs\.json\[0\]: /,
    ],
    [
      "with a thing that is none",
      () => rewritten("drawer.json", (all) => all.map((row, i) => (i === 2 ? { ...row, item: { kind: "moon" } } : row))),
      "not-one-of",
      /^drawer\.json\[2\]: /,
    ],
    [
      "with an entry that is none",
      () => rewritten("log.json", (all) => all.map((row, i) => (i === 0 ? { ...row, entry: { kind: "moon" } } : row))),
      "not-one-of",
      /^log\.json\[0\]: /,
    ],
    ["with a row without its id", () => rewritten("rigs.json", (all) => all.map(({ id: _id, ...row }) => row)), "wrong-type", /id must be an id/],
  ])("%s is refused in words, and nothing is changed", async (_what, make, code, words) => {
    const before = await sum();
    const reply = await app.request<{ error: { code: string; message: string } }>("POST", "/api/backups/restore", make());
    expect(reply.status).toBe(422);
    expect(reply.body.error.message).toMatch(words);
    expect(reply.body.error.code).toBe(code);
    expect(await sum()).toEqual(before);
    // What is refused makes no archive that would undo it.
    expect((await app.request("POST", "/api/backups/preview", make())).status).toBe(422);
  });
});

describe("archives that lie here", () => {
  const list = async () => {
    const { body } = await app.request<{ backups: Backup[] }>("GET", "/api/backups");
    expect(BACKUPS.list.response.safeParse(body).error).toBeUndefined();
    return body.backups;
  };

  it("are made by hand, listed newest first, given out as they are, and put back by name", async () => {
    const { status, body } = await app.request<{ backup: Backup }>("POST", "/api/backups", {});
    expect(status).toBe(201);
    expect(body.backup.name).toMatch(/^by-hand-\d{4}-\d\d-\d\d-\d\d-\d\d-\d\d\.zip$/);
    const folder = `${app.folder}.backups`;
    writeFileSync(path.join(folder, "notes.txt"), "no archive");
    writeFileSync(path.join(folder, "old.zip"), "");
    utimesSync(path.join(folder, "old.zip"), new Date("2020-01-01"), new Date("2020-01-01"));
    const there = await list();
    expect(there.map(({ name }) => name)).toContain(body.backup.name);
    expect(there.at(-1)).toEqual({ name: "old.zip", at: "2020-01-01T00:00:00.000Z", bytes: 0 });
    expect(there.some(({ name }) => name === "notes.txt")).toBe(false);
    expect(there.map(({ at }) => at)).toEqual([...there.map(({ at }) => at)].sort().reverse());
    const reply = await app.request("GET", `/api/backups/${body.backup.name}`);
    expect(reply.headers.get("content-type")).toBe("application/zip");
    expect(reply.bytes.length).toBe(body.backup.bytes);
    expect(await weighArchive(new Uint8Array(reply.bytes))).toEqual(await sum());
    // Nothing half written is left lying.
    expect(readdirSync(folder).filter((name) => name.startsWith(".temporary"))).toEqual([]);
    const shown = await app.request<{ counts: Count[] }>("POST", "/api/backups/preview", { name: body.backup.name });
    expect(shown.body.counts.every(({ differ, onlyHere, onlyArchive }) => differ + onlyHere + onlyArchive === 0)).toBe(true);
    for (const name of ["..%2Fworkshop", "none.zip", "notes.txt", "old.zip%00"]) expect((await app.refusal("GET", `/api/backups/${name}`))[0]).toBe(404);
    expect(await app.refusal("POST", "/api/backups/restore", { name: "../old.zip" })).toEqual([404, "not-found"]);
    expect((await app.refusal("POST", "/api/backups/restore", { name: "old.zip", mode: "merge" }))[2]).toBe("mode");
  });

  it("are made by themselves once a day where there is anything, and go when they have served their time", async () => {
    const folder = `${app.folder}.backups`;
    mkdirSync(folder, { recursive: true });
    app.enter();
    for (const day of ["2019-01-01", "2019-01-02"]) writeFileSync(path.join(folder, `auto-${day}.zip`), "");
    for (let day = 1; day <= 30; day++) writeFileSync(path.join(folder, `auto-2026-10-${String(day).padStart(2, "0")}.zip`), "");
    writeFileSync(path.join(folder, "mine.zip"), "");
    expect(await backupToday(app.folder, "2026-10-31")).toBe(true);
    expect(existsSync(path.join(folder, "auto-2026-10-31.zip"))).toBe(true);
    expect(existsSync(path.join(folder, "auto-2019-01-01.zip"))).toBe(false);
    expect(existsSync(path.join(folder, "auto-2026-10-30.zip"))).toBe(true);
    expect(existsSync(path.join(folder, "mine.zip"))).toBe(true);
    expect(await backupToday(app.folder, "2026-10-31")).toBe(false);
    for (const table of TABLES) await app.db.delete(table);
    expect(await backupToday(app.folder, "2026-11-01")).toBe(false);
    await app.request("POST", "/api/cutters", { design: newDesign("bow", "The first") });
    expect(await backupToday(app.folder, "2026-11-01")).toBe(true);
  });

  it("bear the moment they were made in their name", () => {
    expect(backupName("by-hand", new Date("2026-11-25T10:15:30.500Z"))).toBe("by-hand-2026-11-25-10-15-30.zip");
  });
});

describe("a workshop moved", () => {
  it("comes to the same in an empty other, and is refused where that is not empty", async () => {
    const other = await TestApp.open();
    await writeFact(app.db, "seeded", "demo");
    await writeFact(app.db, "seeded", "demo twice");
    const result = await moveWorkshop(app.opened, other.opened);
    expect(result).toEqual(await sum());
    expect(result.find(({ kind }) => kind === "photos")?.rows).toBe(1);
    expect(await readFact(other.db, "seeded")).toBe("demo twice");
    expect(await readFact(other.db, "never written")).toBeUndefined();
    await expect(moveWorkshop(app.opened, other.opened)).rejects.toMatchObject({ code: "data-folder-in-use", status: 409 });
    expect(await weighWorkshop(other.db)).toEqual(result);
    // One row that differs in anything is another sum of its kind alone.
    await other.db.update(photoBytes).set({ bytes: Buffer.from([...PNG, 1]) });
    const differs = (await weighWorkshop(other.db)).filter(({ sum: own }, i) => own !== result[i]?.sum);
    expect(differs.map(({ kind }) => kind)).toEqual(["photos"]);
    await other.close();
  });
});
