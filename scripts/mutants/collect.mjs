// Stands in for "vitest" where mutants are tried in one process: describe and it only gather, expect is Vitest's own. What a module's tests do not use is not here, and says so when it is asked for.
import { ASYMMETRIC_MATCHERS_OBJECT, getState, JestAsymmetricMatchers, JestChaiExpect, JestExtend, setState } from "@vitest/expect";
import * as chai from "chai";

chai.use(JestExtend);
chai.use(JestChaiExpect);
chai.use(JestAsymmetricMatchers);

export function expect(value, message) {
  return chai.expect(value, message);
}
Object.assign(expect, chai.expect, globalThis[ASYMMETRIC_MATCHERS_OBJECT]);
expect.getState = () => getState(expect);
expect.unreachable = (message = "reached what should not be") => chai.assert.fail(message);
setState(
  { assertionCalls: 0, isExpectingAssertions: false, isExpectingAssertionsError: null, expectedAssertionsNumber: null, expectedAssertionsNumberErrorGen: null },
  expect,
);

/** Every test met so far: {id, fileName, name, run}. */
export const tests = [];
/** The suites that are open, outermost first: {name, before, after}. */
let open = [];
let fileName = "";
let ofFile = 0;

/** Begins a file: what is gathered from now on is its own. */
export function begin(name) {
  fileName = name;
  ofFile = 0;
  open = [{ name: "", before: [], after: [] }];
}

function suite(name, body) {
  open.push({ name: String(name), before: [], after: [] });
  body();
  open.pop();
}
function single(name, body) {
  const within = [...open];
  const title = [...within.map((each) => each.name), String(name)].filter(Boolean).join(" ");
  tests.push({
    id: `${fileName}#${title}#${ofFile++}`,
    fileName,
    name: title,
    /** What is before all of a suite's tests: done once, and no part of the time that a test takes. */
    async prepare() {
      for (const { before } of within) for (const hook of before) if (hook.once) await hook();
    },
    async run() {
      for (const { before } of within) for (const hook of before) await hook();
      try {
        await body();
      } finally {
        for (const { after } of [...within].reverse()) for (const hook of after) await hook();
      }
    },
  });
}
const each = (one) => (table) => (name, body) => {
  for (const row of table) one(name, () => body(...(Array.isArray(row) ? row : [row])));
};
const passedOver = () => undefined;
const many = (one) =>
  Object.assign(one, { each: each(one), skip: passedOver, skipIf: (skip) => (skip ? passedOver : one), runIf: (so) => (so ? one : passedOver) });
export const describe = many(suite);
export const it = many(single);
export const beforeEach = (hook) => open.at(-1).before.push(hook);
export const afterEach = (hook) => open.at(-1).after.push(hook);
/** Once, at the first test that needs it, while nothing is broken: the first run tries every test whole. */
export const beforeAll = (hook) => {
  let done;
  const once = () => {
    done ??= hook();
    return done;
  };
  open.at(-1).before.push(Object.assign(once, { once: true }));
};
/** What is left behind goes with the process. */
export const afterAll = passedOver;
export const vi = new Proxy({}, { get: (_, name) => () => chai.assert.fail(`vi.${String(name)}: not in one process`) });
