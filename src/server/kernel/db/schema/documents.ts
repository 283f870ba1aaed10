import { index, pgTable } from "drizzle-orm/pg-core";
import type { DocumentId } from "@/core/kernel/documentIds";
import { documentColumns } from "./documentColumns";

const documentTable = <Id extends DocumentId>(id: Id) => pgTable(id, documentColumns(), (table) => [index(`${id}_updated_at`).on(table.updatedAt)]);

/** The tables of all kinds of document: one versioned document a row. A new kind's is named here for its migration. */
export const cutters = documentTable("cutters");
export const plans = documentTable("plans");
export const rigs = documentTable("rigs");
export const DOCUMENT_TABLES = { cutters, plans, rigs } satisfies { [Id in DocumentId]: unknown };
