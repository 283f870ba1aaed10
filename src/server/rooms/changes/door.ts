import { query } from "../../kernel/http";
import { changeStream } from "./feed";

/** What the route about changes does: a page listens for as long as it is open. */
export const changesDoor = {
  listen: query(
    async (request: Request) =>
      new Response(changeStream(request.signal), {
        // Packed or kept back on the way it would come too late.
        headers: { "content-type": "text/event-stream; charset=utf-8", "cache-control": "no-store, no-transform", "x-accel-buffering": "no" },
      }),
  ),
};
