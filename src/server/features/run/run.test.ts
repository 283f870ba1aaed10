import { type ChildProcess, spawn } from "node:child_process";
import { connect, createServer, type Server, type Socket } from "node:net";
import { afterEach, describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { designSchema } from "@/core/cutters/design/schema";
import { SIMULATED_FRAME, SimulatedController } from "@/core/motion/controller/simulatedController";
import { FRAME_START } from "@/core/rigs/frame/fields";
import { brokenOffNote } from "@/core/rigs/logged";
import { newRig, type RigDocument } from "@/core/rigs/rig";
import { type Database, openDatabase } from "@/server/kernel/db/client";
import { cutterRepository } from "../cutters/repository";
import { listLog, saveEntry } from "../log/repository";
import { patienceMs, RunHost } from "./runHost";
import { monotonicMs } from "./runLine";
import { serveSimulatedController } from "./simulatedControllerServer";

const closing: (() => unknown)[] = [];
/** Processes of their own, such as one that streams to a controller as the app does. */
const killed: ChildProcess[] = [];
afterEach(async () => {
  for (const close of closing.splice(0).reverse()) await close();
  for (const child of killed.splice(0)) child.kill("SIGKILL");
});

const until = async (true_: () => boolean | Promise<boolean>, ms = 15_000) => {
  const end = Date.now() + ms;
  while (!(await true_())) {
    if (Date.now() > end) throw new Error("it never came to be");
    await new Promise((resolve) => setTimeout(resolve, 10));
  }
};

let opened: { db: Database } | null = null;
async function app() {
  opened ??= await openDatabase(undefined);
  const { db } = opened;
  const cutter = await cutterRepository.create(db, designSchema.parse(DEMO_CUTTERS[0]));
  const document: RigDocument = { ...newRig("frame", "A frame"), cutter: { id: cutter.id, name: "x" }, rig: { ...FRAME_START } };
  return {
    db,
    cutter: cutter.id,
    document,
    entries: async () => (await listLog(db, cutter.id)).map(({ entry }) => entry as Extract<typeof entry, { kind: "rig-cut" }>),
  };
}

const RIG = "7f1c1f5e-0000-4000-8000-000000000001";
const PAGE = "page-0001";
const SQUARE = `G21\nG90\nG94\nG0 X5 Y5\nM3 S800\nG4 P2\nG1 X200 Y5 F600\nG1 X200 Y100\nG1 X5 Y100\nG1 X5 Y5\nM5\nM2\n`;

/** A frame before its controller, in a hurry; the page pulses until it is ordered not to. */
async function atFrame(options: { speed?: number; rig?: Partial<typeof FRAME_START> } = {}) {
  const own = await app();
  const controller = new SimulatedController({ ...SIMULATED_FRAME, speed: options.speed ?? 40, watchdogS: 6 });
  const served = await serveSimulatedController(controller);
  closing.push(served.close);
  // A database that can be made to hang, as behind another's transaction.
  let held: Promise<void> = Promise.resolve();
  const host = new RunHost(`127.0.0.1:${served.port}`, async () => {
    await held;
    return own.db;
  });
  closing.push(async () => {
    await host.close();
    await host.written();
  });
  const document = { ...own.document, rig: { ...FRAME_START, ...options.rig } };
  let there = true;
  const run = () => host.view(PAGE).run;
  const pulse = setInterval(() => there && host.pulse(run()?.id ?? null, PAGE, true), 100);
  closing.push(() => clearInterval(pulse));
  await host.open(PAGE, RIG, document);
  await until(() => run()?.practice === true && run()?.at !== null);
  const home = async () => {
    await host.act({ do: "home", expiresMs: monotonicMs() + 1000 });
    await until(() => controller.homed);
    await until(() => run()?.phase === "ready");
  };
  return {
    ...own,
    controller,
    served,
    host,
    run,
    document,
    home,
    start: (text: string, { signal = new AbortController().signal, leadsToDraw = false, page = PAGE, of = document } = {}) =>
      host.start(page, RIG, of, { program: "a square", text: new TextEncoder().encode(text), lines: text.trim().split("\n").length, leadsToDraw }, signal),
    holdDatabase: () => {
      let letGo = () => {};
      held = new Promise((resolve) => {
        letGo = resolve;
      });
      return letGo;
    },
    leave: () => {
      there = false;
    },
  };
}

describe("a run on the app's controller", () => {
  it("is homed, streamed, watched to its end and written into the log", async () => {
    const { run, host, home, start, controller, entries } = await atFrame({ speed: 20, rig: { wide_mm: 300, high_mm: 250 } });
    await home();
    const started = await start(SQUARE);
    expect(started.run?.id).toMatch(/^[0-9a-f-]{36}$/);
    expect((await entries())[0]?.note).toMatch(/a square: under way/);
    await until(() => (run()?.heat ?? 0) === 800);
    await until(() => run()?.phase === "done");
    expect(run()).toMatchObject({ id: started.run?.id, page: PAGE, lines: 12, line: 12, taken: 12, heat: 0, at: { X: 5, Y: 5 }, program: "a square" });
    await until(async () => /done/.test((await entries())[0]?.note ?? ""));
    const [entry] = await entries();
    expect(entry?.note).toBe("a square: done to its end");
    const figures = Object.fromEntries(entry?.figures.map(({ key, value }) => [key, value]) ?? []);
    expect(figures).toMatchObject({ lines: 12, of: 12 });
    // 580 mm at 10 mm/s and a wait of 2 s, twenty times as fast: hot for about 3 s, and no longer after its end.
    expect(figures.hot).toBeGreaterThan(2.4);
    expect(figures.hot).toBeLessThan(5);
    expect(controller.settings.travelMm).toEqual([
      [0, 300],
      [0, 250],
    ]);
    expect(host.view(PAGE).stopped).toBeNull();
  });

  it("is held with the heat off within seconds when the page is gone, anyone who else pulses, and goes on when someone is there again", async () => {
    const { host, run, home, start, controller, leave, entries } = await atFrame({ speed: 4 });
    await home();
    await start(SQUARE);
    await until(() => controller.heat > 0);
    leave();
    const other = setInterval(() => host.pulse(run()?.id ?? null, "page-0002", true), 100);
    closing.push(() => clearInterval(other));
    await until(() => controller.heat === 0, 12_000);
    await until(() => run()?.phase === "held");
    expect(run()?.unwatched).toBe(true);
    await host.act({ do: "resume", page: "page-0002", warmS: 1, expiresMs: monotonicMs() + 1000 });
    await until(() => controller.state === "running");
    expect(run()).toMatchObject({ unwatched: false, page: "page-0002" });
    await host.act({ do: "stop" });
    await until(() => controller.heat === 0 && controller.state === "idle");
    await until(async () => /stopped by hand at line \d/.test((await entries())[0]?.note ?? ""));
  });

  it("a start that the database keeps waiting begins nothing, then or later, and leaves nothing in the log", async () => {
    const { home, start, controller, entries, holdDatabase } = await atFrame();
    await home();
    const letGo = holdDatabase();
    const from = Date.now();
    await expect(start(SQUARE)).rejects.toMatchObject({ code: "busy", status: 503 });
    expect(Date.now() - from).toBeLessThan(3000);
    letGo();
    await new Promise((resolve) => setTimeout(resolve, 500));
    expect([controller.state, controller.heat, await entries()]).toEqual(["idle", 0, []]);
    // One whose request has gone begins nothing either.
    const gone = new AbortController();
    gone.abort();
    await expect(start(SQUARE, { signal: gone.signal })).rejects.toThrow();
    await until(async () => (await entries()).length === 0);
    expect([controller.state, controller.heat]).toEqual(["idle", 0]);
    await start(SQUARE);
    await until(() => controller.heat > 0);
  });

  it("stop and hold act while the database hangs, and are written into the log afterwards", async () => {
    const { host, home, start, controller, entries, holdDatabase } = await atFrame({ speed: 4 });
    await home();
    await start(SQUARE);
    await until(() => controller.heat > 0);
    const letGo = holdDatabase();
    const from = performance.now();
    await host.act({ do: "stop" });
    await until(() => controller.heat === 0, 200);
    expect(performance.now() - from).toBeLessThan(200);
    await new Promise((resolve) => setTimeout(resolve, 600));
    letGo();
    await until(async () => /stopped by hand/.test((await entries())[0]?.note ?? ""));
  });

  it("after a stop the offer to lead the wire out stays, with its line, anyone who comes and goes, until somebody says that the wire is out", async () => {
    const { host, run, home, start, controller, leave, document, entries } = await atFrame({ speed: 4 });
    await home();
    await start(SQUARE);
    await until(() => (run()?.line ?? 0) >= 7);
    await host.act({ do: "stop" });
    await until(() => host.view(PAGE).stopped !== null);
    const { stopped } = host.view(PAGE);
    expect(stopped).toMatchObject({ program: "a square", lines: 12, known: true });
    expect(new TextDecoder().decode(host.programOf(stopped?.run as string))).toBe(SQUARE);
    // The page leaves, and the controller is let go of.
    leave();
    await until(() => run() === null || controller.state === "fault" || run()?.phase === "stopped", 1000);
    const again = await host.open("page-0003", RIG, document);
    expect(again.stopped).toEqual(stopped);
    // Another frame's page is asked nothing.
    expect(host.view("page-of-nobody").stopped).toBeNull();
    const freed = await host.freed("page-0003", RIG, document);
    expect(freed).toMatchObject({ stopped: null, brokenOff: null });
    expect((await entries())[0]?.note).toMatch(/stopped by hand at line \d+; the wire is out$/);
    expect((await host.open("page-0004", RIG, document)).brokenOff).toBeNull();
    expect(() => host.programOf(stopped?.run as string)).toThrow(/not known/);
  });

  it("a way out that comes to its end answers the question; one that is stopped asks for hands", async () => {
    const { host, run, home, start } = await atFrame({ speed: 8 });
    await home();
    await start(SQUARE);
    await until(() => (run()?.line ?? 0) >= 7);
    await host.act({ do: "stop" });
    await until(() => host.view(PAGE).stopped !== null);
    // Long enough to be stopped on its way on a busy machine too.
    await start("G21\nG94\nM3 S800\nG1 X40 Y40 F60\nM5\nM2\n", { leadsToDraw: true });
    expect(host.view(PAGE).stopped).not.toBeNull();
    await until(() => (run()?.line ?? 0) >= 4);
    await host.act({ do: "stop" });
    await until(() => host.view(PAGE).stopped?.known === false);
    await start("G21\nG94\nM3 S800\nG1 X5 Y5 F600\nM5\nM2\n", { leadsToDraw: true });
    await until(() => run()?.phase === "done");
    await until(() => host.view(PAGE).stopped === null);
  });

  it("a fault is in the log with its reason; cleared, the run goes on to its end", async () => {
    const { host, run, home, start, controller, entries } = await atFrame();
    await home();
    await start(SQUARE);
    await until(() => controller.heat > 0);
    await host.act({ do: "inject", fault: "limit", on: true });
    await until(() => run()?.phase === "fault");
    expect(run()?.reason).toBe("limit X");
    await until(async () => /fault at line \d+: limit X/.test((await entries())[0]?.note ?? ""), 5000);
    await host.act({ do: "inject", fault: "limit", on: false });
    await host.act({ do: "clear" });
    await until(() => run()?.phase === "held");
    await host.act({ do: "resume", page: PAGE, warmS: 0.5, expiresMs: monotonicMs() + 1000 });
    await until(() => run()?.phase === "done");
    await until(async () => /done to its end/.test((await entries())[0]?.note ?? ""));
  });

  it("a note that a person writes into the entry meanwhile stays, and the figures go on", async () => {
    const { run, host, home, start, controller, db, cutter, entries } = await atFrame();
    await home();
    await start(SQUARE);
    await until(() => controller.heat > 0);
    await until(async () => {
      const [now] = await listLog(db, cutter);
      if (now?.entry.kind !== "rig-cut") return false;
      return saveEntry(db, cutter, now.id, now.revision, { ...now.entry, note: "the block was damp" }).then(
        () => true,
        () => false,
      );
    });
    await until(() => run()?.phase === "done");
    await until(async () => (await entries())[0]?.figures.find(({ key }) => key === "lines")?.value === 12);
    await host.written();
    expect((await entries())[0]?.note).toBe("the block was damp");
  });

  it("refuses one that is at work, a rig without its cutter or without motors, and faults for a real controller", async () => {
    const { host, home, start, document, controller, entries } = await atFrame();
    await home();
    await expect(start(SQUARE, { of: { ...document, cutter: null } })).rejects.toThrow(/Name the cutter/);
    // A page that nobody is before starts nothing.
    await expect(start(SQUARE, { page: "page-0009" })).rejects.toThrow(/somebody is before it/);
    await until(async () => (await entries()).length === 0);
    // Of two that begin at once one is refused, and the log has one entry.
    const both = await Promise.allSettled([start(SQUARE), start(SQUARE)]);
    expect(both.map(({ status }) => status).sort()).toEqual(["fulfilled", "rejected"]);
    expect(await entries()).toHaveLength(1);
    await until(() => controller.heat > 0);
    await expect(start(SQUARE)).rejects.toThrow(/at work/);
    await expect(host.open(PAGE, "7f1c1f5e-0000-4000-8000-000000000002", document)).rejects.toThrow(/A frame is at work/);
    await expect(host.open(PAGE, RIG, newRig("swing"))).rejects.toThrow(/motorised frame/);
    const database = async () => (await app()).db;
    const none = new RunHost(undefined, database);
    expect(await none.open(PAGE, RIG, document)).toMatchObject({ wired: false, trouble: null, stopped: null, run: null });
    await expect(none.act({ do: "hold" })).rejects.toThrow(/No controller/);
    const nowhere = new RunHost("nowhere", database);
    closing.push(() => nowhere.close());
    expect((await nowhere.open(PAGE, RIG, document)).trouble).toMatch(/UPWIND_CONTROLLER must be an address/);
    const deaf = new RunHost("127.0.0.1:1", database);
    closing.push(() => deaf.close());
    await deaf.open(PAGE, RIG, document);
    await until(() => deaf.view(PAGE).trouble !== null);
    expect(deaf.view(PAGE).trouble).toMatch(/cannot be reached/);
    await expect(deaf.act({ do: "speed", times: 3 })).rejects.toThrow(/simulated controller/);
  });

  it("shows a stop screen the run of its own frame, and of no other", async () => {
    const { host, home, start, controller } = await atFrame();
    await home();
    await start(SQUARE);
    await until(() => controller.heat > 0);
    await until(() => host.runOf(RIG)?.phase === "running");
    expect(host.runOf("7f1c1f5e-0000-4000-8000-000000000002")).toBeNull();
  });

  it("a slow computer may be given more patience, within reason", () => {
    expect(patienceMs(undefined)).toBe(3000);
    expect(patienceMs("8")).toBe(8000);
    for (const bad of ["", "0", "31", "long"]) expect(patienceMs(bad)).toBe(3000);
  });

  it("says when its controller hangs up during a run, and the controller is cold", async () => {
    const { host, run, home, start, controller, entries, document } = await atFrame();
    await home();
    await start(SQUARE);
    await until(() => (run()?.line ?? 0) > 5);
    await host.act({ do: "inject", fault: "disconnect", on: true });
    await until(() => run()?.phase === "lost");
    expect(controller).toMatchObject({ heat: 0, state: "fault" });
    await until(async () => /cut off/.test((await entries())[0]?.note ?? ""));
    const note = (await entries())[0]?.note as string;
    expect(note).toMatch(/cut off at line \d+: the controller hung up/);
    // A page that is opened later still finds it broken off; when the person has seen to the wire, the controller is connected again.
    expect((await host.open("page-0005", RIG, document)).run).toMatchObject({ phase: "lost", lines: 12 });
    await host.act({ do: "home", expiresMs: monotonicMs() + 1000 });
    expect(run()?.phase).toBe("lost");
    await host.open(PAGE, RIG, document, true);
    await until(() => run()?.practice === true);
    expect(brokenOffNote(await entries(), document.name)).toBe(note);
    expect(host.view(PAGE).stopped?.line).toBeGreaterThan(4);
    // It says itself that it was broken off, and is ready once that is cleared.
    await until(() => run()?.phase === "fault");
    await host.act({ do: "clear" });
    await until(() => run()?.phase === "ready");
    await host.written();
    expect((await entries())[0]?.note).toBe(note);
  });

  it("a run that was done is not broken off by a controller that is switched off afterwards", async () => {
    const { host, run, home, start, document, entries } = await atFrame();
    await home();
    await start(SQUARE);
    await until(() => run()?.phase === "done");
    await host.act({ do: "inject", fault: "disconnect", on: true });
    await until(() => run()?.phase === "lost");
    await host.written();
    expect(brokenOffNote(await entries(), document.name)).toBeNull();
    expect(run()).toMatchObject({ lines: 0, line: 0 });
    await host.open(PAGE, RIG, document);
    await until(() => run()?.phase === "ready");
  });

  it("serves one caller; a second is refused; a browser's request and a line that never ends are disconnected", async () => {
    const { served } = await atFrame();
    const second = await new Promise<string>((resolve) => connect(served.port, "127.0.0.1").on("data", (data) => resolve(String(data))));
    expect(second).toMatch(/another is speaking/);
    for (const words of ["x".repeat(5000), "POST / HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\nhome\n"]) {
      const controller = new SimulatedController(SIMULATED_FRAME);
      const alone = await serveSimulatedController(controller);
      closing.push(alone.close);
      await new Promise<void>((resolve) => {
        const caller = connect(alone.port, "127.0.0.1", () => caller.write(words)).on("close", () => resolve());
        caller.on("error", () => undefined);
        caller.resume();
      });
      expect(controller.state).toBe("idle");
    }
  });
});

describe("the controller as a process of its own", () => {
  it("goes cold within its watchdog when anyone who speaks to it is killed, or only stops speaking", async () => {
    const child = spawn(process.execPath, ["--import", "tsx", "src/cli/controller.ts", "--with-parent"], { stdio: ["pipe", "pipe", "inherit"] });
    killed.push(child);
    const port = await new Promise<number>((resolve) => child.stdout.once("data", (data) => resolve((JSON.parse(String(data)) as { port: number }).port)));
    for (const way of ["killed", "stopped"] as const) {
      // The caller of the app is this socket; a proxy in between can be made to fall silent without closing.
      const lead = createServer() as Server;
      let through: Socket | null = null;
      lead.on("connection", (near) => {
        const far = connect(port, "127.0.0.1");
        through = far;
        near.pipe(far, { end: true });
        far.pipe(near);
        for (const end of [near, far]) end.on("error", () => undefined);
        near.on("close", () => far.destroy());
      });
      await new Promise<void>((resolve) => lead.listen(0, "127.0.0.1", resolve));
      const at = (lead.address() as { port: number }).port;
      const caller = spawn(
        process.execPath,
        [
          "-e",
          `const s=require("net").connect(${at},"127.0.0.1");s.write("clear\\nstop\\nhome\\n");let on=false;
          s.on("data",(d)=>{if(!on&&/homed/.test(d)){on=true;s.write("N1 G21\\nN2 M3 S700\\nN3 G1 X300 F300\\n");}
          if(/heat 700/.test(d))process.stdout.write("hot\\n");});
          setInterval(()=>s.write("where\\n"),100);`,
        ],
        { stdio: ["ignore", "pipe", "inherit"] },
      );
      killed.push(caller);
      await new Promise<void>((resolve) => caller.stdout.once("data", () => resolve()));
      caller.kill(way === "killed" ? "SIGKILL" : "SIGSTOP");
      const from = Date.now();
      if (way === "stopped") {
        // Its connection stays open; only its silence shows the fault. The next caller finds it cold, once the lead is cut.
        await new Promise((resolve) => setTimeout(resolve, 2600));
        (through as unknown as Socket).destroy();
        caller.kill("SIGKILL");
      }
      const said = await new Promise<string>((resolve) => {
        let heard = "";
        const next = () => {
          const socket = connect(port, "127.0.0.1", () => socket.write("where\n"));
          socket.on("data", (data) => {
            heard += data;
            if (/another/.test(heard)) {
              heard = "";
              setTimeout(next, 50);
            } else if (/heat \d+/.test(heard)) {
              socket.destroy();
              resolve(heard);
            }
          });
          socket.on("error", () => undefined);
        };
        next();
      });
      expect(said).toMatch(/state fault heat 0/);
      expect(Date.now() - from).toBeLessThan(9000);
      lead.close();
    }
  }, 30_000);
});
