import type { Browser, BrowserContextOptions } from "playwright-core";
import { afterAll, beforeAll } from "vitest";
import { launch, type Watched, watched } from "./browser";
import { TestServer } from "./server";

/** A server of its own and a browser for the tests of one file, started before them and taken away after. */
export function anyWorkshop(options: { seed?: boolean } = {}): {
  server: TestServer;
  /** A context of that browser, or of another one that the test launched itself. */
  watched: (context?: BrowserContextOptions, other?: Browser) => Promise<Watched>;
} {
  const server = new TestServer();
  let browser: Browser;
  beforeAll(async () => {
    browser = await launch();
    await server.start(options);
  });
  afterAll(async () => {
    await browser.close();
    await server.remove();
  });
  return { server, watched: (context, other) => watched(other ?? browser, server.url, context) };
}
