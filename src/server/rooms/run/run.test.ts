import { type ChildProcess, spawn } from "node:child_process";
import { connect, createServer, type Server, type Socket } from "node:net";
import { afterEach, describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { designSchema } from "@/core/cutters/design/schema";
import { STAND_IN, StandIn } from "@/core/motion/standIn";
import { FRAME_START } from "@/core/rigs/frame/fields";
import { cutOffOf } from "@/core/rigs/logged";
import { newRig, type RigDocument } from "@/core/rigs/rig";
import { type Database, openDatabase } from "@/server/kernel/db/client";
import { createCutter } from "../cutters/repository";
import { listLog, saveEntry } from "../log/repository";
import { patienceMs, RunDesk } from "./desk";
import { serveStandIn } from "./standInServer";

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
async function house() {
  opened ??= await openDatabase(undefined);
  const { db } = opened;
  const cutter = await createCutter(db, designSchema.parse(DEMO_CUTTERS[0]));
  const document: RigDocument = { ...newRig("frame", "A frame"), cutter: { id: cutter.id, name: "x" }, rig: { ...FRAME_START } };
  return {
    db,
    cutter: cutter.id,
    document,
    entries: async () => (await listLog(db, cutter.id)).map(({ entry }) => entry as Extract<typeof entry, { kind: "rig-cut" }>),
  };
}

/** A frame before its controller, hurried; the page speaks up by itself until it is told not to. */
async function atFrame(options: { speed?: number; rig?: Partial<typeof FRAME_START> } = {}) {
  const own = await house();
  const controller = new StandIn({ ...STAND_IN, speed: options.speed ?? 40, watchdogS: 6 });
  const served = await serveStandIn(controller);
  closing.push(served.close);
  const desk = new RunDesk(`127.0.0.1:${served.port}`, async () => own.db);
  closing.push(async () => {
    desk.close();
    await desk.kept();
  });
  const document = { ...own.document, rig: { ...FRAME_START, ...options.rig } };
  const id = "7f1c1f5e-0000-4000-8000-000000000001";
  let there = true;
  const pulse = setInterval(() => there && desk.pulse(true), 100);
  closing.push(() => clearInterval(pulse));
  desk.open(id, document);
  await until(() => desk.told.run?.practice === true && desk.told.run.at !== null);
  const home = async () => {
    desk.act({ act: "home" });
    await until(() => controller.homed);
    await until(() => desk.told.run?.phase === "ready");
  };
  return {
    ...own,
    controller,
    served,
    desk,
    document,
    id,
    home,
    start: (text: string) => desk.start(id, document, "a square", text),
    leave: () => {
      there = false;
    },
  };
}

const SQUARE = `G21\nG90\nG94\nG0 X5 Y5\nM3 S800\nG4 P2\nG1 X200 Y5 F600\nG1 X200 Y100\nG1 X5 Y100\nG1 X5 Y5\nM5\nM2\n`;

describe("a run on the house's controller", () => {
  it("is homed, streamed, watched to its end and put into the log", async () => {
    const { desk, home, start, controller, entries } = await atFrame({ speed: 20, rig: { wide_mm: 300, high_mm: 250 } });
    await home();
    await start(SQUARE);
    expect((await entries())[0]?.note).toMatch(/a square: under way/);
    await until(() => (desk.told.run?.heat ?? 0) === 800);
    await until(() => desk.told.run?.phase === "done");
    expect(desk.told.run).toMatchObject({ lines: 12, line: 12, taken: 12, heat: 0, at: { X: 5, Y: 5 }, program: "a square" });
    await desk.kept();
    const [entry] = await entries();
    expect(entry?.note).toBe("a square: done to its end");
    const figures = Object.fromEntries(entry?.figures.map(({ key, value }) => [key, value]) ?? []);
    expect(figures).toMatchObject({ lines: 12, of: 12 });
    // 580 mm at 10 mm/s and a wait of 2 s, twenty times as fast: hot for about 3 s.
    expect(figures.hot).toBeGreaterThan(2.4);
    expect(figures.hot).toBeLessThan(5);
    expect(controller.settings.travelMm).toEqual([
      [0, 300],
      [0, 250],
    ]);
  });

  it("is held with the heat off within seconds when the page is gone, and goes on when someone is there again", async () => {
    const { desk, home, start, controller, leave, entries } = await atFrame({ speed: 4 });
    await home();
    await start(SQUARE);
    await until(() => controller.heat > 0);
    leave();
    await until(() => controller.heat === 0, 12_000);
    await until(() => desk.told.run?.phase === "held");
    expect(desk.told.run?.unwatched).toBe(true);
    desk.act({ act: "resume", warm_s: 1 });
    await until(() => controller.state === "running");
    expect(desk.told.run?.unwatched).toBe(false);
    desk.act({ act: "stop" });
    await until(() => controller.heat === 0 && controller.state === "idle");
    await desk.kept();
    expect((await entries())[0]?.note).toMatch(/stopped by hand at line \d/);
  });

  it("a fault stands in the log with its reason; cleared, the run goes on to its end", async () => {
    const { desk, home, start, controller, entries } = await atFrame();
    await home();
    await start(SQUARE);
    await until(() => controller.heat > 0);
    desk.tease({ fault: "limit", on: true });
    await until(() => desk.told.run?.phase === "fault");
    expect(desk.told.run?.reason).toBe("limit X");
    await until(async () => /fault at line \d+: limit X/.test((await entries())[0]?.note ?? ""), 5000);
    desk.tease({ fault: "limit", on: false });
    desk.act({ act: "clear" });
    await until(() => desk.told.run?.phase === "held");
    desk.act({ act: "resume", warm_s: 0.5 });
    await until(() => desk.told.run?.phase === "done");
    await desk.kept();
    expect((await entries())[0]?.note).toMatch(/done to its end/);
  });

  it("a note that a person writes into the entry meanwhile stays, and the figures go on", async () => {
    const { desk, home, start, controller, db, cutter, entries } = await atFrame();
    await home();
    await start(SQUARE);
    await until(() => controller.heat > 0);
    const [row] = await listLog(db, cutter);
    if (row?.entry.kind !== "rig-cut") throw new Error("no entry");
    await until(async () => {
      const [now] = await listLog(db, cutter);
      if (now?.entry.kind !== "rig-cut") return false;
      return saveEntry(db, cutter, now.id, now.revision, { ...now.entry, note: "the block was damp" }).then(
        () => true,
        () => false,
      );
    });
    await until(() => desk.told.run?.phase === "done");
    await desk.kept();
    const [entry] = await entries();
    expect(entry?.note).toBe("the block was damp");
    expect(entry?.figures.find(({ key }) => key === "lines")?.value).toBe(12);
  });

  it("refuses a program that cannot be followed, one at a time, a rig without its cutter or without motors, and teasing a real one", async () => {
    const { desk, home, start, document, id, controller, entries } = await atFrame();
    await expect(start("G21\nG1 Q5\n")).rejects.toThrow(/line 2: .*Q is no axis/);
    await home();
    await expect(desk.start(id, { ...document, cutter: null }, "x", SQUARE)).rejects.toThrow(/Name the cutter/);
    // Of two that begin at once one is told so, and the log has one entry.
    const both = await Promise.allSettled([start(SQUARE), start(SQUARE)]);
    expect(both.map(({ status }) => status).sort()).toEqual(["fulfilled", "rejected"]);
    expect(await entries()).toHaveLength(1);
    await until(() => controller.heat > 0);
    await expect(start(SQUARE)).rejects.toThrow(/at work/);
    expect(() => desk.open("7f1c1f5e-0000-4000-8000-000000000002", document)).toThrow(/A frame is at work/);
    expect(() => desk.open(id, newRig("swing"))).toThrow(/motorised frame/);
    const none = new RunDesk(undefined, async () => (await house()).db);
    expect(none.open(id, document)).toEqual({ wired: false, trouble: null, cutOff: null, run: null });
    await expect(none.start(id, document, "x", SQUARE)).rejects.toThrow(/No controller/);
    expect(() => none.act({ act: "hold" })).toThrow(/No controller/);
    expect(new RunDesk("nowhere", async () => (await house()).db).open(id, document).trouble).toMatch(/UPWIND_CONTROLLER must be an address/);
    const deaf = new RunDesk("127.0.0.1:1", async () => (await house()).db);
    closing.push(() => deaf.close());
    deaf.open(id, document);
    await until(() => deaf.told.trouble !== null);
    expect(deaf.told.trouble).toMatch(/cannot be reached/);
    expect(() => deaf.tease({ times: 3 })).toThrow(/stand-in/);
  });

  it("a slow computer may be given more patience, within reason", () => {
    expect(patienceMs(undefined)).toBe(3000);
    expect(patienceMs("8")).toBe(8000);
    for (const bad of ["", "0", "31", "long"]) expect(patienceMs(bad)).toBe(3000);
  });

  it("says when its controller hangs up in mid run, and the controller is cold", async () => {
    const { desk, home, start, controller, entries, id, document } = await atFrame();
    await home();
    await start(SQUARE);
    await until(() => (desk.told.run?.line ?? 0) > 5);
    desk.tease({ fault: "disconnect", on: true });
    await until(() => desk.told.run?.phase === "lost");
    expect(controller).toMatchObject({ heat: 0, state: "fault" });
    await desk.kept();
    const note = (await entries())[0]?.note as string;
    expect(note).toMatch(/cut off at line \d+: the controller hung up/);
    // A page that is opened anew still finds it broken off; when the person has seen to the wire, the controller is met again.
    const doubt = cutOffOf(await entries(), document.name);
    expect(desk.open(id, document, doubt).run).toMatchObject({ phase: "lost", lines: 12 });
    desk.act({ act: "home" });
    expect(desk.told.run?.phase).toBe("lost");
    desk.open(id, document, doubt, true);
    await until(() => desk.told.run?.practice === true);
    expect(doubt).toBe(note);
    expect(desk.told).toMatchObject({ cutOff: note, run: { lines: 0 } });
    // It says itself that it was broken off, and is ready once that is cleared.
    await until(() => desk.told.run?.phase === "fault");
    desk.act({ act: "clear" });
    await until(() => desk.told.run?.phase === "ready");
    await desk.kept();
    expect((await entries())[0]?.note).toBe(note);
  });

  it("a run that was done is not broken off by a controller that is switched off afterwards", async () => {
    const { desk, home, start, id, document, entries } = await atFrame();
    await home();
    await start(SQUARE);
    await until(() => desk.told.run?.phase === "done");
    desk.tease({ fault: "disconnect", on: true });
    await until(() => desk.told.run?.phase === "lost");
    await desk.kept();
    expect(cutOffOf(await entries(), document.name)).toBeNull();
    expect(desk.told.run).toMatchObject({ lines: 0, line: 0 });
    // It comes back by itself.
    desk.open(id, document);
    await until(() => desk.told.run?.phase === "ready");
  });

  it("serves one caller; a second is told so, and one that never ends its line is put out", async () => {
    const { served } = await atFrame();
    const second = await new Promise<string>((resolve) => connect(served.port, "127.0.0.1").on("data", (data) => resolve(String(data))));
    expect(second).toMatch(/another is speaking/);
    const alone = await serveStandIn(new StandIn(STAND_IN));
    closing.push(alone.close);
    await new Promise<void>((resolve) => {
      const endless = connect(alone.port, "127.0.0.1", () => endless.write("x".repeat(5000))).on("close", () => resolve());
      endless.on("error", () => undefined);
      endless.resume();
    });
  });
});

describe("the controller as a process of its own", () => {
  it("goes cold within its watchdog when whoever speaks to it is killed, or only stops speaking", async () => {
    const child = spawn(process.execPath, ["--import", "tsx", "src/cli/controller.ts"], { stdio: ["pipe", "pipe", "inherit"] });
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
        // Its connection stands open; only its silence tells. The next caller finds it cold, once the lead is cut.
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
