import { spawn } from "node:child_process";
import { connect, createServer, type Server } from "node:net";
import { afterEach, describe, expect, it } from "vitest";
import { BENCH_DEFAULTS, BenchWorld } from "@/core/bench/world";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { designSchema } from "@/core/cutters/design/schema";
import { queryInstrument, readAddress } from "@/server/features/instruments/lineClient";
import { serveLines } from "@/server/features/instruments/lineServer";
import { readInstruments } from "@/server/features/instruments/readings";

const open: Server[] = [];
afterEach(() => {
  for (const server of open.splice(0)) server.close();
});

/** A bench with its devices on sockets; time passes only when advanced. */
async function onSockets() {
  const world = new BenchWorld(designSchema.parse(DEMO_CUTTERS[0]), BENCH_DEFAULTS);
  const at: Record<string, string> = {};
  for (const [name, variable] of [
    ["supply", "UPWIND_SUPPLY"],
    ["thermometer", "UPWIND_THERMOMETER"],
    ["scale", "UPWIND_SCALE"],
  ] as const) {
    const { server, port } = await serveLines((line) => world.say(name, line) ?? null);
    open.push(server);
    at[variable] = `127.0.0.1:${port}`;
  }
  return { world, at };
}

/** Another device on a port: answers as the test sets it, or not at all. */
async function stranger(response: string | null): Promise<string> {
  const server = createServer((socket) => {
    socket.on("error", () => socket.destroy());
    socket.on("data", () => (response === null ? undefined : socket.end(response)));
  });
  open.push(server);
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const address = server.address();
  return `127.0.0.1:${address !== null && typeof address === "object" ? address.port : 0}`;
}

describe("an instrument's address", () => {
  it.each([
    ["127.0.0.1:5025", { host: "127.0.0.1", port: 5025 }],
    [" bench-supply.shed:1 ", { host: "bench-supply.shed", port: 1 }],
    ["[::1]:65535", { host: "::1", port: 65535 }],
    ["127.0.0.1", null],
    ["127.0.0.1:0", null],
    ["127.0.0.1:65536", null],
    ["127.0.0.1:123456", null],
    [":5025", null],
    ["http://127.0.0.1:5025", null],
    ["127.0.0.1:5025/x", null],
    ["two words:5025", null],
    ["::1:5025", null],
  ])("%s", (text, address) => expect(readAddress(text)).toEqual(address));
});

describe("instruments on sockets", () => {
  it("are set and read by lines of text, as real ones would be", async () => {
    const { world, at } = await onSockets();
    const supply = readAddress(at.UPWIND_SUPPLY ?? "");
    if (!supply) throw new Error("no address");
    const [who, volts] = await queryInstrument(supply, ["*IDN?", "VOLT 11;OUTP ON;VOLT?"]);
    expect(who).toMatch(/SIMULATED BENCH SUPPLY/);
    expect(volts).toBe("11.000");
    world.run(15);
    const { figures, troubles, wired } = await readInstruments(at);
    expect(troubles).toEqual([]);
    expect(wired).toEqual(["supply", "thermometer", "scale"]);
    expect(figures.volts_V).toBeCloseTo(world.sim.currentA * world.sim.wireOhm, 0);
    expect(figures.current_A).toBeCloseTo(world.sim.currentA, 1);
    expect(figures.wire_C).toBeGreaterThan(150);
  });

  it("say what could not be read: gone, silent, off the wire, not an address, babbling", async () => {
    const { world, at } = await onSockets();
    world.devices.thermometer?.setFault("trip", true);
    const silent = await stranger(null);
    const { figures, troubles } = await readInstruments({ ...at, UPWIND_SUPPLY: "127.0.0.1:1", UPWIND_SCALE: silent, UPWIND_PWM: "nowhere" });
    expect(figures).toEqual({});
    expect(troubles.join(" ")).toMatch(/127\.0\.0\.1:1 cannot be reached.*UPWIND_PWM must be an address.*thermometer gives no figure.*does not answer/);
    expect((await readInstruments({ UPWIND_SCALE: await stranger("x".repeat(9000)) })).troubles[0]).toMatch(/answers too much/);
    expect((await readInstruments({ UPWIND_SCALE: await stranger("") })).troubles[0]).toMatch(/hung up/);
    expect(await readInstruments({})).toEqual({ figures: {}, troubles: [], wired: [] });
  });

  it("a caller who never ends a line is put out, and the others are served", async () => {
    const { at } = await onSockets();
    const supply = readAddress(at.UPWIND_SUPPLY ?? "");
    if (!supply) throw new Error("no address");
    await new Promise<void>((resolve) => {
      const endless = connect(supply).on("close", () => resolve());
      endless.on("error", () => undefined);
      endless.write("9".repeat(5000));
    });
    expect((await queryInstrument(supply, ["*IDN?"]))[0]).toMatch(/SIMULATED/);
  });

  it("run as a program of their own, with a fault switched on", async () => {
    const child = spawn(process.execPath, ["--import", "tsx", "src/cli/instruments.ts", "scale=trip"], { stdio: ["ignore", "pipe", "ignore"] });
    try {
      const ports = await new Promise<Record<string, number>>((resolve, reject) => {
        let said = "";
        child.stdout.on("data", (chunk) => {
          said += chunk;
          if (said.includes("\n")) resolve((JSON.parse(said) as { ports: Record<string, number> }).ports);
        });
        child.once("exit", (code) => reject(new Error(`ended with ${code}`)));
      });
      const request = async (name: string, line: string) => (await queryInstrument({ host: "127.0.0.1", port: ports[name] ?? 0 }, [line]))[0];
      expect(await request("supply", "OUTP ON;OUTP?")).toBe("1");
      expect(await request("scale", "READ?")).toBe("9.91E37");
      expect(Number(await request("thermometer", "MEAS:TEMP?"))).toBeGreaterThan(5);
    } finally {
      child.kill();
    }
  });
});
