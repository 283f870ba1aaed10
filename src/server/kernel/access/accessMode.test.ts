import { describe, expect, it } from "vitest";
import { accessModeOf, isLoopback, requestOrigin } from "./accessMode";

describe("how the workshop is reached", () => {
  it("is open on loopback alone; beyond it, behind a proxy or under another name a phrase is wanted, unless anyone is let in by name", () => {
    for (const HOST of [undefined, "", "127.0.0.1", "localhost", "::1", "127.8.9.1"]) expect(accessModeOf({ HOST }).mode).toBe("open");
    for (const HOST of ["0.0.0.0", "::", "192.0.2.7", "shed.example"]) expect(accessModeOf({ HOST }).mode).toBe("phrase");
    expect(accessModeOf({ UPWIND_PROXY: "127.0.0.1" })).toEqual({ mode: "phrase", proxy: ["127.0.0.1"] });
    expect(accessModeOf({ UPWIND_HOSTS: "shed.example" }).mode).toBe("phrase");
    expect(accessModeOf({ UPWIND_HOSTS: "localhost" }).mode).toBe("open");
    expect(accessModeOf({ HOST: "0.0.0.0", UPWIND_OPEN: "anyone" }).mode).toBe("anyone");
    for (const UPWIND_OPEN of ["yes", "1", "true", "Anyone"]) expect(accessModeOf({ HOST: "0.0.0.0", UPWIND_OPEN }).mode).toBe("phrase");
    // Nothing is warned of where nobody else can come.
    expect(accessModeOf({ UPWIND_OPEN: "anyone" }).mode).toBe("open");
  });

  it("knows loopback in every dress, and nothing else for it", () => {
    for (const own of ["127.0.0.1", "::ffff:127.0.0.1", "::1", "[::1]", "localhost"]) expect(isLoopback(own)).toBe(true);
    for (const other of ["", undefined, "128.0.0.1", "127.0.0.1.example", "::2", "0.0.0.0", "1127.0.0.1"]) expect(isLoopback(other)).toBe(false);
  });

  const open = accessModeOf({});
  const phrase = accessModeOf({ HOST: "0.0.0.0" });
  const proxied = accessModeOf({ UPWIND_PROXY: "10.0.0.2, ::1" });
  const asks = (stored: typeof open, remote: string, headers: Record<string, string> = {}, local = "127.0.0.1") =>
    requestOrigin(stored, { remote, local, headers });

  it("an open workshop serves its own computer, and no proxy that it does not know of", () => {
    expect(asks(open, "::ffff:127.0.0.1")).toEqual({ client: "127.0.0.1", local: "127.0.0.1", secure: false });
    expect(asks(open, "192.0.2.9", {}, "192.0.2.1")).toHaveProperty("refused");
    expect(asks(open, "127.0.0.1", { "x-forwarded-for": "192.0.2.9" })).toHaveProperty("refused");
    expect(asks(open, "127.0.0.1", { forwarded: "for=192.0.2.9" })).toHaveProperty("refused");
  });

  it("with no proxy named, what a client says of itself counts for nothing", () => {
    const lies = { "x-forwarded-for": "203.0.113.5", "x-forwarded-proto": "https" };
    expect(asks(phrase, "192.0.2.9", lies, "192.0.2.1")).toEqual({ client: "192.0.2.9", local: "192.0.2.1", secure: false });
  });

  it("a named proxy's last word counts, by TLS alone, and nobody else's", () => {
    const said = { "x-forwarded-for": "203.0.113.5, 198.51.100.7", "x-forwarded-proto": "https" };
    expect(asks(proxied, "10.0.0.2", said)).toEqual({ client: "198.51.100.7", local: "127.0.0.1", secure: true });
    expect(asks(proxied, "::ffff:10.0.0.2", said)).toMatchObject({ secure: true });
    expect(asks(proxied, "10.0.0.3", said)).toHaveProperty("refused");
    expect(asks(proxied, "127.0.0.1", said)).toHaveProperty("refused");
    expect(asks(proxied, "10.0.0.2", { ...said, "x-forwarded-proto": "http" })).toMatchObject({ refused: expect.stringMatching(/X-Forwarded-Proto/) });
    expect(asks(proxied, "10.0.0.2", { "x-forwarded-proto": "https" })).toMatchObject({ refused: expect.stringMatching(/X-Forwarded-For/) });
    expect(asks(proxied, "10.0.0.2", { ...said, "x-forwarded-for": "not an address" })).toHaveProperty("refused");
  });
});
