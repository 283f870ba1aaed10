"use client";
import "../../kit/theme/sheet.css";
import Button from "@mui/material/Button";
import { useMemo } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { SWITCHES } from "@/core/cutters/design/vocabulary";
import type { DesignAnswer } from "@/core/cutters/solve/evaluate";
import { drawingToSvg } from "@/core/kernel/drawing";
import { fileStem } from "@/core/kernel/fileStem";
import { fuseAdvice } from "@/core/physics/power/powerAdvice";
import { supplyRecordOf } from "@/core/physics/power/supplies";
import { netlistOf } from "@/core/sheets/netlist";
import { schematicOf } from "@/core/sheets/schematic";
import { Cautions } from "../../cutter/Cautions";
import { DrawingView } from "../../kit/DrawingView";
import { downloadText } from "../../kit/download";
import { InstrumentBoundary } from "../../kit/InstrumentBoundary";
import { Tile, TileRow } from "../../kit/Tile";
import { useUnits } from "../../kit/useUnits";

/** How it is joined up: the drawing, the choices that can be made wrong, and what must not be connected. */
export function WiringView({ design, answer, onChange }: { design: Design; answer: DesignAnswer; onChange: (next: Design) => void }) {
  const { system } = useUnits();
  const { drawing, notes } = useMemo(() => schematicOf(design, answer, system), [design, answer, system]);
  const wiring = design.wiring ?? {};
  const set = (next: NonNullable<Design["wiring"]>) => onChange({ ...design, wiring: { ...wiring, ...next } });
  const { fuseA, leadRatingA } = fuseAdvice(answer.circuit.supplyCurrentA, design.leads?.gauge_awg);
  const cautions = answer.cautions.filter((caution) => caution.place === "wiring" || caution.place === "supply");
  const source = supplyRecordOf(design.supply).record;
  const springy = design.tension.device === "spring";
  const fuses = [...new Set([fuseA, 2, 5, 10, 15].filter((size) => size !== null))].sort((a, b) => a - b);
  const stem = fileStem(design.name);
  return (
    <main className="wiring">
      <div>
        <InstrumentBoundary name="the wiring">
          <DrawingView drawing={drawing} />
        </InstrumentBoundary>
        <ul className="wiring-notes">
          {notes.map((note) => (
            <li key={note.words} data-never={note.never}>
              <strong aria-hidden>{note.never ? "×" : "✓"}</strong>
              {note.words}
            </li>
          ))}
        </ul>
        <div style={{ display: "flex", gap: 10, flexWrap: "wrap" }}>
          <Button variant="outlined" onClick={() => downloadText(`${stem}-wiring.svg`, "image/svg+xml", drawingToSvg(drawing))}>
            Export SVG
          </Button>
          <Button variant="outlined" onClick={() => downloadText(`${stem}-netlist.cir`, "text/plain", netlistOf(design))}>
            Export netlist
          </Button>
        </div>
      </div>
      <div>
        <Cautions cautions={cautions} />
        <h2 style={{ fontSize: 19, margin: "4px 0 6px" }}>How is it joined up?</h2>
        {!source.apart && (
          <Choice label="Is the supply isolated from the mains?">
            <Tile chosen={wiring.isolation !== "unknown"} onClick={() => set({ isolation: "isolated" })}>
              marked as isolated, factory-made
            </Tile>
            <Tile chosen={wiring.isolation === "unknown"} onClick={() => set({ isolation: "unknown" })}>
              not sure
            </Tile>
          </Choice>
        )}
        <Choice label={`Fuse, at ${source.fusedAt}`}>
          <Tile chosen={wiring.fuse_A === undefined} onClick={() => set({ fuse_A: undefined })}>
            as advised: {fuseA === null ? `leads too thin (${leadRatingA} A)` : `${fuseA} A`}
          </Tile>
          {fuses.map((size) => (
            <Tile key={size} chosen={wiring.fuse_A === size} onClick={() => set({ fuse_A: size })}>
              <span className="num">{size} A</span>
            </Tile>
          ))}
          <Tile chosen={wiring.fuse_A === null} onClick={() => set({ fuse_A: null })}>
            none
          </Tile>
        </Choice>
        <Choice label="Switch">
          {SWITCHES.map((kind) => (
            <Tile key={kind} chosen={(wiring.switch ?? "hand") === kind} onClick={() => set({ switch: kind })}>
              {kind === "none" ? "none" : `${kind} switch`}
            </Tile>
          ))}
        </Choice>
        {springy && (
          <Choice label="Current past the spring">
            <Tile chosen={wiring.jumper !== false} onClick={() => set({ jumper: true })}>
              lead on the wire, or a jumper
            </Tile>
            <Tile chosen={wiring.jumper === false} onClick={() => set({ jumper: false })}>
              through the spring
            </Tile>
          </Choice>
        )}
        <Choice label="Posts">
          <Tile chosen={wiring.insulatedPost !== false} onClick={() => set({ insulatedPost: true })}>
            one insulated from the frame
          </Tile>
          <Tile chosen={wiring.insulatedPost === false} onClick={() => set({ insulatedPost: false })}>
            both on the bare frame
          </Tile>
        </Choice>
      </div>
    </main>
  );
}

function Choice({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <fieldset style={{ border: 0, padding: 0, margin: "0 0 12px" }}>
      <legend style={{ fontSize: 15, padding: 0, marginBottom: 4 }}>{label}</legend>
      <TileRow>{children}</TileRow>
    </fieldset>
  );
}
