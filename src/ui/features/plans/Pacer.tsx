"use client";
import Button from "@mui/material/Button";
import { useCallback, useMemo, useRef, useState } from "react";
import { heatToSet } from "@/core/pace/cutSheet";
import { LONGEST_STOP_S, realTimes, scheduleOf } from "@/core/pace/pacer";
import type { PaceJob, PaceRow } from "@/core/pace/planPace";
import { endTimes, type ScreenEnd } from "@/core/pace/twoEnds";
import { waitReach } from "@/core/physics/string/reach";
import type { PlanEvaluation } from "@/core/plans/evaluate";
import type { PartFace } from "@/core/plans/guide";
import type { Plan } from "@/core/plans/plan";
import type { FinishedRun } from "@/core/plans/runRecord";
import { useQueryParameter } from "../../kit/address";
import type { SecondAbout } from "../../kit/api";
import { useUnits } from "../../kit/useUnits";
import { endHere, useLocalDrive, useSharedDrive } from "../second/drive";
import { PacerFace, type PacerNow } from "../second/PacerFace";
import { SecondKey } from "../second/SecondKey";
import { useSecond } from "../second/useSecond";
import { FACE_NAMES } from "./PaceView";

/** Stops whose bite is computed beforehand, s; one in between goes evenly. */
const STOPS_S = [0, 0.5, 1, 2, 3, 5, 8, 12, 20, 30, LONGEST_STOP_S];
/** How often a run is put down where a reload finds it, ms. */
const PUT_DOWN_MS = 250;

const between = (xs: readonly number[], ys: readonly number[], x: number): number => {
  const i = Math.max(1, xs.findIndex((each) => each >= x) === -1 ? xs.length - 1 : xs.findIndex((each) => each >= x));
  const [a, b] = [xs[i - 1] as number, xs[i] as number];
  const t = Math.min(1, Math.max(0, (x - a) / (b - a)));
  return (ys[i - 1] as number) * (1 - t) + (ys[i] as number) * t;
};

/** What a plan's face puts on the second screen. */
function aboutOf(plan: Plan, face: PartFace, rows: readonly PaceRow[], job: PaceJob): SecondAbout {
  const numbers = job.stations.stations.filter(({ whole }) => whole);
  const template = (end: ScreenEnd) => ({
    lines: [job[end].slice(0, 4000).map(([x, y]): [number, number] => [x, y])],
    // Where the led line passes each number: the stations' own places are in the template's frame.
    numbers: numbers.slice(0, 400).flatMap(({ label }, i) => {
      const point = job[end][job.at[i] ?? -1];
      return point ? [{ label, at: [point[0], point[1]] as [number, number] }] : [];
    }),
  });
  return {
    kind: "pacer",
    name: plan.name,
    face: FACE_NAMES[face],
    rows: [...rows],
    parts: plan.stations.parts,
    templates: { root: template("root"), tip: template("tip") },
  };
}

const OTHER: Readonly<Record<ScreenEnd, ScreenEnd>> = { root: "tip", tip: "root" };

/** Calls a face out on this screen, and on another at the other end of the wire. */
export function Pacer({
  plan,
  evaluation,
  face,
  rows,
  job,
  storeKey,
  onClose,
  onDone,
}: {
  plan: Plan;
  evaluation: PlanEvaluation;
  face: PartFace;
  rows: readonly PaceRow[];
  job: PaceJob;
  /** names this plan, panel and face */
  storeKey: string;
  onClose: () => void;
  onDone: (run: FinishedRun) => Promise<void>;
}) {
  const { show, system } = useUnits();
  const heat = useMemo(() => (evaluation.cutter ? heatToSet(evaluation.cutter, system) : []), [evaluation.cutter, system]);
  const schedule = useMemo(() => scheduleOf(rows, plan.stations.parts), [rows, plan.stations.parts]);
  const [requested, setEnd] = useQueryParameter("view");
  const end: ScreenEnd = requested === "tip" ? "tip" : "root";
  // In the address, so that a page that is reloaded in mid cut leads on with the other.
  const [ticket, setTicket] = useQueryParameter("second");
  const second = useSecond(ticket || null);
  const local = useLocalDrive(storeKey);
  const shared = useSharedDrive(second, end, true);
  const together = ticket !== "" && !second.over;
  const drive = together ? shared : local;
  const { run } = drive;
  const [saved, setSaved] = useState<"no" | "saving" | "yes" | string>("no");
  const stored = useRef(0);

  // What a stop burns at this end's feed, computed once.
  const feed = end === "tip" ? evaluation.tip.feedMmS : evaluation.root.feedMmS;
  const bites = useMemo(() => {
    if (!evaluation.cutter) return null;
    const { pair, heatWPerM } = evaluation.cutter;
    return STOPS_S.map((s) => {
      const { radiusMm, halfKerfMm } = waitReach(pair, heatWPerM, feed, s);
      return Math.max(0, radiusMm - halfKerfMm);
    });
  }, [evaluation.cutter, feed]);
  const { seen } = local;
  const onTick = useCallback(
    (nowMs: number) => {
      if (together || nowMs - stored.current <= PUT_DOWN_MS) return;
      stored.current = nowMs;
      seen(nowMs);
    },
    [seen, together],
  );
  const keep = async () => {
    if (!run) return;
    const { labels, plannedS, realS } = realTimes(schedule, run);
    const marks = together ? second.view?.pacer?.marks : undefined;
    const ends = marks && (marks.root.length > 0 || marks.tip.length > 0) ? { root: endTimes(marks.root), tip: endTimes(marks.tip) } : undefined;
    setSaved("saving");
    try {
      await onDone({ face, labels, plannedS, realS, pausesS: run.pauses.reduce((sum, { longS }) => sum + longS, 0), ...(ends ? { ends } : {}) });
      setSaved("yes");
      local.forget();
    } catch (error) {
      setSaved(`it could not be kept: ${(error as Error).message}`);
    }
  };
  const again = () => {
    drive.again();
    setSaved("no");
  };
  const stop = ({ atS, stoppedS }: PacerNow) => {
    const bite = bites && run?.pausedMs != null && atS > 0 ? between(STOPS_S, bites, Math.min(LONGEST_STOP_S, stoppedS)) : null;
    return (
      run &&
      run.pausedMs !== null && (
        <span role="status" data-testid="pacer-stop">
          stopped {stoppedS.toFixed(0)} s
          {bite === null
            ? ""
            : `: a groove ${show("kerf", bite)} deep burns here. ${bite < plan.pace.tolerance_mm ? "It is within the tolerance: go on." : "Lift the wire out into the waste if you can, or switch the heat off."}`}
        </span>
      )
    );
  };
  const other = OTHER[end];
  return (
    <PacerFace
      title={`${plan.name}, ${FACE_NAMES[face]}`}
      label={`Pacer, ${FACE_NAMES[face]}`}
      schedule={schedule}
      parts={plan.stations.parts}
      drive={{ ...drive, again }}
      end={end}
      onEnd={(next) => setEnd(next === "tip" ? "tip" : "")}
      back={onClose}
      marks={together}
      onTick={onTick}
      body={() => (
        <p className="pacer-heat" data-testid="pacer-heat">
          {heat.map(([what, value]) => `${what}: ${value}`).join("; ")}
        </p>
      )}
      head={
        <SecondKey
          about={() => aboutOf(plan, face, rows, job)}
          ticket={together ? ticket : null}
          onTicket={(next) => setTicket(next ?? "", "replace")}
          joined={endHere(second, other) ? `The ${other} is there.` : `Nobody is at the ${other} yet.`}
        />
      }
    >
      {(now) => (
        <>
          {stop(now)}
          {together && (
            <span role="status" data-testid="other-end" data-here={endHere(second, other)}>
              {endHere(second, other) ? `the ${other} is there` : `the ${other} is away`}
              {second.withinMs === null ? "" : `, same count within ${Math.max(1, Math.ceil(second.withinMs))} ms`}
            </span>
          )}
          {together && second.fault && <span role="alert">{second.fault}</span>}
          {now.done && run && (
            <Button variant="contained" size="large" disabled={saved === "saving" || saved === "yes"} onClick={() => void keep()}>
              {saved === "yes" ? "Logged" : "Log this cut"}
            </Button>
          )}
          {saved !== "no" && saved !== "yes" && saved !== "saving" && <span role="alert">{saved}</span>}
        </>
      )}
    </PacerFace>
  );
}
