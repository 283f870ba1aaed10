import { CUTTERS } from "@/contract/cutters/contract";
import { fileStem } from "@/core/kernel/fileStem";
import { buildSheet } from "@/core/sheets/buildSheet";
import { askedInAddress, file, idQuery } from "../../kernel/door";
import { foamsInUse, getCutter } from "../cutters/repository";
import { listDrawer } from "../drawer/repository";
import { sheetPdf } from "./sheetPdf";

/** What the routes about sheets do. */
export const sheetsDoor = {
  buildSheet: idQuery(async (db, id, request) => {
    const { units } = askedInAddress(request, CUTTERS.sheet);
    const { design } = await getCutter(db, id);
    const drawer = (await listDrawer(db)).map((row) => row.item);
    const pdf = await sheetPdf(buildSheet(design, drawer, await foamsInUse(db), units), units, new Date().toISOString().slice(0, 10));
    return file(Buffer.from(pdf), "application/pdf", `${fileStem(design.name)}-build-sheet.pdf`);
  }),
};
