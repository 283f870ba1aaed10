import { createHash } from "node:crypto";
import { asc, eq } from "drizzle-orm";
import { unzipSync, Zip, ZipDeflate, ZipPassThrough } from "fflate";
import { z } from "zod";
import { migrateDesign } from "@/core/cutters/design/fileFormat";
import { ITEM_KIND } from "@/core/drawer/items";
import { readDocument } from "@/core/kernel/document";
import { CoreError } from "@/core/kernel/errors";
import { toCoreError } from "@/core/kernel/parse";
import { readRow } from "@/core/kernel/rowDocument";
import { WRITTEN_BY } from "@/core/kernel/version";
import { ENTRY_KIND } from "@/core/log/entries";
import { photoType } from "@/core/log/photo";
import { PLAN_KIND } from "@/core/plans/plan";
import { RIG_DOCUMENT } from "@/core/rigs/rig";
import type { Database } from "../../kernel/db/client";
import type { AskRows } from "../../kernel/db/migrations";
import { cutters, drawerItems, logEntries, photos, plans, rigs, workshop } from "../../kernel/db/schema";

export const BACKUP_FORMAT = "upwind-rod/backup";
/** Version 2 has plans, version 3 rigs, version 4 who changed what: an archive of an older one has none. Phrases, members and sessions are in none: an archive is given out. */
const BACKUP_VERSION = 4;
/** Most bytes of an archive that is read back, packed and unpacked. */
export const MAX_ARCHIVE_BYTES = 512 * 1024 * 1024;
const MAX_UNPACKED_BYTES = 1024 * 1024 * 1024;

const time = z.iso.datetime({ offset: true, error: "must be a date and time" });
const id = z.uuid({ error: "must be an id" });
const revision = z.int({ error: "must be a whole number" }).min(1).max(2_000_000_000);
const document = z.record(z.string(), z.unknown(), { error: "must be a document" });

/** Archives of the versions before knew nobody by name. */
const changedBy = z.string().max(200).nullable().default(null);

const cutterRow = z.strictObject({
  id,
  name: z.string().max(400),
  formatVersion: z.int(),
  design: document,
  revision,
  createdAt: time,
  updatedAt: time,
  changedBy,
  deletedAt: time.nullable(),
});
const planRow = z.strictObject({
  id,
  name: z.string().max(400),
  formatVersion: z.int(),
  plan: document,
  revision,
  createdAt: time,
  updatedAt: time,
  changedBy,
  deletedAt: time.nullable(),
});
const rigRow = z.strictObject({
  id,
  name: z.string().max(400),
  formatVersion: z.int(),
  rig: document,
  revision,
  createdAt: time,
  updatedAt: time,
  changedBy,
  deletedAt: time.nullable(),
});
const drawerRow = z.strictObject({
  id,
  kind: z.string().max(40),
  name: z.string().max(400),
  nameKey: z.string().max(500),
  item: document,
  /** Archives of the version before had none. */
  formatVersion: z.number().int().min(1).default(1),
  revision,
  createdAt: time,
  updatedAt: time,
  changedBy,
  deletedAt: time.nullable(),
});
const logRow = z.strictObject({
  id,
  cutterId: id,
  kind: z.string().max(40),
  at: time,
  entry: document,
  formatVersion: z.number().int().min(1).default(1),
  revision,
  changedBy,
  createdAt: time,
});
const photoRow = z.strictObject({ id, cutterId: id, type: z.string().max(40), createdAt: time });
const factRow = z.strictObject({ key: z.string().max(200), value: z.string().max(10_000), at: time });

const manifestSchema = z.strictObject({
  format: z.literal(BACKUP_FORMAT, { error: `must be "${BACKUP_FORMAT}"` }),
  version: z.number({ error: "must be a number" }),
  writtenBy: z.string().max(100).optional(),
  made: time,
  /** SHA-256 of every other file in the archive, hex. */
  sums: z.record(z.string(), z.string()),
});

/** Everything a workshop holds, rows as the database has them. */
export interface Archive {
  made: string;
  cutters: z.output<typeof cutterRow>[];
  plans: z.output<typeof planRow>[];
  rigs: z.output<typeof rigRow>[];
  drawer: z.output<typeof drawerRow>[];
  log: z.output<typeof logRow>[];
  photos: (z.output<typeof photoRow> & { bytes: Uint8Array })[];
  facts: z.output<typeof factRow>[];
}

type Reader = Pick<Database, "select">;

/** A slice of text handed to the packer at once: between slices others get their turn. */
const SLICE_BYTES = 256 * 1024;
const pause = () => new Promise<void>((resolve) => setImmediate(resolve));

/** Kinds of rows in an archive, each a file of it, and the pictures' own bytes. */
const PARTS = ["cutters", "plans", "rigs", "drawer", "log", "facts", "photos"] as const;
interface Rows {
  of: (part: (typeof PARTS)[number]) => Promise<Record<string, unknown>[]>;
  picture: (id: string) => Promise<Uint8Array | null>;
}

/** The rows of tables as this program knows them. */
const rowsOf = (db: Reader): Rows => ({
  of: async (part) => {
    switch (part) {
      case "cutters":
        return db.select().from(cutters).orderBy(asc(cutters.id));
      case "plans":
        return db.select().from(plans).orderBy(asc(plans.id));
      case "rigs":
        return db.select().from(rigs).orderBy(asc(rigs.id));
      case "drawer":
        return db.select().from(drawerItems).orderBy(asc(drawerItems.id));
      case "log":
        return db.select().from(logEntries).orderBy(asc(logEntries.id));
      case "facts":
        return db.select().from(workshop).orderBy(asc(workshop.key));
      case "photos":
        return db.select({ id: photos.id, cutterId: photos.cutterId, type: photos.type, createdAt: photos.createdAt }).from(photos).orderBy(asc(photos.id));
    }
  },
  picture: async (id) => (await db.select({ bytes: photos.bytes }).from(photos).where(eq(photos.id, id)))[0]?.bytes ?? null,
});

const TABLES: Readonly<Record<(typeof PARTS)[number], { table: string; key: string; schema: z.ZodObject }>> = {
  cutters: { table: "cutters", key: "id", schema: cutterRow },
  plans: { table: "plans", key: "id", schema: planRow },
  rigs: { table: "rigs", key: "id", schema: rigRow },
  drawer: { table: "drawer_items", key: "id", schema: drawerRow },
  log: { table: "log_entries", key: "id", schema: logRow },
  facts: { table: "workshop", key: "key", schema: factRow },
  photos: { table: "photos", key: "id", schema: photoRow },
};
const camel = (name: string) => name.replace(/_([a-z])/g, (_, letter: string) => letter.toUpperCase());

/** The rows of tables as an older program left them: what it had no table for is empty, and what it had no column for stands as that column began. */
const rowsBefore = (ask: AskRows): Rows => {
  const there = async (table: string) => (await ask("select to_regclass($1)::text as answer", [`public.${table}`]))[0]?.answer !== null;
  return {
    of: async (part) => {
      const { table, key, schema } = TABLES[part];
      if (!(await there(table))) return [];
      const rows = await ask(`select * from "${table}" order by "${key}"`);
      const wanted = Object.keys(schema.shape);
      return rows.map((row) => {
        const own = Object.fromEntries(Object.entries(row).map(([name, value]) => [camel(name), value]));
        return Object.fromEntries(wanted.map((name) => [name, own[name] ?? (name === "revision" || name === "formatVersion" ? 1 : null)]));
      });
    },
    picture: async (id) => {
      const [row] = await ask("select bytes from photos where id = $1", [id]);
      return row ? new Uint8Array(row.bytes as Uint8Array) : null;
    },
  };
};

/** Everything a database of an older program holds, packed as this program packs: it is what can be put back should bringing it up to date fail. */
export const packBefore = (ask: AskRows, made: string): AsyncGenerator<Uint8Array> => pack(rowsBefore(ask), made);

/** Reads everything there is, deleted things too, and packs it piece by piece. Read it inside one transaction, so that all of it is of one moment. */
export const packWorkshop = (db: Reader, made: string): AsyncGenerator<Uint8Array> => pack(rowsOf(db), made);

async function* pack(rows: Rows, made: string): AsyncGenerator<Uint8Array> {
  const ready: Uint8Array[] = [];
  let failed: Error | null = null;
  const zip = new Zip((error, chunk) => {
    if (error) failed = error;
    else ready.push(chunk);
  });
  const sums: Record<string, string> = {};
  const take = function* () {
    if (failed) throw failed;
    yield* ready.splice(0);
  };
  async function* add(name: string, bytes: Uint8Array, packed: boolean): AsyncGenerator<Uint8Array> {
    if (name !== "manifest.json") sums[name] = createHash("sha256").update(bytes).digest("hex");
    const file = packed ? new ZipDeflate(name, { level: 3 }) : new ZipPassThrough(name);
    // The same moment for all, so that equal workshops make equal archives.
    file.mtime = new Date(made);
    zip.add(file);
    for (let at = 0; at < bytes.length || at === 0; at += SLICE_BYTES) {
      const last = at + SLICE_BYTES >= bytes.length;
      file.push(bytes.subarray(at, at + SLICE_BYTES), last);
      yield* take();
      await pause();
      if (last) break;
    }
  }
  const json = (part: unknown) => Buffer.from(`${JSON.stringify(part, null, 1)}\n`);
  for (const part of PARTS) {
    const own = await rows.of(part);
    yield* add(`${part}.json`, json(own), true);
    if (part !== "photos") continue;
    for (const { id: picture } of own) {
      const bytes = await rows.picture(picture as string);
      if (bytes) yield* add(`photos/${picture as string}`, bytes, false);
    }
  }
  yield* add("manifest.json", json({ format: BACKUP_FORMAT, version: BACKUP_VERSION, writtenBy: WRITTEN_BY, made, sums }), true);
  zip.end();
  yield* take();
}

const bad = (path: string, message: string) => new CoreError("wrong-format", path, message);

/** Every row's document as its own kind reads it: an archive is a file from outside like any other. */
function judgeDocuments(archive: Archive): void {
  const within = (where: string, work: () => void) => {
    try {
      work();
    } catch (error) {
      const told = error instanceof z.ZodError ? toCoreError(error) : error;
      if (told instanceof CoreError) throw new CoreError(told.code, `${where}.${told.path}`, `${where}: ${told.message}`);
      throw told;
    }
  };
  for (const [i, row] of archive.cutters.entries()) within(`cutters.json[${i}]`, () => migrateDesign(row.design));
  for (const [i, row] of archive.plans.entries()) within(`plans.json[${i}]`, () => readDocument(PLAN_KIND, row.plan));
  for (const [i, row] of archive.rigs.entries()) within(`rigs.json[${i}]`, () => readDocument(RIG_DOCUMENT, row.rig));
  for (const [i, row] of archive.drawer.entries()) within(`drawer.json[${i}]`, () => readRow(ITEM_KIND, row.item, row.formatVersion));
  const owners = new Set(archive.cutters.map((row) => row.id));
  for (const [i, row] of archive.log.entries()) {
    within(`log.json[${i}]`, () => readRow(ENTRY_KIND, row.entry, row.formatVersion));
    if (!owners.has(row.cutterId)) throw bad(`log.json[${i}].cutterId`, `log.json[${i}] belongs to a cutter that is not in the archive`);
  }
  for (const [i, row] of archive.photos.entries()) {
    if (!owners.has(row.cutterId)) throw bad(`photos.json[${i}].cutterId`, `photos.json[${i}] belongs to a cutter that is not in the archive`);
    if (photoType(row.bytes) !== row.type) throw bad(`photos/${row.id}`, `photos/${row.id} is not the picture it is said to be`);
  }
}

/**
 * Reads an archive back, each part held against its sum.
 * @throws CoreError `wrong-format`, `newer-format` or `out-of-range` with the part at fault
 */
export function readArchive(bytes: Uint8Array): Archive {
  if (bytes.length > MAX_ARCHIVE_BYTES) throw new CoreError("out-of-range", "", `an archive has at most ${MAX_ARCHIVE_BYTES / 1048576} MB`);
  let unpacked = 0;
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(bytes, {
      filter: (file) => {
        unpacked += file.originalSize;
        if (unpacked > MAX_UNPACKED_BYTES) throw new CoreError("out-of-range", file.name, "the archive unpacks to more than a workshop can hold");
        return true;
      },
    });
  } catch (error) {
    if (error instanceof CoreError) throw error;
    throw bad("", "this is not an archive of a workshop, or it is cut short");
  }
  const parse = <T extends z.ZodType>(name: string, schema: T): z.output<T> => {
    const part = files[name];
    if (!part) throw bad(name, `the archive has no ${name}: it is cut short, or none of this program's`);
    let value: unknown;
    try {
      value = JSON.parse(Buffer.from(part).toString("utf8"));
    } catch {
      throw bad(name, `${name} is not readable`);
    }
    const result = schema.safeParse(value);
    if (!result.success) throw toCoreError(result.error, name);
    return result.data;
  };
  const manifest = parse("manifest.json", manifestSchema);
  if (manifest.version > BACKUP_VERSION)
    throw new CoreError("newer-format", "version", "this backup was made by a newer Upwind Rod: update this copy, then put it back");
  if (!Number.isInteger(manifest.version) || manifest.version < 1) throw bad("version", `version must be a whole number from 1 to ${BACKUP_VERSION}`);
  for (const name of Object.keys(files)) {
    if (
      name !== "manifest.json" &&
      manifest.sums[name] !==
        createHash("sha256")
          .update(files[name] as Uint8Array)
          .digest("hex")
    )
      throw bad(name, `${name} is not as it was written: the archive is damaged`);
  }
  for (const name of Object.keys(manifest.sums)) if (!(name in files)) throw bad(name, `${name} is missing from the archive`);
  const archive: Archive = {
    made: manifest.made,
    cutters: parse("cutters.json", z.array(cutterRow)),
    plans: manifest.version < 2 ? [] : parse("plans.json", z.array(planRow)),
    rigs: manifest.version < 3 ? [] : parse("rigs.json", z.array(rigRow)),
    drawer: parse("drawer.json", z.array(drawerRow)),
    log: parse("log.json", z.array(logRow)),
    facts: parse("facts.json", z.array(factRow)),
    photos: parse("photos.json", z.array(photoRow)).map((row) => {
      const picture = files[`photos/${row.id}`];
      if (!picture) throw bad(`photos/${row.id}`, `photos/${row.id} is missing from the archive`);
      return { ...row, bytes: picture };
    }),
  };
  judgeDocuments(archive);
  return archive;
}
