import { z } from "zod";
import { itemSchema } from "@/core/drawer/items";
import { endpoint, fileText, idSchema, nothing, revisionSchema, unreadableRow } from "../kernel/endpoint";

/** A drawer item as the API carries it. */
export const drawerRow = z.object({ id: idSchema, item: itemSchema, revision: revisionSchema });
export type DrawerRow = z.output<typeof drawerRow>;

/** What a line of a CSV file would become, or why it is not taken. */
const csvRow = z.discriminatedUnion("status", [
  z.object({ line: z.int(), status: z.literal("new"), item: itemSchema }),
  z.object({ line: z.int(), status: z.literal("change"), item: itemSchema, id: idSchema, changed: z.array(z.string()) }),
  z.object({ line: z.int(), status: z.literal("same"), item: itemSchema, id: idSchema }),
  z.object({ line: z.int(), status: z.literal("refused"), column: z.string(), message: z.string(), name: z.string() }),
]);
const one = z.object({ row: drawerRow });
const rows = z.object({ rows: z.array(csvRow) });

export const DRAWER = {
  list: endpoint(nothing, z.object({ items: z.array(drawerRow), unreadable: z.array(unreadableRow) })),
  add: endpoint(z.strictObject({ item: itemSchema }), one),
  save: endpoint(z.strictObject({ revision: revisionSchema, item: itemSchema }), one),
  remove: endpoint(nothing, z.object({})),
  restore: endpoint(nothing, one),
  preview: endpoint(fileText, rows),
  importFile: endpoint(fileText, rows),
};
