import type { MessagePort } from "node:worker_threads";
import { sendItems, task } from "../kernel/threadTask";
import { packSnapshot } from "../rooms/keeping/archivePacker";
import { readArchive } from "../rooms/keeping/archiveReader";

/** Tasks of the thread that packs and unpacks archives. */
export const pack = task(packSnapshot);
export const read = task(({ file, port }: { file: string; port: MessagePort }) => sendItems(port, readArchive(file)));
