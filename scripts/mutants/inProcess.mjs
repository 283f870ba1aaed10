// A runner for Stryker that tries mutants in one process: the module's files and every unit test of the core are bundled and loaded once, and a mutant costs no more than the tests that reach it. The core keeps nothing
// between calls that a mutant could spoil unseen; what does is found, since the test that noticed is run again without the mutant, and must pass.
import { appendFileSync, existsSync, readFileSync, writeFileSync } from "node:fs";
import path from "node:path";
import { fileURLToPath, pathToFileURL } from "node:url";
import { INSTRUMENTER_CONSTANTS } from "@stryker-mutator/api/core";
import { commonTokens, declareClassPlugin, PluginKind } from "@stryker-mutator/api/plugin";
import { DryRunStatus, MutantRunStatus, TestStatus } from "@stryker-mutator/api/test-runner";
import { build } from "esbuild";
import fc from "fast-check";

const HERE = import.meta.dirname;
/** Tests that take longer than this, in ms, are for npm test alone: what only they would notice counts as unnoticed. All three times `--patience`. */
const LONGEST_MS = 1_000;
/** A mutant is tried by tests of its own module and then by others, each from the quickest on, for as long as they take no longer than this together, in ms, unbroken. */
const OWN_MS = 3_000;
const OTHERS_MS = 1_500;

/** Every test file of the sandbox, and what it imports, as modules that share what they have in common. */
async function bundle(entries, out) {
  await build({
    entryPoints: { ...entries, collect: path.join(HERE, "collect.mjs") },
    bundle: true,
    splitting: true,
    format: "esm",
    platform: "node",
    target: "node20",
    outdir: out,
    outExtension: { ".js": ".mjs" },
    packages: "external",
    banner: { js: 'import { createRequire as makeRequire } from "node:module"; const require = makeRequire(import.meta.url);' },
    logLevel: "error",
    alias: { "@": path.resolve("src"), vitest: path.join(HERE, "collect.mjs") },
    plugins: [
      {
        name: "place",
        setup: (build) => {
          // Its names are not to be seen from outside by a plain import.
          build.onResolve({ filter: /^peggy$/ }, () => ({ path: fileURLToPath(import.meta.resolve("peggy")) }));
          build.onLoad({ filter: /src[\\/].*\.ts$/ }, ({ path: file }) => ({
            contents: readFileSync(file, "utf8").replaceAll("import.meta.dirname", JSON.stringify(path.dirname(file))),
            loader: "ts",
          }));
        },
      },
    ],
  });
  writeFileSync(path.join(out, "made"), "");
}

/** A test file that takes no longer than this to read, in ms, is read again for each mutant: what it computes before its tests begin is computed by the mutant too. */
const READ_MS = 150;

class InProcess {
  static inject = [commonTokens.options];
  constructor(options) {
    this.options = options.inProcess;
    /** Tests by id. */
    this.tests = new Map();
    this.loaded = new Set();
    this.tried = 0;
    this.corrupt = false;
  }

  capabilities() {
    // It does not: what a mutant changes while modules load counts as unnoticed, as it does with static mutants that are passed over.
    return { reloadEnvironment: true };
  }

  async init() {
    this.instrumented = globalThis[INSTRUMENTER_CONSTANTS.NAMESPACE] ??= {};
    this.out = path.resolve("node_modules/.mutants", path.basename(process.cwd()));
    const entries = Object.fromEntries(this.options.tests.map((file, i) => [`t${i}`, path.resolve(file)]));
    // Processes that come later, after one that was stopped, find it made.
    if (!existsSync(path.join(this.out, "made"))) await bundle(entries, this.out);
    // A failing property is enough: what it shrinks to is of no use here.
    fc.configureGlobal({ endOnFailure: true });
    this.collect = await import(pathToFileURL(path.join(this.out, "collect.mjs")).href);
    // What a mutant breaks next to the test, such as in a socket's own time, would end this process: it is that test's failure.
    for (const event of ["uncaughtException", "unhandledRejection"]) process.on(event, (error) => this.aside?.(error));
  }
  /** Hears of what fails next to the test that is tried. */
  aside = null;

  /** Gathers a file's tests, the first time it is asked for. */
  async load(file) {
    if (this.loaded.has(file)) return;
    this.loaded.add(file);
    this.collect.begin(file);
    const from = this.collect.tests.length;
    await import(pathToFileURL(path.join(this.out, `t${this.options.tests.indexOf(file)}.mjs`)).href);
    for (const test of this.collect.tests.slice(from)) this.tests.set(test.id, test);
  }

  /** A file's tests by id, read again: its own lines run again, those of what it imports do not. */
  async again(file) {
    this.collect.begin(file);
    const from = this.collect.tests.length;
    try {
      await import(`${pathToFileURL(path.join(this.out, `t${this.options.tests.indexOf(file)}.mjs`)).href}?${this.readings++}`);
      return new Map(this.collect.tests.slice(from).map((test) => [test.id, test]));
    } finally {
      this.collect.tests.length = from;
    }
  }
  readings = 0;

  /** Which files are read again, and what each reaches as it is read, by file. */
  async reading() {
    const reached = {};
    for (const file of this.options.tests) {
      const id = `reading ${file}`;
      this.instrumented.currentTestId = id;
      const began = performance.now();
      await this.again(file);
      this.instrumented.currentTestId = undefined;
      const counts = this.instrumented.mutantCoverage?.perTest?.[id];
      delete this.instrumented.mutantCoverage?.perTest?.[id];
      this.light[file] = performance.now() - began <= READ_MS;
      if (this.light[file] && counts) reached[file] = counts;
    }
    return reached;
  }

  async dryRun() {
    const results = [];
    const known = this.times();
    for (const file of this.options.tests) await this.load(file);
    this.light = {};
    const reached = await this.reading();
    writeFileSync(path.join(this.out, "light.json"), JSON.stringify(this.light));
    for (const test of this.tests.values()) {
      const { id, name, fileName } = test;
      if (known[id] > LONGEST_MS * this.options.patience) continue;
      let failureMessage;
      let began = performance.now();
      try {
        this.instrumented.currentTestId = undefined;
        await test.prepare();
        this.instrumented.currentTestId = id;
        began = performance.now();
        await test.run();
      } catch (error) {
        failureMessage = String(error?.stack ?? error);
      }
      const timeSpentMs = performance.now() - began;
      known[id] = timeSpentMs;
      if (timeSpentMs > LONGEST_MS * this.options.patience) this.keep(known);
      if (failureMessage) results.push({ id, name, fileName, timeSpentMs, status: TestStatus.Failed, failureMessage });
      else if (timeSpentMs <= LONGEST_MS * this.options.patience) results.push({ id, name, fileName, timeSpentMs, status: TestStatus.Success });
    }
    this.instrumented.currentTestId = undefined;
    this.keep(known);
    const { perTest = {}, ...mutantCoverage } = this.instrumented.mutantCoverage ?? { static: {} };
    for (const { id, fileName } of results)
      for (const [mutant, count] of Object.entries(reached[fileName] ?? {})) {
        perTest[id] ??= {};
        perTest[id][mutant] = (perTest[id][mutant] ?? 0) + count;
      }
    const kept = results.filter(({ id }) => perTest[id]).map(({ id }) => [id, perTest[id]]);
    return { status: DryRunStatus.Complete, tests: results, mutantCoverage: { ...mutantCoverage, perTest: Object.fromEntries(kept) } };
  }

  /** How long each test took unbroken, in ms, by id: what the first run measured, this time or an earlier one. */
  times() {
    return existsSync(this.options.times) ? JSON.parse(readFileSync(this.options.times, "utf8")) : {};
  }

  keep(known) {
    writeFileSync(this.options.times, JSON.stringify(known));
  }

  /** Those of the tests asked for that a mutant is tried by, in order. */
  chosen(asked) {
    this.known ??= this.times();
    const tests = asked.map((id) => ({ id, own: id.startsWith(this.options.module), ms: this.known[id] ?? 0 })).sort((a, b) => a.ms - b.ms);
    const within = (mostMs, rows) => {
      let sum = 0;
      return rows.filter(({ ms }) => {
        sum += ms;
        return sum < mostMs;
      });
    };
    return [
      ...within(
        OWN_MS * this.options.patience,
        tests.filter(({ own }) => own),
      ),
      ...within(
        OTHERS_MS * this.options.patience,
        tests.filter(({ own }) => !own),
      ),
    ].map(({ id }) => id);
  }

  async mutantRun({ activeMutant, testFilter, hitLimit }) {
    if (this.corrupt) process.exit(1);
    this.tried++;
    let tried = 0;
    this.light ??= JSON.parse(readFileSync(path.join(this.out, "light.json"), "utf8"));
    const fresh = new Map();
    for (const id of this.chosen(testFilter ?? Object.keys(this.times()))) {
      const file = id.slice(0, id.indexOf("#"));
      await this.load(file);
      const test = this.tests.get(id);
      if (!test) continue;
      tried++;
      await test.prepare();
      Object.assign(this.instrumented, { activeMutant: activeMutant.id, hitCount: 0, hitLimit });
      let failureMessage;
      try {
        if (this.light[file] && !fresh.has(file)) fresh.set(file, await this.again(file));
        const beside = new Promise((_, reject) => {
          this.aside = reject;
        });
        await Promise.race([(fresh.get(file)?.get(id) ?? test).run(), beside]);
      } catch (error) {
        failureMessage = String(error?.message ?? error);
      }
      this.aside = null;
      const { hitCount } = this.instrumented;
      Object.assign(this.instrumented, { activeMutant: undefined, hitCount: undefined, hitLimit: undefined });
      if (hitLimit !== undefined && hitCount > hitLimit) return { status: MutantRunStatus.Timeout, reason: "went round without end" };
      if (failureMessage === undefined) continue;
      try {
        await test.run();
      } catch {
        // Something stays broken after the mutant is gone: what is tried next must not be judged by it. The mutant itself is tried again in a new process if others came before it.
        this.corrupt = true;
        appendFileSync(this.options.corrupt, `${activeMutant.fileName}:${activeMutant.location.start.line} spoilt ${test.id}\n`);
        if (this.tried > 1) process.exit(1);
      }
      return { status: MutantRunStatus.Killed, failureMessage, killedBy: [test.id], nrOfTests: tried };
    }
    return { status: MutantRunStatus.Survived, nrOfTests: tried };
  }
}

export const strykerPlugins = [declareClassPlugin(PluginKind.TestRunner, "in-process", InProcess)];
export const strykerValidationSchema = { type: "object", properties: { inProcess: { type: "object" } } };
