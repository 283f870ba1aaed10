"use client";
import { useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { FOAM_FAMILIES, FORBIDDEN_FOAMS, foamFamily } from "@/core/materials/foams";
import { LIMITS } from "@/core/units/limits";
import { trim } from "@/core/units/trim";
import { FoamPattern } from "../../../cutter/FoamPattern";
import { QuantityField } from "../../../kit/QuantityField";
import { Tile, TileRow } from "../../../kit/Tile";
import { useUnits } from "../../../kit/useUnits";
import type { ChooserProps } from "./chooserProps";

/** Which foam and how dense; what must never meet the wire is listed and refused with its reason. */
export function FoamChooser({ design, change }: ChooserProps) {
  const { show } = useUnits();
  const [refused, setRefused] = useState<string | null>(null);
  const { foam } = design.job;
  const family = foamFamily(foam.family);
  const setFoam = (next: Design["job"]["foam"]) => {
    setRefused(null);
    change({ ...design, job: { ...design.job, foam: next } }, "foam");
  };
  const refusal = FORBIDDEN_FOAMS.find((row) => row.id === refused);
  return (
    <div style={{ display: "grid", gap: 12 }}>
      <TileRow>
        {FOAM_FAMILIES.map((row) => (
          <Tile
            key={row.id}
            chosen={row.id === foam.family}
            width={124}
            onClick={() => {
              const near = row.gradesKgM3.reduce((a, b) => (Math.abs(b - foam.density_kg_m3) < Math.abs(a - foam.density_kg_m3) ? b : a));
              setFoam({ family: row.id, density_kg_m3: near });
            }}
          >
            <svg width="104" height="34" aria-hidden="true">
              <defs>
                <FoamPattern family={row.id} id={`swatch-${row.id}`} />
              </defs>
              <rect width="104" height="34" fill={`url(#swatch-${row.id})`} stroke="var(--graphite-soft)" />
            </svg>
            <strong>{row.shortName}</strong>
            <div style={{ fontSize: 12.5, lineHeight: 1.25 }}>{row.name}</div>
          </Tile>
        ))}
      </TileRow>
      <div style={{ fontSize: 14 }}>{family.notes}</div>
      <div style={{ display: "flex", gap: 12, alignItems: "flex-start", flexWrap: "wrap" }}>
        <div style={{ width: 170 }}>
          <QuantityField
            quantity="density"
            label="Density"
            value={foam.density_kg_m3}
            range={{ min: family.densityMinKgM3, max: family.densityMaxKgM3 }}
            onChange={(density) => setFoam({ ...foam, density_kg_m3: Number(density.toFixed(3)) })}
            hint="weigh a measured block"
          />
        </div>
        <div style={{ flex: 1, minWidth: 220 }}>
          <TileRow>
            {family.gradesKgM3.map((grade) => (
              <Tile key={grade} chosen={grade === foam.density_kg_m3} onClick={() => setFoam({ ...foam, density_kg_m3: grade, weighed: undefined })}>
                <span className="num">{trim(show("density", grade).replace(/ .*/, ""))}</span>
              </Tile>
            ))}
            <Tile chosen={foam.weighed === true} onClick={() => setFoam({ ...foam, weighed: foam.weighed ? undefined : true })}>
              this block was weighed: narrower bands
            </Tile>
            <Tile chosen={foam.recycled === true} onClick={() => setFoam({ ...foam, recycled: foam.recycled ? undefined : true })}>
              has recycled content: wider bands
            </Tile>
          </TileRow>
        </div>
      </div>
      <div style={{ width: 170 }}>
        <QuantityField
          quantity="kerf"
          label="Widest kerf accepted"
          value={design.job.maxKerf_mm}
          range={LIMITS.maxKerf_mm}
          onChange={(maxKerf_mm) => change({ ...design, job: { ...design.job, maxKerf_mm } }, "kerf")}
        />
      </div>
      <fieldset style={{ border: "1px solid var(--line)", margin: 0 }}>
        <legend>Never with a hot wire</legend>
        {refusal && (
          <p role="alert" style={{ margin: "0 0 8px" }}>
            <strong>Refused.</strong> {refusal.name}: {refusal.why}
          </p>
        )}
        <TileRow>
          {FORBIDDEN_FOAMS.map((row) => (
            <Tile key={row.id} chosen={row.id === refused} onClick={() => setRefused(row.id)}>
              <span style={{ textDecoration: "line-through", fontSize: 14 }}>{row.name}</span>
              <span className="visually-hidden">, refused</span>
            </Tile>
          ))}
        </TileRow>
      </fieldset>
    </div>
  );
}
