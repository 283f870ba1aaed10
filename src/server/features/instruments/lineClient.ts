import { connect } from "node:net";
import { ServerError } from "../../kernel/errors";

const WAIT_MS = 1500;
const MOST_ANSWER = 4096;

/** Where an instrument listens. */
export interface InstrumentAddress {
  host: string;
  port: number;
}

/** Reads "host:port". @returns null where it is not one */
export function readAddress(text: string): InstrumentAddress | null {
  const found = /^(\[[0-9a-f:]+\]|[a-z0-9.-]+):(\d{1,5})$/i.exec(text.trim());
  const port = Number(found?.[2]);
  return found && port >= 1 && port <= 65535 ? { host: (found[1] as string).replace(/^\[|\]$/g, ""), port } : null;
}

/**
 * Says lines to an instrument and gives back one answer for each, over a connection of its own. Every line must ask something.
 * @throws ServerError `instrument` when it cannot be reached or does not answer in time
 */
export function queryInstrument({ host, port }: InstrumentAddress, lines: readonly string[]): Promise<string[]> {
  return new Promise((resolve, reject) => {
    const socket = connect({ host, port });
    let heard = "";
    const fail = (why: string) => {
      socket.destroy();
      reject(new ServerError("instrument", 502, `The instrument at ${host}:${port} ${why}.`));
    };
    socket.setTimeout(WAIT_MS, () => fail("does not answer"));
    socket.setEncoding("utf8");
    socket.on("error", () => fail("cannot be reached"));
    socket.on("connect", () => socket.write(`${lines.join("\n")}\n`));
    socket.on("data", (chunk: string) => {
      heard += chunk;
      if (heard.length > MOST_ANSWER) {
        fail("answers too much");
        return;
      }
      const answers = heard.split(/\r?\n/);
      if (answers.length > lines.length) {
        socket.end();
        resolve(answers.slice(0, lines.length));
      }
    });
    socket.on("end", () => fail("hung up before it answered"));
  });
}
