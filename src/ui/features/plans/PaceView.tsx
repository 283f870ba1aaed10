"use client";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import type { Point } from "@/core/geometry/points";
import { PACE } from "@/core/pace/pace";
import type { PaceRow, PlanPaceResult } from "@/core/pace/planPace";
import { REACH } from "@/core/physics/string/reach";
import { WIRE_SURFACE } from "@/core/physics/string/tautWire";
import type { PlanEvaluation } from "@/core/plans/evaluate";
import { ORDERS, type Plan } from "@/core/plans/plan";
import { STATIONS } from "@/core/plans/stations";
import { useQueryParameter } from "../../kit/address";
import { CountField } from "../../kit/CountField";
import { QuantityField } from "../../kit/QuantityField";
import { Tile, TileRow } from "../../kit/Tile";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";
import { DeviationMap, worstWords } from "./DeviationMap";
import { MeasuredForm } from "./MeasuredForm";
import { Rulers } from "./Rulers";
import { useFace, usePace } from "./usePace";

export const FACE_NAMES = { upper: "upper face", lower: "lower face", whole: "all round" } as const;
const LIMIT_WORDS: Readonly<Record<PaceRow["limit"], string>> = {
  drag: "any faster drags",
  hand: "a hand goes no faster",
  tolerance: "any faster deviates too far",
  fumes: "any slower smokes",
  kerf: "the templates' kerf",
};
const CORNER_LABELS = { wait: "wait at corners", slow: "slow down at corners", past: "run past corners and come back", best: "the fastest of these" } as const;
/** What each school does to the block and the kerf (common practice). */
const ORDER_WORDS: Readonly<Record<Plan["pace"]["order"], [string, string]>> = {
  "lower first": ["lower face first, then the upper", "the piece stays lying in its bed; weights stay on top; the second face's kerf comes off above it"],
  round: ["one pass round the nose", "one template all round; the wire never leaves the part's edge; the offcut stays in one piece about it"],
  flip: ["one face, then the block turned over", "one template for both; the kerf lies on the same side both times; square the block well"],
};

type Change = (plan: Plan, key: string) => void;

/** The pace that was found: its time, its deviations, and where they are. */
function PaceFound({
  plan,
  evaluation,
  face,
  found,
  current,
  onChange,
}: {
  plan: Plan;
  evaluation: PlanEvaluation;
  face: keyof typeof FACE_NAMES;
  found: PlanPaceResult;
  current: boolean;
  onChange: Change;
}) {
  const { show } = useUnits();
  const [requestedMap, setMapped] = useQueryParameter("map");
  const mapped = requestedMap === "face" ? "face" : "line";
  const setPace = (next: Partial<Plan["pace"]>) => onChange({ ...plan, pace: { ...plan.pace, ...next } }, "pace");
  const slowest = Math.max(...found.rows.map(({ seconds }) => seconds));
  const { cutter } = evaluation;
  return (
    <div style={{ opacity: current ? 1 : 0.55 }} data-testid="pace" data-current={current}>
      <p className="pace-says">
        <strong>
          {FACE_NAMES[face]} in <span className="num">{found.pace.totalS.toFixed(0)} s</span>
        </strong>
        . The face that its heat leaves deviates by <span className="num">{show("kerf", found.pace.faceErrorMm)}</span> at most, the wire's line by{" "}
        <span className="num">{show("kerf", found.pace.errorMm)}</span>. Worst {worstWords(found.map, show)}.{" "}
        <Why of="pace" relation={PACE} inputs={`${show("kerf", plan.pace.tolerance_mm)} of tolerance on the ${plan.pace.hold}.`} />
        <Why of="surface" relation={WIRE_SURFACE} inputs={`${cutter?.design.tension.hot_N.toFixed(0)} N of tension.`} />
        <Why of="reach" relation={REACH} inputs={`${cutter?.heatWPerM.toFixed(0)} W/m all along.`} />
        <Why of="stations" relation={STATIONS} inputs={`${found.rows.length} numbers, ${plan.stations.parts} parts each.`} />
        {found.pace.end.leftMm > plan.pace.tolerance_mm && (
          <span data-testid="pace-end">
            <br />
            Where the ends stop the middle is <span className="num">{show("length", found.pace.end.leftMm)}</span> behind: go on along the run-out for{" "}
            <span className="num">{show("length", found.pace.end.runOutMm)}</span>, or wait <span className="num">{found.pace.end.waitS.toFixed(1)} s</span>{" "}
            there.
            {plan.template.runOut_mm < found.pace.end.runOutMm && (
              <Button size="small" onClick={() => onChange({ ...plan, template: { ...plan.template, runOut_mm: found.pace.end.runOutMm } }, "runOut")}>
                Make the run-out {show("length", found.pace.end.runOutMm)}
              </Button>
            )}
          </span>
        )}
        <br />
        One number for all: <span className="num">{slowest.toFixed(1)} s</span> each, <span className="num">{(slowest * found.rows.length).toFixed(0)} s</span>{" "}
        in all.
      </p>
      <p style={{ margin: "0 0 6px" }}>
        <Tile chosen={plan.pace.share} onClick={() => setPace({ share: !plan.pace.share })}>
          {plan.pace.share ? "the middle's lag is shared" : "share the middle's lag"}: root, middle and tip are off by{" "}
          <span className="num">{show("kerf", found.shared.errorMm)}</span> at most
          {plan.pace.share
            ? ` at this pace; templates are given out moved by up to ${show("kerf", found.shared.mostMm)}`
            : ` at this pace, or the same at a faster one; templates moved by up to ${show("kerf", found.shared.mostMm)}`}
        </Tile>
      </p>
      <TileRow>
        {(["line", "face"] as const).map((each) => (
          <Tile key={each} chosen={mapped === each} onClick={() => setMapped(each === "line" ? "" : each)}>
            {each === "line" ? "map of the wire's line" : "map of the face its heat leaves"}
          </Tile>
        ))}
      </TileRow>
      <DeviationMap map={mapped === "face" && found.face ? found.face : found.map} toleranceMm={plan.pace.tolerance_mm} middle={halfWay(found.sections)} />
      <div className="pace-tables">
        <PaceTable rows={found.rows} />
        <WhatIfs found={found} plan={plan} onCorner={(corner) => setPace({ corner })} />
      </div>
    </div>
  );
}

/** What is held, in how many numbers, and how corners and faces are taken. */
function PaceSettings({
  plan,
  setPace,
  setStations,
}: {
  plan: Plan;
  setPace: (next: Partial<Plan["pace"]>) => void;
  setStations: (next: Partial<Plan["stations"]>) => void;
}) {
  return (
    <section aria-label="What is held, and how" className="plan-fields">
      <div className="plan-pair">
        <QuantityField
          quantity="kerf"
          label="Tolerance"
          value={plan.pace.tolerance_mm}
          range={{ min: 0.02, max: 20 }}
          onChange={(tolerance_mm) => setPace({ tolerance_mm })}
        />
        <CountField
          label="Seconds a number"
          value={plan.stations.seconds}
          min={0.5}
          max={60}
          unit="s; four an inch is the habit"
          onChange={(seconds) => setStations({ seconds, count: null })}
        />
        <CountField
          label="Parts of a number"
          value={plan.stations.parts}
          min={1}
          max={16}
          unit="quarters are usual"
          whole
          onChange={(parts) => setStations({ parts })}
        />
      </div>
      <TileRow>
        {(["line", "face"] as const).map((hold) => (
          <Tile key={hold} chosen={plan.pace.hold === hold} onClick={() => setPace({ hold })}>
            {hold === "line" ? "hold the wire's line" : "hold the face it leaves"}
          </Tile>
        ))}
      </TileRow>
      <TileRow>
        {(["best", "wait", "slow", "past"] as const).map((corner) => (
          <Tile key={corner} chosen={plan.pace.corner === corner} onClick={() => setPace({ corner })}>
            {CORNER_LABELS[corner]}
          </Tile>
        ))}
      </TileRow>
      <TileRow>
        {ORDERS.map((order) => (
          <Tile key={order} chosen={plan.pace.order === order} onClick={() => setPace({ order })} width={250}>
            {ORDER_WORDS[order][0]}
            <br />
            <span style={{ fontSize: 13 }}>{ORDER_WORDS[order][1]}</span>
          </Tile>
        ))}
      </TileRow>
    </section>
  );
}

/** A face's stations, its fastest pace, what it leaves, and what would change that. */
export function PaceView({
  plan,
  evaluation,
  onChange,
  onCut,
  sheet,
}: {
  plan: Plan;
  evaluation: PlanEvaluation;
  onChange: Change;
  onCut: () => void;
  sheet: string;
}) {
  const { system } = useUnits();
  const [face, setFace, faces] = useFace(plan);
  const { job, fault, found, current, far } = usePace(plan, evaluation, face);
  const setPace = (next: Partial<Plan["pace"]>) => onChange({ ...plan, pace: { ...plan.pace, ...next } }, "pace");
  const setStations = (next: Partial<Plan["stations"]>) => onChange({ ...plan, stations: { ...plan.stations, ...next } }, "stations");
  if (!evaluation.cutter) return <p>Name the cutter this is meant for, and the fastest pace that it holds is found here.</p>;
  const rows = found && current ? found.rows : null;
  return (
    <div className="pace-view">
      <TileRow>
        {faces.map((each) => (
          <Tile key={each} chosen={face === each} onClick={() => setFace(each)}>
            {FACE_NAMES[each]}
          </Tile>
        ))}
        <span className="spring" />
        <Button variant="outlined" href={`${sheet}&face=${face}&units=${system}`}>
          Cut sheet
        </Button>
        <Button variant="contained" onClick={onCut}>
          Open the Pacer
        </Button>
      </TileRow>
      {fault && (
        <Alert severity="warning" role="alert">
          {fault}
        </Alert>
      )}
      {job && <Rulers stations={job.stations} rows={rows} />}
      {job && job.stations.leftOver.length > 0 && (
        <PairByHand
          plan={plan}
          face={face}
          leftOver={job.stations.leftOver}
          pairs={job.stations.pairs}
          onPairs={(pairs) => setStations({ pairs: { ...plan.stations.pairs, [face]: pairs } })}
        />
      )}
      {!current && !fault && (
        <p aria-live="polite">
          <progress value={far?.share ?? 0} max={1} aria-label="How far the search for a pace has come" /> Looking for the fastest pace
          {far ? `: ${far.doing}` : ""}…
        </p>
      )}
      {found && !fault && <PaceFound plan={plan} evaluation={evaluation} face={face} found={found} current={current} onChange={onChange} />}
      <PaceSettings plan={plan} setPace={setPace} setStations={setStations} />
      {plan.runs.length > 0 && <Runs plan={plan} />}
      {plan.runs.length > 0 && job && <MeasuredForm plan={plan} evaluation={evaluation} stations={job.stations} />}
    </div>
  );
}

const halfWay = (sections: PlanPaceResult["sections"]) => sections[sections.length >> 1] ?? { wanted: [], deviationMm: [] };

/** Corners without a fellow, tied by a person: one of the root's to one of the tip's. */
function PairByHand({
  plan,
  face,
  leftOver,
  onPairs,
}: {
  plan: Plan;
  face: keyof Plan["stations"]["pairs"];
  leftOver: readonly { end: "root" | "tip"; index: number; at: Point }[];
  pairs: readonly (readonly [number, number])[];
  onPairs: (pairs: [number, number][]) => void;
}) {
  const { show } = useUnits();
  const roots = leftOver.filter(({ end }) => end === "root");
  const tips = leftOver.filter(({ end }) => end === "tip");
  const byHand = plan.stations.pairs[face];
  return (
    <p data-testid="left-over" style={{ margin: "0 0 8px" }}>
      No fellow at the other end {roots.length + tips.length === 1 ? "has" : "have"}{" "}
      {[...roots, ...tips].map(({ end, index, at: [x, y] }) => `corner ${index + 1} of the ${end} (${show("length", x)}, ${show("length", y)})`).join(", ")}:
      passed between numbers{roots.length > 0 && tips.length > 0 ? ", or tied by hand" : ""}.{" "}
      {roots.flatMap((root) =>
        tips.map((tip) => (
          <Button
            key={`${root.index} ${tip.index}`}
            size="small"
            onClick={() => onPairs([...byHand.map(([a, b]): [number, number] => [a, b]), [root.index, tip.index]])}
          >
            Tie root {root.index + 1} to tip {tip.index + 1}
          </Button>
        )),
      )}
      {byHand.length > 0 && (
        <Button size="small" onClick={() => onPairs([])}>
          Untie those tied by hand
        </Button>
      )}
    </p>
  );
}

/** What is called out, number by number. */
function PaceTable({ rows }: { rows: readonly PaceRow[] }) {
  const { show } = useUnits();
  return (
    <table className="plain-table pace-table" data-testid="pace-table">
      <caption style={{ textAlign: "left", fontWeight: 700 }}>From number to number</caption>
      <thead>
        <tr>
          <th scope="col">to</th>
          <th scope="col">s</th>
          <th scope="col">root</th>
          <th scope="col">tip</th>
          <th scope="col">then wait</th>
          <th scope="col">because</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.to}>
            <th scope="row" className="num">
              {row.to}
            </th>
            <td className="num">{row.seconds.toFixed(1)}</td>
            <td className="num">{show("feed", row.rootFeedMmS)}</td>
            <td className="num">{show("feed", row.tipFeedMmS)}</td>
            <td className="num">{row.waitS > 0 ? `${row.waitS.toFixed(1)} s` : ""}</td>
            <td>{LIMIT_WORDS[row.limit]}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The three ways at a corner side by side, what would better the face, and what slips cost: each computed. */
function WhatIfs({ found, plan, onCorner }: { found: PlanPaceResult; plan: Plan; onCorner: (corner: "wait" | "slow" | "past") => void }) {
  const { show } = useUnits();
  return (
    <div>
      {found.others.length > 0 && (
        <table className="plain-table" data-testid="corner-ways">
          <caption style={{ textAlign: "left", fontWeight: 700 }}>At corners</caption>
          <tbody>
            {found.others.map((other) => (
              <tr key={other.corner}>
                <th scope="row" style={{ fontWeight: other.corner === found.pace.corner ? 700 : 400 }}>
                  <button type="button" className="plain-link" aria-pressed={plan.pace.corner === other.corner} onClick={() => onCorner(other.corner)}>
                    {CORNER_LABELS[other.corner]}
                  </button>
                </th>
                <td className="num">{other.totalS.toFixed(0)} s</td>
                <td className="num">line {show("kerf", other.errorMm)}</td>
                <td className="num">face {show("kerf", other.faceErrorMm)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <table className="plain-table" data-testid="what-ifs">
        <caption style={{ textAlign: "left", fontWeight: 700 }}>The same pace, but</caption>
        <tbody>
          {[...found.cures, ...found.mishaps].map((each) => (
            <tr key={each.code} data-what-if={each.code}>
              <th scope="row" style={{ fontWeight: 400 }}>
                {each.words}
              </th>
              <td className="num">{show("kerf", each.errorMm)}</td>
              <td className="num">{each.biteMm === undefined ? "" : `bites ${show("kerf", each.biteMm)} deeper`}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const wordOf = (s: number | null | undefined) => (s === null || s === undefined ? "–" : `${s.toFixed(1)} s`);

/** Cuts made by this plan: planned against real, number by number. */
function Runs({ plan }: { plan: Plan }) {
  const [last] = plan.runs;
  if (!last) return null;
  const most = Math.max(...last.planned_s, ...last.real_s, 0.1);
  return (
    <section aria-label="The last cut" data-testid="last-run">
      <h2 style={{ fontSize: 18, margin: "14px 0 4px" }}>
        Last cut, {FACE_NAMES[last.face]}: {new Date(last.at).toLocaleString([], { dateStyle: "medium", timeStyle: "short" })}
      </h2>
      <table className="plain-table">
        <thead>
          <tr>
            <th scope="col">to</th>
            <th scope="col">planned</th>
            <th scope="col">real</th>
            {last.ends_s && (
              <>
                <th scope="col">root's word</th>
                <th scope="col">tip's word</th>
              </>
            )}
            <th scope="col" aria-label="planned over real, drawn" />
          </tr>
        </thead>
        <tbody>
          {last.labels.map((label, i) => {
            const [planned, real] = [last.planned_s[i] ?? 0, last.real_s[i] ?? 0];
            return (
              <tr key={label}>
                <th scope="row" className="num">
                  {label}
                </th>
                <td className="num">{planned.toFixed(1)} s</td>
                <td className="num">{real.toFixed(1)} s</td>
                {last.ends_s && (
                  <>
                    <td className="num">{wordOf(last.ends_s.root[i])}</td>
                    <td className="num">{wordOf(last.ends_s.tip[i])}</td>
                  </>
                )}
                <td>
                  <svg width={160} height={14} aria-hidden="true">
                    <path d={`M0 4h${(150 * planned) / most}`} stroke="var(--cool)" strokeWidth={4} />
                    <path d={`M0 10h${(150 * real) / most}`} stroke="var(--ember)" strokeWidth={4} />
                  </svg>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}
