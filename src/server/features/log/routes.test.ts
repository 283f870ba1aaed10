import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { LOG } from "@/contract/log/contract";
import { newDesign } from "@/core/cutters/solve/defaults";
import { demoLog } from "@/core/log/demoLog";
import { MAX_PHOTO_BYTES } from "@/core/log/photo";
import { TestApp } from "../../../../tests/helpers/testApp";
import { LOG_PAGE } from "./repository";

interface Row {
  id: string;
  revision: number;
  entry: { kind: string; at: string; note: string; tension_N: number; photo?: string };
}
let app: TestApp;
beforeAll(async () => {
  app = await TestApp.open();
});
afterAll(() => app.close());

const NOWHERE = "00000000-0000-4000-8000-000000000000";
const check = (at: string, tension_N = 40) => ({ kind: "tension-check", at, tension_N, how: "spring", hot: true, note: "by the door" });
/** A log of its own. @returns its address */
const log = async (name: string) =>
  `/api/cutters/${(await app.request<{ cutter: { id: string } }>("POST", "/api/cutters", { design: newDesign("bow", name) })).body.cutter.id}/log`;
const add = async (at: string, entry: unknown, id?: string) => {
  const { status, body } = await app.request<{ row: Row }>("POST", at, { entry, ...(id ? { id } : {}) });
  expect(status).toBe(201);
  expect(LOG.add.response.safeParse(body).error).toBeUndefined();
  return body.row;
};
const list = async (at: string, page = "") => {
  const { body } = await app.request<{ entries: Row[]; older: boolean }>("GET", `${at}${page}`);
  expect(LOG.list.response.safeParse(body).error).toBeUndefined();
  return body;
};

describe("the routes about a cutter's log", () => {
  it("add, correct by revision, remove", async () => {
    const at = await log("Of one cutter");
    const row = await add(at, check("2026-11-20T08:00:00Z"));
    expect(row.revision).toBe(1);
    const saved = (await app.request<{ row: Row }>("PUT", `${at}/${row.id}`, { revision: 1, entry: check("2026-11-20T08:00:00Z", 44) })).body.row;
    expect([saved.revision, saved.entry.tension_N]).toEqual([2, 44]);
    const late = await app.request<{ error: { code: string; current: Row } }>("PUT", `${at}/${row.id}`, {
      revision: 1,
      entry: check("2026-11-20T08:00:00Z", 1),
    });
    expect([late.status, late.body.error.code]).toEqual([409, "stale-revision"]);
    expect(late.body.error.current).toEqual(saved);
    const other = await log("Of another");
    expect(await app.refusal("PUT", `${other}/${row.id}`, { revision: 2, entry: check("2026-11-20T08:00:00Z") })).toEqual([404, "not-found"]);
    expect(await app.refusal("DELETE", `${other}/${row.id}`)).toEqual([404, "not-found"]);
    expect(await app.refusal("PUT", `${at}/none`, { revision: 2, entry: check("2026-11-20T08:00:00Z") })).toEqual([422, "wrong-type", "entry"]);
    expect((await list(at)).entries).toEqual([saved]);
    expect((await app.request("DELETE", `${at}/${row.id}`)).body).toEqual({});
    expect(await app.refusal("DELETE", `${at}/${row.id}`)).toEqual([404, "not-found"]);
    expect((await list(at)).entries).toEqual([]);
    expect(await app.refusal("POST", `/api/cutters/${NOWHERE}/log`, { entry: check("2026-11-20T08:00:00Z") })).toEqual([404, "not-found"]);
  });

  it("an id of the page's own is kept once", async () => {
    const at = await log("Sent twice");
    const id = "7f1c1f5e-0000-4000-8000-0000000000aa";
    const first = await add(at, check("2026-11-20T08:00:00Z"), id);
    expect(first.id).toBe(id);
    expect(await add(at, check("2026-11-20T08:00:00Z"), id)).toEqual(first);
    expect((await list(at)).entries).toHaveLength(1);
    expect(await app.refusal("POST", await log("Not here too"), { entry: check("2026-11-20T08:00:00Z"), id })).toEqual([409, "name-taken"]);
  });

  it("come newest first, page after page, none twice and none left out, though many are of one moment", async () => {
    const at = await log("Of a long season");
    // The newest is of another day: the rest are distinguished by their ids alone.
    const days = Array.from({ length: LOG_PAGE + 20 }, (_, i) => check(i === 0 ? "2026-11-21T08:00:00.000Z" : "2026-11-20T08:00:00.000Z", i));
    const file = JSON.stringify({ format: "upwind-rod/log", version: 1, cutter: "x", entries: days });
    await app.request("POST", `${at}/import`, { text: file });
    const first = await list(at);
    expect([first.entries.length, first.older, first.entries[0]?.entry.tension_N]).toEqual([LOG_PAGE, true, 0]);
    const last = first.entries.at(-1) as Row;
    const second = await list(at, `?before=${last.entry.at}&after=${last.id}`);
    expect([second.entries.length, second.older]).toEqual([20, false]);
    expect(new Set([...first.entries, ...second.entries].map(({ id }) => id)).size).toBe(LOG_PAGE + 20);
    expect((await app.refusal("GET", `${at}?before=yesterday`))[2]).toBe("before");
    // Half a place in the order is none.
    expect((await list(at, `?after=${last.id}`)).entries).toEqual(first.entries);
  });

  it("go out as JSON or CSV and come in elsewhere once; what is shown first is what is done", async () => {
    const at = await log("Lantern log");
    for (const entry of demoLog().filter(({ kind }) => kind !== "wire-change")) await add(at, entry);
    const stored = (await list(at)).entries;
    for (const [format, type] of [
      ["json", "application/json"],
      ["csv", "text/csv; charset=utf-8"],
    ] as const) {
      const reply = await app.request("GET", `${at}/file?format=${format}`);
      expect([reply.headers.get("content-type"), reply.headers.get("content-disposition")]).toEqual([type, `attachment; filename="lantern-log-log.${format}"`]);
      const elsewhere = await log(`Taken in as ${format}`);
      const rows = async (action: string) =>
        (await app.request<{ rows: { status: string }[] }>("POST", `${elsewhere}/${action}`, { text: reply.bytes.toString("utf8") })).body.rows.map(
          ({ status }) => status,
        );
      const shown = await rows("preview");
      expect(shown).toEqual(stored.map(() => "new"));
      expect((await list(elsewhere)).entries).toEqual([]);
      expect(await rows("import")).toEqual(shown);
      expect((await list(elsewhere)).entries.map(({ entry }) => [entry.kind, entry.at])).toEqual(stored.map(({ entry }) => [entry.kind, entry.at]));
      expect(await rows("import")).toEqual(stored.map(() => "known"));
    }
    expect((await app.request("GET", `${at}/file`)).headers.get("content-type")).toBe("application/json");
    expect(await app.refusal("GET", `${at}/file?format=xml`)).toEqual([422, "not-one-of", "format"]);
  });

  it("a picture is kept as its own bytes, goes out with the log and comes in next to its entry elsewhere", async () => {
    const at = await log("Pictured");
    const photos = at.replace(/log$/, "photos");
    const png = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 9, 8, 7);
    const { status, body } = await app.request<{ id: string }>("POST", photos, png);
    expect(status).toBe(201);
    const reply = await app.request("GET", `/api/photos/${body.id}`);
    expect(new Uint8Array(reply.bytes)).toEqual(png);
    expect(["content-type", "x-content-type-options", "cache-control"].map((name) => reply.headers.get(name))).toEqual([
      "image/png",
      "nosniff",
      "private, max-age=31536000, immutable",
    ]);
    const cut = demoLog().find(({ kind }) => kind === "test-cut") as object;
    await add(at, { ...cut, photo: body.id });
    const text = (await app.request("GET", `${at}/file`)).bytes.toString("utf8");
    const elsewhere = await log("Pictured elsewhere");
    await app.request("POST", `${elsewhere}/import`, { text });
    const taken = (await list(elsewhere)).entries[0]?.entry.photo as string;
    expect(taken).not.toBe(body.id);
    expect(new Uint8Array((await app.request("GET", `/api/photos/${taken}`)).bytes)).toEqual(png);
    // A picture that is none, or too large, takes the whole file with it.
    const third = await log("Not pictured");
    const corrupt = text.replace(Buffer.from(png).toString("base64"), Buffer.from("<svg/>").toString("base64"));
    expect(corrupt).not.toBe(text);
    expect(await app.refusal("POST", `${third}/import`, { text: corrupt })).toEqual([415, "unreadable"]);
    expect((await list(third)).entries).toEqual([]);
    expect(await app.refusal("POST", photos, "<svg/>")).toEqual([415, "unreadable"]);
    const most = new Uint8Array(MAX_PHOTO_BYTES);
    most.set(png);
    expect((await app.request("POST", photos, most)).status).toBe(201);
    const more = new Uint8Array(MAX_PHOTO_BYTES + 1);
    more.set(png);
    expect(await app.refusal("POST", photos, more)).toEqual([413, "too-large"]);
    expect(await app.refusal("POST", `/api/cutters/${NOWHERE}/photos`, png)).toEqual([404, "not-found"]);
    expect(await app.refusal("GET", `/api/photos/${NOWHERE}`)).toEqual([404, "not-found"]);
  });
});
