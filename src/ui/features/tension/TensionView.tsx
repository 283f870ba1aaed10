"use client";
import "../../kit/theme/sheet.css";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import { useCallback, useMemo, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { noCut } from "@/core/cutters/solve/describe";
import { type DesignEvaluation, stiffToolOf } from "@/core/cutters/solve/evaluate";
import { frameOf } from "@/core/cutters/solve/frameModel";
import { tensionDeskOf } from "@/core/cutters/solve/tensionDesk";
import { nextTensionCheck } from "@/core/log/entries";
import { DWELL, LAG } from "@/core/physics/cut/lag";
import { TENSION_RECORDS, tensionRecord } from "@/core/physics/mechanics/devices";
import { SPRING_TEST, WHIP } from "@/core/physics/mechanics/springs";
import { STRENGTH_LIMITS } from "@/core/physics/mechanics/tension";
import { WIRE_ENDS } from "@/core/physics/mechanics/wireEnds";
import { LIMITS } from "@/core/units/limits";
import { Cautions } from "../../cutter/Cautions";
import { TENSION_TABS } from "../../cutter/views";
import { useTab } from "../../kit/address";
import { api, type LogRow } from "../../kit/api";
import { InstrumentBoundary } from "../../kit/InstrumentBoundary";
import { QuantityField } from "../../kit/QuantityField";
import { Tile, TileRow } from "../../kit/Tile";
import { tidy } from "../../kit/tidy";
import { For } from "../../kit/useMember";
import { useOnArrival } from "../../kit/useOnArrival";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";
import { FrameEditor } from "./FrameEditor";
import { SpringTest } from "./SpringTest";
import { StiffToolPanel } from "./StiffToolPanel";
import { StrungArm } from "./StrungArm";
import { TensionDrawing } from "./TensionDrawing";
import { Tuner } from "./Tuner";

/** A loop or wand is held by its own stiffness: what that comes to is before the pull it hardly has. */

/** A loop or wand is judged by its own stiffness first; nothing else has that tab. */
const STIFF_TABS: readonly (typeof TENSION_TABS)[number][] = ["Stiffness", ...TENSION_TABS.filter((tab) => tab !== "Stiffness")];
const OTHER_TABS = TENSION_TABS.filter((tab) => tab !== "Stiffness");

const dayOf = (iso: string) => iso.slice(0, 10);

/** What pulls the wire straight, hot and cold; the frame that holds it; the tuner; the ends; and when to look again. */
export function TensionView({
  design,
  evaluation,
  id,
  onChange,
}: {
  design: Design;
  evaluation: DesignEvaluation;
  id: string | null;
  onChange: (next: Design, key: string) => void;
}) {
  const { system, show } = useUnits();
  const stiff = stiffToolOf(design);
  const tabs = stiff ? STIFF_TABS : OTHER_TABS;
  const [tab, setTab] = useTab("tension", tabs);
  const [log, setLog] = useState<LogRow[]>([]);
  const [fault, setFault] = useState<string | null>(null);
  const [now, setNow] = useState<string | null>(null);
  const desk = useMemo(() => tensionDeskOf(design, evaluation, system), [design, evaluation, system]);
  const frame = useMemo(() => frameOf(design, evaluation.tension.coldN, system), [design, evaluation.tension.coldN, system]);
  const { tension } = evaluation;
  const set = (next: Partial<Design["tension"]>) => onChange({ ...design, tension: { ...design.tension, ...next } }, "tension");
  const say = useCallback((error: Error) => setFault(error.message), []);
  const look = useCallback(
    async (signal: AbortSignal) => {
      setNow(new Date().toISOString());
      if (id) setLog((await api.log.list(id, undefined, signal)).entries);
    },
    [id],
  );
  useOnArrival(look, say);
  const keep = (tensionN: number, hz: number) => {
    if (!id) return;
    api.log
      .add(id, { kind: "tension-check", at: new Date().toISOString(), tension_N: tidy(tensionN), frequency_Hz: tidy(hz), how: "pitch", hot: false, note: "" })
      .then((row) => setLog((all) => [row, ...all]), say);
  };
  const checks = log.flatMap(({ id: entryId, entry }) => (entry.kind === "tension-check" ? [{ id: entryId, entry }] : []));
  const recheck = now
    ? nextTensionCheck(
        checks.map((row) => row.entry),
        now,
      )
    : null;
  const { device } = design.tension;
  const record = tensionRecord(device);
  return (
    <main className="sheet-frame">
      <TileRow>
        {tabs.map((each) => (
          <Tile key={each} chosen={tab === each} onClick={() => setTab(each)}>
            {each}
            {each === "Checks" && recheck?.due ? " !" : ""}
          </Tile>
        ))}
      </TileRow>
      {fault && (
        <Alert severity="error" onClose={() => setFault(null)} sx={{ my: 1 }}>
          {fault}
        </Alert>
      )}
      <div style={{ marginTop: 14 }}>
        {tab === "Stiffness" && stiff && <StiffToolPanel evaluation={evaluation} tool={stiff} />}
        {tab === "Pull" && (
          <div className="two-up" style={{ display: "grid", gridTemplateColumns: "minmax(280px, 360px) minmax(0, 1fr)", gap: 26 }}>
            <div>
              <TileRow>
                {TENSION_RECORDS.map(({ device: each, name }) => (
                  <Tile key={each} chosen={device === each} onClick={() => set({ device: each })}>
                    {name}
                  </Tile>
                ))}
              </TileRow>
              <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: "6px 12px", marginTop: 14 }}>
                <QuantityField
                  quantity="force"
                  label="Tension while hot"
                  value={design.tension.hot_N}
                  decimals={1}
                  range={LIMITS.force_N}
                  onChange={(hot_N) => set({ hot_N: tidy(hot_N) })}
                />
                {record.usualRateNPerMm !== null && (
                  <QuantityField
                    quantity="springRate"
                    label={record.rateLabel}
                    value={(desk.rateNPerM ?? 0) / 1000}
                    range={LIMITS.rate_N_per_mm}
                    onChange={(rate) => set({ rate_N_per_mm: tidy(rate) })}
                  />
                )}
                {record.measured && (
                  <>
                    <QuantityField
                      quantity="force"
                      label="Wound with"
                      value={design.tension.initial_N ?? 0}
                      decimals={1}
                      range={LIMITS.tension_N}
                      onChange={(initial_N) => set({ initial_N: tidy(initial_N) })}
                    />
                    <QuantityField
                      quantity="length"
                      label="Length at rest"
                      value={design.tension.rest_mm ?? 100}
                      range={LIMITS.length_mm}
                      onChange={(rest_mm) => set({ rest_mm: tidy(rest_mm) })}
                    />
                    <QuantityField
                      quantity="length"
                      label="Usable stretch"
                      value={design.tension.travel_mm ?? 50}
                      range={LIMITS.travel_mm}
                      onChange={(travel_mm) => set({ travel_mm: tidy(travel_mm) })}
                    />
                  </>
                )}
              </div>
              {device === "arm" && frame && (
                <Button
                  variant="outlined"
                  onClick={() =>
                    set({
                      rate_N_per_mm: Number((frame.rateNPerM / 1000).toPrecision(3)),
                      ...(frame.ownTensionN === null ? {} : { hot_N: Number(frame.ownTensionN.toPrecision(3)) }),
                    })
                  }
                >
                  Take the frame's own give{frame.ownTensionN === null ? "" : " and pull"} ({show("springRate", frame.rateNPerM / 1000)})
                </Button>
              )}
              {device === "arm" && desk.rateNPerM !== null && (
                <StrungArm design={design} evaluation={evaluation} rateNPerM={desk.rateNPerM} onTake={(hotN) => set({ hot_N: Number(hotN.toPrecision(3)) })} />
              )}
              {device === "arm" && !frame && <p>Describe the arm under Frame, and its give can be taken from there.</p>}
              {record.measured && (
                <SpringTest
                  onTake={(spring) =>
                    set({
                      rate_N_per_mm: Number((spring.rateNPerM / 1000).toPrecision(4)),
                      initial_N: Number(spring.initialN.toPrecision(3)),
                      rest_mm: tidy(spring.restM * 1000),
                    })
                  }
                />
              )}
            </div>
            <div>
              <InstrumentBoundary name="the tension drawing">
                <TensionDrawing design={design} evaluation={evaluation} desk={desk} frame={frame} />
              </InstrumentBoundary>
              <Cautions cautions={evaluation.cautions.filter((caution) => caution.place === "tension")} />
              <dl className="part-figures" style={{ maxWidth: 460 }}>
                <dt>Of what is recommended</dt>
                <dd className="num" data-figure="of-limit">
                  {Math.round(100 * desk.ofLimit)} % of {show("force", tension.hotLimits.recommendedN, 1)}
                </dd>
                <dd>
                  <Why
                    of="working limit"
                    relation={STRENGTH_LIMITS}
                    inputs={`at ${show("temperature", Math.max(evaluation.circuit.wireC, evaluation.cut.wireC))}: ${show("force", tension.hotLimits.recommendedN, 1)}; past ${show("force", tension.hotLimits.setN, 1)} it takes a set, past ${show("force", tension.hotLimits.creepsN, 1)} it creeps and breaks.`}
                  />
                </dd>
                {desk.travelLeftM !== null && (
                  <>
                    <dt>Stretch left when cold</dt>
                    <dd className="num" data-figure="travel-left">
                      {show("kerf", desk.travelLeftM * 1000, system === "metric" ? 1 : 2)}
                      {desk.travelLeftM < 0 ? ": too short" : desk.travelLeftM < 0.01 ? ": hardly any" : ""}
                    </dd>
                    <dd>
                      <Why
                        of="stretch left"
                        relation={SPRING_TEST}
                        inputs={`${show("kerf", (desk.stretchColdM ?? 0) * 1000)} stretched cold of ${show("length", design.tension.travel_mm ?? 0)} usable.`}
                      />
                    </dd>
                  </>
                )}
                <dt>Bow in the cut</dt>
                <dd className="num">{noCut(evaluation) ?? (evaluation.lagM === null ? "cannot keep up" : show("kerf", evaluation.lagM * 1000))}</dd>
                <dd>
                  <Why of="bow in the cut" relation={LAG} inputs={`${show("force", design.tension.hot_N, 1)} over ${show("length", design.wire.length_mm)}.`} />
                </dd>
                <dt>Wait at a corner</dt>
                <dd className="num">{noCut(evaluation) ?? (evaluation.dwellS === null ? "cannot keep up" : `${evaluation.dwellS.toFixed(1)} s`)}</dd>
                <dd>
                  <Why of="wait" relation={DWELL} inputs="until the middle has caught up with the ends." />
                </dd>
              </dl>
              <div className="two-up" style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 20 }}>
                {(
                  [
                    ["Set it hot", `Heat on, wire in air at ${show("temperature", Math.max(evaluation.circuit.wireC, evaluation.cut.wireC))}:`, desk.setHot],
                    ["Set it cold", "Heat off and the wire cooled:", desk.setCold],
                  ] as const
                ).map(([title, first, numbers]) => (
                  <section key={title}>
                    <h2 style={{ fontSize: 17, margin: "12px 0 4px" }}>{title}</h2>
                    <p style={{ margin: "0 0 4px", fontSize: 15 }}>{first}</p>
                    <ul style={{ margin: 0, paddingLeft: 18, fontSize: 15 }}>
                      {numbers.map((number) => (
                        <li key={number.how} data-set={`${title}-${number.how}`}>
                          {number.words}
                        </li>
                      ))}
                    </ul>
                  </section>
                ))}
              </div>
            </div>
          </div>
        )}
        {tab === "Frame" && <FrameEditor design={design} frame={frame} tensionN={evaluation.tension.coldN} onChange={onChange} />}
        {tab === "Tuner" && <Tuner design={design} evaluation={evaluation} rateNPerM={desk.rateNPerM} onSave={id ? keep : null} />}
        {tab === "Ends" && (
          <section style={{ maxWidth: 700 }} aria-label="Ends of the wire">
            <dl className="part-figures" style={{ maxWidth: 420 }}>
              <dt>Cut off the spool</dt>
              <dd className="num">{show("length", desk.ends.cutM * 1000)}</dd>
              <dd>
                <Why
                  of="cut length"
                  relation={WIRE_ENDS}
                  inputs={`${show("length", design.wire.length_mm)} between posts, ${show("length", desk.ends.endM * 1000)} at each end.`}
                />
              </dd>
              <dt>Bend no tighter than</dt>
              <dd className="num">{show("kerf", desk.ends.bendRadiusM * 1000, system === "metric" ? 1 : 2)} inside</dd>
              <dd />
              <dt>Held in spring and wire</dt>
              <dd className="num" data-figure="energy">
                {(desk.energy.deviceJ + desk.energy.wireJ).toFixed(2)} J
              </dd>
              <dd>
                <Why
                  of="energy"
                  relation={WHIP}
                  inputs={`${show("force", tension.coldN, 1)} cold: ${desk.energy.deviceJ.toFixed(2)} J in the device, ${desk.energy.wireJ.toFixed(2)} J in the wire.`}
                />
              </dd>
            </dl>
            <p data-caution="whip" style={{ borderLeft: "5px solid var(--straw)", paddingLeft: 10 }}>
              <strong>Caution. </strong>A breaking wire lashes with these {(desk.energy.deviceJ + desk.energy.wireJ).toFixed(1)} joules
              {desk.energy.deviceJ + desk.energy.wireJ > 0.5 ? ", enough to cut a face" : ""}: glasses, long sleeves, a glove on the pulling hand, and are out
              of its line. Slacken it before you put it away.
            </p>
            <ul>
              {desk.ends.advice.map((advice) => (
                <li key={advice}>{advice}</li>
              ))}
            </ul>
          </section>
        )}
        {tab === "Checks" && (
          <section style={{ maxWidth: 700 }} aria-label="Tension checks">
            {!id && <p>Keep a copy of this cutter first: checks are kept with it.</p>}
            {id && checks.length === 0 && (
              <p>
                No check yet. Tune it, then keep the pluck in the log; after a few days check again: timber creeps, springs settle, bolted joints slip (common
                practice).
              </p>
            )}
            {recheck && (
              <p role="status" style={{ fontSize: 18 }}>
                <strong>{recheck.due ? "Due now. " : `Due on ${dayOf(recheck.dueAt)}. `}</strong>
                {recheck.words} Slacken it in storage.
              </p>
            )}
            <ul style={{ listStyle: "none", padding: 0 }}>
              {checks.map(({ id: entryId, entry }) => (
                <li key={entryId} style={{ display: "flex", gap: 16, alignItems: "center", borderTop: "1px solid var(--line)", padding: "6px 0" }}>
                  <span className="num">{entry.at.slice(0, 16).replace("T", " ")}</span>
                  <strong className="num">{show("force", entry.tension_N, 1)}</strong>
                  <span className="num">{entry.frequency_Hz === undefined ? "" : `${entry.frequency_Hz.toFixed(1)} Hz`}</span>
                  <span style={{ flex: 1 }}>
                    {entry.hot ? "hot" : "cold"}, by {entry.how}
                  </span>
                  <For who="keep">
                    {" "}
                    <Button
                      size="small"
                      onClick={() => {
                        if (id) api.log.remove(id, entryId).then(() => setLog((all) => all.filter((row) => row.id !== entryId)), say);
                      }}
                    >
                      Remove
                    </Button>
                  </For>
                </li>
              ))}
            </ul>
          </section>
        )}
      </div>
    </main>
  );
}
