import { CUTTERS } from "@/contract/cutters/contract";
import { PLANS } from "@/contract/plans/contract";
import { RIGS } from "@/contract/rigs/contract";
import { type DocumentId, isDocumentId } from "@/core/kernel/documentIds";
import { documentRoutes } from "../../kernel/documentRoutes";
import { cutterRepository } from "../cutters/repository";
import { planRepository } from "../plans/repository";
import { rigRepository } from "../rigs/repository";

const ROUTES = {
  cutters: documentRoutes("cutters", CUTTERS, cutterRepository),
  plans: documentRoutes("plans", PLANS, planRepository),
  rigs: documentRoutes("rigs", RIGS, rigRepository),
} satisfies Record<DocumentId, unknown>;

interface Context {
  params: Promise<{ kind: string; id: string }>;
}
type Handler = (request: Request, context: Context) => Promise<Response>;
type Name = keyof (typeof ROUTES)["cutters"];

/** The handler of a route under /api/[kind]; 404 where there is no such kind. */
export const documentRoute =
  (name: Name): Handler =>
  async (request, context) => {
    const { kind } = await context.params;
    if (!isDocumentId(kind)) return Response.json({ error: { code: "not-found", message: "There is no such address here." } }, { status: 404 });
    return (ROUTES[kind][name] as Handler)(request, context);
  };
