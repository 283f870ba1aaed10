import axe from "axe-core";
import { type Browser, type BrowserContext, type BrowserContextOptions, chromium, type Locator, type Page } from "playwright-core";
import { expect } from "vitest";

/**
 * Kept out of the browser: what the runner keeps out itself (a second list would put its own out of force), and then a process made ahead for every page and another for what it leads to, each of
 * which takes half a second of work to begin.
 */
const WITHOUT = [
  ...[
    "AvoidUnnecessaryBeforeUnloadCheckSync",
    "DestroyProfileOnBrowserClose",
    "HttpsUpgrades",
    "HttpsFirstBalancedModeAutoEnable",
    "MediaRouter",
    "PaintHolding",
  ],
  ...["ThirdPartyStoragePartitioning", "AvoidCorsURLLoaderRestartOnRedirect", "OptimizationHints", "NetworkTimeServiceQuerying", "PreconnectToSearch"],
  ...["IsolateOrigins", "site-per-process", "SpareRendererForSitePerProcess", "ProactivelySwapBrowsingInstance"],
];

/**
 * Debian's Chromium, kept from calling home.
 * @param microphone a WAV file that replaces the microphone, over and over; its use is allowed without asking
 */
export function launch(microphone?: string): Promise<Browser> {
  return chromium.launch({
    executablePath: process.env.CHROMIUM_PATH ?? "/usr/bin/chromium",
    args: [
      "--headless",
      "--no-sandbox",
      "--disable-gpu",
      "--disable-quic",
      "--no-first-run",
      "--disable-background-networking",
      "--disable-component-update",
      "--disable-sync",
      "--disable-site-isolation-trials",
      `--disable-features=${WITHOUT.join(",")}`,
      ...(microphone ? ["--use-fake-device-for-media-stream", "--use-fake-ui-for-media-stream", `--use-file-for-fake-audio-capture=${microphone}`] : []),
    ],
  });
}

/** Longest that a page is waited for to take its own markup over, ms: one without scripts of ours never does. */
const TAKEN_OVER_MS = 20_000;

/** Waits until a page that came as markup is alive: a key pressed before that is lost, as it is to a person. */
export async function listens(page: Page): Promise<void> {
  await page
    .waitForFunction(
      () =>
        Object.keys(document.querySelector("main") ?? document.body.firstElementChild ?? {}).some((key) => key.startsWith("__react")) &&
        // Keys come a moment after what is seen.
        document.querySelector('[data-keys="off"]') === null,
      undefined,
      { timeout: TAKEN_OVER_MS },
    )
    .catch((error: Error) => {
      if (!/Timeout/.test(error.message)) throw error;
    });
  // What listens is put up after the first drawing.
  await page.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))));
}

/** Faults a page must not have: errors thrown or logged, and requests to anywhere but this server. */
export class Watched {
  readonly faults: string[] = [];
  constructor(
    readonly context: BrowserContext,
    readonly base: string,
  ) {}

  async page(at = ""): Promise<Page> {
    const page = await this.context.newPage();
    page.on("pageerror", (error) => this.faults.push(error.message));
    page.on("console", (message) => message.type() === "error" && !/status of 4(09|04|22)/.test(message.text()) && this.faults.push(message.text()));
    page.on("request", (request) => !/^(data|blob):/.test(request.url()) && !request.url().startsWith(this.base) && this.faults.push(`asked ${request.url()}`));
    await page.goto(`${this.base}${at}`);
    await listens(page);
    return page;
  }

  /** Leaves out faults that the test itself caused, such as a server it stopped. */
  forgive(caused: RegExp): void {
    this.faults.splice(0, this.faults.length, ...this.faults.filter((fault) => !caused.test(fault)));
  }

  /** Ends the context and fails if any page met a fault. */
  async end(): Promise<void> {
    await this.context.close();
    expect(this.faults).toEqual([]);
  }
}

export async function watched(browser: Browser, base: string, options: BrowserContextOptions = {}): Promise<Watched> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, serviceWorkers: "block", ...options });
  context.setDefaultTimeout(60_000);
  return new Watched(context, base);
}

/** Waits until a locator's text or attribute satisfies a check. */
export async function until<T>(read: () => Promise<T>, good: (value: T) => boolean, what: string): Promise<T> {
  let last: T | undefined;
  // A machine that does other things too takes its time; what never comes still fails.
  for (const from = Date.now(); Date.now() - from < 60_000; ) {
    last = await read();
    if (good(last)) return last;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error(`${what}: last seen ${JSON.stringify(last)}`);
}

export const savedMark = (page: Page): Locator => page.locator("[data-save]");
/** Waits until the desk says that everything is on disk. */
export const saved = (page: Page) =>
  until(
    () => savedMark(page).getAttribute("data-save"),
    (state) => state === "saved",
    "saved",
  );
export const verdict = (page: Page) => page.locator("h2[data-verdict]").getAttribute("data-verdict");

/** The desk's figures, by name. */
export async function figures(page: Page): Promise<Record<string, string>> {
  const all = await page.locator("[data-figure]").all();
  const pairs = await Promise.all(all.map(async (figure) => [await figure.getAttribute("data-figure"), (await figure.innerText()).trim()]));
  return Object.fromEntries(pairs);
}

/** Accessibility faults of the page as it is: every rule, the best-practice ones and the size of targets (24 px) among them. @param without ids of rules to leave out */
export async function accessFaults(page: Page, without: readonly string[] = []): Promise<string[]> {
  if (await page.evaluate(() => !("axe" in globalThis))) await page.evaluate(axe.source);
  const violations = await page.evaluate(async (off) => {
    const inPage = (
      globalThis as unknown as {
        axe: { run: (options: unknown) => Promise<{ violations: { id: string; nodes: { html: string; failureSummary: string }[] }[] }> };
      }
    ).axe;
    // What passed is not described.
    return (
      await inPage.run({
        resultTypes: ["violations"],
        preload: false,
        rules: { "target-size": { enabled: true }, ...Object.fromEntries(off.map((id) => [id, { enabled: false }])) },
      })
    ).violations.map(({ id, nodes }) => ({
      id,
      where: nodes.map((node) => `${node.html.slice(0, 160)} ${node.failureSummary.slice(0, 200)}`),
    }));
  }, without);
  return violations.map(({ id, where }) => `${id} (${where.length}): ${where.slice(0, 3).join(" | ")}`);
}

/** How far the page is wider than its window, CSS pixels. */
export const overflow = (page: Page): Promise<number> => page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
