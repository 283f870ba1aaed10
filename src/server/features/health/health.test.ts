import { mkdirSync, statfsSync, utimesSync, writeFileSync } from "node:fs";
import path from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { HEALTH } from "@/contract/health/contract";
import { TestApp } from "../../../../tests/helpers/testApp";

interface Health {
  ok: boolean;
  upSeconds: number;
  database: { engine: string; answersMs: number | null };
  freeBytes: { data: number | null; backups: number | null };
  backupHours: number | null;
}
let app: TestApp;
beforeAll(async () => {
  app = await TestApp.open();
});
afterAll(() => app.close());
const health = async () => {
  const { status, body } = await app.request<Health>("GET", "/api/health");
  expect(HEALTH.read.response.safeParse(body).error).toBeUndefined();
  return { status, ...body };
};

describe("how the app is", () => {
  it("the database answers, and in what time; how much room there is; no backup yet", async () => {
    const result = await health();
    expect([result.status, result.ok, result.database.engine, result.backupHours]).toEqual([200, true, "embedded", null]);
    expect(result.database.answersMs).toBeGreaterThan(0);
    expect(result.database.answersMs).toBeLessThan(3000);
    expect(result.upSeconds).toBe(Math.round(process.uptime()));
    const { bavail, bsize } = statfsSync(path.dirname(app.folder));
    for (const free of [result.freeBytes.data, result.freeBytes.backups]) expect((free as number) / (bavail * bsize)).toBeCloseTo(1, 1);
  });

  it("how old the newest backup is, in tenths of an hour", async () => {
    const folder = `${app.folder}.backups`;
    mkdirSync(folder);
    for (const [name, hours] of [
      ["old.zip", 50],
      ["newer.zip", 3.5],
    ] as const) {
      writeFileSync(path.join(folder, name), "");
      const at = new Date(Date.now() - hours * 3600_000);
      utimesSync(path.join(folder, name), at, at);
    }
    expect((await health()).backupHours).toBe(3.5);
  });

  it("unknown figures are null and named: no folder there, a database that does not answer", async () => {
    app.env = { UPWIND_DATA: "/nowhere/at/all/workshop" };
    expect((await health()).freeBytes).toEqual({ data: null, backups: null });
    app.env = {};
    const { error } = console;
    console.error = () => undefined;
    app.enter();
    const { healthRoutes } = await import("./routes");
    Object.assign(globalThis, { upwindDatabase: Promise.reject(new Error("away")) });
    const response = await healthRoutes.read(
      new Request("http://127.0.0.1:3000/api/health", { headers: { "x-upwind-client": "127.0.0.1" } }),
      undefined as never,
    );
    console.error = error;
    app.enter();
    expect(response.status).toBe(503);
    expect(await response.json()).toMatchObject({ ok: false, database: { answersMs: null } });
    // One that says nothing is given up after three seconds.
    Object.assign(globalThis, { upwindDatabase: new Promise(() => undefined) });
    const from = Date.now();
    const late = await healthRoutes.read(new Request("http://127.0.0.1:3000/api/health", { headers: { "x-upwind-client": "127.0.0.1" } }), undefined as never);
    app.enter();
    expect(late.status).toBe(503);
    expect(Date.now() - from).toBeGreaterThan(2900);
  });
});
