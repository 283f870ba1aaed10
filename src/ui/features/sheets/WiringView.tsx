"use client";
import "../../kit/theme/sheet.css";
import Button from "@mui/material/Button";
import { useMemo } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { type SafetyKey, SWITCHES } from "@/core/cutters/design/vocabulary";
import type { DesignEvaluation } from "@/core/cutters/solve/evaluate";
import { unansweredSafety, withSafetyAnswer } from "@/core/cutters/solve/safety";
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
import { useMember } from "../../kit/useMember";
import { useUnits } from "../../kit/useUnits";

/** How it is joined up: the drawing, the choices that can be made wrong, and what must not be connected. */
export function WiringView({ design, evaluation, onChange }: { design: Design; evaluation: DesignEvaluation; onChange: (next: Design) => void }) {
  const { system } = useUnits();
  const { drawing, notes } = useMemo(() => schematicOf(design, evaluation, system), [design, evaluation, system]);
  const wiring = design.wiring ?? {};
  const member = useMember();
  const set = <K extends SafetyKey>(key: K, value: NonNullable<Design["wiring"]>[K]) =>
    onChange(withSafetyAnswer(design, key, value, new Date().toISOString(), member?.name ?? null));
  /** Chosen only where a person has said so: nothing is answered automatically. */
  const is = <K extends SafetyKey>(key: K, value: NonNullable<Design["wiring"]>[K]) => wiring.answered?.[key] !== undefined && wiring[key] === value;
  const { fuseA, leadRatingA } = fuseAdvice(evaluation.circuit.supplyCurrentA, design.leads?.gauge_awg);
  const cautions = evaluation.cautions.filter((caution) => caution.place === "wiring" || caution.place === "supply");
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
        {unansweredSafety(design).length > 0 && <p style={{ margin: "0 0 6px", fontSize: 14 }}>Drawn as advised where a question is not answered yet.</p>}
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
        <p style={{ margin: "0 0 6px", fontSize: 15 }}>
          Look at the cutter itself before you answer. What nobody has answered is unknown, and keeps it from being called ready.
        </p>
        {!source.apart && (
          <Choice label="Is the supply isolated from the mains?" answered={wiring.answered?.isolation}>
            <Tile chosen={is("isolation", "isolated")} onClick={() => set("isolation", "isolated")}>
              marked as isolated, factory-made
            </Tile>
            <Tile chosen={is("isolation", "unknown")} onClick={() => set("isolation", "unknown")}>
              not sure
            </Tile>
          </Choice>
        )}
        <Choice label={`Which fuse is fitted, at ${source.fusedAt}?`} answered={wiring.answered?.fuse_A}>
          {fuses.map((size) => (
            <Tile key={size} chosen={is("fuse_A", size)} onClick={() => set("fuse_A", size)}>
              <span className="num">{size} A</span>
              {size === fuseA ? ", as advised" : ""}
            </Tile>
          ))}
          <Tile chosen={is("fuse_A", null)} onClick={() => set("fuse_A", null)}>
            none
          </Tile>
          {fuseA === null && <span style={{ alignSelf: "center", fontSize: 14 }}>The leads are too thin for any fuse: good for {leadRatingA} A.</span>}
        </Choice>
        <Choice label="Which switch is fitted?" answered={wiring.answered?.switch}>
          {SWITCHES.map((kind) => (
            <Tile key={kind} chosen={is("switch", kind)} onClick={() => set("switch", kind)}>
              {kind === "none" ? "none" : `${kind} switch`}
            </Tile>
          ))}
        </Choice>
        {springy && (
          <Choice label="Does current go past the spring?" answered={wiring.answered?.jumper}>
            <Tile chosen={is("jumper", true)} onClick={() => set("jumper", true)}>
              yes: lead on the wire, or a jumper
            </Tile>
            <Tile chosen={is("jumper", false)} onClick={() => set("jumper", false)}>
              no, through the spring
            </Tile>
          </Choice>
        )}
        <Choice label="How are the posts fixed?" answered={wiring.answered?.insulatedPost}>
          <Tile chosen={is("insulatedPost", true)} onClick={() => set("insulatedPost", true)}>
            one insulated from the frame
          </Tile>
          <Tile chosen={is("insulatedPost", false)} onClick={() => set("insulatedPost", false)}>
            both on the bare frame
          </Tile>
        </Choice>
      </div>
    </main>
  );
}

function Choice({ label, answered, children }: { label: string; answered: { at: string; by: string | null } | undefined; children: React.ReactNode }) {
  return (
    <fieldset style={{ border: 0, padding: 0, margin: "0 0 12px" }} data-answered={answered !== undefined}>
      <legend style={{ fontSize: 15, padding: 0, marginBottom: 4 }}>
        {label} <em>{answered ? `answered ${answered.at.slice(0, 10)}${answered.by ? ` by ${answered.by}` : ""}` : "not answered"}</em>
      </legend>
      <TileRow>{children}</TileRow>
    </fieldset>
  );
}
