import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";

/** Every method that a route file exports, as "POST /api/cutters/:id/log". */
export function exportedRoutes(): string[] {
  const files = readdirSync("src/app/api", { recursive: true, encoding: "utf8" }).filter((name) => name.endsWith("route.ts"));
  return files.flatMap((file) => {
    const address = `/api/${path.posix.dirname(file.replaceAll("\\", "/"))}`.replaceAll(/\[[^\]]+\]/g, ":id");
    return [...readFileSync(path.join("src/app/api", file), "utf8").matchAll(/export const (GET|POST|PUT|PATCH|DELETE)\b/g)].map(
      ([, method]) => `${method} ${address}`,
    );
  });
}
