"use client";
import ButtonBase from "@mui/material/ButtonBase";
import { useEffect, useSyncExternalStore } from "react";
import { logQueue, tendLogQueue, type Waiting } from "./logQueue";

const NONE: readonly Waiting[] = [];

/** Says what waits in this browser to go into a log, on every page, and sends it when the server is back. */
export function LogWaits() {
  const waiting = useSyncExternalStore(
    logQueue.subscribe,
    () => logQueue.waiting,
    () => NONE,
  );
  useEffect(tendLogQueue, []);
  const refused = waiting.filter((row) => row.refused !== undefined);
  const left = waiting.length - refused.length;
  return (
    <>
      {left > 0 && (
        <p className="rail-member" role="status" data-testid="log-waits">
          {left === 1 ? "One log entry waits" : `${left} log entries wait`} here for the server.
        </p>
      )}
      {refused.map((row) => (
        <p key={row.id} className="rail-member" role="alert">
          A log entry was not taken: {row.refused}
          <ButtonBase onClick={() => logQueue.forget(row.id)}>Let it go</ButtonBase>
        </p>
      ))}
    </>
  );
}
