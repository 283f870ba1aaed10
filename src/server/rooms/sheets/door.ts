import { CUTTERS } from "@/contract/cutters/contract";
import { askedInAddress, idQuery } from "../../kernel/door";
import { makeFile } from "../../kernel/madeFile";
import { cutterRepository, foamsInUse } from "../cutters/repository";
import { listDrawer } from "../drawer/repository";

/** What the routes about sheets do. */
export const sheetsDoor = {
  buildSheet: idQuery(async (db, id, request) => {
    const { units } = askedInAddress(request, CUTTERS.sheet);
    return makeFile("build", async () => ({
      design: (await cutterRepository.get(db, id)).document,
      drawer: (await listDrawer(db)).map((row) => row.item),
      foams: await foamsInUse(db),
      units,
    }));
  }),
};
