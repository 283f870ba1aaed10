"use client";
import Button from "@mui/material/Button";
import { useMemo, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { foamOf } from "@/core/drawer/things";
import type { LogEntry } from "@/core/log/entries";
import { type FoamSpec, foamNamed, resolveFoam } from "@/core/materials/foams";
import { knobWords } from "@/core/sheets/buildSheet";
import { type CardRow, cardRow, distinctFoams, foamKey, SETTING_CARD } from "@/core/sheets/settingCard";
import { LIMITS } from "@/core/units/limits";
import type { DrawerRow } from "../../kit/api";
import { QuantityField } from "../../kit/QuantityField";
import { Tile, TileRow } from "../../kit/Tile";
import { tidy } from "../../kit/tidy";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";

const MOST_FOAMS = 10;
const WIDER_MM = 200;
const COLD_ROOM_C = 5;

/** For each foam the maker uses: knob, volts, amps and feed, with their bands; and what they would be wider, or in a cold room. */
export function SettingCard({
  design,
  entries,
  drawer,
  onUse,
}: {
  design: Design;
  entries: readonly LogEntry[];
  drawer: readonly DrawerRow[];
  onUse: (row: CardRow) => void;
}) {
  const { show, system } = useUnits();
  const [widthMm, setWidthMm] = useState(design.job.width_mm);
  const [ambientC, setAmbientC] = useState(design.ambient_C);
  const foams = useMemo(() => {
    const logged = entries.flatMap((entry): FoamSpec[] => ("foam" in entry ? [foamNamed(entry.foam)] : []));
    const blocks = drawer.flatMap(({ item }): FoamSpec[] =>
      item.kind === "foam" && item.owned ? [{ family: item.family, density_kg_m3: Math.round(foamOf(item).densityKgM3) }] : [],
    );
    const learnt = (design.calibrations ?? []).map(({ foam }): FoamSpec => foam);
    return distinctFoams([design.job.foam as FoamSpec, ...learnt, ...logged, ...blocks], MOST_FOAMS);
  }, [design, entries, drawer]);
  const rows = useMemo(
    () =>
      foams.map((foam) => ({
        foam,
        usual: cardRow(design, { foam, widthMm: design.job.width_mm, ambientC: design.ambient_C }),
        row: cardRow(design, { foam, widthMm, ambientC }),
      })),
    [design, foams, widthMm, ambientC],
  );
  const requested = widthMm !== design.job.width_mm || ambientC !== design.ambient_C;
  const knobOfRow = (row: CardRow) => (row.knob ? knobWords(row.knob.kind, row.knob.value, system) : "as it is");
  const bandOfRow = ({ knob, settingBand }: CardRow) =>
    knob && settingBand
      ? `${knobWords(knob.kind, settingBand.low, system).replace(/ (%|V|ohm|degrees)$/, "")} to ${knobWords(knob.kind, settingBand.high, system).replace(/^[A-Za-z ]+/, "")}`
      : "";
  return (
    <section aria-label="Setting card">
      <h1 className="only-printed">{design.name}</h1>
      <p style={{ margin: "0 0 8px" }}>
        Where to set the knob for each foam, with this wire.{" "}
        <Why
          of="setting card"
          relation={SETTING_CARD}
          inputs={`${design.name}, ${show("length", widthMm)} wide, a room at ${show("temperature", ambientC)}.`}
        />
      </p>
      <div className="card-ask">
        <QuantityField quantity="length" label="What if it is as wide as" value={widthMm} range={LIMITS.width_mm} onChange={(next) => setWidthMm(tidy(next))} />
        <QuantityField
          quantity="temperature"
          label="and the room is at"
          value={ambientC}
          range={LIMITS.ambient_C}
          onChange={(next) => setAmbientC(tidy(next))}
        />
        <TileRow onScreenOnly>
          <Tile
            chosen={widthMm === design.job.width_mm + WIDER_MM}
            onClick={() => setWidthMm((now) => (now === design.job.width_mm + WIDER_MM ? design.job.width_mm : design.job.width_mm + WIDER_MM))}
          >
            {show("length", WIDER_MM)} wider
          </Tile>
          <Tile chosen={ambientC === COLD_ROOM_C} onClick={() => setAmbientC((now) => (now === COLD_ROOM_C ? design.ambient_C : COLD_ROOM_C))}>
            room at {show("temperature", COLD_ROOM_C)}
          </Tile>
          <Button variant="outlined" onClick={() => window.print()}>
            Print
          </Button>
        </TileRow>
      </div>
      <div style={{ overflowX: "auto" }}>
        <table className="plain-table setting-card">
          <thead>
            <tr>
              <th>Foam</th>
              <th>Knob</th>
              <th>Clean between</th>
              <th>Feed</th>
              <th>On the wire</th>
              <th>Kerf, nine in ten</th>
              <th>
                <span className="visually-hidden">Use</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ foam, usual, row }) => (
              <tr key={foamKey(foam)} data-card={foamKey(foam)}>
                <td>
                  <strong>{resolveFoam(foam).name}</strong>
                  <div style={{ fontSize: 13, color: "var(--graphite-soft)" }}>{row?.calibrated ? "calibrated" : "estimate"}</div>
                </td>
                {row ? (
                  <>
                    <td className="num" data-figure="card-knob">
                      <strong style={{ fontSize: 18 }}>{knobOfRow(row)}</strong>
                      {requested && usual && knobOfRow(usual) !== knobOfRow(row) && <div style={{ fontSize: 13 }}>in place of {knobOfRow(usual)}</div>}
                      {row.longerByMm > 0 && <div style={{ fontSize: 13 }}>with {show("length", row.longerByMm)} more wire</div>}
                    </td>
                    <td className="num">{bandOfRow(row)}</td>
                    <td className="num">{show("feed", row.feedMmS)}</td>
                    <td className="num">
                      {show("voltage", row.volts, 1)}, {show("current", row.currentA)}
                    </td>
                    <td className="num">
                      {show("kerf", row.kerfBandMm.low).replace(/ \S+$/, "")} to {show("kerf", row.kerfBandMm.high)}
                    </td>
                    <td className="not-printed">
                      <Button size="small" onClick={() => onUse(row)}>
                        Use
                      </Button>
                    </td>
                  </>
                ) : (
                  <td colSpan={6}>not cleanly with this set-up at any setting near its feed</td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
