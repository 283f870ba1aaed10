import { connect } from "node:net";
import type { ControllerLine } from "@/core/motion/controller/runSession";
import type { InstrumentAddress } from "../instruments/lineClient";

/** A controller sends no more than this at once. */
const MOST_UNREAD = 1024 * 1024;

/**
 * A connection to a controller that stays open.
 * @param received text as it comes
 * @param gone once, with the reason, when the connection ends by anything but {@link Line.close}
 */
export function controllerLine({ host, port }: InstrumentAddress, received: (text: string) => void, gone: (why: string) => void): ControllerLine {
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
  socket.on("data", (chunk: string) => (chunk.length > MOST_UNREAD ? end("it sends too much at once") : received(chunk)));
  let connected = false;
  socket.on("connect", () => {
    connected = true;
  });
  // A connection that breaks is reset, where it does not simply end.
  socket.on("error", () => end(connected ? "the controller hung up" : "the controller cannot be reached"));
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
