import { isDocumentId, mapKinds } from "@/core/kernel/documentIds";
import { documentRoutes } from "../../kernel/documentRoutes";

const ROUTES = mapKinds((id) => documentRoutes(id));

/** What the address names: a kind, and a document where the route is of one. */
interface Context {
  params: Promise<{ kind: string; id?: string }>;
}
type Handler = (request: Request, context: Context) => Promise<Response>;
type Name = keyof ReturnType<typeof documentRoutes>;

/** The handler of a route under /api/[kind]; 404 where there is no such kind. */
export const documentRoute =
  (name: Name): Handler =>
  async (request, context) => {
    const { kind } = await context.params;
    if (!isDocumentId(kind)) return Response.json({ error: { code: "not-found", message: "There is no such address here." } }, { status: 404 });
    return (ROUTES[kind][name] as Handler)(request, context);
  };
