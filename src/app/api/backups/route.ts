import { listBackups, nameFor, writeBackup } from "@/server/backup/store";
import { database } from "@/server/db/client";
import { mutation, query } from "@/server/http";

export const GET = query(async () => Response.json({ backups: listBackups() }));

export const POST = mutation(async () => Response.json({ backup: await writeBackup(await database(), nameFor("by-hand")) }, { status: 201 }));
