import { parentPort, workerData } from "node:worker_threads";
import { RunRefusal } from "@/core/motion/controller/runSession";
import { programLines } from "@/core/motion/program/lines";
import type { LineReply, LineRequest } from "../features/run/lineProtocol";
import { RunLine } from "../features/run/runLine";

/** The thread of a run's line: it receives commands, replies to each, and reports its state and its journal. */
const port = parentPort;
if (!port) throw new Error("this file runs in a worker thread");
const { address, presenceMs } = workerData as { address: string | undefined; presenceMs: number };
const send = (reply: LineReply) => port.postMessage(reply);
const line = new RunLine(address, presenceMs, (note) => send({ kind: "note", note }));

port.on("message", ({ seq, command, text }: LineRequest) => {
  try {
    // A program comes as its bytes, so that sending it copies nothing.
    const whole = command.do === "start" && text ? { ...command, start: { ...command.start, lines: programLines(new TextDecoder().decode(text)) } } : command;
    send({ kind: "reply", seq, state: line.act(whole) });
  } catch (error) {
    if (!(error instanceof RunRefusal)) throw error;
    send({ kind: "refusal", seq, code: error.code, message: error.message, state: line.state });
  }
  if (command.do === "close") send({ kind: "closed" });
});

const STATE_EVERY_MS = 100;
const report = () => send({ kind: "state", state: line.state });
// The first says that commands are received.
report();
setInterval(report, STATE_EVERY_MS);
