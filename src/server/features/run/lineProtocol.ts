import type { RunRefusal } from "@/core/motion/controller/runSession";
import type { JournalNote, LineCommand, LineState } from "./runLine";

/** From the server to the thread of the line: each gets a reply or a refusal with its number. `text` is a program's UTF-8 bytes, for `start`. */
export interface LineRequest {
  seq: number;
  command: LineCommand;
  text?: Uint8Array;
}

/** From the thread of the line to the server. */
export type LineReply =
  | { kind: "reply"; seq: number; state: LineState }
  | { kind: "refusal"; seq: number; code: RunRefusal["code"]; message: string; state: LineState }
  | { kind: "state"; state: LineState }
  | { kind: "note"; note: JournalNote }
  | { kind: "closed" };
