import { DOCUMENT_NAMES } from "@/core/kernel/documentIds";

/** What one thing of a room is called. */
const THINGS: Readonly<Record<string, string>> = {
  ...Object.fromEntries(Object.entries(DOCUMENT_NAMES).map(([id, { one }]) => [id, `a ${one}`])),
  drawer: "a thing in the drawer",
};
const ID = /^[0-9a-f]{8}-[0-9a-f-]{27}$/i;

/**
 * What a change of this address was, in words for those who keep the workshop; null for what is no action, such as a look at a file before it is taken in.
 * @returns what was done, and the id of what it was done to where that is one thing
 */
export function auditEntry(method: string, pathname: string): { did: string; on: string | null } | null {
  const [, , room = "", ...rest] = pathname.split("/");
  const on = rest[0] !== undefined && ID.test(rest[0]) ? rest[0] : null;
  const word = on ? rest[1] : rest[0];
  if (rest.includes("preview") || room === "access") return null;
  if (room === "backups") return { did: word === "restore" ? "put a backup back" : "made a backup", on: null };
  if (room === "run") return word === undefined ? { did: "began a run", on: null } : null;
  const thing = THINGS[room];
  if (!thing) return null;
  if (word === "log") return { did: `${inLog(method, rest[2])} the log of`, on };
  if (word === "photos") return { did: "added a picture to the log of", on };
  if (word === "duplicate") return { did: `copied ${thing}`, on };
  if (word === "restore") return { did: `brought back ${thing}`, on };
  if (word === "import") return { did: `took in ${thing} from a file`, on: null };
  if (method === "DELETE") return { did: `archived ${thing}`, on };
  return { did: method === "PUT" ? `changed ${thing}` : `made ${thing}`, on };
}

function inLog(method: string, entry: string | undefined): string {
  if (entry === undefined) return "wrote into";
  if (entry === "import") return "took entries into";
  return method === "DELETE" ? "struck an entry out of" : "put right an entry in";
}
