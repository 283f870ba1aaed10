import { listenerSchema } from "@/contract/changes/contract";
import { parseOrThrow } from "@/core/kernel/parse";
import { admit, whoName } from "../../kernel/access/who";
import { query } from "../../kernel/http";
import { changeStream, eventResponse } from "./feed";

/** What the route about changes does: a page listens for as long as it is open. */
export const changesRoutes = {
  listen: query(async (request: Request) => {
    const { at, page } = parseOrThrow(listenerSchema, Object.fromEntries(new URL(request.url).searchParams));
    const who = at && page ? { at, page, by: whoName() } : null;
    // Anyone who is signed out meanwhile hears no more.
    const stays = () =>
      admit(request, "look").then(
        () => true,
        () => false,
      );
    return eventResponse(changeStream(request.signal, who, stays));
  }),
};
