// npm run bench: speeds and sizes on this machine, as ratios against a plain reference in the same run where there is one.
import { runVerb } from "@/cli/verbs";
import { BENCH_DEFAULTS, BenchWorld } from "@/core/bench/world";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { CATALOGUE_WIRES, searchSetups } from "@/core/cutters/search/search";
import { findCures } from "@/core/cutters/solve/cures";
import { evaluateDesign } from "@/core/cutters/solve/evaluate";
import { knobCurve } from "@/core/cutters/solve/knobCurve";
import { parseFoamId, resolveFoam } from "@/core/materials/foams";
import { solveAxial } from "@/core/physics/cut/axial";
import { followAxial } from "@/core/physics/cut/axialInTime";
import { cutAtPower } from "@/core/physics/cut/cut";
import { computeCutMap } from "@/core/physics/cut/cutMap";
import { enterFoam } from "@/core/physics/cut/entry";
import { borderBands, cutBands } from "@/core/physics/cut/uncertainty";
import { resolveWire } from "@/core/physics/heat/wire";
import { warmUp } from "@/core/physics/power/warmup";
import { launch, watched } from "../helpers/browser";
import { TestServer } from "../helpers/server";
import { app } from "./app";
import { geometryBench } from "./geometry";
import { plainCut } from "./plainReference";
import { rigsBench } from "./rigs";
import { say } from "./say";
import { stringBench } from "./string";

/** Calls a second, the best of five rounds of about 300 ms each, after a warm-up. */
function rate(work: () => void): number {
  const round = (ms: number) => {
    const started = performance.now();
    let calls = 0;
    while (performance.now() - started < ms) {
      work();
      calls += 1;
    }
    return (1000 * calls) / (performance.now() - started);
  };
  round(150);
  return Math.max(...Array.from({ length: 5 }, () => round(300)));
}

const perSecond = (value: number) => `${Math.round(value).toLocaleString("en")} a second`;

const wire = resolveWire({ alloy: "nicr-80-20", diameter_mm: 0.635 });
const foam = resolveFoam(parseFoamId("xps-35"));
const pair = { wire, foam, ambientC: 20 };
const plainInput = { d: wire.diameterM, emissivity: 0.75, k: foam.conductivityWMK, rho: 35, c: 1400, collapseC: 108, ambientC: 20, feed: 0.004, power: 70 };

const shipped = cutAtPower(pair, 0.004, 70);
const plain = plainCut(plainInput);
const difference = Math.max(Math.abs(shipped.kerfM / plain.kerfM - 1), Math.abs(shipped.wireC / plain.wireC - 1));
if (difference > 1e-6) throw new Error(`the shipped cut and the plain reference differ by ${difference}`);

let turn = 0;
const cuts = rate(() => cutAtPower(pair, 0.002 + (turn++ % 100) * 1e-4, 40 + (turn % 37)));
const plainCuts = rate(() => plainCut({ ...plainInput, power: 40 + (turn++ % 37) }));
say("cut solves in process", perSecond(cuts));
say("plain reference (search and bisection)", perSecond(plainCuts));
say("ratio, shipped to plain (agree to 1e-6)", `${Math.round(cuts / plainCuts)} times`);

const list = Array.from({ length: 20_000 }, (_, i) => ({
  wire: { alloy: "nicr-80-20", diameter_mm: 0.3 + (i % 50) * 0.01 },
  foam: "xps-35",
  feed_mm_s: 2 + (i % 11),
  power_W_per_m: 30 + (i % 41),
}));
runVerb("cut", list.slice(0, 2000));
const started = performance.now();
runVerb("cut", list);
say("headless list of 20,000 cuts, parsed and answered", perSecond((20_000 * 1000) / (performance.now() - started)));

const [longTom] = DEMO_CUTTERS;
if (!longTom) throw new Error("no demo");
say("whole design evaluated for the desk", perSecond(rate(() => evaluateDesign(longTom))));
const gatepost = DEMO_CUTTERS[1] ?? longTom;
say("cures of a smoking design", perSecond(rate(() => findCures(gatepost))));

const HEATS = Array.from({ length: 48 }, (_, i) => 2 * (i + 1));
const job = { foam, widthM: 0.6, feedMPerS: 0.004, acceptedKerfM: 0.0025, bowM: 0.72, ambientC: 20 };
const searched = 1000 / rate(() => searchSetups(job));
const halfWires = 1000 / rate(() => searchSetups(job, CATALOGUE_WIRES.slice(0, CATALOGUE_WIRES.length / 2)));
say("search of the whole catalogue (210 wires, 10 supplies, 6 controls)", `${searched.toFixed(0)} ms`);
say("  twice the wires (linear is 2)", `${(searched / halfWires).toFixed(2)} times`);
const along = { wire, lengthM: 0.72, currentA: 3, ambientC: 20, clampC: 20, foam: { pair, feedMPerS: 0.004, fromM: 0.06, toM: 0.66 } };
const axial = 1000 / rate(() => solveAxial(along));
say("heat along the wire, 400 cells, steady", `${axial.toFixed(1)} ms`);
say("  1600 cells (linear is 4)", `${(1000 / rate(() => solveAxial({ ...along, cells: 1600 })) / axial).toFixed(2)} times`);
const bench = {
  ...along,
  phases: [
    { seconds: 20, drive: 3, inFoam: false },
    { seconds: 30, drive: 3, inFoam: true },
    { seconds: 10, drive: 0, inFoam: false },
  ],
};
const inTime = 1000 / rate(() => followAxial(bench));
say("heat along the wire, 60 s in 1,200 steps, 200 cells", `${inTime.toFixed(0)} ms, ${Math.round(60_000 / inTime)} times faster than real time`);
say("  800 cells (linear is 4)", `${(1000 / rate(() => followAxial({ ...bench, cells: 800 })) / inTime).toFixed(2)} times`);
say("entry into foam", `${(1000 / rate(() => enterFoam(pair, 0.004, 3.9))).toFixed(1)} ms`);
say(
  "bands of a cut; window's borders at 48 heats",
  `${(1000 / rate(() => cutBands(pair, 0.004, { powerWPerM: 70 }, 0.0025))).toFixed(2)} ms; ${(1000 / rate(() => borderBands(pair, HEATS, 0.0025))).toFixed(1)} ms`,
);
say("knob's whole range, 49 settings", `${(1000 / rate(() => knobCurve(gatepost))).toFixed(1)} ms`);
say("warm-up of 60 s of a bare wire", `${(1000 / rate(() => warmUp(wire, 3, { ambientC: 20 }, 60))).toFixed(1)} ms`);

const minute = () => {
  const world = new BenchWorld(gatepost, BENCH_DEFAULTS);
  world.heat(true);
  world.run(10);
  world.hand({ mode: "pace", mPerS: 0.003 });
  world.run(50);
};
const minuteMs = 1000 / rate(minute);
say("virtual bench, a minute headless, devices and all", `${minuteMs.toFixed(0)} ms, ${Math.round(60_000 / minuteMs)} times faster than real time`);

const axes = [
  { from: 1, to: 120, count: 160 },
  { from: 1e-4, to: 24e-3, count: 240 },
] as const;
const whole = rate(() => computeCutMap(pair, ...axes));
const quarter = rate(() => computeCutMap(pair, { ...axes[0], count: 80 }, { ...axes[1], count: 120 }));
say("map of 240 x 160 cells, solved in process", `${(1000 / whole).toFixed(1)} ms`);
say("time for four times the cells (linear is 4)", `${(quarter / whole).toFixed(2)} times`);

geometryBench();
stringBench();
rigsBench();

const server = new TestServer();
await server.start({ seed: true });
const browser = await launch();
try {
  const watch = await watched(browser, server.url);
  const page = await watch.context.newPage();
  // The script runner names functions through a helper that a page does not have.
  await page.addInitScript("globalThis.__name = (f) => f");
  /** JavaScript over the wire for a page that nobody has been to: what its own address brings, and with what it fetches for itself afterwards. */
  const firstLoad = async (address: string): Promise<[number, number]> => {
    const fresh = await watched(browser, server.url);
    const tab = await fresh.context.newPage();
    const session = await fresh.context.newCDPSession(tab);
    await session.send("Network.enable");
    const scripts = new Set<string>();
    let bytes = 0;
    session.on("Network.responseReceived", ({ requestId, type }) => type === "Script" && scripts.add(requestId));
    session.on("Network.loadingFinished", ({ requestId, encodedDataLength }) => {
      if (scripts.has(requestId)) bytes += encodedDataLength;
    });
    const html = await (await fetch(`${server.url}${address}`)).text();
    const named = new Set([...html.matchAll(/<script[^>]+src="([^"]+)"/g)].map(([, src]) => src as string));
    await tab.goto(`${server.url}${address}`);
    await tab.waitForLoadState("networkidle");
    const own = await tab.evaluate(
      (names) =>
        performance
          .getEntriesByType("resource")
          .filter((entry) => names.some((name) => entry.name.endsWith(name)))
          .reduce((sum, entry) => sum + (entry as PerformanceResourceTiming).encodedBodySize, 0),
      [...named],
    );
    await fresh.context.close();
    return [own, bytes];
  };
  const PAGES = [
    ["a plain page of the kit (backups), for reference", "/backups"],
    ["list of cutters", "/cutters"],
    ["desk", "/demo/long-tom"],
    ["drawer", "/drawer"],
    ["start", "/start/foam"],
  ] as const;
  for (const [name, address] of PAGES) {
    const [own, all] = await firstLoad(address);
    say(`first load, JavaScript over the wire: ${name}`, `${(own / 1000).toFixed(0)} kB gzip; ${(all / 1000).toFixed(0)} kB with what follows automatically`);
  }
  await page.goto(`${server.url}/demo/long-tom`);
  await page.waitForSelector('[data-region="clean"]');
  await page.waitForLoadState("networkidle");
  type Timing = { duration: number; detail: { elapsedMs: number; solvedMs: number } };
  const times = () =>
    page.evaluate(() =>
      performance.getEntriesByName("cutting-window-map").map((entry) => ({ duration: entry.duration, detail: (entry as PerformanceMeasure).detail })),
    ) as Promise<Timing[]>;
  for (const gauge of ["20 awg", "22 awg", "24 awg", "28 awg", "30 awg"]) {
    await page.keyboard.press("w");
    await page.getByLabel("Diameter or gauge").fill(gauge);
    await page.keyboard.press("Escape");
    await page.waitForTimeout(400);
  }
  const [first, ...later] = await times();
  const median = (read: (timing: Timing) => number) =>
    later
      .map(read)
      .sort((a, b) => a - b)
      [Math.floor(later.length / 2)]?.toFixed(0);
  say("map of 240 x 160 in the worker: cells solved, median", `${median((timing) => timing.detail.solvedMs)} ms`);
  say(
    "  solved and outlined, first (cold) and median of the next",
    `${first?.detail.elapsedMs.toFixed(0)} ms, ${median((timing) => timing.detail.elapsedMs)} ms`,
  );
  say("  as the page waits for it, median", `${median((timing) => timing.duration)} ms`);
  // Frames while the point is dragged about.
  const box = await page.getByTestId("cutting-window").boundingBox();
  if (!box) throw new Error("no window");
  await page.evaluate(() => {
    const state = { gaps: [] as number[], last: 0, on: true };
    (globalThis as unknown as { frames: typeof state }).frames = state;
    const tick = (now: number) => {
      if (state.last) state.gaps.push(now - state.last);
      state.last = now;
      if (state.on) requestAnimationFrame(tick);
    };
    requestAnimationFrame(tick);
  });
  await page.mouse.move(box.x + box.width * 0.3, box.y + box.height * 0.5);
  await page.mouse.down();
  for (let i = 0; i < 240; i++) {
    await page.mouse.move(box.x + box.width * (0.5 + 0.3 * Math.sin(i / 12)), box.y + box.height * (0.5 + 0.3 * Math.cos(i / 17)));
  }
  await page.mouse.up();
  const gaps = await page.evaluate(() => (globalThis as unknown as { frames: { gaps: number[] } }).frames.gaps.sort((a, b) => a - b));
  say(
    "dragging: frame gap, median and 95th percentile",
    `${gaps[Math.floor(gaps.length / 2)]?.toFixed(1)} ms, ${gaps[Math.floor(gaps.length * 0.95)]?.toFixed(1)} ms`,
  );
  // The bench at its usual detail: a cut of half a minute, its pictures and its chart.
  await page.keyboard.press("e");
  await page.getByRole("button", { name: "Heat on" }).click();
  await page.waitForTimeout(2500);
  await page.evaluate(() => performance.clearMeasures("bench-frame"));
  const counted = async () => {
    const frame = page.locator(".bench-foot");
    return { frames: Number(await frame.getAttribute("data-frames")), dropped: Number(await frame.getAttribute("data-dropped")) };
  };
  const atStart = await counted();
  await page.getByRole("button", { name: "Go", exact: true }).click();
  await page.waitForTimeout(9000);
  const atEnd = await counted();
  const painted = await page.evaluate(() =>
    performance
      .getEntriesByName("bench-frame")
      .map((entry) => entry.duration)
      .sort((a, b) => a - b),
  );
  const frames = atEnd.frames - atStart.frames;
  const dropped = atEnd.dropped - atStart.dropped;
  say("bench in the page: frames shown and dropped in nine seconds of cutting", `${frames} and ${dropped}, ${(frames / 9).toFixed(0)} a second`);
  say(
    "  main thread a frame, median and 95th percentile",
    `${painted[painted.length >> 1]?.toFixed(1)} ms, ${painted[Math.floor(painted.length * 0.95)]?.toFixed(1)} ms`,
  );
  // Forty wires by twenty supplies, as the page waits for them, and how long it was held up meanwhile.
  const csv = [
    "kind,name,alloy,size,length_m,plate",
    ...Array.from({ length: 34 }, (_, i) => `wire,Spool ${i},${["ss-304", "nicr-80-20", "fecral", "nicr-60-16"][i % 4]},${22 + (i % 16)} awg,50,`),
    ...Array.from({ length: 14 }, (_, i) => `supply,Brick ${i},,,,${5 + 2 * i} V ${2 + (i % 7)} A`),
  ].join("\n");
  await page.evaluate(
    (text) => fetch("/api/drawer/import", { method: "POST", headers: { "content-type": "application/json" }, body: JSON.stringify({ text }) }),
    csv,
  );
  await page.addInitScript(() => {
    const state = { longest: 0, shownAt: 0 };
    (globalThis as unknown as { held: typeof state }).held = state;
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries()) state.longest = Math.max(state.longest, entry.duration);
    }).observe({ type: "longtask", buffered: true });
    const look = () => {
      if (document.querySelectorAll(".match-table td").length >= 800 && state.shownAt === 0) state.shownAt = performance.now();
      else requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  });
  type Held = { held: { longest: number; shownAt: number } };
  const opening: { sent: number; shown: number }[] = [];
  for (let i = 0; i < 5; i++) {
    await page.goto("about:blank");
    await page.goto(`${server.url}/matches`);
    await page.getByText(/cut it cleanly/).waitFor();
    await page.waitForTimeout(1000);
    opening.push(
      await page.evaluate(() => ({
        sent: performance.getEntriesByType("navigation").map((entry) => (entry as PerformanceNavigationTiming).responseEnd)[0] ?? 0,
        shown: (globalThis as unknown as Held).held.shownAt,
      })),
    );
  }
  const count = await page.locator(".match-table td").count();
  const [cold, ...warm] = opening;
  const usual = warm.sort((a, b) => a.shown - b.shown)[warm.length >> 1];
  say(
    `matches of ${count} cells come with their page: all there, first (cold) and median`,
    `${cold?.shown.toFixed(0)} ms, ${usual?.shown.toFixed(0)} ms after it was asked for (page sent whole at ${usual?.sent.toFixed(0)} ms)`,
  );
  // From the click to the frame after the one whose cells are the new ones: asked, worked out, crossed over, built and painted.
  const clicked = () =>
    page.evaluate(
      () =>
        new Promise<number>((resolve) => {
          // A page of the matrix has as many cells either way: only their contents differ.
          const words = () => document.querySelector(".match-table")?.textContent;
          const before = words();
          const button = [...document.querySelectorAll("button")].find((each) => each.textContent === "with what I could buy");
          const clickedAt = performance.now();
          button?.click();
          const look = () => {
            if (words() === before) requestAnimationFrame(look);
            else requestAnimationFrame(() => setTimeout(() => resolve(performance.now() - clickedAt)));
          };
          requestAnimationFrame(look);
        }),
    );
  await page.evaluate(() => {
    (globalThis as unknown as Held).held.longest = 0;
  });
  const waits: number[] = [];
  for (let i = 0; i < 7; i++) {
    waits.push(await clicked());
    await page.waitForTimeout(500);
    await clicked();
    await page.waitForTimeout(500);
  }
  const more = await page.locator(".match-table td").count();
  const [firstWait, ...nextWaits] = waits;
  say(
    `matches of ${more} and more cells, clicked to painted: first, median of the next`,
    `${firstWait?.toFixed(0)} ms, ${nextWaits.sort((a, b) => a - b)[nextWaits.length >> 1]?.toFixed(0)} ms`,
  );
  const held = await page.evaluate(() => (globalThis as unknown as Held).held.longest);
  say("  longest the page was held up meanwhile", `${held.toFixed(0)} ms`);
  await watch.context.close();
} finally {
  await browser.close();
  await server.remove();
}
await app();
