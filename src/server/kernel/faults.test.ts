import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import type { PGlite } from "@electric-sql/pglite";
import { afterAll, describe, expect, it } from "vitest";
import { newDesign } from "@/core/cutters/solve/defaults";
import { CoreError } from "@/core/kernel/errors";
import { removeFolders } from "../../../tests/helpers/folders";
import { startPostgres } from "../../../tests/helpers/postgres";
import { TestApp } from "../../../tests/helpers/testApp";
import { awayError, database, engineDied, isShared, openDatabase, openedDatabase, openWorkshop, openWorkshopAt } from "./db/client";
import {
  backupHint,
  backupNames,
  dataFolder,
  knownPath,
  lookInto,
  markWorkshop,
  readyFolder,
  requireFreeSpace,
  storageFault,
  workshopId,
} from "./db/dataFolder";
import { openPostgres } from "./db/postgres";
import { cutters } from "./db/schema";
import { ServerError } from "./errors";
import { mutation, query } from "./http";
import { metrics, routeOf } from "./metrics";

const postgres = await startPostgres();
const folders: string[] = [];
const fresh = (name = "workshop") => {
  const folder = path.join(mkdtempSync(path.join(tmpdir(), "upwind-faults-")), name);
  folders.push(folder);
  return folder;
};
afterAll(() => {
  postgres?.remove();
  removeFolders(...folders.map((folder) => path.dirname(folder)));
});

/** What a route answers whose work fails so, and what was noted down. */
async function failing(error: unknown) {
  const { error: written } = console;
  const noted: string[] = [];
  console.error = (line: string) => noted.push(String(line));
  try {
    const response = await query(async () => {
      throw error;
    })(new Request("http://127.0.0.1:3000/api/cutters"), undefined);
    const result = (await response.json()) as { error: Record<string, unknown> };
    return { status: response.status, ...result.error, noted: noted.map((line) => JSON.parse(line) as { kinds: string[]; where?: string[] }) } as {
      status: number;
      code: string;
      message: string;
      noted: { kinds: string[]; where?: string[] }[];
    } & Record<string, unknown>;
  } finally {
    console.error = written;
  }
}
const coded = (code: string, message = "secret of the disk") => Object.assign(new Error(message), { code });

describe("errors as the page shows them", () => {
  it("a refusal in words as it is, with what goes with it; it is counted and not noted down as a fault", async () => {
    const before = (await metrics().refused.get()).values.find(({ labels }) => labels.code === "spool-short")?.value ?? 0;
    const result = await failing(new ServerError("spool-short", 409, "Too short.", { path: "cut_mm", current: { left: 1 } }));
    expect(result).toMatchObject({ status: 409, code: "spool-short", message: "Too short.", path: "cut_mm", current: { left: 1 }, noted: [] });
    expect((await metrics().refused.get()).values.find(({ labels }) => labels.code === "spool-short")?.value).toBe(before + 1);
    expect(await failing(new CoreError("out-of-range", "job.feed_mm_s", "too fast"))).toMatchObject({
      status: 422,
      code: "out-of-range",
      path: "job.feed_mm_s",
      message: "too fast",
      noted: [],
    });
    // Bundles each have their own copy of the class: it is known by what it is.
    expect(Object.assign(new Error("x"), { name: "ServerError", status: 404 }) instanceof ServerError).toBe(true);
    for (const other of [Object.assign(new Error("x"), { name: "ServerError" }), new Error("x"), { name: "ServerError", status: 404 }])
      expect(other instanceof ServerError).toBe(false);
  });

  it("a full disk, one that may not be written, a file in a folder's place: in words with a way out, noted by kind", async () => {
    process.env.UPWIND_DATA = fresh();
    for (const code of ["ENOSPC", "EDQUOT", "53100"]) expect(await failing(coded(code))).toMatchObject({ status: 507, code: "disk-full" });
    for (const words of ["No space left on device", "Disk quota exceeded"]) expect(await failing(new Error(words))).toMatchObject({ status: 507 });
    expect(await failing(new Error("while writing", { cause: new Error("could not extend: no space left") }))).toMatchObject({ status: 507 });
    for (const code of ["EROFS", "EACCES", "EPERM", "ENOTDIR", "EEXIST"]) {
      const result = await failing(coded(code));
      expect(result).toMatchObject({ status: 503, code: "data-folder-fault" });
      expect(result.message).toMatch(/UPWIND_DATA/);
      expect(result.message).not.toMatch(/secret/);
      expect(result.noted[0]?.kinds).toEqual([`Error ${code}`]);
      expect(result.noted[0]?.where?.length).toBeGreaterThan(0);
    }
    const other = await failing(coded("EWHATEVER"));
    expect(other).toMatchObject({ status: 500, code: "server-failed" });
    expect(await failing("thrown alone")).toMatchObject({ status: 500 });
    expect(storageFault(null, "x")).toBeNull();
    expect(storageFault("disk quota reached", "x")?.code).toBe("disk-full");
    expect(storageFault(coded("EROFS"), "x")?.message).toContain("read-only");
    expect(storageFault(coded("EACCES"), "x")?.message).toContain("this user may not");
  });

  it("an engine that died is opened again by the folder it holds: all that was acknowledged is there, and the response says that the change is lost", async () => {
    const folder = fresh();
    const app = await TestApp.open(() => openDatabase(folder));
    app.env = { UPWIND_DATA: folder };
    await app.request("POST", "/api/cutters", { design: newDesign("bow", "Acknowledged") });
    const { pglite } = { pglite: (app.db as unknown as { $client: PGlite }).$client };
    app.enter();
    await pglite.close();
    const result = await failing(new Error("write failed", { cause: new Error("RuntimeError: unreachable") }));
    expect(result).toMatchObject({ status: 507, code: "disk-full" });
    expect(result.message).toMatch(/opened again: nothing was changed/);
    expect(await (await database()).select({ name: cutters.name }).from(cutters)).toEqual([{ name: "Acknowledged" }]);
    const { lock, close } = await openedDatabase();
    expect(() => lock?.check()).not.toThrow();
    await close();
    // The lock went with it: the folder is anyone's.
    const again = await openDatabase(folder);
    await again.close();
  });

  it.each(["PGlite is closed", "PGlite failed to start", "Aborted(OOM)", "unreachable executed"])("%s: the engine is dead", (words) => {
    expect(engineDied(new Error(words))).toBe(true);
    expect(engineDied(new Error("query", { cause: new Error(words) }))).toBe(true);
    expect(engineDied(words)).toBe(false);
  });
  it("a fault of a query is not the engine's death", () => {
    expect(engineDied(Object.assign(new Error("x"), { name: "RuntimeError" }))).toBe(true);
    for (const error of [new Error("duplicate key"), undefined, null, 7]) expect(engineDied(error)).toBe(false);
  });
});

describe("a request of the API is timed", () => {
  it("by its route without what it names, and by what came of it", async () => {
    expect(routeOf("/api/cutters/7f1c1f5e-0000-4000-8000-00000000beef/log")).toBe("/api/cutters/:id/log");
    expect(routeOf("/api/second/abcdefghijklmnopqrstuv/events")).toBe("/api/second/:id/events");
    expect(routeOf("/api/backups/by-hand-2026.zip")).toBe("/api/backups/:id");
    expect(routeOf("/api/cutters/import")).toBe("/api/cutters/import");
    expect(routeOf(`/api/${"x".repeat(21)}`)).toBe(`/api/${"x".repeat(20)}`);
    expect(routeOf("/a/b/c/d/e/f/g/h")).toBe("/a/b/c/d/e/f");
    const counted = async (status: string) =>
      (await metrics().requests.get()).values.find(
        ({ metricName, labels }) => metricName === "upwind_request_seconds_count" && labels.route === "/api/timed" && labels.status === status,
      )?.value ?? 0;
    const [well, ill] = [await counted("204"), await counted("500")];
    await query(async () => new Response(null, { status: 204 }))(new Request("http://x/api/timed"), undefined);
    const { error } = console;
    console.error = () => undefined;
    await query(async () => Promise.reject(new Error("x")))(new Request("http://x/api/timed"), undefined);
    console.error = error;
    expect([await counted("204"), await counted("500")]).toEqual([well + 1, ill + 1]);
  });

  it("a change is refused before it is begun where the disk is all but full", async () => {
    const folder = fresh();
    requireFreeSpace(folder);
    mkdirSync(folder);
    requireFreeSpace(folder);
    expect(() => requireFreeSpace(folder, Number.MAX_SAFE_INTEGER)).toThrow(expect.objectContaining({ code: "disk-full", status: 507 }));
    process.env.UPWIND_DATA = folder;
    let done = 0;
    const change = mutation(async () => {
      done += 1;
      return new Response();
    });
    const request = () => new Request("http://x/api/cutters", { method: "POST", headers: { origin: "http://x", host: "x" } });
    expect((await change(request(), undefined)).status).toBe(200);
    expect(done).toBe(1);
  });
});

describe("a data folder", () => {
  it("is where it was said to, or next to the app", () => {
    process.env.UPWIND_DATA = "/somewhere/else";
    expect(dataFolder()).toBe("/somewhere/else");
    delete process.env.UPWIND_DATA;
    expect(dataFolder()).toBe(path.resolve(".data/workshop"));
    expect(knownPath("/a/b")).toBe("/a/b.known.json");
  });

  it("is made if need be, and is refused where a file is in its place or in its way", () => {
    const folder = fresh();
    readyFolder(folder);
    readyFolder(folder);
    const inPlace = fresh("file");
    writeFileSync(inPlace, "x");
    for (const at of [inPlace, path.join(inPlace, "under")]) {
      expect(() => readyFolder(at)).toThrow(expect.objectContaining({ code: "data-folder-fault" }));
    }
  });

  it("is new, a workshop, or the remains of one: each is recognised, with its newest backup as the cure", () => {
    const folder = fresh();
    mkdirSync(folder);
    expect(lookInto(folder)).toBe("new");
    expect(workshopId(folder)).toBeNull();
    markWorkshop(folder, "an-id");
    expect(workshopId(folder)).toBe("an-id");
    // Marked, and its database is gone.
    expect(() => lookInto(folder)).toThrow(/is gone.*No backup was found/s);
    const backups = `${folder}.backups`;
    mkdirSync(backups);
    writeFileSync(path.join(backups, "mine.zip"), "");
    writeFileSync(path.join(backups, "notes.txt"), "");
    expect(backupNames(folder)).toEqual(["mine.zip"]);
    expect(backupHint(folder)).toContain(`npm run restore -- "${path.join(backups, "mine.zip")}"`);
    expect(() => lookInto(folder)).toThrow(/mine\.zip/);
    mkdirSync(path.join(folder, "pg", "global"), { recursive: true });
    expect(() => lookInto(folder)).toThrow(/damaged/);
    writeFileSync(path.join(folder, "pg", "PG_VERSION"), "17");
    expect(() => lookInto(folder)).toThrow(/damaged/);
    writeFileSync(path.join(folder, "pg", "global", "pg_control"), "x");
    expect(lookInto(folder)).toBe("workshop");
    // Half made again over an old marker: the data is gone, not new.
    writeFileSync(path.join(folder, "making"), "");
    expect(() => lookInto(folder)).toThrow(/is gone/);
    rmSync(path.join(folder, "workshop.json"));
    expect(() => lookInto(folder)).toThrow(/held a workshop and is empty now/);
    rmSync(knownPath(folder));
    expect(lookInto(folder)).toBe("new");
    mkdirSync(path.join(folder, "pg"), { recursive: true });
    writeFileSync(path.join(folder, "pg", "half"), "");
    writeFileSync(path.join(folder, "making"), "");
    expect(lookInto(folder)).toBe("new");
    writeFileSync(path.join(folder, "workshop.json"), "{");
    expect(workshopId(folder)).toBeNull();
  });
});

describe.runIf(postgres !== null)("a workshop in a database server", () => {
  it("is named by one variable; a fault of the server is reported as the server's", async () => {
    const url = (postgres as NonNullable<typeof postgres>).database();
    const app = await TestApp.open(() => openPostgres(url));
    app.env = { DATABASE_URL: url };
    app.enter();
    expect(isShared()).toBe(true);
    const health = await app.request<{ database: { engine: string }; freeBytes: { data: number | null } }>("GET", "/api/health");
    expect([health.body.database.engine, health.body.freeBytes.data]).toEqual(["server", null]);
    expect(await awayError(coded("ECONNREFUSED"))).toMatchObject({ code: "database-away", status: 503 });
    expect(await awayError(new Error("duplicate key"))).toBeNull();
    const result = await failing(new Error("query", { cause: coded("ECONNREFUSED") }));
    expect(result).toMatchObject({ status: 503, code: "database-away" });
    // Where it arose says nothing of a server that is away; an embedded engine's death is none here.
    expect(result.noted[0]?.where).toBeUndefined();
    app.enter();
    expect(await failing(new Error("PGlite is closed"))).toMatchObject({ status: 500 });
    const own = await openWorkshop();
    expect(await own.alone(async () => 7)).toBe(7);
    await own.close();
    const other = await openWorkshopAt({ url });
    expect(await other.db.select().from(cutters)).toEqual([]);
    await other.close();
    process.env.DATABASE_URL = "";
    expect(isShared()).toBe(false);
    expect(await awayError(coded("ECONNREFUSED"))).toBeNull();
    await app.close();
    app.env = {};
    delete process.env.DATABASE_URL;
  });
});

describe("a workshop in a folder", () => {
  it("is held by one at a time, and let go when it is closed", async () => {
    const folder = fresh();
    const one = await openWorkshopAt({ folder });
    expect(await one.alone(async () => 7)).toBe(7);
    await expect(openDatabase(folder)).rejects.toMatchObject({ code: "data-folder-in-use" });
    await one.close();
    const two = await openDatabase(folder);
    expect(two.lock).not.toBeNull();
    await two.close();
    expect(lookInto(folder)).toBe("workshop");
    expect(workshopId(folder)).toMatch(/^[0-9a-f-]{36}$/);
  });
});
