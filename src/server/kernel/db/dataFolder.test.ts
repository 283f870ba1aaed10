import { spawn, spawnSync } from "node:child_process";
import {
  chmodSync,
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  truncateSync,
  writeFileSync,
} from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { DEMO_DRAWER } from "@/core/drawer/demoDrawer";
import { demoLog } from "@/core/log/demoLog";
import { backupBeforeUpdates, backupPath, listBackups, writeBackup } from "@/server/features/backups/archiveFiles";
import { backupToday } from "@/server/features/backups/automatic";
import { weighWorkshop } from "@/server/features/backups/move";
import { cutterRepository } from "@/server/features/cutters/repository";
import { addItem, listDrawer, removeItem } from "@/server/features/drawer/repository";
import { addEntry, addPhoto, importEntries, listLog, removeEntry, saveEntry } from "@/server/features/log/repository";
import { type Database, openDatabase } from "@/server/kernel/db/client";
import { backupFolder, backupNames, databasePath, knownPath, lookInto, readyFolder, requireFreeSpace, storageFault } from "@/server/kernel/db/dataFolder";
import { synced } from "@/server/kernel/db/engine";
import { holderFile, lockFolder } from "@/server/kernel/db/folderLock";
import { beforeUpdate } from "@/server/kernel/db/migrations";
import { compareWith, everything, readWhole, restoreInto, weighArchive } from "../../../../tests/helpers/archives";
import { copyFolder, removeData, removeFolders } from "../../../../tests/helpers/folders";

const folders: string[] = [];
const fresh = () => {
  const folder = mkdtempSync(path.join(tmpdir(), "upwind-folder-"));
  folders.push(folder);
  return folder;
};
afterAll(() => {
  for (const folder of folders) removeData(folder);
});
const refusal = async (work: () => Promise<unknown> | unknown) => {
  try {
    await work();
  } catch (error) {
    return error as Error & { code: string; status: number };
  }
  throw new Error("was not refused");
};
/** A JPEG of so many bytes that no packing shrinks. */
const picture = (size: number) => {
  const bytes = new Uint8Array(size);
  let state = 7;
  for (let i = 0; i < size; i++) {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    bytes[i] = state >>> 24;
  }
  bytes.set([0xff, 0xd8, 0xff, 0xe0]);
  return bytes;
};

describe("the data folder's lock", () => {
  it("keeps a second opener out in plain words, and lets it in once released", async () => {
    const folder = fresh();
    const lock = await lockFolder(folder);
    expect(await refusal(() => lockFolder(folder))).toMatchObject({
      code: "data-folder-in-use",
      message: expect.stringContaining("already open in another Upwind Rod"),
    });
    lock.check();
    await lock.release();
    await (await lockFolder(folder)).release();
    expect(existsSync(holderFile(folder))).toBe(false);
  });

  it("takes over at once from a process that is gone, even where its number has been given to another since", async () => {
    const folder = fresh();
    const dead = spawnSync(process.execPath, ["-e", ""]).pid;
    const mine = { boot: readFileSync("/proc/sys/kernel/random/boot_id", "utf8").trim(), host: (await import("node:os")).hostname(), url: null, token: "x" };
    const { readlinkSync } = await import("node:fs");
    const space = readlinkSync("/proc/self/ns/pid");
    for (const holder of [
      { ...mine, space, pid: dead, started: "1" },
      { ...mine, space, pid: process.pid, started: "1" },
      { ...mine, space, pid: 1, started: "1" },
      // This very container, started again: another name space, the same host.
      { ...mine, space: "pid:[1]", pid: process.pid, started: "1" },
      // The machine was started again.
      { ...mine, space, boot: "another", pid: process.pid, started: "1" },
    ]) {
      writeFileSync(holderFile(folder), JSON.stringify(holder));
      await (await lockFolder(folder)).release();
    }
    writeFileSync(holderFile(folder), '{"pid": 1'); // half written
    await (await lockFolder(folder)).release();
  });

  it("does not take a folder from what it cannot see, another container or machine, unless ordered to", async () => {
    const folder = fresh();
    writeFileSync(
      holderFile(folder),
      JSON.stringify({ token: "x", pid: 7, started: "1", boot: "elsewhere", space: "pid:[1]", host: "another-machine", url: null }),
    );
    const error = await refusal(() => lockFolder(folder));
    expect(error).toMatchObject({ code: "data-folder-in-use", message: expect.stringMatching(/another-machine.*UPWIND_TAKE_OVER=yes/s) });
    process.env.UPWIND_TAKE_OVER = "yes";
    try {
      await (await lockFolder(folder)).release();
    } finally {
      delete process.env.UPWIND_TAKE_OVER;
    }
  });

  it("is seen to be lost when another has put its name there: nothing more is written", async () => {
    const folder = fresh();
    const lock = await lockFolder(folder);
    writeFileSync(holderFile(folder), JSON.stringify({ token: "another", pid: 1 }));
    expect(await refusal(() => lock.check())).toMatchObject({ code: "lock-lost" });
    await lock.release();
    // The other's name stays.
    expect(existsSync(holderFile(folder))).toBe(true);
  });
});

/** A process that holds a folder until it is killed. */
function holder(folder: string) {
  const script = `const { lockFolder } = await import(${JSON.stringify(path.resolve("src/server/kernel/db/folderLock.ts"))}); await lockFolder(${JSON.stringify(folder)}); console.log("held"); setInterval(() => {}, 1000);`;
  const child = spawn(process.execPath, ["--import", "tsx", "--input-type=module", "-e", script], { stdio: ["ignore", "pipe", "inherit"] });
  const held = new Promise<void>((resolve, reject) => {
    child.stdout.on("data", () => resolve());
    child.once("exit", (code) => reject(new Error(`ended with ${code}`)));
  });
  const ended = new Promise<void>((resolve) => child.once("exit", () => resolve()));
  return { child, held, ended };
}

describe("a stalled holder", () => {
  it("keeps its folder while stopped for as long as it likes, and loses it the moment it is killed", async () => {
    const folder = fresh();
    const { child, held, ended } = holder(folder);
    await held;
    child.kill("SIGSTOP");
    // Stopped processes answer nothing: the kernel speaks for them. Even a record that was lost or forged does not let a second in.
    expect(await refusal(() => lockFolder(folder))).toMatchObject({ code: "data-folder-in-use" });
    rmSync(holderFile(folder));
    expect(await refusal(() => lockFolder(folder))).toMatchObject({ code: "data-folder-in-use" });
    child.kill("SIGCONT");
    child.kill("SIGKILL");
    await ended;
    await (await lockFolder(folder)).release();
  });

  it("in a network of its own, where the kernel's names do not reach, the record of its number and start time keeps the second out", async () => {
    const folder = fresh();
    const { child, held, ended } = holder(folder);
    await held;
    const script = `const { lockFolder } = await import(${JSON.stringify(path.resolve("src/server/kernel/db/folderLock.ts"))}); try { await lockFolder(${JSON.stringify(folder)}); console.log("taken"); } catch (error) { console.log(error.code); }`;
    const apart = spawnSync("unshare", ["-n", process.execPath, "--import", "tsx", "--input-type=module", "-e", script], { encoding: "utf8" });
    child.kill("SIGKILL");
    await ended;
    // Where this machine lets nobody make such a network, there is nothing to see.
    if (/unshare.*(failed|not permitted)|ENOENT/i.test(`${apart.stderr} ${apart.error ?? ""}`)) return;
    expect(apart.stdout.trim()).toBe("data-folder-in-use");
  });
});

/** A workshop with some of everything: a deleted cutter, a thing taken out, two entries alike, a picture. */
async function furnish(db: Database): Promise<{ cutter: string }> {
  const tom = await cutterRepository.create(db, DEMO_CUTTERS[0] as never);
  const gone = await cutterRepository.create(db, DEMO_CUTTERS[1] as never);
  await cutterRepository.setDeleted(db, gone.id, true);
  await importEntries(db, tom.id, demoLog());
  const [first] = demoLog();
  await addEntry(db, tom.id, first as never);
  await addEntry(db, tom.id, first as never);
  const photo = await addPhoto(db, tom.id, picture(60_000));
  await addEntry(db, tom.id, { ...(first as object), photo } as never);
  for (const item of DEMO_DRAWER) await addItem(db, item);
  const [row] = await listDrawer(db);
  await removeItem(db, row?.id ?? "");
  return { cutter: tom.id };
}

describe("a workshop on disk", () => {
  let folder = "";
  let before = "";
  let archive = "";
  /** Files of the maker's own tables, as the database names them. */
  let tables: string[] = [];
  beforeAll(async () => {
    folder = fresh();
    const { db, close } = await openDatabase(folder);
    await furnish(db);
    archive = (await writeBackup(db, "good.zip", folder)).name;
    before = await everything(db);
    const { rows } = (await db.execute(
      "select pg_relation_filepath(oid) as path from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace",
    )) as unknown as { rows: { path: string }[] };
    tables = rows.map((row) => row.path);
    await close();
  });
  const reopened = async (at: string) => {
    const { db, close } = await openDatabase(at);
    try {
      return await everything(db);
    } finally {
      await close();
    }
  };
  const copy = () => {
    const to = fresh();
    copyFolder(folder, to);
    copyFolder(backupFolder(folder), backupFolder(to));
    cpSync(knownPath(folder), knownPath(to));
    return to;
  };

  it("brings every acknowledged write to the disk: one kernel sync each, and many at a checkpoint", async () => {
    const { db, close } = await openDatabase(copy());
    const count = async (work: () => Promise<unknown>) => {
      const from = synced.calls;
      await work();
      return synced.calls - from;
    };
    for (let i = 0; i < 20; i++)
      expect(await count(() => cutterRepository.create(db, { ...(DEMO_CUTTERS[0] as object), name: `Bow ${i}` } as never))).toBeGreaterThanOrEqual(1);
    expect(await count(() => cutterRepository.list(db))).toBe(0);
    expect(await count(() => db.execute("checkpoint"))).toBeGreaterThan(3);
    await close();
  });

  it("damaged in any one file, it opens with all that was in it or ends in words that name a backup: never with less, never a new one", async () => {
    const files = (function* under(at: string): Generator<string> {
      for (const entry of readdirSync(at, { withFileTypes: true })) {
        const full = path.join(at, entry.name);
        if (entry.isDirectory()) yield* under(full);
        else yield full;
      }
    })(databasePath(folder));
    // System catalogues have hundreds of files alike; a few represent the rest here next to the maker's own tables, `npm run long -- damage` tries all.
    const all = [...files].filter((file) => statSync(file).size > 0);
    const whole = process.env.UPWIND_DAMAGE_ALL === "yes";
    const chosen = all
      .filter(
        (file, i) =>
          whole ||
          tables.some((table) => file.endsWith(`/${table}`)) ||
          /pg_control|pg_xact|pg_filenode|PG_VERSION|base\/5\/2653$/.test(file) ||
          i % (/base\//.test(file) ? 1200 : 40) === 0,
      )
      .filter((file) => !/\.conf$|postmaster\.opts/.test(file));
    const outcomes: Record<string, number> = { whole: 0, words: 0 };
    for (const file of chosen) {
      const to = copy();
      const target = path.join(to, path.relative(folder, file));
      const { size } = statSync(target);
      if (/[02468]$/.test(file)) truncateSync(target, Math.floor(size / 2 / 8192) * 8192);
      else {
        const bytes = readFileSync(target);
        for (let i = Math.floor(size / 3); i < Math.min(size, Math.floor(size / 3) + 300); i++) bytes[i] = (bytes[i] as number) ^ 0x5a;
        writeFileSync(target, bytes);
      }
      try {
        const after = await reopened(to);
        expect(after, path.relative(folder, file)).toBe(before);
        outcomes.whole = (outcomes.whole ?? 0) + 1;
      } catch (error) {
        const { code, message } = error as Error & { code: string };
        if (!code) throw new Error(`${path.relative(folder, file)}: ${message.slice(0, 400)}`, { cause: error });
        expect(code, `${path.relative(folder, file)}: ${message}`).toMatch(/^data-(damaged|folder-fault)$/);
        expect(message).toContain("good.zip");
        outcomes.words = (outcomes.words ?? 0) + 1;
      }
      removeFolders(to);
    }
    expect(outcomes.words).toBeGreaterThan(2);
    expect(outcomes.whole).toBeGreaterThan(2);
    if (whole)
      console.log(`Damaged ${chosen.length} files, one at a time: ${outcomes.whole} times opened with all in it, ${outcomes.words} times refused in words.`);
  }, 14_400_000);

  it("rows that vanished without a trace are missed: a table cut short, page checks or not", async () => {
    const to = copy();
    const { db, close } = await openDatabase(to);
    const { rows } = (await db.execute("select pg_relation_filepath('log_entries') as path")) as unknown as { rows: { path: string }[] };
    await close();
    const heap = path.join(databasePath(to), rows[0]?.path ?? "");
    expect(statSync(heap).size).toBeGreaterThan(8192);
    truncateSync(heap, 8192);
    expect(await refusal(() => openDatabase(to))).toMatchObject({ code: "data-damaged", message: expect.stringMatching(/damaged: .*npm run restore/s) });
    truncateSync(heap, 0);
    expect(await refusal(() => openDatabase(to))).toMatchObject({ code: "data-damaged" });
  });

  it("lost files, an emptied folder, a file in its place: words, a way out, and no new workshop", async () => {
    const lost = copy();
    rmSync(databasePath(lost), { recursive: true });
    expect(await refusal(() => openDatabase(lost))).toMatchObject({
      code: "data-folder-fault",
      message: expect.stringMatching(/is gone.*No new one.*good\.zip/s),
    });
    expect(existsSync(databasePath(lost))).toBe(false);
    const emptied = copy();
    for (const name of readdirSync(emptied)) rmSync(path.join(emptied, name), { recursive: true });
    expect(await refusal(() => openDatabase(emptied))).toMatchObject({
      code: "data-folder-fault",
      message: expect.stringMatching(/is empty now.*good\.zip.*delete/s),
    });
    const beginnings = copy();
    rmSync(path.join(databasePath(beginnings), "global", "pg_control"));
    expect(await refusal(() => openDatabase(beginnings))).toMatchObject({ code: "data-folder-fault" });
    const file = path.join(fresh(), "file");
    writeFileSync(file, "x");
    expect(await refusal(() => openDatabase(file))).toMatchObject({ code: "data-folder-fault", message: expect.stringContaining("is a file where") });
    expect(await refusal(() => openDatabase(path.join(file, "under")))).toMatchObject({ code: "data-folder-fault" });
  });

  it("a database half made holds nobody's data and is made again", async () => {
    const half = fresh();
    mkdirSync(databasePath(half));
    writeFileSync(path.join(databasePath(half), "PG_VERSION"), "18");
    writeFileSync(path.join(half, "making"), "");
    expect(lookInto(half)).toBe("new");
    expect(existsSync(databasePath(half))).toBe(false);
    expect(knownPath(half)).toBe(`${half}.known.json`);
  });

  it("a newer program's database is refused before anything is served from it", async () => {
    const to = copy();
    const { db, close } = await openDatabase(to);
    await db.execute("insert into drizzle.__drizzle_migrations (hash, created_at) values ('later', 9999999999999)");
    await close();
    expect(await refusal(() => openDatabase(to))).toMatchObject({ code: "newer-schema", message: expect.stringContaining("newer Upwind Rod") });
  });

  it("the version before's folder opens: its tables are counted, its log gets revisions", async () => {
    const to = copy();
    const { db, close } = await openDatabase(to);
    // As the last version left it: without what the newest ten migrations brought, and without a marker.
    await db.execute("drop table plans");
    await db.execute("drop table rigs");
    await db.execute("alter table cutters rename column document to design");
    await db.execute("alter table photos add column bytes bytea");
    await db.execute("update photos p set bytes = b.bytes from photo_bytes b where b.sum = p.sum");
    await db.execute("alter table photos drop column sum, alter column bytes set not null");
    for (const table of ["photo_bytes", "photo_holds", "staged_rows"]) await db.execute(`drop table ${table}`);
    for (const table of ["cutters", "drawer_items", "log_entries", "photos", "workshop"]) {
      await db.execute(`drop trigger ${table}_added on ${table}`);
      await db.execute(`drop trigger ${table}_removed on ${table}`);
    }
    for (const table of ["cutters", "drawer_items", "log_entries"]) await db.execute(`drop trigger ${table}_told on ${table}`);
    for (const table of ["sessions", "members", "access", "deeds", "second_screens"]) await db.execute(`drop table ${table}`);
    for (const table of ["cutters", "drawer_items", "log_entries"]) await db.execute(`alter table ${table} drop column changed_by`);
    await db.execute("drop function tell_access");
    await db.execute("drop function tell_second");
    await db.execute("drop function tell_change");
    await db.execute("drop function count_kept_rows");
    await db.execute("drop table row_counts");
    await db.execute("alter table log_entries drop column revision, drop column format_version");
    await db.execute("alter table drawer_items drop column format_version");
    await db.execute(
      "delete from drizzle.__drizzle_migrations where created_at in (select created_at from drizzle.__drizzle_migrations order by created_at desc limit 10)",
    );
    await close();
    rmSync(path.join(to, "workshop.json"));
    rmSync(knownPath(to));
    // As it was before its tables change it is kept automatically, in this program's own archive: put back into an empty one it is what it was.
    process.env.UPWIND_DATA = to;
    backupBeforeUpdates();
    try {
      expect(await reopened(to)).toBe(before);
    } finally {
      beforeUpdate(async () => undefined);
      delete process.env.UPWIND_DATA;
    }
    const [stored] = backupNames(to).filter((name) => name.startsWith("before-update"));
    const plain = (await weighArchive(path.join(backupFolder(to), stored ?? ""))).filter(({ kind }) => kind !== "plans" && kind !== "rigs");
    const now = await openDatabase(to);
    const after = (await weighWorkshop(now.db)).filter(({ kind }) => kind !== "plans" && kind !== "rigs");
    await now.close();
    expect(plain).toEqual(after);
    // Opened again nothing is brought up to date, and no other archive is made.
    expect(backupNames(to).filter((name) => name.startsWith("before-update"))).toHaveLength(1);
    expect(existsSync(path.join(to, "workshop.json"))).toBe(true);
  });

  it("a backup put back into an empty workshop and into a full one is equal to the row; what it replaced comes back from its own", async () => {
    const good = backupPath(archive, folder);
    const empty = await openDatabase(undefined);
    await restoreInto(empty.db, good);
    expect(await everything(empty.db)).toBe(before);
    await empty.close();
    const full = await openDatabase(copy());
    const [tom] = (await cutterRepository.list(full.db)).readable;
    const rows = await listLog(full.db, tom?.id ?? "");
    await removeEntry(full.db, tom?.id ?? "", rows[0]?.id ?? "");
    await saveEntry(full.db, tom?.id ?? "", rows[1]?.id ?? "", 1, { ...(rows[1]?.entry as object), note: "changed" } as never);
    await cutterRepository.create(full.db, { ...(DEMO_CUTTERS[2] as object), name: "New since" } as never);
    const changed = await everything(full.db);
    const counts = Object.fromEntries((await compareWith(full.db, good)).map((row) => [row.kind, row]));
    expect(counts.log).toMatchObject({ differ: 1, onlyArchive: 1, onlyHere: 0 });
    expect(counts.cutters).toMatchObject({ same: 2, onlyHere: 1 });
    const undo = path.join(fresh(), "x");
    mkdirSync(undo);
    const stored = await writeBackup(full.db, "undo.zip", undo);
    await restoreInto(full.db, good);
    expect(await everything(full.db)).toBe(before);
    await restoreInto(full.db, backupPath(stored.name, undo));
    expect(await everything(full.db)).toBe(changed);
    rmSync(backupFolder(undo), { recursive: true });
    // Adding only what is missing brings the struck entry back and touches nothing else.
    await restoreInto(full.db, good, "add");
    expect((await listLog(full.db, tom?.id ?? "")).map((row) => row.id).sort()).toEqual(rows.map((row) => row.id).sort());
    expect((await cutterRepository.list(full.db)).readable.map((cutter) => cutter.document.name)).toContain("New since");
    await full.close();
  });

  it("an archive that was touched, cut short or is none is refused by the part at fault", async () => {
    const bytes = readFileSync(backupPath(archive, folder));
    await expect(readWhole(bytes.subarray(0, bytes.length / 2))).rejects.toThrow(/cut short/);
    await expect(readWhole(Buffer.from("not a zip"))).rejects.toThrow(/not an archive/);
    const at = bytes.indexOf(Buffer.from(picture(60_000).subarray(1000, 1032)));
    expect(at).toBeGreaterThan(0);
    const touched = Buffer.from(bytes);
    touched[at] = (touched[at] as number) ^ 1;
    await expect(readWhole(touched)).rejects.toThrow(/damaged|not as it was written/);
  });

  it("once a day automatically, where there is anything to keep", async () => {
    const shared = globalThis as { upwindDatabase?: unknown };
    const to = copy();
    const opened = await openDatabase(to);
    shared.upwindDatabase = Promise.resolve(opened);
    try {
      expect(await backupToday(to, "2026-11-25")).toBe(true);
      expect(await backupToday(to, "2026-11-25")).toBe(false);
      for (let day = 10; day < 25; day++) await backupToday(to, `2026-10-${day}`);
      expect(listBackups(to).filter(({ name }) => name.startsWith("auto-")).length).toBeLessThanOrEqual(11);
      expect(listBackups(to).map(({ name }) => name)).toContain("good.zip");
    } finally {
      shared.upwindDatabase = undefined;
      await opened.close();
    }
  });
});

describe("a folder that cannot be written", () => {
  it("a full disk and a forbidden one are described in words", () => {
    expect(storageFault(Object.assign(new Error("x"), { code: "ENOSPC" }), "/d")).toMatchObject({ code: "disk-full", status: 507 });
    expect(storageFault(new Error("query", { cause: new Error('could not extend file "base/1": No space left on device') }), "/d")).toMatchObject({
      code: "disk-full",
    });
    expect(storageFault(Object.assign(new Error("x"), { code: "EROFS" }), "/d")).toMatchObject({
      code: "data-folder-fault",
      message: expect.stringContaining("read-only"),
    });
    expect(storageFault(new Error("anything else"), "/d")).toBeNull();
    const folder = fresh();
    requireFreeSpace(folder, 1);
    expect(() => requireFreeSpace(folder, Number.MAX_SAFE_INTEGER)).toThrow(/disk is full but for/);
  });

  it("is refused before anything is begun", async () => {
    const folder = fresh();
    // The superuser may write anywhere: a disk mounted read-only stops it too, where this machine allows one.
    const mounted = spawnSync("mount", ["-t", "tmpfs", "-o", "ro,size=1m", "tmpfs", folder]).status === 0;
    if (mounted) {
      try {
        expect(await refusal(() => readyFolder(folder))).toMatchObject({ code: "data-folder-fault", message: expect.stringContaining("read-only") });
      } finally {
        spawnSync("umount", [folder]);
      }
    } else if (process.getuid?.() !== 0) {
      chmodSync(folder, 0o500);
      expect(await refusal(() => readyFolder(folder))).toMatchObject({ code: "data-folder-fault" });
      chmodSync(folder, 0o700);
    }
    const missing = path.join(fresh(), "made", "on", "the", "way");
    readyFolder(missing);
    expect(existsSync(missing)).toBe(true);
    renameSync(missing, `${missing}-moved`);
  });
});
