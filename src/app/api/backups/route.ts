import { database } from "@/server/kernel/db/client";
import { mutation, query } from "@/server/kernel/http";
import { listBackups, nameFor, writeBackup } from "@/server/rooms/keeping/store";

export const GET = query(async () => Response.json({ backups: listBackups() }));

export const POST = mutation(async () => Response.json({ backup: await writeBackup(await database(), nameFor("by-hand")) }, { status: 201 }));
