import { readFileSync } from "node:fs";
import type { Browser, Page } from "playwright-core";
import { afterAll, afterEach, beforeAll, describe, expect, it } from "vitest";
import { readProgram } from "@/core/motion/program/reader";
import { newPlan } from "@/core/plans/plan";
import { FRAME_START, type FrameRig } from "@/core/rigs/frame/fields";
import { machineOf } from "@/core/rigs/frame/path";
import { newRig } from "@/core/rigs/rig";
import { accessFaults, launch, overflow, until, watched } from "../helpers/browser";
import { ControllerProcess } from "../helpers/controller";
import { TestServer } from "../helpers/server";

const server = new TestServer();
const controller = new ControllerProcess();
let browser: Browser;
const begin = () => server.start({ seed: true, env: { UPWIND_CONTROLLER: `127.0.0.1:${controller.port}`, UPWIND_PAGE_PATIENCE: "8" } });
beforeAll(async () => {
  browser = await launch();
  await controller.start();
  await begin();
});
// A page that a failed test left standing would watch the next one's run.
afterEach(async () => {
  await Promise.all(browser.contexts().map((context) => context.close()));
});
afterAll(async () => {
  await browser.close();
  await server.remove();
  await controller.stop();
});

const headers = () => ({ "content-type": "application/json", origin: server.url });
const request = async (method: string, path: string, body?: unknown) => {
  const response = await fetch(`${server.url}${path}`, { method, headers: headers(), body: body === undefined ? null : JSON.stringify(body) });
  return (await response.json()) as Record<string, never>;
};
const named = async (room: "cutters" | "plans" | "rigs", name: string): Promise<{ id: string; name: string }> => {
  const rows = (await request("GET", `/api/${room}`))[room] as unknown as {
    id: string;
    design?: { name: string };
    plan?: { name: string };
    rig?: { name: string };
  }[];
  const row = rows.find((each) => (each.design ?? each.plan ?? each.rig)?.name === name);
  if (!row) throw new Error(`no ${name}`);
  return { id: row.id, name };
};
const newestEntry = async (cutter: string) => {
  const { entries } = (await request("GET", `/api/cutters/${cutter}/log`)) as unknown as {
    entries: { entry: { at: string; kind: string; note: string; figures: { key: string; value: number }[] } }[];
  };
  return entries
    .map(({ entry }) => entry)
    .filter(({ kind }) => kind === "rig-cut")
    .sort((a, b) => (a.at < b.at ? 1 : -1))[0];
};
let frames = 0;
/** One of its own for each test: what a test left in the log of one is no other's doubt. */
const frame = async (rig: Partial<FrameRig>, plan: { id: string; name: string }) => {
  frames += 1;
  const cutter = await named("cutters", "Long Tom");
  const made = (await request("POST", "/api/rigs", {
    rig: { ...newRig("frame", `Frame ${frames} of the test`, cutter, plan), rig: { ...FRAME_START, ...rig } },
  })) as unknown as {
    rig: { id: string };
  };
  return { id: made.rig.id, cutter: cutter.id };
};

/** Reads the run's state without keeping anything on. */
const LOOK = { run: null, page: "a-test-looks", present: false };
const phase = (page: Page) => page.getByTestId("run").getAttribute("data-phase");
const comes = (page: Page, wanted: string) =>
  until(
    () => phase(page),
    (now) => now === wanted,
    wanted,
  );
async function hurry(page: Page, words: RegExp): Promise<void> {
  const practice = page.locator(".run-practice");
  if (!(await practice.evaluate((details) => (details as HTMLDetailsElement).open))) await practice.locator("summary").click();
  await page.getByRole("button", { name: words }).click();
}
async function home(page: Page, speed = /^50 times/): Promise<void> {
  await page.getByTestId("run").waitFor();
  await page.locator(".run-practice").waitFor();
  await hurry(page, speed);
  await page.getByRole("button", { name: "Home", exact: true }).click();
  await until(
    async () => [await phase(page), await page.getByRole("button", { name: /^Start/ }).isEnabled()] as const,
    ([now, can]) => now === "ready" && can,
    "home",
  );
}
/** How far the reported places lie off the path that was predicted, CSS pixels. */
const drawnOff = (page: Page) =>
  page.evaluate(() => {
    const way = document.querySelector("[data-rest]") as SVGPathElement;
    const dots = [...document.querySelectorAll("[data-testid=run-picture] circle[r='1.3']")];
    const total = way.getTotalLength();
    const points = Array.from({ length: 6000 }, (_, i) => way.getPointAtLength((total * i) / 5999));
    return {
      dots: dots.length,
      worst: Math.max(
        ...dots.map((dot) => Math.min(...points.map(({ x, y }) => Math.hypot(x - Number(dot.getAttribute("cx")), y - Number(dot.getAttribute("cy")))))),
      ),
    };
  });

describe("a frame's run", () => {
  it("lettering from text to a program, run on the simulated controller through a limit's fault to its end, drawn as predicted, and logged", async () => {
    const watch = await watched(browser, server.url);
    const [plan, rig, cutter] = [
      await named("plans", "LANTERN lettering"),
      await named("rigs", "Marionette for lettering"),
      await named("cutters", "Long Tom"),
    ];
    const page = await watch.page(`/plans/${plan.id}`);
    await page.locator(".sentence button", { hasText: "LANTERN" }).first().click();
    await page
      .getByLabel(/^Text|^Letters/)
      .first()
      .fill("OX");
    await until(
      () => page.locator("[data-save]").getAttribute("data-save"),
      (state) => state === "saved",
      "saved",
    );
    await page.goto(`${server.url}/rigs/${rig.id}/program`);
    await page.locator('[data-testid="rig-path"][data-current="true"]').waitFor();
    expect(await accessFaults(page)).toEqual([]);
    // The slit to the O's hole is moved by hand: it is the only thing taken from the part, and its cost is said.
    const slit = page.locator('[data-handle="slit"]');
    const before = await slit.boundingBox();
    if (!before) throw new Error("no slit");
    await page.mouse.move(before.x + before.width / 2, before.y + before.height / 2);
    await page.mouse.down();
    await page.mouse.move(before.x + 40, before.y - 60, { steps: 5 });
    await page.mouse.up();
    await until(
      async () => (await slit.boundingBox())?.y ?? 0,
      (y) => y < before.y - 15,
      "the slit moved",
    );
    await page.locator('[data-testid="rig-path"][data-current="true"]').waitFor();
    expect(await page.getByTestId("path-costs").innerText()).toMatch(/Slit.1[\s\S]*a seam to glue/);
    const [download] = await Promise.all([page.waitForEvent("download"), page.getByRole("button", { name: "Program", exact: true }).click()]);
    const text = readFileSync((await download.path()) as string, "utf8");
    const example = { ...FRAME_START };
    const read = readProgram(text, machineOf(example, 50));
    expect(read.warnings).toEqual([]);
    expect(read.path.length).toBeGreaterThan(60);

    await page.goto(`${server.url}/rigs/${rig.id}/run`);
    await home(page);
    expect(await accessFaults(page)).toEqual([]);
    await page.getByRole("button", { name: /^Start/ }).click();
    await comes(page, "running");
    await until(
      () => page.getByTestId("run-phase").locator("..").innerText(),
      (words) => /heat S \d+/.test(words),
      "heat",
    );
    await until(
      async () => Number(await page.locator("[data-cut]").getAttribute("data-cut")),
      (at) => at > 8,
      "some of it cut",
    );
    await page.getByRole("button", { name: "a limit switch is pressed" }).click();
    await comes(page, "fault");
    expect(await page.getByTestId("run").innerText()).toMatch(/Limit X/);
    await page.getByRole("button", { name: "a limit switch is pressed" }).click();
    await page.getByRole("button", { name: "It is free: clear" }).click();
    await comes(page, "held");
    // By its large key, once it has been there long enough to be meant.
    await until(
      () => page.getByRole("button", { name: /^Go on/ }).isEnabled(),
      (can) => can,
      "it can go on",
    );
    await page.keyboard.press("Space");
    await comes(page, "done");
    const off = await drawnOff(page);
    expect(off.dots).toBeGreaterThan(10);
    expect(off.worst).toBeLessThan(1.5);
    const entry = await newestEntry(cutter.id);
    expect(entry?.note).toMatch(/done to its end/);
    expect(entry?.figures.find(({ key }) => key === "lines")?.value).toBe(text.trim().split("\n").length);
    await watch.end();
  });

  it("stopped in mid part it offers no home until the wire is out: led out along its own kerf", async () => {
    const watch = await watched(browser, server.url, { viewport: { width: 390, height: 844 } });
    const plan = await named("plans", "Harbour buoy");
    const { id } = await frame({ blockX_mm: 30, blockY_mm: 40 }, plan);
    const page = await watch.page(`/rigs/${id}/run`);
    expect(await overflow(page)).toBeLessThanOrEqual(0);
    // Stop is on the screen in every state, however the page is scrolled, and as large as a thumb.
    const stopIsThere = async (state: string) => {
      for (const [width, height] of [
        [390, 844],
        [320, 568],
        [768, 1024],
        [1280, 800],
      ] as const) {
        await page.setViewportSize({ width, height });
        const box = await page.getByRole("button", { name: /^Stop/ }).boundingBox();
        expect([state, width, box !== null && box.y >= 0 && box.y + box.height <= height && box.x + box.width <= width]).toEqual([state, width, true]);
        expect(box?.height).toBeGreaterThanOrEqual(64);
      }
      await page.setViewportSize({ width: 390, height: 844 });
    };
    await stopIsThere("at the beginning");
    // Not so fast that it is done before a busy machine gets to stopping it.
    await home(page, /^10 times/);
    await page.getByRole("button", { name: /^Start/ }).click();
    await until(
      async () => Number(await page.locator("[data-cut]").getAttribute("data-cut")),
      (at) => at > 5,
      "some of it cut",
    );
    await stopIsThere("running");
    // Stop, and in the same fright the next key that comes up: that does not answer where the wire is.
    const early = await page.evaluate(
      () =>
        new Promise<boolean[]>((done) => {
          const look = () => {
            const keys = [...document.querySelectorAll<HTMLButtonElement>(".run-key:not(.run-stop)")];
            if (!keys.some(({ innerText }) => /it is out/.test(innerText))) return requestAnimationFrame(look);
            const before = keys.map(({ disabled }) => disabled);
            for (const key of keys) key.click();
            return done(before);
          };
          document.querySelector<HTMLButtonElement>(".run-stop")?.click();
          look();
        }),
    );
    expect(early.length > 0 && early.every(Boolean)).toBe(true);
    await comes(page, "stopped");
    expect(await page.getByRole("button", { name: "Home", exact: true }).count()).toBe(0);
    await page.locator("[data-out]").waitFor();
    await stopIsThere("stopped");
    // The offer and its line outlive a reload.
    const line = /line \d+/.exec(await page.getByTestId("run-out").innerText())?.[0];
    await page.reload();
    await page.locator("[data-out]").waitFor();
    expect(/line \d+/.exec(await page.getByTestId("run-out").innerText())?.[0]).toBe(line);
    await hurry(page, /^50 times/);
    await page.getByRole("button", { name: /^No, lead it out/ }).click();
    await comes(page, "done");
    await page.getByRole("button", { name: "Home", exact: true }).waitFor();
    // The wire is outside the block, where it came in.
    const report = (await request("POST", "/api/run/pulse", LOOK)) as unknown as { run: { at: { X: number } } };
    expect(report.run.at.X).toBeLessThan(30);
    await watch.end();
  });

  it("teaches: steps put right, a slit where it harms least, a corner waited at", async () => {
    const watch = await watched(browser, server.url);
    const { id } = await frame({}, await named("plans", "Harbour buoy"));
    const page = await watch.page(`/rigs/${id}/lessons`);
    await page.getByTestId("rig-lessons").waitFor();
    expect(await accessFaults(page)).toEqual([]);
    const good = () => page.getByTestId("outcome").getAttribute("data-good");
    await page.getByLabel("Ask for").fill("500");
    await page.keyboard.press("Enter");
    await page.getByRole("button", { name: "Set it and try 500 mm" }).click();
    expect(await good()).toBe("false");
    await page.getByRole("button", { name: "Move away from home, and measure" }).click();
    const [, asked, came] = /asked ([\d.]+) mm, came ([\d.]+) mm/.exec(await page.getByTestId("rig-lessons").innerText()) ?? [];
    await page.getByLabel("Steps a millimetre").fill(((80 * Number(asked)) / Number(came)).toFixed(4));
    await page.keyboard.press("Enter");
    await page.getByRole("button", { name: "Set it and try 500 mm" }).click();
    await until(good, (now) => now === "true", "steps put right");
    await page.getByRole("button", { name: "A hole and an island" }).click();
    expect(await good()).toBe("false");
    await page.getByRole("button", { name: "left apart" }).click();
    await page.getByRole("button", { name: "slit below" }).click();
    await until(good, (now) => now === "true", "the slit below");
    await page.getByRole("button", { name: "Round the corner" }).click();
    await page.getByRole("button", { name: "Cut it" }).click();
    expect(await good()).toBe("false");
    await page.getByLabel("Wait at the corner").fill("2");
    await page.keyboard.press("Enter");
    await page.getByRole("button", { name: "Cut it" }).click();
    await until(good, (now) => now === "true", "the corner");
    expect(await page.getByRole("button", { name: /passed$/ }).count()).toBe(3);
    await watch.end();
  });

  it("four axes lead the tail fin, and a turntable a six-sided column, to their ends", async () => {
    const watch = await watched(browser, server.url);
    const fin = await frame(
      { carriages: "free", apart_mm: 1400, toBlock_mm: 150, wide_mm: 1200, high_mm: 600, blockX_mm: 300, blockY_mm: 200 },
      await named("plans", "Carp's tail fin"),
    );
    const page = await watch.page(`/rigs/${fin.id}/run`);
    await home(page);
    await page.getByRole("button", { name: /^Start/ }).click();
    await comes(page, "done");
    const { run } = (await request("POST", "/api/run/pulse", LOOK)) as unknown as { run: { at: Record<string, number> } };
    expect(Object.keys(run.at)).toEqual(["X", "Y", "U", "V"]);
    expect((await newestEntry(fin.cutter))?.note).toMatch(/done to its end/);

    const prism = {
      ...newPlan("A post", {
        root: { shape: { kind: "rounded", ratio: 2.5, radius_mm: 0 }, chord_mm: 80 },
        part: { span_mm: 120 },
        template: { faces: "single" },
      }),
    };
    const { plan } = (await request("POST", "/api/plans", { plan: prism })) as unknown as { plan: { id: string } };
    const post = await frame({ table: true, passes: 6, blockX_mm: 120, blockY_mm: 30 }, { id: plan.id, name: "A post" });
    await page.goto(`${server.url}/rigs/${post.id}/program`);
    await page.locator('[data-testid="rig-path"][data-current="true"]').waitFor();
    await page.getByText("The program, line by line").click();
    expect((await page.locator(".rig-program").innerText()).match(/G0 A\d+/g)).toEqual(["G0 A0", "G0 A60", "G0 A120", "G0 A180", "G0 A240", "G0 A300"]);
    await page.goto(`${server.url}/rigs/${post.id}/run`);
    await home(page);
    await page.getByRole("button", { name: /^Start/ }).click();
    await comes(page, "done");
    await watch.end();
  });

  it("a program of very many lines streams without the page standing still or the server growing, and none is lost", async () => {
    const count = Number(process.env.UPWIND_RUN_LINES ?? 4000);
    const { id } = await frame({ blockX_mm: 30, blockY_mm: 40 }, await named("plans", "Harbour buoy"));
    const lines = [
      "G21",
      "G90",
      "G94",
      "G0 X10 Y10",
      "M3 S500",
      ...Array.from({ length: count }, (_, i) => `G1 X${(10 + (i % 100) * 0.5).toFixed(2)} Y${(10 + ((i * 7) % 90)).toFixed(2)} F6000`),
      "M5",
      "M2",
    ];
    const watch = await watched(browser, server.url);
    const page = await watch.page(`/rigs/${id}/run`);
    await home(page);
    await request("POST", "/api/run/act", { act: "speed", times: 1000 });
    await page.getByLabel("Another program").setInputFiles({ name: "long.ngc", mimeType: "text/plain", buffer: Buffer.from(lines.join("\n")) });
    await page
      .getByRole("button", { name: /^Start/ })
      .filter({ hasText: "long.ngc" })
      .waitFor();
    await page.evaluate(() => {
      const gaps: number[] = [];
      let last = performance.now();
      const look = () => {
        gaps.push(performance.now() - last);
        last = performance.now();
        requestAnimationFrame(look);
      };
      requestAnimationFrame(look);
      Object.assign(window, { gaps });
    });
    const memory = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, "utf8"))?.[1]) / 1024;
    const memories: number[] = [];
    const from = Date.now();
    await page.getByRole("button", { name: /^Start/ }).click();
    await until(
      async () => {
        memories.push(memory());
        return phase(page);
      },
      (now) => now === "done",
      "done",
    );
    const seconds = (Date.now() - from) / 1000;
    const gaps = ((await page.evaluate(() => (window as unknown as { gaps: number[] }).gaps)) as number[]).sort((a, b) => a - b);
    if (process.env.UPWIND_RUN_LINES)
      console.log(
        `${count} lines in ${seconds.toFixed(1)} s, ${Math.round(count / seconds)} a second; server ${Math.round(memories[0] ?? 0)} to at most ${Math.round(Math.max(...memories))} MB; page's frame gap ${gaps[Math.floor(gaps.length * 0.95)]?.toFixed(0)} ms at the 95th percentile, ${gaps.at(-1)?.toFixed(0)} at most`,
      );
    expect(await page.getByTestId("run").innerText()).toContain(`line ${lines.length} of ${lines.length}`);
    // Nothing of the program is held twice over: a long one costs no more than its own text a few times.
    expect(Math.max(...memories)).toBeLessThan((memories[0] ?? 0) + 250);
    await watch.end();
  }, 600_000);

  it(
    "page closed, server killed, controller killed in mid run: the heat is off within the watchdog each time, and the log has what was done",
    async () => {
      const kills = Number(process.env.UPWIND_RUN_KILLS ?? 3);
      const plan = await named("plans", "Harbour buoy");
      const { id, cutter } = await frame({ blockX_mm: 30, blockY_mm: 40 }, plan);
      const slow = ["G21", "G90", "G94", "G0 X10 Y10", "M3 S500", ...Array.from({ length: 3000 }, (_, i) => `G1 X${i % 2 ? 10 : 11} Y10 F60`), "M5", "M2"];
      for (let k = 0; k < kills; k++) {
        const what = (["page", "server", "controller"] as const)[k % 3];
        const watch = await watched(browser, server.url);
        const page = await watch.page(`/rigs/${id}/run`);
        await page.locator(".run-practice").waitFor();
        // After a stop, and after a run that never ended, it asks whether the wire is out before it homes.
        await until(
          async () => {
            const out = page.getByRole("button", { name: /^Yes, it is out/ });
            const again = page.getByRole("button", { name: "Connect again" });
            // What is there may be gone before it is pressed: a controller that comes back is met automatically.
            for (const key of [out, again]) if (await key.count()) await key.click({ timeout: 2000 }).catch(() => undefined);
            return page.getByRole("button", { name: "Home", exact: true }).count();
          },
          (count) => count === 1,
          "home is offered",
        );
        await hurry(page, /^10 times/);
        await page.getByRole("button", { name: "Home", exact: true }).click();
        await until(
          () => page.getByRole("button", { name: /^Start/ }).isEnabled(),
          (can) => can,
          "home",
        );
        // From here on it takes its real time, an hour: however busy the machine, it is not done before anyone notices.
        await request("POST", "/api/run/act", { act: "speed", times: 1 });
        await page.getByLabel("Another program").setInputFiles({ name: "slow.ngc", mimeType: "text/plain", buffer: Buffer.from(slow.join("\n")) });
        await page
          .getByRole("button", { name: /^Start/ })
          .filter({ hasText: "slow.ngc" })
          .waitFor();
        await until(
          async () => {
            // Pressed while it still homed, Start was refused; a page that a busy machine kept silent for longer than the server's patience is held, cold. Somebody there would press again.
            const now = await phase(page);
            const key = now === "held" ? page.getByRole("button", { name: "Go on" }) : now === "ready" ? page.getByRole("button", { name: /^Start/ }) : null;
            // A key that gives way to another between two looks is not waited for.
            if (await key?.isEnabled({ timeout: 500 }).catch(() => false)) await key?.click({ timeout: 2000 }).catch(() => undefined);
            return { phase: await phase(page), cut: Number(await page.locator("[data-cut]").getAttribute("data-cut")) };
          },
          // Until it homes the last run still is there, with what that one cut.
          ({ phase: now, cut }) => now === "running" && cut > 2,
          "some of it cut",
        );
        const from = Date.now();
        // On a busy machine the line to the controller may take longer than the server waits for it: then somebody presses again.
        watch.forgive(/status of 504/);
        if (what === "page") {
          await watch.end();
          await until(
            async () => ((await request("GET", `/api/cutters/${cutter}/log`)) as unknown as { entries: unknown[] }) && (await newestEntry(cutter))?.note,
            (note) => note !== undefined,
            "an entry",
          );
          // The server holds it: asked without saying that anyone is there.
          await until(
            async () => ((await request("POST", "/api/run/pulse", LOOK)) as unknown as { run: { phase: string; heat: number; unwatched: boolean } }).run,
            ({ phase: now, heat, unwatched }) => now === "held" && heat === 0 && unwatched,
            "held, cold",
          );
          // Eight seconds of patience here, and what a busy machine takes.
          expect(Date.now() - from).toBeLessThan(40_000);
          await request("POST", "/api/run/act", { act: "stop" });
        } else if (what === "server") {
          server.signalGroup("SIGKILL");
          await server.stop("SIGKILL");
          await until(
            () => controller.where(),
            (now) => now !== null && now.heat === 0 && now.state === "fault",
            "cold",
          );
          expect(Date.now() - from).toBeLessThan(30_000);
          watch.forgive(/Failed to load|fetch|ERR_/);
          await watch.context.close();
          await begin();
          expect((await newestEntry(cutter))?.note).toMatch(/under way, last heard of/);
          expect((await newestEntry(cutter))?.figures.find(({ key }) => key === "of")?.value).toBeGreaterThan(20);
          await clearController();
        } else {
          await controller.stop();
          await comes(page, "lost");
          expect(Date.now() - from).toBeLessThan(30_000);
          await until(
            async () => (await newestEntry(cutter))?.note ?? "",
            (note) => /cut off at line \d+: the controller hung up/.test(note),
            "in the log",
          );
          // A controller that starts is cold and knows no home.
          await controller.start(controller.port);
          expect(await controller.where()).toEqual({ state: "idle", heat: 0 });
          await watch.end();
        }
      }
    },
    Math.max(900_000, 40_000 * Number(process.env.UPWIND_RUN_KILLS ?? 3)),
  );
});

/** Anyone who comes next finds the controller without a fault. */
async function clearController(): Promise<void> {
  const { connect } = await import("node:net");
  await new Promise<void>((resolve) => {
    const socket = connect(controller.port, "127.0.0.1", () => socket.write("clear\nstop\n"));
    socket.on("data", (data) => /stopped/.test(String(data)) && socket.destroy());
    socket.on("close", () => resolve());
    socket.on("error", () => undefined);
  });
}

describe("a serial port of this computer", () => {
  it("a controller of other words, unnumbered and without a report, is streamed to line by line, held by its own word, and logged", async () => {
    const watch = await watched(browser, server.url);
    await watch.context.addInitScript(() => {
      // A serial port that answers each line a little later, as a plain controller does.
      const sent: string[] = [];
      let reply: ReadableStreamDefaultController<Uint8Array> | null = null;
      const port = {
        open: async () => undefined,
        close: async () => undefined,
        readable: new ReadableStream<Uint8Array>({
          start: (out) => {
            reply = out;
          },
        }),
        writable: new WritableStream<Uint8Array>({
          write: (bytes) => {
            for (const line of new TextDecoder().decode(bytes).split("\n")) {
              if (line === "") continue;
              sent.push(line);
              const say = (word: string) => setTimeout(() => reply?.enqueue(new TextEncoder().encode(`${word}\n`)), 3);
              if (/^[GM(]/.test(line)) say("aye");
              if (line === "whoa") say("held");
            }
          },
        }),
      };
      Object.assign(window, { sent });
      Object.defineProperty(navigator, "serial", { value: { requestPort: async () => port } });
    });
    const plan = await named("plans", "Harbour buoy");
    const words = {
      numbered: false,
      ahead: 4,
      sayTaken: "aye",
      sayRefused: "nay",
      sayWhere: "",
      sayHold: "whoa",
      sayStop: "halt",
      sayHome: "",
      sayResume: "",
      sayClear: "",
    };
    const { id, cutter } = await frame({ blockX_mm: 30, blockY_mm: 40, ...words }, plan);
    const page = await watch.page(`/rigs/${id}/run`);
    await page.getByTestId("run").waitFor();
    await page.locator("summary", { hasText: "A simulated controller" }).waitFor();
    const keys = page.locator(".run-keys");
    const before = await keys.boundingBox();
    // What is pressed stays where it was when the picture comes.
    await page.getByTestId("run-picture").waitFor();
    expect((await keys.boundingBox())?.y).toBe(before?.y);
    await page.getByRole("button", { name: "A serial port of this computer" }).click();
    await page.getByLabel("Speed, baud").fill("12");
    await page.getByRole("button", { name: "Choose its port" }).click();
    await page.getByRole("alert").filter({ hasText: "1200 to 4000000 baud" }).waitFor();
    await page.getByLabel("Speed, baud").fill("115200");
    await page.getByRole("button", { name: "Choose its port" }).click();
    await comes(page, "ready");
    await page.getByRole("button", { name: /^Start/ }).click();
    await until(
      async () => {
        // A page that a busy machine keeps silent for a second is held; somebody there would let it go on.
        if ((await phase(page)) === "held")
          await page
            .getByRole("button", { name: "Go on" })
            .click({ timeout: 2000 })
            .catch(() => undefined);
        return phase(page);
      },
      (now) => now === "done",
      "done",
    );
    const sent = await page.evaluate(() => (window as unknown as { sent: string[] }).sent);
    expect(sent.filter((line) => line.startsWith("G21"))).toHaveLength(1);
    expect(sent.at(-1)).toBe("M2");
    await until(
      async () => (await newestEntry(cutter))?.note ?? "",
      (note) => /done to its end/.test(note),
      "in the log",
    );
    await watch.end();
  });
});
