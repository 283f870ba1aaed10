import { CUTTERS } from "@/contract/cutters/contract";
import { makeFile } from "../../kernel/madeFile";
import { idQuery, readQuery } from "../../kernel/route";
import { cutterRepository, foamsInUse } from "../cutters/repository";
import { listDrawer } from "../drawer/repository";

/** What the routes about sheets do. */
export const sheetsRoutes = {
  buildSheet: idQuery(async (db, id, request) => {
    const { units } = readQuery(request, CUTTERS.sheet);
    return makeFile("build", async () => ({
      design: (await cutterRepository.get(db, id)).document,
      drawer: (await listDrawer(db)).map((row) => row.item),
      foams: await foamsInUse(db),
      units,
    }));
  }),
};
