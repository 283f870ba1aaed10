import http from "node:http";
import { type AddressInfo, connect } from "node:net";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { CLIENT_HEADER, installAccessGuard, LOCAL_HEADER, MEMBER_HEADER, SECURE_HEADER } from "./accessGuard";

/** A server of this process's own behind the guard, which answers with what it was asked. */
let server: http.Server;
let port = 0;
beforeAll(async () => {
  for (const name of ["HOST", "UPWIND_PROXY", "UPWIND_HOSTS", "UPWIND_OPEN"]) delete process.env[name];
  installAccessGuard();
  // Asked twice it is there once.
  installAccessGuard();
  server = http.createServer(async (request, response) => {
    let body = "";
    for await (const chunk of request) body += chunk;
    response.setHeader("content-type", "application/json");
    response.end(JSON.stringify({ method: request.method, url: request.url, headers: request.headers, body }));
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  ({ port } = server.address() as AddressInfo);
});
afterAll(() => server.close());

/** What is sent as it is, and all that comes back until the line is closed. */
const raw = (text: string, patienceMs = 10_000) =>
  new Promise<{ status: number; body: string; ms: number }>((resolve, reject) => {
    const from = Date.now();
    const socket = connect(port, "127.0.0.1", () => socket.write(text));
    let heard = "";
    socket.setTimeout(patienceMs, () => socket.destroy(new Error(`no answer: ${heard}`)));
    socket.on("data", (chunk) => {
      heard += chunk;
    });
    socket.on("error", reject);
    socket.on("close", () =>
      resolve({ status: Number(heard.slice(9, 12)), body: heard.slice(heard.indexOf("{"), heard.lastIndexOf("}") + 1), ms: Date.now() - from }),
    );
  });
const send = (method: string, url: string, headers = "", body = "") =>
  raw(`${method} ${url} HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n${headers}\r\n${body}`);
const code = ({ status, body }: { status: number; body: string }) => [status, (JSON.parse(body) as { error: { code: string } }).error.code];

describe("before the framework", () => {
  it.each(["GET", "POST", "PUT", "DELETE", "OPTIONS"])("%s comes through, from whom and to where as the connection has it", async (method) => {
    const reply = await send(method, "/api/cutters?limit=2");
    expect(reply.status).toBe(200);
    const result = JSON.parse(reply.body) as { method: string; url: string; headers: Record<string, string> };
    expect([result.method, result.url]).toEqual([method, "/api/cutters?limit=2"]);
    expect([result.headers[CLIENT_HEADER], result.headers[LOCAL_HEADER], result.headers[SECURE_HEADER]]).toEqual(["127.0.0.1", "127.0.0.1", "0"]);
  });

  it("what a client says of itself in the guard's own words is thrown away", async () => {
    const reply = await send(
      "GET",
      "/",
      `${[CLIENT_HEADER, SECURE_HEADER, LOCAL_HEADER, MEMBER_HEADER].map((name) => `${name}: 192.0.2.66`).join("\r\n")}\r\n`,
    );
    expect(reply.status).toBe(200);
    expect(reply.body).not.toContain("192.0.2.66");
  });

  it("methods and addresses that the framework cannot take are refused in words", async () => {
    for (const method of ["PATCH", "TRACE", "PURGE"]) expect(code(await send(method, "/"))).toEqual([405, "method"]);
    for (const url of ["/%", "/api/cutters/%E0%A4%A", "/%zz"]) expect(code(await send("GET", url))).toEqual([400, "unreadable"]);
    expect((await send("GET", "/%C3%A9")).status).toBe(200);
  });

  it("a request by an unknown proxy is refused", async () => {
    expect(code(await send("GET", "/", "X-Forwarded-For: 192.0.2.1\r\n"))).toEqual([421, "not-here"]);
    expect(code(await send("GET", "/", "Forwarded: for=192.0.2.1\r\n"))).toEqual([421, "not-here"]);
  });

  it("a body that stops before its end is answered, and one without a length is none", async () => {
    const [stopped, chunked, none] = await Promise.all([
      send("POST", "/", "Content-Length: 50\r\n", "begin"),
      send("POST", "/", "Transfer-Encoding: chunked\r\n", "5\r\nbegin\r\n"),
      send("POST", "/"),
    ]);
    for (const reply of [stopped, chunked]) {
      expect(code(reply)).toEqual([408, "unreadable"]);
      expect(reply.ms).toBeGreaterThan(2500);
    }
    expect([none.status, none.ms < 2500]).toEqual([200, true]);
  });

  it("a body that comes slowly is waited for, longer than one that stopped", async () => {
    const slow = await new Promise<string>((resolve, reject) => {
      const socket = connect(port, "127.0.0.1", () => socket.write("POST / HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\nContent-Length: 6\r\n\r\n"));
      let sent = 0;
      // A letter now and then, for longer than a body that stopped is waited for.
      const timer = setInterval(() => {
        socket.write("x");
        sent += 1;
        if (sent === 6) clearInterval(timer);
      }, 800);
      let heard = "";
      socket.on("data", (chunk) => {
        heard += chunk;
      });
      socket.on("close", () => resolve(heard));
      socket.on("error", reject);
    });
    expect(slow.slice(9, 12)).toBe("200");
    expect(slow).toContain('"body":"xxxxxx"');
  });
});
