import { describe, expect, it } from "vitest";
import { z } from "zod";
import { mutation, query, readJson } from "@/server/kernel/http";

const schema = z.strictObject({ n: z.number() });
const echo = mutation(async (request: Request) => Response.json(await readJson(request, schema, 1000)));
const send = (body: BodyInit, headers: Record<string, string>) =>
  echo(new Request("http://localhost:3000/api", { method: "POST", body, headers: { host: "localhost:3000", ...headers } }), undefined);
const own = { origin: "http://localhost:3000" };

describe("mutations", () => {
  it("pass from the app's own page", async () => {
    expect(await (await send('{"n":1}', own)).json()).toEqual({ n: 1 });
    expect((await send('{"n":1}', { "sec-fetch-site": "same-origin" })).status).toBe(200);
  });

  it.each([
    ["another site", { origin: "http://elsewhere.example" }],
    ["another port", { origin: "http://localhost:4000" }],
    ["an opaque origin", { origin: "null" }],
    ["no origin at all", {} as Record<string, string>],
    ["a forged origin with a cross-site mark", { ...own, "sec-fetch-site": "cross-site" }],
  ])("are refused from %s", async (_name, headers) => {
    const response = await send('{"n":1}', headers);
    expect(response.status).toBe(403);
    expect((await response.json()).error.code).toBe("cross-origin");
  });

  it("stop reading at the limit, not at the claimed length", async () => {
    expect((await send(`{"n":${"1".repeat(2000)}}`, own)).status).toBe(413);
    let pulled = 0;
    const endless = new ReadableStream({
      pull(controller) {
        pulled += 1;
        controller.enqueue(new TextEncoder().encode(" ".repeat(400)));
      },
    });
    const request = new Request("http://localhost:3000/api", {
      method: "POST",
      body: endless,
      headers: { host: "localhost:3000", ...own },
      duplex: "half",
    } as RequestInit);
    expect((await echo(request, undefined)).status).toBe(413);
    expect(pulled).toBeLessThan(8);
  });

  it("name what is wrong with the body", async () => {
    expect((await (await send("{", own)).json()).error.code).toBe("unreadable");
    const bad = await send('{"n":"x"}', own);
    expect(bad.status).toBe(422);
    expect((await bad.json()).error.path).toBe("n");
  });
});

describe("a fault inside", () => {
  it("is logged, and the client learns neither cause nor stack", async () => {
    const { error } = console;
    let logged = 0;
    console.error = () => {
      logged += 1;
    };
    const response = await query(async () => {
      throw new Error("select secret from pg_shadow");
    })(new Request("http://localhost/"), undefined).finally(() => {
      console.error = error;
    });
    const text = await response.text();
    expect(response.status).toBe(500);
    expect(text).not.toMatch(/secret|at |\.ts/);
    expect(logged).toBe(1);
  });
});
