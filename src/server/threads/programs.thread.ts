import { checkProgram, programHead } from "../features/run/programCheck";
import { task } from "../kernel/threadTask";

/** Tasks of the thread that reads and checks programs before they are started. */
export const head = task(programHead);
export const check = task(checkProgram);
