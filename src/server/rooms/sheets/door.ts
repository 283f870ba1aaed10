import { CUTTERS } from "@/contract/cutters/contract";
import { askedInAddress, idQuery } from "../../kernel/door";
import { type MadeFile, madeFile } from "../../kernel/madeFile";
import { runTask } from "../../kernel/threadPool";
import { foamsInUse, getCutter } from "../cutters/repository";
import { listDrawer } from "../drawer/repository";

/** What the routes about sheets do. */
export const sheetsDoor = {
  buildSheet: idQuery(async (db, id, request) => {
    const { units } = askedInAddress(request, CUTTERS.sheet);
    const { design } = await getCutter(db, id);
    const drawer = (await listDrawer(db)).map((row) => row.item);
    return madeFile(await runTask<MadeFile>("sheets", "build", { design, drawer, foams: await foamsInUse(db), units }));
  }),
};
