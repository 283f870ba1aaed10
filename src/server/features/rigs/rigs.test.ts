import { execFileSync } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import type { PGlite } from "@electric-sql/pglite";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { newRig } from "@/core/rigs/rig";
import { readWhole, restoreInto } from "../../../../tests/helpers/archives";
import { removeFolders } from "../../../../tests/helpers/folders";
import { type Database, openDatabase } from "../../kernel/db/client";
import { verifyRows } from "../../kernel/db/verify";
import { writeTemporary } from "../backups/archiveFiles";
import { cutterRepository } from "../cutters/repository";
import { seedDemo } from "../demo/seedDemo";
import { bowsOf } from "./bows";
import { linkedDocuments, rigFile } from "./output";
import { rigRepository } from "./repository";

const folder = mkdtempSync(path.join(tmpdir(), "rigs-"));
const DROP = newRig("drop", "A board");

describe("kept rigs", () => {
  let opened: Awaited<ReturnType<typeof openDatabase>>;
  let db: Database;
  beforeAll(async () => {
    opened = await openDatabase(path.join(folder, "data"));
    db = opened.db;
    await seedDemo(db);
  });
  afterAll(async () => {
    await opened.close();
    removeFolders(folder);
  });
  const engine = () => (db as unknown as { $client: PGlite }).$client;
  const named = async (name: string) => {
    const row = (await rigRepository.list(db, { find: name, limit: 1 })).readable[0];
    if (!row) throw new Error(`no ${name}`);
    return row;
  };
  const text = async (id: string, as: "svg" | "dxf") => (await rigFile(db, id, { as, units: "metric" })).text();

  it("the demo's rigs hang their own cutters and cut their own plans; hand bows tell what they carry", async () => {
    const swing = await named("Long Tom on the swing arm");
    const { cutter, plan } = await linkedDocuments(db, swing.document);
    expect([cutter?.document.name, plan?.document.name]).toEqual(["Long Tom", "Carp's tail fin"]);
    expect((await cutterRepository.get(db, swing.document.cutter?.id as string)).document.name).toBe("Long Tom");
    const [bow] = await bowsOf(db, swing.id);
    expect(bow).toMatchObject({ name: "Long Tom on elastic" });
    expect(bow?.carriedN as number).toBeCloseTo(1.9 * 9.80665 - 0.03 * 520, 6);
    // One whose cutter is gone is used without it.
    const gone = await rigRepository.create(db, { ...DROP, cutter: { id: "00000000-0000-4000-8000-000000000000", name: "gone" } });
    expect(await linkedDocuments(db, gone.document)).toEqual({ cutter: null, plan: null });
    // Laid in once: not again, when somebody has put them all away.
    await seedDemo(db);
    expect((await cutterRepository.list(db)).readable).toHaveLength(5);
  });

  it("are given out at full size, and as a build sheet with the drawing to scale", async () => {
    const table = await named("Gatepost for discs");
    const svg = await text(table.id, "svg");
    // The disc's radius, 90 mm, at full size: a circle of points that far from its pin.
    expect(svg).toMatch(/<svg [^>]*width="[\d.]+mm"/);
    expect(svg).toContain("<title>wire</title>");
    const dxf = await text(table.id, "dxf");
    expect(dxf).toContain("LWPOLYLINE");
    const circle = [...svg.matchAll(/<path d="M([^"]+)Z"\/>/g)]
      .map(([, d = ""]) => d.split("L").map((point) => point.trim().split(" ").map(Number)))
      .find((points) => points.length > 80 && Math.max(...points.map(([x = 0]) => x)) - Math.min(...points.map(([x = 0]) => x)) > 170);
    const xs = circle?.map(([x = 0]) => x) ?? [];
    expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(180, 1);
    const pdf = path.join(folder, "sheet.pdf");
    writeFileSync(pdf, Buffer.from(await (await rigFile(db, (await named("Long Tom on the swing arm")).id, { as: "pdf", units: "metric" })).arrayBuffer()));
    const words = execFileSync("pdftotext", ["-layout", pdf, "-"], { encoding: "utf8" });
    expect(words).toMatch(/Drawn at 1 to \d+/);
    expect(words).toMatch(/Pivot: a bolt/);
    expect(words).toMatch(/licensed electrician/);
  });

  it("travel in an archive and come back as they were", async () => {
    const before = (await rigRepository.list(db)).readable;
    const archive = await writeTemporary(db, undefined, path.join(folder, "workshop"));
    expect((await readWhole(archive)).rigs).toHaveLength(before.length);
    await rigRepository.setDeleted(db, before[0]?.id as string, true);
    await restoreInto(db, archive);
    expect((await rigRepository.list(db)).readable).toEqual(before);
    expect(await verifyRows(engine())).toBeNull();
  });
});
