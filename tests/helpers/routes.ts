import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { DOCUMENT_IDS } from "@/core/kernel/documentIds";

/** Every method that a route file exports, as "POST /api/cutters/:id/log". */
export function exportedRoutes(): string[] {
  const files = readdirSync("src/app/api", { recursive: true, encoding: "utf8" }).filter((name) => name.endsWith("route.ts"));
  return files.flatMap((file) => {
    const folder = `/api/${path.posix.dirname(file.replaceAll("\\", "/"))}`;
    // One file serves every kind of document.
    const folders = folder.includes("[kind]") ? DOCUMENT_IDS.map((id) => folder.replace("[kind]", id)) : [folder];
    const methods = [...readFileSync(path.join("src/app/api", file), "utf8").matchAll(/export const (GET|POST|PUT|PATCH|DELETE)\b/g)].map(
      ([, method]) => method,
    );
    return folders.flatMap((each) => methods.map((method) => `${method} ${each.replaceAll(/\[[^\]]+\]/g, ":id")}`));
  });
}
