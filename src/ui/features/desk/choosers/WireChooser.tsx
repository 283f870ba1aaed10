"use client";
import type { Design } from "@/core/cutters/design/schema";
import { ALLOYS } from "@/core/materials/alloys";
import { hasTwoTempers, TEMPER_TESTS, temperOf } from "@/core/materials/temper";
import { resistanceOhmPerM, resolveWire } from "@/core/physics/heat/wire";
import { awgDiameterMm } from "@/core/units/gauges";
import { LIMITS } from "@/core/units/limits";
import { gaugeWords } from "../../../cutter/words";
import { OptionalQuantity } from "../../../kit/OptionalQuantity";
import { QuantityField } from "../../../kit/QuantityField";
import { Tile, TileRow } from "../../../kit/Tile";
import { useUnits } from "../../../kit/useUnits";
import type { ChooserProps } from "./chooserProps";

const GAUGES = [20, 22, 24, 26, 28, 30, 32, 34, 36] as const;
/** Drawn this many CSS pixels a millimetre: about twenty times life. */
const PIXELS_PER_MM = 34;

type Size = Pick<Design["wire"], "diameter_mm" | "gauge_awg" | "gauge_swg">;

/** Alloy, with what it gains and costs, and size, drawn to scale against its neighbours. */
export function WireChooser({ design, evaluation, change }: ChooserProps) {
  const { show, system } = useUnits();
  const { wire } = design;
  const setSize = (size: Size) => {
    const { diameter_mm: _d, gauge_awg: _a, gauge_swg: _s, ...rest } = wire;
    change({ ...design, wire: { ...rest, ...size } }, "wire");
  };
  const diameterMm = evaluation.wire.diameterM * 1000;
  return (
    <div style={{ display: "grid", gap: 12 }}>
      <fieldset aria-label="Gauge, drawn to scale" style={{ display: "flex", gap: 4, flexWrap: "wrap", border: 0, margin: 0, padding: 0 }}>
        {GAUGES.map((gauge) => {
          const d = awgDiameterMm(gauge);
          return (
            <Tile key={gauge} chosen={Math.abs(d - diameterMm) < 0.002} onClick={() => setSize({ gauge_awg: gauge })} width={62}>
              <svg width="44" height="30" aria-hidden="true">
                <circle cx="22" cy="15" r={(d * PIXELS_PER_MM) / 2} fill="var(--graphite)" />
              </svg>
              <div className="num" style={{ fontSize: 12.5, textAlign: "center" }}>
                {gauge}
                <span className="visually-hidden"> AWG, </span>
                <br />
                {show("diameter", d, system === "metric" ? 2 : 3).replace(/ .*/, "")}
                <span className="visually-hidden"> {system === "metric" ? "millimetres" : "inches"}</span>
              </div>
            </Tile>
          );
        })}
      </fieldset>
      <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 12 }}>
        <QuantityField
          quantity="diameter"
          label="Diameter or gauge"
          value={diameterMm}
          range={{ min: 0.05, max: 3 }}
          onChange={(d, gauge) =>
            setSize(
              gauge?.awg !== undefined ? { gauge_awg: gauge.awg } : gauge?.swg !== undefined ? { gauge_swg: gauge.swg } : { diameter_mm: Number(d.toFixed(5)) },
            )
          }
          hint={`${gaugeWords(diameterMm)}; "24 awg", "0.016 in" and "22 swg" work too`}
        />
        <QuantityField
          quantity="length"
          label="Length between posts"
          value={wire.length_mm}
          range={LIMITS.length_mm}
          onChange={(length_mm) => change({ ...design, wire: { ...wire, length_mm: Number(length_mm.toFixed(3)) } }, "length")}
        />
      </div>
      <div style={{ display: "grid", gridTemplateColumns: "repeat(auto-fill, minmax(236px, 1fr))", gap: 6 }}>
        {ALLOYS.map((alloy) => (
          <Tile key={alloy.id} chosen={wire.alloy === alloy.id} onClick={() => change({ ...design, wire: { ...wire, alloy: alloy.id } }, "alloy")}>
            <strong>{alloy.name}</strong>
            <div style={{ fontSize: 12.5, lineHeight: 1.3 }}>
              + {alloy.gains}
              <br />− {alloy.costs}
            </div>
          </Tile>
        ))}
      </div>
      <TileRow>
        {[1, 3, 7].map((strands) => (
          <Tile key={strands} chosen={(wire.strands ?? 1) === strands} onClick={() => change({ ...design, wire: { ...wire, strands } }, "strands")}>
            {strands === 1 ? "single wire" : `${strands} strands of this size`}
          </Tile>
        ))}
        {hasTwoTempers(wire.alloy) &&
          (["annealed", "spring", undefined] as const).map((temper) => (
            <Tile key={temper ?? "unknown"} chosen={wire.temper === temper} onClick={() => change({ ...design, wire: { ...wire, temper } }, "temper")}>
              {temper === "spring" ? "hard-drawn" : (temper ?? "temper not known")}
            </Tile>
          ))}
      </TileRow>
      {temperOf(wire) === "unknown" && <p style={{ margin: 0, fontSize: 14 }}>A temper that is not known counts as annealed. {TEMPER_TESTS}</p>}
      <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 12, alignItems: "start" }}>
        <OptionalQuantity
          quantity="force"
          label="Breaks at, if sold by its load"
          value={wire.breaking_N}
          range={LIMITS.breaking_N}
          hint="the whole wire or cable, cold; takes the place of the temper"
          onChange={(breaking_N) => change({ ...design, wire: { ...wire, breaking_N } }, "breaking")}
        />
        <p style={{ margin: 0, fontSize: 14 }}>
          {evaluation.wire.strands > 1 ? `${evaluation.wire.strands} strands, ${show("diameter", evaluation.wire.outerDiameterM * 1000)} over all. ` : ""}
          Stands {show("force", evaluation.tension.hotLimits.recommendedN, 1)} hot; takes a set past {show("force", evaluation.tension.hotLimits.setN, 1)},
          breaks near {show("force", evaluation.tension.hotLimits.breaksN, 1)}.
        </p>
      </div>
      <div className="num" style={{ fontSize: 14 }}>
        {show("resistancePerLength", evaluation.ohmPerM)} cold, {show("resistancePerLength", resistanceOhmPerM(resolveWire(wire), evaluation.circuit.wireC))}{" "}
        hot
      </div>
    </div>
  );
}
