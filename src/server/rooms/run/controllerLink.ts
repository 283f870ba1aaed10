import { connect } from "node:net";
import type { Link } from "@/core/motion/sender";
import type { InstrumentAddress } from "../instruments/lineClient";

/** A controller says no more than this between two looks at it. */
const MOST_UNREAD = 1024 * 1024;

/**
 * A standing connection to a controller.
 * @param heard text as it comes
 * @param gone once, with the reason, when the connection ends for whatever cause but {@link Link.close}
 */
export function controllerLink({ host, port }: InstrumentAddress, heard: (text: string) => void, gone: (why: string) => void): Link {
  let over = false;
  const end = (why: string) => {
    if (over) return;
    over = true;
    socket.destroy();
    gone(why);
  };
  const socket = connect({ host, port });
  socket.setNoDelay(true);
  socket.setEncoding("utf8");
  socket.on("data", (chunk: string) => (chunk.length > MOST_UNREAD ? end("it says too much") : heard(chunk)));
  let met = false;
  socket.on("connect", () => {
    met = true;
  });
  // A line that breaks is reset, where it does not simply end.
  socket.on("error", () => end(met ? "the controller hung up" : "the controller cannot be reached"));
  socket.on("close", () => end("the controller hung up"));
  return {
    write: (text) => {
      if (!over) socket.write(text);
    },
    close: () => {
      over = true;
      socket.destroy();
    },
  };
}
