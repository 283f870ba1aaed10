// Plain Node, no packages: runs on a machine where nothing has been installed yet.
import { spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";

export const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "../..");
const stampFolder = path.join(root, "node_modules", ".cache", "upwind");

/** Says something that went wrong in words, without a stack, and ends. */
export function giveUp(message) {
  process.stderr.write(`\n${message}\n\n`);
  process.exit(1);
}

/** Ends in words where this Node is older than package.json asks for: what would fail later fails with a stack. */
function requireNode() {
  const { engines } = JSON.parse(readFileSync(path.join(root, "package.json"), "utf8"));
  const [wanted, found] = [engines.node, process.versions.node].map((text) =>
    text
      .replace(/^[^\d]*/, "")
      .split(".")
      .map(Number),
  );
  const older = found[0] !== wanted[0] ? found[0] < wanted[0] : found[1] < wanted[1];
  if (older) giveUp(`Upwind Rod needs Node ${wanted.join(".")} or newer; this is ${process.versions.node}. Install a newer one, then try again.`);
}

/** Runs a command in the project; `quiet` keeps its output for the message about a failure. */
export function run(command, args, { quiet = false, env = {}, stdout = "inherit" } = {}) {
  const result = spawnSync(command, args, {
    cwd: root,
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: "1", ...env },
    stdio: quiet ? "pipe" : ["inherit", stdout, "inherit"],
    encoding: "utf8",
  });
  return { ok: result.status === 0, output: `${result.stdout ?? ""}${result.stderr ?? ""}`, status: result.status };
}

/** A package's own command, run by this Node. */
export const bin = (name) => path.join(root, "node_modules", ".bin", name);

function* filesUnder(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
    const file = path.join(folder, entry.name);
    if (entry.isDirectory()) yield* filesUnder(file);
    else yield file;
  }
}

function hashOf(entries) {
  const hash = createHash("sha256").update(process.version);
  for (const entry of entries) {
    const full = path.join(root, entry);
    if (!existsSync(full)) continue;
    const files = statSync(full).isDirectory() ? filesUnder(full) : [full];
    for (const file of files) if (!file.endsWith(".test.ts")) hash.update(path.relative(root, file)).update(readFileSync(file));
  }
  return hash.digest("hex");
}

const stampFile = (name) => path.join(stampFolder, name);
const readStamp = (name) => (existsSync(stampFile(name)) ? readFileSync(stampFile(name), "utf8") : "");
function writeStamp(name, value) {
  mkdirSync(stampFolder, { recursive: true });
  writeFileSync(stampFile(name), value);
}

/** Whether node_modules already holds every package asked for, in its exact version: somebody installed by hand. */
function holdsEverything() {
  const { dependencies, devDependencies } = JSON.parse(readFileSync(path.join(root, "package.json"), "utf8"));
  return Object.entries({ ...dependencies, ...devDependencies }).every(([name, version]) => {
    const file = path.join(root, "node_modules", name, "package.json");
    return existsSync(file) && JSON.parse(readFileSync(file, "utf8")).version === version.replace(/^[^\d]*/, "");
  });
}

/**
 * Installs the packages of the lock file unless they are there already. Everything it says goes to standard error. Not `npm ci`: where npm records no
 * addresses, its lock leaves out other platforms' optional packages, and `ci` then calls the lock out of step.
 */
export function install() {
  requireNode();
  const wanted = hashOf(["package.json", "package-lock.json"]);
  if (readStamp("install") === wanted) return;
  if (holdsEverything()) {
    writeStamp("install", wanted);
    return;
  }
  process.stderr.write("Installing packages (once)...\n");
  const result = run("npm", ["install", "--no-save", "--no-audit", "--no-fund"], { quiet: true });
  if (!result.ok) giveUp(`The packages could not be installed:\n${result.output.slice(-3000)}`);
  writeStamp("install", wanted);
}

const built = ["package-lock.json", "src", "public", "drizzle", "next.config.ts", "tsconfig.json", "scripts/lib"];

/** Builds the app unless the last build was of these very files. */
export function build() {
  const wanted = hashOf(built);
  if (readStamp("build") === wanted && existsSync(path.join(root, ".next", "BUILD_ID"))) return;
  process.stderr.write("Building (about half a minute, once)...\n");
  // A build that failed its type check leaves .next unusable, so the stamp goes first.
  rmSync(stampFile("build"), { force: true });
  const result = run(bin("next"), ["build"], { quiet: true });
  if (!result.ok) giveUp(`The build failed:\n${result.output.slice(-4000)}`);
  const worker = run(process.execPath, [path.join(root, "scripts", "lib", "serviceWorker.mjs")], { quiet: true });
  if (!worker.ok) giveUp(`The offline page's worker and the server's threads could not be built:\n${worker.output.slice(-4000)}`);
  writeStamp("build", wanted);
}

const programPlaces = ["/usr/bin", "/usr/local/bin", "/bin"];
const chromiumNames = ["chromium", "chromium-browser"];

/** The first of these programs that is on this machine, or undefined. */
function findProgram(names) {
  return programPlaces.flatMap((place) => names.map((name) => path.join(place, name))).find((file) => existsSync(file));
}

/** Debian's packages by name, installed with apt. @returns what apt said */
function aptInstall(packages) {
  process.stderr.write(`Installing ${packages.join(", ")} with apt (once)...\n`);
  const sudo = process.getuid?.() === 0 ? [] : ["sudo", "-n"];
  const apt = (...args) => {
    const [command, ...rest] = [...sudo, "apt-get", ...args];
    return run(command, rest, { quiet: true, env: { DEBIAN_FRONTEND: "noninteractive" } });
  };
  apt("update", "-qq");
  return apt("install", "-y", "-qq", ...packages).output;
}

/** What the tests use from outside besides Chromium: a circuit simulator, a reader of PDF files and a pitch tracker. Program, then Debian's package. */
const OUTSIDE = { ngspice: "ngspice", pdftotext: "poppler-utils", aubiopitch: "aubio-tools" };

/** A reader and writer of the drawing exchange format that the tests compare with where it can be had. */
const DRAWING_READER = { file: "/usr/lib/python3/dist-packages/ezdxf/__init__.py", package: "python3-ezdxf" };

/** Debian's Chromium and the tests' outside tools, installed with apt where missing. @returns Chromium's path */
export function testTools() {
  const chromium = () => (process.env.CHROMIUM_PATH && existsSync(process.env.CHROMIUM_PATH) ? process.env.CHROMIUM_PATH : findProgram(chromiumNames));
  const missing = () => Object.keys(OUTSIDE).filter((program) => !findProgram([program]));
  const wanted = [
    ...(chromium() ? [] : ["chromium"]),
    ...missing().map((program) => OUTSIDE[program]),
    ...(existsSync(DRAWING_READER.file) ? [] : [DRAWING_READER.package]),
  ];
  const said = wanted.length > 0 ? aptInstall(wanted) : "";
  // The second engine. Where it cannot be had, what is tried on it is skipped and says so loudly.
  if (!existsSync("/usr/lib/postgresql")) aptInstall(["postgresql"]);
  if (!chromium()) {
    giveUp(
      `Chromium is needed for the end-to-end tests and could not be installed.\nInstall it by hand (apt-get install chromium) or set CHROMIUM_PATH to a Chromium you have.\n${said.slice(-800)}`,
    );
  }
  if (missing().length > 0) {
    giveUp(
      `The tests check results with ${missing().join(" and ")}, which could not be installed.\nInstall by hand: apt-get install ${missing()
        .map((program) => OUTSIDE[program])
        .join(" ")}\n${said.slice(-800)}`,
    );
  }
  return chromium();
}
