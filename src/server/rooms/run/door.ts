import { RUN } from "@/contract/run/contract";
import { cutOffOf } from "@/core/rigs/logged";
import { database } from "../../kernel/db/client";
import { asked, told } from "../../kernel/door";
import { mutation } from "../../kernel/http";
import { listLog } from "../log/repository";
import { rigRepository } from "../rigs/repository";
import { runDesk } from "./desk";

/** A program's text as JSON: its characters, and what escapes add. */
const PROGRAM_BYTES = 48 * 1024 * 1024;

/** What the routes about a run do. */
export const runDoor = {
  open: mutation(async (request: Request) => {
    const { rig, again } = await asked(request, RUN.open);
    const db = await database();
    const { document } = await rigRepository.get(db, rig);
    const rows = document.cutter ? await listLog(db, document.cutter.id) : [];
    return told(
      RUN.open,
      runDesk().open(
        rig,
        document,
        cutOffOf(
          rows.map(({ entry }) => entry),
          document.name,
        ),
        again,
      ),
    );
  }),
  pulse: mutation(async (request: Request) => told(RUN.pulse, runDesk().pulse((await asked(request, RUN.pulse)).present))),
  start: mutation(async (request: Request) => {
    const { rig, program, text } = await asked(request, RUN.start, PROGRAM_BYTES);
    return told(RUN.start, await runDesk().start(rig, (await rigRepository.get(await database(), rig)).document, program, text), 201);
  }),
  act: mutation(async (request: Request) => {
    const deed = await asked(request, RUN.act);
    if (deed.act === "misbehave" || deed.act === "speed") return told(RUN.act, runDesk().tease(deed));
    return told(RUN.act, runDesk().act(deed));
  }),
};
