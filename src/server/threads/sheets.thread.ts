import { makeCutSheet } from "../features/plans/cutSheet";
import { makeTemplates } from "../features/plans/templates";
import { makeRigFile } from "../features/rigs/rigSheet";
import { makeBuildSheet } from "../features/sheets/sheetPdf";
import { task } from "../kernel/threadTask";

/** Tasks of the thread that draws files: each takes up to a second of one core. */
export const build = task(makeBuildSheet);
export const cutSheet = task(makeCutSheet);
export const templates = task(makeTemplates);
export const rig = task(makeRigFile);
