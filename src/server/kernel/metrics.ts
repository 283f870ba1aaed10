import { Counter, collectDefaultMetrics, Gauge, Histogram, Registry } from "prom-client";

interface Metrics {
  registry: Registry;
  requests: Histogram<"route" | "method" | "status">;
  refused: Counter<"code">;
  listening: Gauge;
}

// Route bundles each get their own copy of this module; the process has one set of figures.
const shared = globalThis as typeof globalThis & { upwindMetrics?: Metrics };

function made(): Metrics {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry });
  return {
    registry,
    requests: new Histogram({
      name: "upwind_request_seconds",
      help: "Time a request of the API took, s",
      labelNames: ["route", "method", "status"],
      buckets: [0.005, 0.01, 0.025, 0.05, 0.1, 0.15, 0.25, 0.4, 1, 2.5, 10],
      registers: [registry],
    }),
    refused: new Counter({
      name: "upwind_refusals_total",
      help: "Requests refused in words, by the refusal's code",
      labelNames: ["code"],
      registers: [registry],
    }),
    listening: new Gauge({ name: "upwind_pages_listening", help: "Pages that listen for changes", registers: [registry] }),
  };
}

/** The process's figures. */
export function metrics(): Metrics {
  shared.upwindMetrics ??= made();
  return shared.upwindMetrics;
}

const ID = /^([0-9a-f]{8}-[0-9a-f-]{27}|[A-Za-z0-9_-]{22,}|.*\.zip)$/i;

/** A route without what it names: /api/cutters/:id/log. */
export const routeOf = (pathname: string): string =>
  pathname
    .split("/")
    .map((word) => (ID.test(word) ? ":id" : word.slice(0, 20)))
    .slice(0, 7)
    .join("/");
