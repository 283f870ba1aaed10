import { describe, expect, it } from "vitest";
import { logEvent, logFault } from "./log";

/** What was written, read as anyone who looks after a server reads it: a line of JSON each. */
function lines(work: () => void): Record<string, unknown>[] {
  const { error } = console;
  const written: string[] = [];
  console.error = (line: string) => written.push(line);
  try {
    work();
  } finally {
    console.error = error;
  }
  return written.map((line) => JSON.parse(line) as Record<string, unknown>);
}

describe("the server's own output", () => {
  it("is a line of JSON for each event: when, what, figures", () => {
    const before = Date.now();
    const [line] = lines(() => logEvent("stopped", { upSeconds: 4, accessMode: "open", whole: true }));
    expect(line).toMatchObject({ event: "stopped", upSeconds: 4, accessMode: "open", whole: true });
    expect(Date.parse(String(line?.at))).toBeGreaterThanOrEqual(before - 1);
    expect(Object.keys(lines(() => logEvent("started"))[0] as object)).toEqual(["at", "event"]);
  });

  it("a fault is logged by its kind, the database's code and where it arose; never by its message", () => {
    const cause = Object.assign(new RangeError("params: Long Tom"), { code: "23505", routine: "_bt_check_unique" });
    const fault = new Error("insert into cutters values ('Long Tom')", { cause });
    const [line] = lines(() => logFault(fault));
    expect(line).toMatchObject({ event: "fault", kinds: ["Error", "RangeError 23505 _bt_check_unique"] });
    const where = line?.where as string[];
    expect(where.length).toBeGreaterThan(0);
    expect(where.length).toBeLessThanOrEqual(6);
    for (const place of where) expect(place).toMatch(/^at \S/);
    expect(JSON.stringify(line)).not.toContain("Long Tom");
    expect(lines(() => logFault(fault, { withPlace: false }))[0]).not.toHaveProperty("where");
  });

  it("a message that looks like a place is none; what has no stack has no place", () => {
    const sly = new Error("first\nat Long Tom's bench\nlooked at Long Tom");
    expect(JSON.stringify(lines(() => logFault(sly)))).not.toContain("Long Tom");
    const bare = new Error("x");
    delete (bare as { stack?: string }).stack;
    expect(lines(() => logFault(bare))[0]?.where).toEqual([]);
  });

  it("a thrown value that is no error is logged by its type; causes are followed four deep and no further", () => {
    expect(lines(() => logFault("Long Tom"))[0]).toEqual({ at: expect.any(String), event: "fault", kinds: ["string"] });
    expect(lines(() => logFault(null))[0]?.kinds).toEqual(["object"]);
    let deep = new Error("0");
    for (let i = 0; i < 6; i++) deep = new Error(String(i), { cause: deep });
    expect(lines(() => logFault(deep))[0]?.kinds).toEqual(["Error", "Error", "Error", "Error"]);
    expect(lines(() => logFault(Object.assign(new Error("x"), { code: 7, routine: 7 })))[0]?.kinds).toEqual(["Error"]);
  });
});
