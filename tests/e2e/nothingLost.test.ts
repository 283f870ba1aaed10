import { spawnSync } from "node:child_process";
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, renameSync, rmSync, statfsSync, writeFileSync } from "node:fs";
import { connect } from "node:net";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { until } from "../helpers/browser";
import { removeData } from "../helpers/folders";
import { freePort } from "../helpers/ports";
import { TestServer } from "../helpers/server";

/** Minutes, by npm run long -- kills alone. */
const LONG = process.env.UPWIND_KILLS !== undefined;
const made: TestServer[] = [];
const folders: string[] = [];
const newServer = () => {
  const server = new TestServer();
  made.push(server);
  return server;
};
const newFolder = () => {
  const folder = mkdtempSync(path.join(tmpdir(), "upwind-lost-"));
  folders.push(folder);
  return folder;
};
afterAll(async () => {
  for (const server of made) await server.remove();
  for (const folder of folders) removeData(folder);
});

const headers = (server: TestServer) => ({ origin: server.url, "content-type": "application/json" });
const post = (server: TestServer, name: string) =>
  fetch(`${server.url}/api/cutters`, { method: "POST", headers: headers(server), body: JSON.stringify({ design: { ...DEMO_CUTTERS[0], name } }) });
/** Every cutter's name, page after page. */
const names = async (server: TestServer): Promise<string[]> => {
  const all: string[] = [];
  for (let last = 1; last > 0; ) {
    const response = await fetch(`${server.url}/api/cutters?limit=2000&offset=${all.length}`);
    expect(response.status).toBe(200);
    const { cutters } = (await response.json()) as { cutters: { design: { name: string } }[] };
    all.push(...cutters.map((cutter) => cutter.design.name));
    last = cutters.length;
  }
  return all;
};
/** The start a maker types, over some folder: how it ended and what it said. */
async function start(folder: string, env: Record<string, string> = {}) {
  const { status, stdout, stderr } = spawnSync(process.execPath, ["scripts/start.mjs"], {
    env: { ...process.env, PORT: String(await freePort()), UPWIND_DATA: folder, ...env },
    encoding: "utf8",
    timeout: 60_000,
  });
  return { status, said: `${stdout}${stderr}` };
}

describe("two processes, one workshop", () => {
  it("a paused first process keeps its folder against a second for as long as it is paused, and both rows and folder are whole after", async () => {
    const first = newServer();
    await first.start();
    expect((await post(first, "Before the pause")).status).toBe(201);
    first.signalGroup("SIGSTOP");
    // In full, longer than any lock that is kept by a clock would be believed.
    await new Promise((resolve) => setTimeout(resolve, LONG ? 17_000 : 2000));
    const second = await start(first.folder);
    expect(second.status).toBe(3);
    expect(second.said).toMatch(/open in another|already open/);
    expect(second.said).not.toMatch(/your workshop \(data in|\n\s+at /);
    first.signalGroup("SIGCONT");
    expect((await post(first, "After the pause")).status).toBe(201);
    expect(await first.stop("SIGINT")).toBe(0);
    await first.start();
    expect((await names(first)).sort()).toEqual(["After the pause", "Before the pause"]);
    await first.stop();
  });
});

describe("killed, group and all", () => {
  const rounds = Number(process.env.UPWIND_KILLS ?? 1);
  it(
    "everything acknowledged is there again, every time",
    async () => {
      const server = newServer();
      const acknowledged: string[] = [];
      let lost = 0;
      for (let round = 0; round < rounds; round++) {
        await server.start();
        const there = new Set(await names(server));
        lost += acknowledged.filter((name) => !there.has(name)).length;
        expect(lost, `after kill ${round}`).toBe(0);
        // Writers that never rest, killed at any moment.
        let on = true;
        const writer = async (id: number) => {
          for (let i = 0; on; i++) {
            const name = `r${round} w${id} n${i}`;
            const status = await post(server, name).then(
              (response) => response.status,
              () => 0,
            );
            if (status === 201) acknowledged.push(name);
          }
        };
        const before = acknowledged.length;
        const writers = [writer(1), writer(2), writer(3)];
        // A machine with its hands full acknowledges late: a kill before the first row would try nothing.
        await until(
          async () => acknowledged.length,
          (rows) => rows > before + 1,
          "two rows acknowledged",
        );
        await new Promise((resolve) => setTimeout(resolve, 150 + ((round * 397) % 1100)));
        server.signalGroup("SIGKILL");
        on = false;
        await Promise.all(writers);
        await server.stop("SIGKILL");
      }
      await server.start();
      const there = new Set(await names(server));
      expect(acknowledged.filter((name) => !there.has(name))).toEqual([]);
      expect(acknowledged.length).toBeGreaterThan(rounds);
      if (rounds > 2) console.log(`${rounds} kills of the whole group while three writers wrote: ${acknowledged.length} rows acknowledged, none lost.`);
      await server.stop();
    },
    60_000 + rounds * 20_000,
  );
});

describe("a full disk", () => {
  it("is said as 507, nothing is changed, and what is there can still be read and made room for", async (context) => {
    const mount = newFolder();
    const mounted = spawnSync("mount", ["-t", "tmpfs", "-o", "size=160m", "tmpfs", mount]).status === 0;
    if (!mounted) return context.skip("this machine mounts no tmpfs for us");
    const server = newServer();
    try {
      const folder = path.join(mount, "workshop");
      mkdirSync(folder);
      await server.start({ folder });
      expect((await post(server, "Kept")).status).toBe(201);
      const { bavail, bsize } = statfsSync(mount);
      const ballast = path.join(mount, "ballast");
      writeFileSync(ballast, Buffer.alloc(bavail * bsize - 8 * 1024 * 1024));
      const refused = await post(server, "No room");
      expect(refused.status).toBe(507);
      expect(((await refused.json()) as { error: { code: string; message: string } }).error).toMatchObject({
        code: "disk-full",
        message: expect.stringMatching(/disk is full.*nothing was changed/i),
      });
      expect(await names(server)).toEqual(["Kept"]);
      rmSync(ballast);
      expect((await post(server, "Room again")).status).toBe(201);
      expect(await server.stop()).toBe(0);
      // Full to the brim it still opens, for reading and for a backup to be taken away.
      writeFileSync(ballast, Buffer.alloc(statfsSync(mount).bavail * bsize - 1024 * 1024));
      await server.start({ folder });
      expect((await names(server)).sort()).toEqual(["Kept", "Room again"]);
      expect((await post(server, "Still no room")).status).toBe(507);
    } finally {
      await server.stop();
      spawnSync("umount", [mount]);
    }
  });
});

describe("a start that cannot be", () => {
  it("ends in words and not in success: a file for a folder, an emptied folder, a lost database, one from tomorrow", async () => {
    const server = newServer();
    await server.start();
    expect((await post(server, "Long kept")).status).toBe(201);
    expect(await server.stop()).toBe(0);
    const wrong = async (what: string, folder: string, words: RegExp) => {
      const { status, said } = await start(folder);
      expect([what, status]).toEqual([what, 3]);
      expect(said, what).toMatch(words);
      expect(said, what).not.toMatch(/your workshop \(data in|\n\s+at |node_modules/);
    };
    const file = path.join(newFolder(), "file");
    writeFileSync(file, "not a folder");
    await wrong("a file", file, /not a folder|is a file/i);

    const base = readdirSync(server.folder).find((name) => existsSync(path.join(server.folder, name, "PG_VERSION")));
    if (!base) throw new Error("no database in the folder");
    const away = path.join(newFolder(), "away");
    renameSync(path.join(server.folder, base), away);
    await wrong("a lost database", server.folder, /gone/);
    expect(existsSync(path.join(server.folder, base))).toBe(false);
    renameSync(away, path.join(server.folder, base));

    const version = path.join(server.folder, base, "PG_VERSION");
    const was = readFileSync(version);
    writeFileSync(version, "99\n");
    await wrong("a database of another make", server.folder, /damaged|newer|does not open/);
    writeFileSync(version, was);
    await server.start();
    expect(await names(server)).toEqual(["Long kept"]);
    await server.stop();
  });
});

describe("requests that are no requests", () => {
  it("a path that cannot be read is 400, TRACE is 405, and a body shorter than it claims is answered, all without a fault of the server's", async () => {
    const server = newServer();
    await server.start();
    const raw = (text: string): Promise<string> =>
      new Promise((resolve, reject) => {
        let reply = "";
        const socket = connect(server.port, "127.0.0.1", () => socket.write(text));
        socket.setEncoding("utf8");
        socket.on("data", (chunk) => {
          reply += chunk;
          if (reply.includes("\r\n\r\n")) socket.destroy();
        });
        socket.on("close", () => resolve(reply.split("\r\n")[0] ?? ""));
        socket.on("error", reject);
        socket.setTimeout(12_000, () => socket.destroy(new Error("no answer")));
      });
    const host = `Host: 127.0.0.1:${server.port}\r\n`;
    expect(await raw(`GET /%zz HTTP/1.1\r\n${host}\r\n`)).toMatch(/ 400 /);
    expect(await raw(`GET /cutters/%E0%A4%A HTTP/1.1\r\n${host}\r\n`)).toMatch(/ 400 /);
    expect(await raw(`TRACE /cutters HTTP/1.1\r\n${host}\r\n`)).toMatch(/ 405 /);
    const lie = `POST /api/cutters HTTP/1.1\r\n${host}Origin: ${server.url}\r\nContent-Type: application/json\r\nContent-Length: 5000\r\n\r\n{"design":`;
    expect(await raw(lie)).toMatch(/ 4\d\d /);
    expect((await post(server, "Still well")).status).toBe(201);
    expect(server.output).not.toMatch(/fault/);
    await server.stop();
  });
});
