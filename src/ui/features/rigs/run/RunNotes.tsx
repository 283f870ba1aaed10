import Alert from "@mui/material/Alert";
import { FULL_HEAT } from "@/core/motion/program/machine";
import type { RunView } from "../../../kit/api";
import { clock, heatWords, homedWords, isBusy, phaseWords, type RunFigures, sentence, type WireQuestion } from "./runScreen";

/** Last seconds in which a touch is asked for. */
const QUERY_S = 45;

/** The run's state in one line: phase, line, time left, heat, and for how long the page still counts as watched. */
export function RunStateLine({
  run,
  phase,
  started,
  leftS,
  presentS,
}: {
  run: RunFigures | null;
  phase: RunFigures["phase"];
  started: boolean;
  leftS: number | null;
  presentS: number;
}) {
  const heat = run?.heat ?? 0;
  return (
    <div className="run-state" aria-live="polite">
      <strong data-testid="run-phase">{phaseWords(phase, run)}</strong>
      {run && started && (
        <>
          <span className="num">
            line {run.line} of {run.lines}
          </span>
          {leftS !== null && isBusy(phase) && <span className="num">{clock(leftS)} left</span>}
        </>
      )}
      <span className="run-heat" data-hot={heat > 0}>
        <i style={{ width: `${Math.min(100, (100 * heat) / FULL_HEAT)}%` }} />
        <b className="num">{heatWords(run)}</b>
      </span>
      {isBusy(phase) && phase !== "held" && phase !== "fault" && (
        <span className="num" title="A touch or a key says that someone is there">
          watched, {clock(presentS)} left
        </span>
      )}
    </div>
  );
}

/** Shown with the keys, where it cannot be scrolled away. */
export function UnplugNote() {
  return (
    <p className="run-unplug" role="alert" data-testid="run-unplug">
      Pull the wire’s plug.
      <small>The controller does not acknowledge that the heat is off.</small>
    </p>
  );
}

/** What the person must know: each note goes when its cause has gone. */
export function RunNotes({
  view,
  fault,
  phase,
  presentS,
  mine,
}: {
  view: RunView | null;
  fault: string | null;
  phase: RunFigures["phase"];
  presentS: number;
  mine: boolean;
}) {
  const run = view?.run ?? null;
  const homed = run && homedWords(run);
  return (
    <>
      {fault && (
        <Alert severity="error" role="alert">
          {fault}
        </Alert>
      )}
      {run?.reason && ["fault", "refused", "lost", "ready", "held"].includes(phase) && !homed && (
        <p className="plan-note plan-note-caution">{sentence(run.reason)}</p>
      )}
      {homed && phase === "ready" && (
        <p className="plan-note" data-testid="run-homed">
          {homed}
        </p>
      )}
      {run?.unwatched && <p className="plan-note plan-note-caution">Nobody was there, so the run was held and the heat is off.</p>}
      {run?.unlogged && <p className="plan-note plan-note-danger">The run could not be written into the log. Write it down.</p>}
      {view?.trouble && phase === "lost" && !run?.reason && <p className="plan-note plan-note-danger">{view.trouble}</p>}
      {isBusy(phase) && presentS < QUERY_S && <p className="run-here">Touch the screen or a key: in {Math.ceil(presentS)} s the heat goes off.</p>}
      {!mine && isBusy(phase) && <p className="plan-note">Another page watches this run: only that page keeps the heat on.</p>}
    </>
  );
}

/** Says why the page asks whether the wire is out of the foam, and how it comes out. */
export function WireQuestionPanel({
  question,
  brokenOff,
  stopped,
  out,
}: {
  question: WireQuestion;
  brokenOff: string | null;
  stopped: RunView["stopped"];
  out: string | null;
}) {
  if (question === "none") return null;
  return (
    <div className="run-out" data-testid="run-out">
      <p>
        {stopped
          ? `${stopped.program} ended at line ${stopped.line} of ${stopped.lines}. `
          : `The last run did not come to its end${brokenOff ? ` (${brokenOff})` : ""}. `}
        Homing now would drag a cold wire through the part.
      </p>
      <p>
        {out
          ? `The app can lead the wire ${out} back along its own kerf, warm and no faster than it cut. That removes nothing more.`
          : "The app does not know the way back. Bring the wire out by hand before the frame is homed."}
      </p>
      <p>
        By hand: leave the block where it is. Set the cutting heat, wait five seconds, and draw both ends back together along the cut. Or switch the heat off,
        unhook one end and pull the wire out lengthwise.
      </p>
    </div>
  );
}
