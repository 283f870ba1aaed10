"use client";
import { useState } from "react";
import { blockDensity } from "@/core/drawer/block";
import { FOAM_FAMILIES, FORBIDDEN_FOAMS, foamFamily } from "@/core/materials/foams";
import type { Answers } from "@/core/start/answers";
import { gramsALitre } from "@/core/start/looks";
import { trim } from "@/core/units/trim";
import { FoamPattern } from "../../cutter/FoamPattern";
import { QuantityField } from "../../kit/QuantityField";
import { Tile, TileRow } from "../../kit/Tile";
import { useUnits } from "../../kit/useUnits";

/** A broken edge as each foam breaks: along its beads, clean, or torn. */
const BREAKS = {
  eps: "M4 0H140l8 12-9 10 10 12-11 10 9 12-8 12 7 14H4z",
  xps: "M4 0H150l-8 82H4z",
  epp: "M4 0H136c14 6 12 14 2 18 14 6 12 16 0 20 14 6 12 16 0 20 14 6 12 16-2 24H4z",
  pe: "M4 0H132c10 10 12 60 26 82H4z",
} as const;

/** What is it, and how heavy? */
export function FoamStep({
  answers,
  change,
  refused,
  refuse,
}: {
  answers: Answers;
  change: (part: Partial<Answers>) => void;
  refused: string | null;
  refuse: (id: string | null) => void;
}) {
  const { show } = useUnits();
  const { foam } = answers;
  const family = foamFamily(foam.family);
  const [weighing, setWeighing] = useState(false);
  const [block, setBlock] = useState({ length_mm: 300, width_mm: 200, thickness_mm: 50 });
  const litres = (block.length_mm * block.width_mm * block.thickness_mm) / 1e6;
  const setFoam = (next: Answers["foam"]) => {
    refuse(null);
    change({ foam: next });
  };
  const weigh = (next: typeof block, mass_g: number) => {
    setBlock(next);
    const density = blockDensity({
      block_length_mm: next.length_mm,
      block_width_mm: next.width_mm,
      block_thickness_mm: next.thickness_mm,
      mass_g,
    })?.densityKgM3;
    if (density === undefined) return;
    if (density >= family.densityMinKgM3 && density <= family.densityMaxKgM3)
      setFoam({ ...foam, density_kg_m3: Number(density.toPrecision(3)), weighed: true });
  };
  const massRange = { min: Number((family.densityMinKgM3 * litres).toPrecision(3)), max: Number((family.densityMaxKgM3 * litres).toPrecision(3)) };
  const refusal = FORBIDDEN_FOAMS.find((row) => row.id === refused);
  return (
    <>
      <div className="foam-faces">
        {FOAM_FAMILIES.map((row) => {
          const { look, feel } = row;
          return (
            <Tile
              key={row.id}
              chosen={row.id === foam.family && !refusal}
              onClick={() => {
                const near = row.gradesKgM3.reduce((a, b) => (Math.abs(b - foam.density_kg_m3) < Math.abs(a - foam.density_kg_m3) ? b : a));
                setFoam({ family: row.id, density_kg_m3: near });
              }}
            >
              <svg viewBox="0 0 162 84" width="100%" height="84" preserveAspectRatio="xMinYMid meet" aria-hidden="true">
                <defs>
                  <FoamPattern family={row.id} id={`face-${row.id}`} />
                </defs>
                <path d={BREAKS[row.id]} fill={`url(#face-${row.id})`} stroke="var(--graphite)" strokeWidth="1.4" />
              </svg>
              <strong>{look}</strong>
              <span className="tile-more">{feel}</span>
              <span className="tile-more">
                {row.name} ({row.shortName})
              </span>
            </Tile>
          );
        })}
      </div>
      <h2>How heavy is it?</h2>
      <p className="ask-more">A litre of it, 100 by 100 by 100 mm, weighs about</p>
      <TileRow>
        {family.gradesKgM3.map((grade) => (
          <Tile
            key={grade}
            chosen={!weighing && grade === foam.density_kg_m3}
            onClick={() => {
              setWeighing(false);
              setFoam({ ...foam, density_kg_m3: grade, weighed: undefined });
            }}
          >
            <span className="num">{trim(show("mass", gramsALitre(grade)))}</span>
          </Tile>
        ))}
        <Tile chosen={weighing} onClick={() => setWeighing(!weighing)}>
          I can weigh a block
        </Tile>
        <Tile chosen={foam.recycled === true} onClick={() => setFoam({ ...foam, recycled: foam.recycled ? undefined : true })}>
          partly recycled
        </Tile>
      </TileRow>
      {weighing && (
        <div className="weigh-row">
          {(["length_mm", "width_mm", "thickness_mm"] as const).map((side) => (
            <QuantityField
              key={side}
              quantity="length"
              label={{ length_mm: "Its length", width_mm: "Its width", thickness_mm: "Its thickness" }[side]}
              value={block[side]}
              range={{ min: 5, max: 3000 }}
              onChange={(value) => weigh({ ...block, [side]: value }, foam.density_kg_m3 * litres)}
            />
          ))}
          <QuantityField
            quantity="mass"
            label="It weighs"
            value={Number((foam.density_kg_m3 * litres).toPrecision(3))}
            range={massRange}
            onChange={(mass) => weigh(block, mass)}
            hint={`so ${trim(show("density", foam.density_kg_m3, 1))}`}
          />
        </div>
      )}
      <h2>Or is it one of these?</h2>
      <TileRow>
        {FORBIDDEN_FOAMS.map((row) => (
          <Tile key={row.id} chosen={row.id === refused} onClick={() => refuse(row.id === refused ? null : row.id)}>
            {row.name}
          </Tile>
        ))}
      </TileRow>
      <div aria-live="assertive">
        {refusal && (
          <p className="refusal">
            <strong>Not with a hot wire.</strong> {refusal.name}: {refusal.why} Point at another foam to go on.
          </p>
        )}
      </div>
    </>
  );
}
