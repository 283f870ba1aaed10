import { rm } from "node:fs/promises";
import { idSchema } from "@/contract/kernel/endpoint";
import { RUN } from "@/contract/run/contract";
import { CoreError } from "@/core/kernel/errors";
import { parseOrThrow } from "@/core/kernel/parse";
import { COMMAND_EXPIRES_MS } from "@/core/motion/controller/runSession";
import { machineOf } from "@/core/rigs/frame/path";
import { database } from "../../kernel/db/client";
import { ServerError } from "../../kernel/errors";
import { mutation, query, role, route, safeCommand, sameOrigin } from "../../kernel/http";
import { file, jsonResponse, readBody } from "../../kernel/route";
import { runTask } from "../../kernel/threadPool";
import { receiveFile } from "../../kernel/upload";
import { temporaryPath } from "../backups/archiveFiles";
import { rigRepository } from "../rigs/repository";
import { type CheckedProgram, NOT_JSON, type ProgramHead } from "./programCheck";
import { runHost, simulatedFrameOf } from "./runHost";
import { monotonicMs } from "./runLine";

/** A program's text as JSON: its characters, and what escapes add. */
const PROGRAM_BYTES = 48 * 1024 * 1024;

/** What a received program is for. @throws ServerError `unreadable` for a body that is no JSON; CoreError as its schema says */
async function headOf(body: string, signal: AbortSignal): Promise<ProgramHead> {
  try {
    return await runTask<ProgramHead>("programs", "head", { file: body }, signal);
  } catch (error) {
    if (error instanceof CoreError && error.message === NOT_JSON) throw new ServerError("unreadable", 400, NOT_JSON);
    throw error;
  }
}

/** What the routes about a run do. */
export const runRoutes = {
  open: route([sameOrigin, role("work")], async (request: Request) => {
    const { rig, page, again } = await readBody(request, RUN.open);
    const { document } = await rigRepository.get(await database(), rig);
    return jsonResponse(RUN.open, await runHost().open(page, rig, document, again));
  }),

  pulse: safeCommand(async (request: Request) => {
    const { run, page, present } = await readBody(request, RUN.pulse);
    return jsonResponse(RUN.pulse, runHost().pulse(run, page, present));
  }),

  /** Receives a program to the disk, has it checked in another thread, and starts it. */
  start: mutation(async (request: Request) => {
    const body = temporaryPath();
    try {
      await receiveFile(request, body, PROGRAM_BYTES);
      const { rig, page, program, leadsToDraw } = await headOf(body, request.signal);
      const { document } = await rigRepository.get(await database(), rig);
      const frame = simulatedFrameOf(document);
      const machine = machineOf(frame, Math.max(1, frame.apart_mm - frame.toBlock_mm));
      const { text, lines } = await runTask<CheckedProgram>("programs", "check", { file: body, machine }, request.signal);
      return jsonResponse(RUN.start, await runHost().start(page, rig, document, { program, text, lines, leadsToDraw }, request.signal), 201);
    } finally {
      await rm(body, { force: true });
    }
  }),

  /** Hold and stop reach the line before anything else is looked at. What moves or heats expires. */
  act: safeCommand(async (request: Request) => {
    const expiresMs = monotonicMs() + COMMAND_EXPIRES_MS;
    const command = await readBody(request, RUN.act);
    const host = runHost();
    switch (command.act) {
      case "hold":
      case "stop":
      case "clear":
        return jsonResponse(RUN.act, await host.act({ do: command.act }));
      case "home":
        request.signal.throwIfAborted();
        return jsonResponse(RUN.act, await host.act({ do: "home", expiresMs }));
      case "resume":
        request.signal.throwIfAborted();
        return jsonResponse(RUN.act, await host.act({ do: "resume", page: command.page, warmS: command.warm_s, expiresMs }, command.page));
      case "take-over":
        return jsonResponse(RUN.act, await host.act({ do: "take-over", page: command.page }, command.page));
      case "freed":
        return jsonResponse(RUN.act, await host.freed(command.page, command.rig, (await rigRepository.get(await database(), command.rig)).document));
      case "misbehave":
        return jsonResponse(RUN.act, await host.act({ do: "inject", fault: command.fault, on: command.on }));
      case "speed":
        return jsonResponse(RUN.act, await host.act({ do: "speed", times: command.times }));
    }
  }),

  /** The program of a run that ended early: the way out is along it. */
  program: query(async (request: Request) => {
    const run = parseOrThrow(idSchema, new URL(request.url).searchParams.get("run"), "run");
    return file(Buffer.from(runHost().programOf(run)), "text/plain; charset=utf-8", "program.ngc");
  }),
};
