import { describe, expect, it } from "vitest";
import { readOnce } from "@/server/kernel/readOnce";

describe("stored documents read once", () => {
  it("hands out one frozen document a text, and reads a changed text again", () => {
    let reads = 0;
    const read = readOnce((value) => {
      reads += 1;
      return value as { size: { mm: number } };
    });
    const first = read('{"size":{"mm":1}}');
    expect(read('{"size":{"mm":1}}')).toBe(first);
    expect(reads).toBe(1);
    expect(read('{"size":{"mm":2}}').size.mm).toBe(2);
    expect(() => {
      first.size.mm = 3;
    }).toThrow(TypeError);
  });

  it("forgets what was longest unused, and remembers no failure", () => {
    const seen: unknown[] = [];
    const read = readOnce((value) => {
      seen.push(value);
      if (value === 0) throw new Error("no");
      return { value };
    }, 2);
    for (const text of ["1", "2", "1", "3", "1", "2"]) read(text);
    expect(seen).toEqual([1, 2, 3, 2]);
    for (let i = 0; i < 2; i++) expect(() => read("0")).toThrow("no");
    expect(seen).toEqual([1, 2, 3, 2, 0, 0]);
  });
});
