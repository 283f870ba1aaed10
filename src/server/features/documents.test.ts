import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { CUTTERS } from "@/contract/cutters/contract";
import type { Endpoint } from "@/contract/kernel/endpoint";
import { PLANS } from "@/contract/plans/contract";
import { RIGS } from "@/contract/rigs/contract";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { designSchema } from "@/core/cutters/design/schema";
import { DEMO_PLANS } from "@/core/plans/demoPlans";
import { PLAN_KIND } from "@/core/plans/plan";
import { newRig, RIG_KIND } from "@/core/rigs/rig";
import { type Reply as AppReply, TestApp } from "../../../tests/helpers/testApp";

interface Row {
  id: string;
  revision: number;
  updatedAt: string;
  deletedAt: string | null;
}
type Reply = Record<string, Row & Record<string, { name: string }>>;
type Listed = Record<string, (Row & Record<string, { name: string }>)[]> & { unreadable: { id: string; name: string; why: string }[] };

let app: TestApp;
beforeAll(async () => {
  app = await TestApp.open();
});
afterAll(() => app.close());

const NOWHERE = "00000000-0000-4000-8000-000000000000";
const KINDS: readonly {
  many: string;
  one: string;
  body: string;
  ending: string;
  make: (name: string) => { name: string };
  exchanges: Readonly<Record<string, Endpoint>>;
  /** most bytes of a document on its way */
  most: number;
}[] = [
  {
    ...{ many: "cutters", one: "cutter", body: "design", ending: "upwind", exchanges: CUTTERS, most: 128 * 1024 },
    make: (name) => ({ ...designSchema.parse(DEMO_CUTTERS[0]), name }),
  },
  {
    ...{ many: "plans", one: "plan", body: "plan", ending: "upwind-plan", exchanges: PLANS, most: 2 * PLAN_KIND.maxCharacters },
    make: (name) => ({ ...(DEMO_PLANS[0] as (typeof DEMO_PLANS)[number]), name }),
  },
  { many: "rigs", one: "rig", body: "rig", ending: "upwind-rig", exchanges: RIGS, most: 2 * RIG_KIND.maxCharacters, make: (name) => newRig("swing", name) },
];

describe.each(KINDS)("the routes about $many", ({ many, one, body, ending, make, exchanges, most }) => {
  /** What an answer carries, held to the contract that the page reads it by. */
  const row = (reply: AppReply<Reply>, which: string, status = 200) => {
    expect(reply.status).toBe(status);
    expect(exchanges[which]?.response.safeParse(reply.body).error).toBeUndefined();
    return reply.body[one] as Reply[string];
  };
  const created = async (name: string) => row(await app.request("POST", `/api/${many}`, { [body]: make(name) }), "create", 201);
  const listed = async (page = "") => {
    const reply = await app.request<Listed>("GET", `/api/${many}${page}`);
    expect(exchanges.list?.response.safeParse(reply.body).error).toBeUndefined();
    return reply.body;
  };
  const nameOf = (each: Reply[string]) => (each[body] as { name: string }).name;

  it("makes, reads, saves by revision, and shows anyone who is late what is there", async () => {
    const made = await created("First of all");
    expect([made.revision, made.deletedAt, nameOf(made)]).toEqual([1, null, "First of all"]);
    expect(row(await app.request("GET", `/api/${many}/${made.id}`), "get")).toEqual(made);
    const saved = row(await app.request("PUT", `/api/${many}/${made.id}`, { revision: 1, [body]: make("Second thoughts") }), "save");
    expect([saved.id, saved.revision, nameOf(saved)]).toEqual([made.id, 2, "Second thoughts"]);
    const late = await app.request<{ error: { code: string; current: Reply[string] } }>("PUT", `/api/${many}/${made.id}`, {
      revision: 1,
      [body]: make("Too late"),
    });
    expect([late.status, late.body.error.code]).toEqual([409, "stale-revision"]);
    expect(late.body.error.current).toEqual(saved);
    expect(nameOf(row(await app.request("GET", `/api/${many}/${made.id}`), "get"))).toBe("Second thoughts");
  });

  it("puts away, lists what was archived apart, and brings back", async () => {
    const made = await created("To the loft");
    const away = row(await app.request("DELETE", `/api/${many}/${made.id}`), "remove");
    expect(away.deletedAt).not.toBeNull();
    expect(await app.refusal("GET", `/api/${many}/${made.id}`)).toEqual([404, "not-found"]);
    expect(await app.refusal("DELETE", `/api/${many}/${made.id}`)).toEqual([404, "not-found"]);
    expect(await app.refusal("PUT", `/api/${many}/${made.id}`, { revision: 1, [body]: make("x") })).toEqual([404, "not-found"]);
    const list = await listed();
    expect(list[many]?.map(({ id }) => id)).not.toContain(made.id);
    expect(list.deleted?.map(({ id }) => id)).toContain(made.id);
    expect(row(await app.request("POST", `/api/${many}/${made.id}/restore`), "restore").deletedAt).toBeNull();
    expect(await app.refusal("POST", `/api/${many}/${made.id}/restore`)).toEqual([404, "not-found"]);
    expect((await listed()).deleted?.map(({ id }) => id)).not.toContain(made.id);
  });

  it("copies under names that are free, one after the other", async () => {
    const made = await created("Paper swan");
    const copy = async (id: string) => row(await app.request("POST", `/api/${many}/${id}/duplicate`), "duplicate", 201);
    const [first, second] = [await copy(made.id), await copy(made.id)];
    expect([nameOf(first), nameOf(second)]).toEqual(["Paper swan, copy", "Paper swan, copy 2"]);
    // A copy of a copy is one more copy of the same thing.
    expect(nameOf(await copy(second.id))).toBe("Paper swan, copy 3");
    expect(nameOf(await copy(first.id))).toBe("Paper swan, copy 4");
    expect(await app.refusal("POST", `/api/${many}/${NOWHERE}/duplicate`)).toEqual([404, "not-found"]);
    // "100%, copy" is no sign for anything.
    const percent = await created("100_");
    await created("1000, copy");
    expect(nameOf(await copy(percent.id))).toBe("100_, copy");
  });

  it("lists page by page, last changed first, and refuses pages that are none", async () => {
    for (const name of ["p1", "p2", "p3"]) await created(name);
    const whole = (await listed())[many] as Reply[string][];
    expect(whole.slice(0, 3).map(nameOf)).toEqual(["p3", "p2", "p1"]);
    const paged = [...((await listed("?limit=2"))[many] ?? []), ...((await listed(`?limit=2000&offset=2`))[many] ?? [])];
    expect(paged).toEqual(whole);
    expect((await listed(`?offset=${whole.length}`))[many]).toEqual([]);
    for (const page of ["?limit=0", "?limit=2001", "?offset=-1", "?limit=x", "?sort=up"])
      expect((await app.refusal("GET", `/api/${many}${page}`))[0]).toBe(422);
  });

  it("gives out as a file, and takes it in again as it was", async () => {
    const made = await created("Over the water");
    const reply = await app.request("GET", `/api/${many}/${made.id}/file`);
    expect(reply.headers.get("content-disposition")).toBe(`attachment; filename="over-the-water.${ending}.json"`);
    expect([reply.headers.get("content-type"), reply.headers.get("cache-control")]).toEqual(["application/json; charset=utf-8", "no-store"]);
    const taken = row(await app.request("POST", `/api/${many}/import`, { text: reply.bytes.toString("utf8") }), "importFile", 201);
    expect(taken.id).not.toBe(made.id);
    expect(taken[body]).toEqual(made[body]);
    expect((await app.refusal("POST", `/api/${many}/import`, { text: "{}" }))[0]).toBe(422);
    expect(await app.refusal("POST", `/api/${many}/import`, "not JSON")).toEqual([400, "unreadable"]);
    expect(await app.refusal("GET", `/api/${many}/${NOWHERE}/file`)).toEqual([404, "not-found"]);
  });

  it("refuses what is no id, no document, and no revision, and names the field", async () => {
    expect(await app.refusal("GET", `/api/${many}/none`)).toEqual([422, "wrong-type", "id"]);
    const made = await created("Held to its form");
    const field = async (requested: unknown, method = "PUT", at = `/api/${many}/${made.id}`) => (await app.refusal(method, at, requested))[2];
    expect(await field({ revision: 0, [body]: make("x") })).toBe("revision");
    expect(await field({ revision: 2_000_000_001, [body]: make("x") })).toBe("revision");
    expect(await field({ revision: 1, [body]: { ...make("x"), name: 7 } })).toBe(`${body}.name`);
    expect(await field({ [body]: { ...make("x"), name: "" } }, "POST", `/api/${many}`)).toBe(`${body}.name`);
    expect((await app.refusal("POST", `/api/${many}`, { [body]: make("x"), more: 1 }))[0]).toBe(422);
    // Room for the longest document there may be, and no more.
    const text = (bytes: number) => `"${"a".repeat(bytes - 2)}"`;
    expect((await app.refusal("POST", `/api/${many}`, text(most)))[0]).toBe(422);
    expect(await app.refusal("POST", `/api/${many}`, text(most + 1))).toEqual([413, "too-large"]);
  });

  it("one row that cannot be read is listed with its name and reason, and hides none of the others", async () => {
    const made = await created("From the future");
    const table = sql.identifier(many);
    await app.db.execute(sql`update ${table} set document = jsonb_set(document, '{version}', '999') where id = ${made.id}`);
    const { unreadable, [many]: rows } = await listed();
    expect(unreadable.map(({ id, name }) => [id, name])).toEqual([[made.id, "From the future"]]);
    expect(unreadable[0]?.why).toMatch(/newer/);
    expect(rows?.length).toBeGreaterThan(3);
    expect((await app.refusal("GET", `/api/${many}/${made.id}`))[0]).toBe(422);
    await app.db.execute(sql`delete from ${table} where id = ${made.id}`);
  });
});

describe("a mark of readiness that is not true", () => {
  it("is refused wherever a cutter comes in, with its reason", async () => {
    const bare = { ...designSchema.parse(DEMO_CUTTERS[0]), name: "Not yet" };
    // A wire pulled past what it withstands when hot.
    const hot = { ...bare, ready: true, tension: { device: "weight", hot_N: 800 } };
    const { body } = await app.request<{ cutter: Row }>("POST", "/api/cutters", { design: bare });
    for (const [method, at, requested] of [
      ["POST", "/api/cutters", { design: hot }],
      ["PUT", `/api/cutters/${body.cutter.id}`, { revision: 1, design: hot }],
      ["POST", "/api/cutters/import", { text: JSON.stringify(hot) }],
    ] as const)
      expect(await app.refusal(method, at, requested)).toEqual([422, "not-ready", "ready"]);
    expect((await app.request<{ cutter: Row }>("GET", `/api/cutters/${body.cutter.id}`)).body.cutter.revision).toBe(1);
  });
});
