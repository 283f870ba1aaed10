import { task } from "../kernel/threadTask";
import { makeCutSheet } from "../rooms/plans/cutSheet";
import { makeTemplates } from "../rooms/plans/templates";
import { makeRigFile } from "../rooms/rigs/rigSheet";
import { makeBuildSheet } from "../rooms/sheets/sheetPdf";

/** Tasks of the thread that draws files: each takes up to a second of one core. */
export const build = task(makeBuildSheet);
export const cutSheet = task(makeCutSheet);
export const templates = task(makeTemplates);
export const rig = task(makeRigFile);
