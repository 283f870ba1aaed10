// npm run modules: checks the code's imports against modules.ts, and that an exported name has one meaning. The checkers that would do it do not read this version of TypeScript.
import { existsSync, readdirSync, readFileSync, statSync } from "node:fs";
import { builtinModules } from "node:module";
import path from "node:path";
import { fileURLToPath } from "node:url";
import { MODULES, PACKAGES } from "../modules";

const IMPORT = /(?:\bfrom\s+|\bimport\s+|\bimport\(\s*|\bnew URL\(\s*)["']([^"']+)["']/g;
const ENDINGS = ["", ".ts", ".tsx", "/index.ts", "/index.tsx"];
const NAMES = Object.keys(MODULES).sort((a, b) => b.length - a.length);

/** The module of a file: the longest name that leads to it; null where none does. Modules that only join others hold the files right in them. */
export function moduleOf(file: string): string | null {
  const folder = path.posix.dirname(file);
  const inside = (module: string) =>
    ["", "core", "server"].includes(module) ? folder === (module || ".") : folder === module || folder.startsWith(`${module}/`);
  return NAMES.find(inside) ?? null;
}

/** Whether one module may import another. */
export const mayTouch = (from: string, to: string): boolean =>
  from === to || (MODULES[from] ?? []).some((each) => (each.endsWith("/") ? to.startsWith(each) : each === to));

/**
 * Every arrow that modules.ts does not draw, in words.
 * @param files source text by path under src, such as { "core/kernel/errors.ts": "..." }
 */
export function wrongArrows(files: Readonly<Record<string, string>>): string[] {
  const wrong: string[] = [];
  const arrows = new Map<string, string[]>();
  const resolve = (from: string, spec: string) => {
    const at = spec.startsWith("@/") ? spec.slice(2) : spec.startsWith(".") ? path.posix.join(path.posix.dirname(from), spec) : null;
    return at === null ? null : (ENDINGS.map((ending) => at + ending).find((each) => each in files) ?? null);
  };
  for (const [file, text] of Object.entries(files)) {
    const module = moduleOf(file);
    if (module === null) {
      wrong.push(`${file} is in no module of modules.ts`);
      continue;
    }
    const to: string[] = [];
    for (const [, spec = ""] of text.matchAll(IMPORT)) {
      const target = resolve(file, spec);
      if (target !== null) {
        to.push(target);
        const other = moduleOf(target);
        if (other !== null && !mayTouch(module, other)) wrong.push(`${file} imports ${target}: ${module} may not touch ${other}`);
      } else if (!spec.startsWith(".") && !spec.startsWith("@/")) {
        const barred = Object.entries(PACKAGES).find(([prefix, names]) => file.startsWith(prefix) && new RegExp(names).test(spec));
        if (barred) wrong.push(`${file} imports the package ${spec}: nothing under ${barred[0]} may`);
        if (file.startsWith("core/") && (spec.startsWith("node:") || builtinModules.includes(spec)))
          wrong.push(`${file} imports Node's ${spec}: the core runs anywhere`);
      }
    }
    arrows.set(file, to);
  }
  for (const circle of circlesOf(arrows)) wrong.push(`a circle of imports: ${circle.join(" -> ")}`);
  return wrong;
}

/** Circles among files, each once, by a walk that remembers its way. */
function circlesOf(arrows: ReadonlyMap<string, readonly string[]>): string[][] {
  const circles: string[][] = [];
  const done = new Set<string>();
  const way: string[] = [];
  const walk = (file: string) => {
    const at = way.indexOf(file);
    if (at >= 0) circles.push([...way.slice(at), file]);
    if (at >= 0 || done.has(file)) return;
    way.push(file);
    for (const next of arrows.get(file) ?? []) walk(next);
    way.pop();
    done.add(file);
  };
  for (const file of arrows.keys()) walk(file);
  return circles;
}

const EXPORT = /^export (?:async )?(?:function\*?|const|class|interface|type|enum) (\w+)/gm;

/** Names that more than one file exports. Pages, routes and threads export names that the framework or the pool gives them. */
export function sharedNames(files: Readonly<Record<string, string>>): string[] {
  const owners = new Map<string, Set<string>>();
  for (const [file, text] of Object.entries(files)) {
    if (file.startsWith("app/") || file.startsWith("server/threads/")) continue;
    for (const [, name = ""] of text.matchAll(EXPORT)) owners.set(name, (owners.get(name) ?? new Set()).add(file));
  }
  return [...owners].filter(([, of]) => of.size > 1).map(([name, of]) => `${name} is exported by ${[...of].join(" and ")}`);
}

/** Source files under a folder, tests left out: a test may look anywhere. */
export function sourcesUnder(folder: string, within = ""): Record<string, string> {
  const found: Record<string, string> = {};
  for (const name of readdirSync(path.join(folder, within))) {
    const at = within ? `${within}/${name}` : name;
    if (statSync(path.join(folder, at)).isDirectory()) Object.assign(found, sourcesUnder(folder, at));
    else if (/\.tsx?$/.test(name) && !/\.test\.tsx?$/.test(name)) found[at] = readFileSync(path.join(folder, at), "utf8");
  }
  return found;
}

if (process.argv[1] && existsSync(process.argv[1]) && fileURLToPath(import.meta.url) === path.resolve(process.argv[1])) {
  const files = sourcesUnder(path.join(path.dirname(fileURLToPath(import.meta.url)), "..", "src"));
  const wrong = [...wrongArrows(files), ...sharedNames(files)];
  for (const each of wrong) console.error(each);
  console.log(
    `${Object.keys(files).length} files in ${Object.keys(MODULES).length} modules: ${wrong.length === 0 ? "every arrow is drawn" : `${wrong.length} faults`}`,
  );
  process.exitCode = wrong.length > 0 ? 1 : 0;
}
