import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { z } from "zod";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import { exportDesign } from "../cutters/design/fileFormat";
import type { Design } from "../cutters/design/schema";
import { entriesToJson } from "../log/files";
import { netlistOf } from "../sheets/netlist";
import { canonical } from "./canonical";
import { guardCell, unguardCell } from "./csv";
import { type DocumentKind, readDocument, readDocumentText, writeDocument } from "./document";
import { drawingToSvg } from "./drawing";
import { CoreError } from "./errors";
import { mergerOf } from "./merge";
import { parseOrThrow } from "./parse";
import { readRow } from "./rowDocument";
import { VERSION, WRITTEN_BY } from "./version";

describe("the program's version", () => {
  it("is the package's, and is in every file that can say who wrote it", () => {
    expect(JSON.parse(readFileSync("package.json", "utf8")).version).toBe(VERSION);
    expect(JSON.parse(exportDesign(DEMO_CUTTERS[0] as Design)).writtenBy).toBe(WRITTEN_BY);
    expect(JSON.parse(entriesToJson("Long Tom", [])).writtenBy).toBe(WRITTEN_BY);
    expect(netlistOf(DEMO_CUTTERS[0] as Design)).toContain(WRITTEN_BY);
    expect(drawingToSvg({ title: "t", width: 10, height: 10, shapes: [] })).toContain(WRITTEN_BY);
    expect(readFileSync("CHANGELOG.md", "utf8")).toContain(`## ${VERSION}`);
  });
});

describe("canonical JSON", () => {
  it("reads equal values equal in any order of their keys, and different ones different", () => {
    fc.assert(
      fc.property(fc.dictionary(fc.string(), fc.jsonValue()), (value) => {
        const turned = Object.fromEntries(Object.entries(value).reverse());
        expect(canonical(turned)).toBe(canonical(value));
        expect(canonical({ ...value, stray: 1 })).not.toBe(canonical({ ...value, stray: 2 }));
      }),
    );
    expect(canonical(undefined)).toBe("undefined");
    expect(canonical([{ b: 1, a: new Uint8Array(3) }])).toBe('[{"a":3,"b":1}]');
  });
});

describe("a value of another kind than asked", () => {
  const schema = z.strictObject({
    foam: z.strictObject({ family: z.enum(["eps", "xps"]), density: z.number().min(5).max(60).optional() }),
    cells: z.array(z.int()).min(2).max(3),
    name: z.string().min(2).optional(),
    on: z.boolean().optional(),
    own: z.string({ error: "must be a name of this app" }).optional(),
  });
  const good = { foam: { family: "eps" }, cells: [1, 2] };
  const said = (value: unknown, prefix?: string) => {
    try {
      return parseOrThrow(schema, value, prefix);
    } catch (error) {
      return error instanceof CoreError ? [error.code, error.path, error.message] : error;
    }
  };
  it.each([
    [{ ...good, foam: "eps" }, ["wrong-type", "foam", "foam must be an object with named values"]],
    [{ cells: [1, 2] }, ["missing-key", "foam", "foam is required"]],
    [{ ...good, foam: { family: "wool" } }, ["not-one-of", "foam.family", "foam.family must be one of eps, xps"]],
    [{ ...good, foam: { family: "eps", density: 4 } }, ["out-of-range", "foam.density", "foam.density must be at least 5"]],
    [{ ...good, foam: { family: "eps", density: 61 } }, ["out-of-range", "foam.density", "foam.density must be at most 60"]],
    [{ ...good, foam: { family: "eps", density: "6" } }, ["wrong-type", "foam.density", "foam.density must be a number"]],
    [{ ...good, cells: 7 }, ["wrong-type", "cells", "cells must be a list"]],
    [{ ...good, cells: [1] }, ["out-of-range", "cells", "cells must be at least 2 entries long"]],
    [{ ...good, cells: [1, 2, 3, 4] }, ["out-of-range", "cells", "cells must be at most 3 entries long"]],
    [{ ...good, cells: [1, 2.5] }, ["wrong-type", "cells.1", "cells.1 must be a whole number"]],
    [{ ...good, name: "a" }, ["out-of-range", "name", "name must be at least 2 characters long"]],
    [{ ...good, name: 7 }, ["wrong-type", "name", "name must be text"]],
    [{ ...good, on: 1 }, ["wrong-type", "on", "on must be true or false"]],
    [{ ...good, own: 1 }, ["wrong-type", "own", "own must be a name of this app"]],
    [{ ...good, more: 1 }, ["unknown-key", "more", "more is not a known key"]],
    ["text", ["wrong-type", "", "what is given must be an object with named values"]],
    [undefined, ["missing-key", "", "what is given is required"]],
  ])("%j", (value, result) => expect(said(value)).toEqual(result));
  it("is named by its place in a list too, and what is right passes", () => {
    expect(said({ ...good, foam: 1 }, "entries.3")).toEqual(["wrong-type", "entries.3.foam", "entries.3.foam must be an object with named values"]);
    expect(said(good)).toEqual(good);
  });
});

describe("a cell that a spreadsheet would run", () => {
  it("is guarded, and any text reads back as it was", () => {
    for (const text of ["=1+1", "+44", "-x", "@a", "\t=", "'=a", "''=a", "it's", "'", "plain"]) {
      expect(guardCell(text)).not.toMatch(/^[=+\-@\t\r]/);
      expect(unguardCell(guardCell(text)), text).toBe(text);
    }
    fc.assert(fc.property(fc.stringMatching(/^'*[=+\-@a]?.*$/), (text) => unguardCell(guardCell(text)) === text));
  });

  it("begins no formula behind any separator, whichever a region's spreadsheet cuts cells at", () => {
    expect(guardCell("a;=1+1")).toBe("a;'=1+1");
    expect(guardCell("a\t@x,\n-2")).toBe("a\t'@x,\n'-2");
    const text = fc.array(fc.constantFrom("=", "+", "-", "@", "'", ",", ";", "\t", "\n", "\r", "a", "1"), { maxLength: 14 }).map((letters) => letters.join(""));
    fc.assert(
      fc.property(text, (each) => {
        const guarded = guardCell(each);
        expect(unguardCell(guarded)).toBe(each);
        for (const separator of [",", ";", "\t", "\n", "\r"]) for (const cell of guarded.split(separator)) expect(cell).not.toMatch(/^[=+\-@]/);
      }),
      { numRuns: 2000 },
    );
  });
});

interface Note {
  format: "upwind-rod/note";
  version: 3;
  name: string;
  marks?: string[] | undefined;
}
const NOTE: DocumentKind<Note> = {
  format: "upwind-rod/note",
  version: 3,
  one: "note",
  maxCharacters: 400,
  schema: z.strictObject({ format: z.literal("upwind-rod/note"), version: z.literal(3), name: z.string().max(20), marks: z.array(z.string()).optional() }),
  upgrades: {
    1: (old) => ({ ...old, version: 2, name: (old as { title?: string }).title, title: undefined }),
    2: ({ title: _title, ...old }: { title?: unknown }) => ({ ...old, version: 3, marks: ["from 2"] }),
  },
};

describe("a kind of document", () => {
  it("is written and read back, and older versions rise one by one", () => {
    const note: Note = { format: "upwind-rod/note", version: 3, name: "Keel" };
    expect(readDocumentText(NOTE, writeDocument(NOTE, note))).toEqual(note);
    // Who wrote a file is in it, and in no document; anything but words there is refused like any stray key.
    expect(readDocument(NOTE, { ...note, writtenBy: "somebody else" })).toEqual(note);
    expect(() => readDocument(NOTE, { ...note, writtenBy: 7 })).toThrow(/writtenBy is not a known key/);
    expect(readDocument(NOTE, { format: "upwind-rod/note", version: 1, title: "Keel" })).toEqual({ ...note, marks: ["from 2"] });
  });

  it("refuses what is none of its kind, too new, too long, or no JSON, each by its own code", () => {
    const code = (work: () => unknown) => {
      try {
        work();
      } catch (error) {
        return (error as { code: string }).code;
      }
      return "nothing";
    };
    const at = (value: unknown) => code(() => readDocument(NOTE, value));
    expect(at([])).toBe("wrong-format");
    expect(at({ format: "upwind-rod/design", version: 1 })).toBe("wrong-format");
    for (const version of [0, 1.5, "3", undefined]) expect(at({ format: "upwind-rod/note", version })).toBe("wrong-format");
    expect(at({ format: "upwind-rod/note", version: 4 })).toBe("newer-format");
    expect(at({ format: "upwind-rod/note", version: 3, name: 7 })).toBe("wrong-type");
    expect(code(() => readDocumentText(NOTE, "{"))).toBe("bad-json");
    expect(code(() => readDocumentText(NOTE, " ".repeat(401)))).toBe("out-of-range");
    expect(code(() => readDocument({ ...NOTE, upgrades: {} }, { format: "upwind-rod/note", version: 1 }))).toBe("wrong-format");
  });

  it("as a row reads by the version next to it", () => {
    const kind = {
      one: "mark",
      version: 2,
      schema: z.strictObject({ mm: z.number() }),
      upgrades: { 1: (old: unknown) => ({ mm: 25.4 * (old as { inch: number }).inch }) },
    };
    expect(readRow(kind, { mm: 3 }, 2)).toEqual({ mm: 3 });
    expect(readRow(kind, { inch: 1 }, 1)).toEqual({ mm: 25.4 });
    expect(() => readRow(kind, { mm: 3 }, 3)).toThrow(/newer Upwind Rod/);
    expect(() => readRow(kind, { mm: "3" }, 2)).toThrow(/mm/);
    expect(() => readRow({ ...kind, upgrades: {} }, {}, 1)).toThrow(/no longer reads version 1/);
  });
});

describe("two people's changes of one document", () => {
  interface Boat {
    version: number;
    name: string;
    hull: { length: number; beam: number; paint?: string };
    mast: { height: number; rake: number; wood: string };
    sail: string;
    sheet: string;
  }
  const { same, merge, rebase } = mergerOf<Boat>({
    version: null,
    name: "name",
    hull: { each: { length: "length", beam: "beam", paint: "paint" } },
    mast: { groups: { mast: "rest", rake: ["rake"] } },
    sail: { label: "rig", with: ["sheet"] },
    sheet: null,
  });
  const base: Boat = { version: 1, name: "Sprat", hull: { length: 4, beam: 1 }, mast: { height: 5, rake: 2, wood: "ash" }, sail: "lug", sheet: "hemp" };

  it("are merged where they are of different parts, and conflicts are listed where they are not", () => {
    const mine = { ...base, hull: { ...base.hull, length: 5 }, mast: { ...base.mast, rake: 3 } };
    const theirs = { ...base, hull: { ...base.hull, beam: 2 }, mast: { ...base.mast, height: 6 } };
    expect(merge(base, mine, theirs)).toEqual({
      merged: { ...base, hull: { length: 5, beam: 2 }, mast: { height: 6, rake: 3, wood: "ash" } },
      withMine: { ...base, hull: { length: 5, beam: 2 }, mast: { height: 6, rake: 3, wood: "ash" } },
      clashes: [],
      theirs: ["beam", "mast"],
    });
    const conflict = merge(base, { ...base, sail: "gaff" }, { ...base, sheet: "wire" });
    expect(conflict.clashes).toEqual(["rig"]);
    // What changes together is taken together: never one's sail on the other's sheet.
    expect([conflict.merged.sail, conflict.merged.sheet]).toEqual(["lug", "wire"]);
    expect([conflict.withMine.sail, conflict.withMine.sheet]).toEqual(["gaff", "hemp"]);
  });

  it("that are the same change clash with nobody; a field taken away is a change", () => {
    const both = { ...base, name: "Smelt" };
    expect(merge(base, both, both).clashes).toEqual([]);
    const painted = { ...base, hull: { ...base.hull, paint: "red" } };
    expect(merge(painted, base, { ...painted, name: "Dab" }).merged).toEqual({ ...base, name: "Dab", hull: { ...base.hull, paint: undefined } });
    expect(same(base, { ...base, version: 2 })).toBe(true);
    expect(same(base, { ...base, hull: { ...base.hull, beam: 3 } })).toBe(false);
  });

  it("what others changed is laid over any other state as a merge would take it, and nothing else of it moves", () => {
    const two = fc.integer({ min: 1, max: 2 });
    const boat: fc.Arbitrary<Boat> = fc.record({
      version: fc.constant(1),
      name: fc.constantFrom("Sprat", "Dab"),
      hull: fc.record({ length: two, beam: two, paint: fc.constantFrom("red", "blue") }, { requiredKeys: ["length", "beam"] }),
      mast: fc.record({ height: two, rake: two, wood: fc.constantFrom("ash", "larch") }),
      sail: fc.constantFrom("lug", "gaff"),
      sheet: fc.constantFrom("hemp", "wire"),
    });
    fc.assert(
      fc.property(boat, boat, boat, (from, theirs, onto) => {
        const carried = rebase(from, theirs)(onto);
        expect(same(carried, merge(from, onto, theirs).merged)).toBe(true);
        expect(same(rebase(from, from)(onto), onto)).toBe(true);
      }),
    );
  });
});
