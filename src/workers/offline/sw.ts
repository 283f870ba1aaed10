/// <reference lib="webworker" />
import { CacheFirst, ExpirationPlugin, NetworkOnly, type PrecacheEntry, Serwist } from "serwist";

declare const self: ServiceWorkerGlobalScope & { UPWIND_BUILD: string };

/** The page that works without a server. */
const OFFLINE = "/offline";
const STATIC = "upwind-static";

const entry: PrecacheEntry = { url: OFFLINE, revision: self.UPWIND_BUILD };

const worker = new Serwist({
  precacheEntries: [entry],
  skipWaiting: true,
  clientsClaim: true,
  runtimeCaching: [
    {
      // Files of a build are named by what is in them: one that is here is right.
      // Not an engine's first file: its settings come after the # of its address, which an answer out of the cache does not carry.
      matcher: ({ url, sameOrigin, request }) => sameOrigin && url.pathname.startsWith("/_next/static/") && request.destination !== "worker",
      handler: new CacheFirst({ cacheName: STATIC, plugins: [new ExpirationPlugin({ maxEntries: 500, purgeOnQuotaError: true })] }),
    },
    // Pages always come from the workshop: what is old is never shown as if it were new.
    { matcher: ({ request }) => request.mode === "navigate", handler: new NetworkOnly() },
  ],
  fallbacks: { entries: [{ url: OFFLINE, matcher: ({ request }) => request.destination === "document" }] },
});

// What the offline page is made of is fetched with it: it must stand also where it was never opened.
self.addEventListener("install", (event) => {
  event.waitUntil(
    (async () => {
      const page = await (await fetch(OFFLINE)).text();
      const parts = [...new Set(page.match(/\/_next\/static\/[^"'\\\s)]+/g) ?? [])];
      const cache = await caches.open(STATIC);
      await Promise.all(parts.map(async (part) => ((await cache.match(part)) ? undefined : cache.add(part))));
    })(),
  );
});

worker.addEventListeners();
