import Button from "@mui/material/Button";
import type { Design } from "@/core/cutters/design/schema";
import { noCut } from "@/core/cutters/solve/describe";
import type { DesignEvaluation } from "@/core/cutters/solve/evaluate";
import type { frameOf } from "@/core/cutters/solve/frameModel";
import type { TensionDesk } from "@/core/cutters/solve/tensionDesk";
import { DWELL, LAG } from "@/core/physics/cut/lag";
import { TENSION_RECORDS, tensionRecord } from "@/core/physics/mechanics/devices";
import { SPRING_TEST } from "@/core/physics/mechanics/springs";
import { STRENGTH_LIMITS } from "@/core/physics/mechanics/tension";
import { LIMITS } from "@/core/units/limits";
import { Cautions } from "../../cutter/Cautions";
import { InstrumentBoundary } from "../../kit/InstrumentBoundary";
import { QuantityField } from "../../kit/QuantityField";
import { Tile, TileRow } from "../../kit/Tile";
import { tidy } from "../../kit/tidy";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";
import { SpringTest } from "./SpringTest";
import { StrungArm } from "./StrungArm";
import { TensionDrawing } from "./TensionDrawing";

interface PullProps {
  design: Design;
  evaluation: DesignEvaluation;
  desk: TensionDesk;
  frame: ReturnType<typeof frameOf>;
  onChange: (next: Design, key: string) => void;
}

/** The device that pulls the wire, and its figures. */
function DeviceFields({ design, evaluation, desk, frame, onChange }: PullProps) {
  const { show } = useUnits();
  const { device } = design.tension;
  const record = tensionRecord(device);
  const set = (next: Partial<Design["tension"]>) => onChange({ ...design, tension: { ...design.tension, ...next } }, "tension");
  return (
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
  );
}

/** How near the pull is to what the wire withstands, what is left of the device's stretch, and what the cut makes of it. */
function PullFigures({ design, evaluation, desk }: Pick<PullProps, "design" | "evaluation" | "desk">) {
  const { system, show } = useUnits();
  const { tension } = evaluation;
  return (
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
  );
}

/** What pulls the wire straight: the device, a drawing of it, its figures, and how to set it hot and cold. */
export function PullTab(props: PullProps) {
  const { design, evaluation, desk, frame } = props;
  const { show } = useUnits();
  return (
    <div className="two-up" style={{ display: "grid", gridTemplateColumns: "minmax(280px, 360px) minmax(0, 1fr)", gap: 26 }}>
      <DeviceFields {...props} />
      <div>
        <InstrumentBoundary name="the tension drawing">
          <TensionDrawing design={design} evaluation={evaluation} desk={desk} frame={frame} />
        </InstrumentBoundary>
        <Cautions cautions={evaluation.cautions.filter((caution) => caution.place === "tension")} />
        <PullFigures design={design} evaluation={evaluation} desk={desk} />
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
  );
}
