import { task } from "../kernel/threadTask";
import { checkProgram, programHead } from "../rooms/run/programCheck";

/** Tasks of the thread that reads and checks programs before they are started. */
export const head = task(programHead);
export const check = task(checkProgram);
