"use client";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { FOAM_FAMILIES, FORBIDDEN_FOAMS, type FoamFamily, foamFamily, ownFoamFault } from "@/core/materials/foams";
import { LIMITS } from "@/core/units/limits";
import { trim } from "@/core/units/trim";
import { FoamPattern } from "../../../cutter/FoamPattern";
import { CountField } from "../../../kit/CountField";
import { QuantityField } from "../../../kit/QuantityField";
import { Tile, TileRow } from "../../../kit/Tile";
import { tidy } from "../../../kit/tidy";
import { useUnits } from "../../../kit/useUnits";
import type { ChooserProps } from "./chooserProps";

/** Which foam and how dense; what must never meet the wire is listed and refused with its reason. */
export function FoamChooser({ design, change }: ChooserProps) {
  const { show } = useUnits();
  const [refused, setRefused] = useState<string | null>(null);
  const { foam } = design.job;
  const family = foamFamily(foam.family);
  const { own } = foam;
  const densities = own ? LIMITS.density_kg_m3 : { min: family.densityMinKgM3, max: family.densityMaxKgM3 };
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
            chosen={row.id === foam.family && !own}
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
        <Tile
          chosen={own !== undefined}
          width={124}
          onClick={() => !own && setFoam({ family: foam.family, own: { name: "My own foam" }, density_kg_m3: foam.density_kg_m3 })}
        >
          <strong>Another</strong>
          <div style={{ fontSize: 12.5, lineHeight: 1.25 }}>of your own, by its data sheet</div>
        </Tile>
      </TileRow>
      {own ? <OwnFoamFields foam={foam} onChange={setFoam} /> : <div style={{ fontSize: 14 }}>{family.notes}</div>}
      <div style={{ display: "flex", gap: 12, alignItems: "flex-start", flexWrap: "wrap" }}>
        <div style={{ width: 170 }}>
          <QuantityField
            quantity="density"
            label="Density"
            value={foam.density_kg_m3}
            range={densities}
            onChange={(density) => setFoam({ ...foam, density_kg_m3: Number(density.toFixed(3)) })}
            hint="weigh a measured block"
          />
        </div>
        <div style={{ flex: 1, minWidth: 220 }}>
          <TileRow>
            {(own ? [] : family.gradesKgM3).map((grade) => (
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

type FoamInDesign = Design["job"]["foam"];

/** Figures a data sheet may give; what is left out is the nearest kin's. */
const SHEET = [
  { key: "collapse_C", label: "Gives way at", quantity: "temperature", of: (family: FoamFamily) => family.collapseC },
  { key: "conductivity_W_mK", label: "Conductivity", quantity: null, of: (family: FoamFamily) => family.conductivityWMK },
  { key: "specificHeat_J_kgK", label: "Specific heat", quantity: null, of: (family: FoamFamily) => family.specificHeatJKgK },
  { key: "latent_kJ_kg", label: "Latent heat", quantity: null, of: (family: FoamFamily) => family.latentKJKg },
] as const;

/** A foam of the maker's own: its name, its nearest kin among those that are known, and what its data sheet says. */
function OwnFoamFields({ foam, onChange }: { foam: FoamInDesign; onChange: (next: FoamInDesign) => void }) {
  const [name, setName] = useState(foam.own?.name ?? "");
  const [fault, setFault] = useState<string | null>(null);
  const family = foamFamily(foam.family);
  const take = (typed: string) => {
    setName(typed);
    const wrong = ownFoamFault(typed);
    setFault(wrong);
    if (wrong === null) onChange({ ...foam, own: { ...foam.own, name: typed.trim() } });
  };
  return (
    <div style={{ display: "grid", gap: 10 }}>
      <TextField
        size="small"
        label="What it is called"
        value={name}
        error={fault !== null}
        helperText={fault ?? " "}
        onChange={(event) => take(event.target.value)}
        sx={{ maxWidth: 340 }}
      />
      <div style={{ fontSize: 14 }}>Nearest to, and like it in all that is not given here:</div>
      <TileRow>
        {FOAM_FAMILIES.map((row) => (
          <Tile key={row.id} chosen={row.id === foam.family} onClick={() => onChange({ ...foam, family: row.id })}>
            {row.shortName}
          </Tile>
        ))}
      </TileRow>
      <div style={{ display: "flex", gap: 10, flexWrap: "wrap" }}>
        {SHEET.map(({ key, label, quantity, of }) => {
          const value = foam[key] ?? of(family);
          const set = (next: number) => onChange({ ...foam, [key]: next });
          return (
            <div key={key} style={{ width: 180 }}>
              {quantity ? (
                <QuantityField quantity={quantity} label={label} value={value} range={LIMITS[key]} onChange={(next) => set(tidy(next))} />
              ) : (
                <CountField label={label} value={value} {...LIMITS[key]} onChange={set} />
              )}
            </div>
          );
        })}
      </div>
      <div style={{ fontSize: 13.5, color: "var(--graphite-soft)" }}>
        Only foam that melts: of polystyrene, polypropylene or polyethylene by its data sheet. Its figures are yours; test cuts put them right. A foam nobody
        can name is cut cold.
      </div>
    </div>
  );
}
