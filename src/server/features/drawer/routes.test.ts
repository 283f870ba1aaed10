import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { DRAWER } from "@/contract/drawer/contract";
import { itemFromCells } from "@/core/drawer/columns";
import { MAX_CSV_CHARACTERS } from "@/core/drawer/things";
import { TestApp } from "../../../../tests/helpers/testApp";

interface Row {
  id: string;
  revision: number;
  item: { name: string; rating_A: number };
}
let app: TestApp;
beforeAll(async () => {
  app = await TestApp.open();
});
afterAll(() => app.close());

const NOWHERE = "00000000-0000-4000-8000-000000000000";
const fuse = (name: string, rating = "5 A") => itemFromCells({ kind: "fuse", name, rating_A: rating });
const list = async () => {
  const { body } = await app.request<{ items: Row[]; unreadable: unknown[] }>("GET", "/api/drawer");
  expect(DRAWER.list.response.safeParse(body).error).toBeUndefined();
  return body;
};
const add = async (name: string) => {
  const { status, body } = await app.request<{ row: Row }>("POST", "/api/drawer", { item: fuse(name) });
  expect(status).toBe(201);
  expect(DRAWER.add.response.safeParse(body).error).toBeUndefined();
  return body.row;
};

describe("the routes about the drawer", () => {
  it("add, save by revision, take out and put back", async () => {
    const made = await add("Slow fuse");
    expect([made.revision, made.item.name]).toEqual([1, "Slow fuse"]);
    const saved = (await app.request<{ row: Row }>("PUT", `/api/drawer/${made.id}`, { revision: 1, item: fuse("Slow fuse", "8 A") })).body.row;
    expect([saved.revision, saved.item.rating_A]).toEqual([2, 8]);
    const late = await app.request<{ error: { code: string; current: Row } }>("PUT", `/api/drawer/${made.id}`, { revision: 1, item: fuse("Slow fuse", "1 A") });
    expect([late.status, late.body.error.code, late.body.error.current.revision]).toEqual([409, "stale-revision", 2]);
    expect((await list()).items).toEqual([saved]);
    expect((await app.request("DELETE", `/api/drawer/${made.id}`)).body).toEqual({});
    expect((await list()).items).toEqual([]);
    expect(await app.refusal("DELETE", `/api/drawer/${made.id}`)).toEqual([404, "not-found"]);
    expect(await app.refusal("PUT", `/api/drawer/${made.id}`, { revision: 2, item: fuse("Slow fuse") })).toEqual([404, "not-found"]);
    expect((await app.request<{ row: Row }>("POST", `/api/drawer/${made.id}/restore`)).body.row.item.rating_A).toBe(8);
    expect(await app.refusal("POST", `/api/drawer/${made.id}/restore`)).toEqual([404, "not-found"]);
    expect(await app.refusal("POST", `/api/drawer/${NOWHERE}/restore`)).toEqual([404, "not-found"]);
  });

  it("a name is had once, whichever way it comes: added, renamed to, brought back", async () => {
    const [one, two] = [await add("Glass fuse"), await add("Blade fuse")];
    expect(await app.refusal("POST", "/api/drawer", { item: fuse("glass FUSE") })).toEqual([409, "name-taken", "name"]);
    expect(await app.refusal("PUT", `/api/drawer/${two.id}`, { revision: 1, item: fuse("Glass fuse") })).toEqual([409, "name-taken", "name"]);
    await app.request("DELETE", `/api/drawer/${one.id}`);
    await add("Glass fuse");
    expect(await app.refusal("POST", `/api/drawer/${one.id}/restore`)).toEqual([409, "name-taken", "name"]);
  });

  it("go out and come in by CSV: what is shown first is what is then done", async () => {
    await add("Kept as it is");
    const { bytes, headers } = await app.request("GET", "/api/drawer/file");
    expect([headers.get("content-type"), headers.get("content-disposition")]).toEqual(["text/csv; charset=utf-8", 'attachment; filename="drawer.csv"']);
    const text = `${bytes.toString("utf8").replace("Kept as it is", "Come by file")}`;
    const kinds = async (action: "preview" | "import") => {
      const { status, body } = await app.request<{ rows: { status: string }[] }>("POST", `/api/drawer/${action}`, { text });
      expect(status).toBe(200);
      expect(DRAWER.preview.response.safeParse(body).error).toBeUndefined();
      return body.rows.map((row) => row.status).sort();
    };
    const before = (await list()).items.length;
    const shown = await kinds("preview");
    expect(shown.filter((status) => status === "new")).toHaveLength(1);
    expect((await list()).items).toHaveLength(before);
    expect(await kinds("import")).toEqual(shown);
    expect((await list()).items).toHaveLength(before + 1);
    expect((await kinds("preview")).every((status) => status === "same")).toBe(true);
    // A file of the greatest length is read through; one that is longer is refused for its length.
    expect((await app.refusal("POST", "/api/drawer/preview", { text: "é".repeat(MAX_CSV_CHARACTERS) }))[1]).not.toBe("too-large");
    expect(await app.refusal("POST", "/api/drawer/import", { text: "x".repeat(6 * MAX_CSV_CHARACTERS + 1024) })).toEqual([413, "too-large"]);
  });

  it("a change of many fields by file is one change of one thing", async () => {
    const made = await add("Changed by file");
    const { bytes } = await app.request("GET", "/api/drawer/file");
    const text = bytes.toString("utf8").replace(/^(.*Changed by file.*?)\b5\b/m, "$17");
    const { body } = await app.request<{ rows: { status: string; id?: string; changed?: string[] }[] }>("POST", "/api/drawer/import", { text });
    expect(body.rows.filter(({ status }) => status === "change")).toMatchObject([{ id: made.id }]);
    expect(body.rows.find(({ status }) => status === "change")?.changed).toHaveLength(1);
    const row = (await list()).items.find(({ id }) => id === made.id);
    expect([row?.revision, row?.item.rating_A]).toEqual([2, 7]);
  });
});
