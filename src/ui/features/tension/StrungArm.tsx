"use client";
import Button from "@mui/material/Button";
import { useMemo, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import type { DesignEvaluation } from "@/core/cutters/solve/evaluate";
import { STRUNG, type Strung, solveTension, strungN } from "@/core/physics/mechanics/tension";
import { LIMITS } from "@/core/units/limits";
import { OptionalQuantity } from "../../kit/OptionalQuantity";
import { Tile, TileRow } from "../../kit/Tile";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";

const WAYS = {
  bent: "an arm bent back, then drawn straight",
  drawn: "an arm or frame drawn by so much",
  short: "a wire shorter than its gap",
} as const;

/** Tension from how an arm or frame is strung, without a gauge: by its bend, by how far it is drawn, or by how much too short the wire is. */
export function StrungArm({
  design,
  evaluation,
  rateNPerM,
  onTake,
}: {
  design: Design;
  evaluation: DesignEvaluation;
  rateNPerM: number;
  onTake: (hotN: number) => void;
}) {
  const { show } = useUnits();
  const [way, setWay] = useState<keyof typeof WAYS>("bent");
  const [armMm, setArmMm] = useState<number>();
  const [bendDeg, setBendDeg] = useState<number>();
  const [byMm, setByMm] = useState<number>();
  const read = useMemo(() => {
    const strung: Strung | null =
      way === "bent"
        ? armMm !== undefined && bendDeg !== undefined
          ? { armM: armMm / 1000, bendDeg }
          : null
        : byMm === undefined
          ? null
          : way === "drawn"
            ? { drawnM: byMm / 1000 }
            : { shortM: byMm / 1000 };
    if (!strung) return null;
    const spanM = design.wire.length_mm / 1000;
    const { coldN, drawnM } = strungN(strung, rateNPerM, evaluation.wire, spanM);
    const { hotN } = solveTension({
      wire: evaluation.wire,
      spanM,
      hotC: Math.max(design.ambient_C, evaluation.circuit.wireC, evaluation.cut.wireC),
      ambientC: design.ambient_C,
      set: { coldN },
      device: { kind: "arm", rateNPerM },
    });
    return { coldN, drawnM, hotN };
  }, [way, armMm, bendDeg, byMm, design, evaluation, rateNPerM]);
  return (
    <fieldset style={{ border: "1px solid var(--line)", margin: "10px 0 0", padding: "8px 12px 12px" }}>
      <legend>Pre-bent, or strung short? The pull from the bend</legend>
      <TileRow>
        {(Object.keys(WAYS) as (keyof typeof WAYS)[]).map((each) => (
          <Tile key={each} chosen={way === each} onClick={() => setWay(each)}>
            {WAYS[each]}
          </Tile>
        ))}
      </TileRow>
      <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 8, marginTop: 10 }}>
        {way === "bent" ? (
          <>
            <OptionalQuantity
              quantity="length"
              label="Arm length"
              value={armMm}
              range={LIMITS.frameSize_mm}
              hint="from its bend to the wire"
              onChange={setArmMm}
            />
            <OptionalQuantity
              quantity="angle"
              label="Bent back by"
              value={bendDeg}
              range={LIMITS.bend_deg}
              hint="to 80° and drawn to 90°: 10° (common practice)"
              onChange={setBendDeg}
            />
          </>
        ) : (
          <OptionalQuantity
            quantity="kerf"
            label={way === "drawn" ? "Drawn by" : "Too short by"}
            value={byMm}
            range={LIMITS.travel_mm}
            hint={way === "drawn" ? "its end, from where it rests" : "wire against the gap at rest"}
            onChange={setByMm}
          />
        )}
      </div>
      {read && (
        <p role="status" style={{ margin: "6px 0 0" }}>
          Cold <strong className="num">{show("force", read.coldN, 1)}</strong>, hot <strong className="num">{show("force", read.hotN, 1)}</strong>{" "}
          <Why of="pull" relation={STRUNG} inputs={`${show("springRate", rateNPerM / 1000)} drawn by ${show("kerf", read.drawnM * 1000)}.`} />{" "}
          <Button size="small" variant="outlined" disabled={!(read.hotN >= LIMITS.force_N.min)} onClick={() => onTake(read.hotN)}>
            Take this pull
          </Button>
        </p>
      )}
    </fieldset>
  );
}
