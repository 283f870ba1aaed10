"use client";
import Button from "@mui/material/Button";
import { useMemo, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { MEASURED_SUPPLY, measureSupply } from "@/core/drawer/measuredSupply";
import { CoreError } from "@/core/kernel/errors";
import { LIMITS } from "@/core/units/limits";
import { OptionalQuantity } from "../kit/OptionalQuantity";
import { Tile, TileRow } from "../kit/Tile";
import { useUnits } from "../kit/useUnits";
import { Why } from "../kit/Why";

/** A supply nobody labelled, such as a hot knife's own: two steps with a meter and a load of known ohms. */
export function MeasureSupply({ onTake }: { onTake: (supply: Design["supply"]) => void }) {
  const { show } = useUnits();
  const [openV, setOpenV] = useState<number>();
  const [loadedV, setLoadedV] = useState<number>();
  const [loadOhm, setLoadOhm] = useState<number>();
  const [alternating, setAlternating] = useState(false);
  const read = useMemo(() => {
    if (openV === undefined || loadedV === undefined || loadOhm === undefined) return null;
    try {
      return measureSupply({ openV, loadedV, loadOhm, alternating });
    } catch (error) {
      if (error instanceof CoreError) return error.message;
      throw error;
    }
  }, [openV, loadedV, loadOhm, alternating]);
  return (
    <fieldset style={{ border: "1px solid var(--line)", margin: 0, padding: "8px 12px 12px" }}>
      <legend>No plate, as on a hot knife's own supply? Measure it in two steps</legend>
      <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr 1fr", gap: 8 }}>
        <OptionalQuantity
          quantity="voltage"
          label="1: volts, nothing on it"
          value={openV}
          range={{ min: 0.1, max: 1000 }}
          hint="at the wire's ends, wire off"
          onChange={setOpenV}
        />
        <OptionalQuantity
          quantity="resistance"
          label="2: a load of"
          value={loadOhm}
          range={LIMITS.load_ohm}
          hint="a lamp lies: use a resistor or known wire"
          onChange={setLoadOhm}
        />
        <OptionalQuantity quantity="voltage" label="Volts across it" value={loadedV} range={LIMITS.voltage_V} hint=" " onChange={setLoadedV} />
      </div>
      <TileRow>
        <Tile chosen={!alternating} onClick={() => setAlternating(false)}>
          meter on direct
        </Tile>
        <Tile chosen={alternating} onClick={() => setAlternating(true)}>
          meter on alternating
        </Tile>
      </TileRow>
      {typeof read === "string" && <p role="alert">{read}</p>}
      {read !== null && typeof read !== "string" && (
        <p role="status" style={{ margin: "6px 0 0" }}>
          <strong className="num">
            {show("voltage", openV ?? 0)}, {show("resistance", read.internalOhm, 2)}
          </strong>{" "}
          inside; {read.notes.join("; ")}.{" "}
          <Why of="supply" relation={MEASURED_SUPPLY} inputs={`${show("voltage", loadedV ?? 0)} across ${show("resistance", loadOhm ?? 0)}.`} />{" "}
          <Button size="small" variant="outlined" onClick={() => onTake(read.supply as Design["supply"])}>
            Take this supply
          </Button>
        </p>
      )}
    </fieldset>
  );
}
