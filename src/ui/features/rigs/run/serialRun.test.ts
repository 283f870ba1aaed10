import { afterEach, describe, expect, it } from "vitest";
import { SIMULATED_FRAME, SimulatedController } from "@/core/motion/controller/simulatedController";
import { controllerWordsSchema } from "@/core/motion/controller/words";
import type { LogRow } from "../../../kit/api";
import { type SerialPort, SerialRun, type SerialRunSettings } from "./serialRun";

const PROGRAM = "G21\nG90\nG94\nG0 X5 Y5\nM3 S800\nG4 P1\nG1 X60 Y5 F1200\nG1 X60 Y30\nM5\nM2\n";
const until = async (true_: () => boolean, ms = 10_000) => {
  for (const end = Date.now() + ms; !true_(); ) {
    if (Date.now() > end) throw new Error("it never came to be");
    await new Promise((resolve) => setTimeout(resolve, 5));
  }
};
const closing: (() => unknown)[] = [];
afterEach(async () => {
  for (const close of closing.splice(0).reverse()) await close();
});

/** A simulated controller on a port that is opened, locked, released and closed as a browser's is. */
function port() {
  const controller = new SimulatedController({ ...SIMULATED_FRAME, speed: 8 });
  const sent: string[] = [];
  let out: ReadableStreamDefaultController<Uint8Array> | null = null;
  let open = false;
  const timer = setInterval(() => {
    controller.tick(0.01);
    const said = controller.heard();
    if (said.length > 0 && open) out?.enqueue(new TextEncoder().encode(`${said.join("\n")}\n`));
  }, 10);
  closing.push(() => clearInterval(timer));
  const own: SerialPort = {
    readable: null,
    writable: null,
    open: async () => {
      if (open) throw new Error("the port is open already");
      open = true;
      own.readable = new ReadableStream<Uint8Array>({
        start: (each) => {
          out = each;
        },
      });
      own.writable = new WritableStream<Uint8Array>({
        write: (bytes) => {
          for (const line of new TextDecoder().decode(bytes).split("\n")) {
            if (line === "") continue;
            sent.push(line);
            controller.hear(line);
          }
        },
      });
    },
    close: async () => {
      // A browser refuses to close a port whose streams are locked.
      if (own.readable?.locked || own.writable?.locked) throw new Error("the port's streams are locked");
      open = false;
      controller.linkDown();
    },
  };
  return { controller, sent, own, isOpen: () => open, break: () => out?.error(new Error("the device was unplugged")) };
}

async function connected(more: Partial<SerialRunSettings> = {}) {
  const line = port();
  const notes: string[] = [];
  const row = (note: string): LogRow => {
    notes.push(note);
    return { id: "row", revision: notes.length } as LogRow;
  };
  const settings: SerialRunSettings = {
    name: "A frame",
    cutter: "cutter",
    words: controllerWordsSchema.parse({}),
    watchdogS: null,
    presenceMs: 300,
    check: () => undefined,
    log: { add: async (_cutter, entry) => row(entry.note), save: async (_cutter, _row, entry) => row(entry.note) },
    now: () => performance.now(),
    ...more,
  };
  const run = new SerialRun(settings, () => undefined);
  closing.push(() => run.close());
  await run.open(line.own, 115_200);
  let there = true;
  const pulse = setInterval(() => run.pulse(there), 20);
  closing.push(() => clearInterval(pulse));
  const phase = () => run.view.run?.phase;
  run.pulse(true);
  run.act({ act: "home" });
  await until(() => phase() === "ready" && line.controller.homed);
  const hot = async () => {
    await run.start("a square", PROGRAM);
    await until(() => line.controller.heat > 0);
  };
  return {
    ...line,
    run,
    phase,
    notes,
    hot,
    leave: () => {
      there = false;
    },
  };
}

describe("a run on a serial port", () => {
  it("is streamed to its end and logged, and the port is free again afterwards", async () => {
    const { run, phase, hot, notes, isOpen, own, sent } = await connected();
    await hot();
    await until(() => phase() === "done");
    await run.close();
    expect(notes[0]).toMatch(/under way/);
    expect(notes.at(-1)).toBe("a square: done to its end");
    expect([isOpen(), own.readable?.locked, own.writable?.locked]).toEqual([false, false, false]);
    expect(sent.at(-1)).toBe("stop");
    // And it can be opened again.
    await run.open(own, 115_200);
    expect(isOpen()).toBe(true);
  });

  it("a hold and a stop make it cold; what is left is offered", async () => {
    const { run, phase, hot, controller } = await connected();
    await hot();
    run.act({ act: "hold" });
    await until(() => phase() === "held");
    expect(controller.heat).toBe(0);
    run.act({ act: "resume", warm_s: 0, page: "" });
    await until(() => controller.heat > 0);
    await until(() => (run.view.run?.line ?? 0) >= 7);
    run.act({ act: "stop" });
    await until(() => phase() === "stopped" && controller.heat === 0);
    expect(run.view.stopped).toMatchObject({ program: "a square", lines: 10 });
    expect(run.text).toBe(PROGRAM);
    run.act({ act: "freed", rig: "", page: "" });
    expect(run.view.stopped).toBeNull();
  });

  it("a page that is hidden or left makes the wire cold before the port is closed", async () => {
    const { run, hot, controller, sent, isOpen } = await connected();
    await hot();
    await run.close();
    expect([controller.heat, isOpen(), sent.at(-1)]).toEqual([0, false, "stop"]);
  });

  it("a person who is gone is noticed", async () => {
    const { hot, leave, phase, controller, run } = await connected();
    await hot();
    leave();
    await until(() => phase() === "held");
    expect(controller.heat).toBe(0);
    expect(run.view.run?.unwatched).toBe(true);
  });

  it("a program that the machine cannot follow is not sent, nor one whose log entry comes too late", async () => {
    const refused = await connected({
      check: () => {
        throw new Error("line 2: Q is no axis");
      },
    });
    const before = refused.sent.filter((word) => word.startsWith("N")).length;
    await expect(refused.run.start("x", "G21\nG1 Q5\n")).rejects.toThrow(/Q is no axis/);
    expect(refused.sent.filter((word) => word.startsWith("N")).length).toBe(before);
    const late = await connected({
      log: { add: () => new Promise((resolve) => setTimeout(() => resolve({ id: "row", revision: 1 } as LogRow), 2300)), save: async (_c, row) => row },
    });
    await expect(late.run.start("x", PROGRAM)).rejects.toThrow(/took too long/);
    expect(late.controller.heat).toBe(0);
    const nameless = await connected({ cutter: null });
    await expect(nameless.run.start("x", PROGRAM)).rejects.toThrow(/Name the cutter/);
  });

  it("a port that is pulled out is noticed, and let go of", async () => {
    const { hot, phase, run, ...line } = await connected();
    await hot();
    line.break();
    await until(() => phase() === "lost");
    expect(run.view.run?.reason).toMatch(/cannot be read/);
    await run.close();
  });
});
