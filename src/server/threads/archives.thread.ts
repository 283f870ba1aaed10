import type { MessagePort } from "node:worker_threads";
import { packSnapshot } from "../features/backups/archivePacker";
import { readArchive } from "../features/backups/archiveReader";
import { sendItems, task } from "../kernel/threadTask";

/** Tasks of the thread that packs and unpacks archives. */
export const pack = task(packSnapshot);
export const read = task(({ file, port }: { file: string; port: MessagePort }) => sendItems(port, readArchive(file)));
