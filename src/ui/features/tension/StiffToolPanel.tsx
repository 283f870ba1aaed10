"use client";
import { useMemo, useState } from "react";
import { noCut } from "@/core/cutters/solve/describe";
import type { DesignEvaluation } from "@/core/cutters/solve/evaluate";
import { CoreError } from "@/core/kernel/errors";
import { STIFF_ENOUGH, STIFF_TOOL, type StiffTool, stiffBowM, stiffWireM } from "@/core/physics/mechanics/stiffBow";
import { SOLDERING_TIP, solderingTip, TIP_METALS, type TipMetal, WAND, wandCut } from "@/core/physics/mechanics/stiffTools";
import { LIMITS } from "@/core/units/limits";
import { QuantityField } from "../../kit/QuantityField";
import { Tile, TileRow } from "../../kit/Tile";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";

/** Where a tool on a handle bends: drawn from the side, its bend exaggerated. Drawing units: 220 x 120. */
function ToolDrawing({ tool, share }: { tool: StiffTool; share: number }) {
  const bend = Math.min(34, 120 * share);
  const leg = (x: number) => `M${x} 26q0 50 ${bend} 78`;
  return (
    <svg viewBox="0 0 220 120" width="100%" style={{ maxWidth: 300 }} role="img" aria-label="The tool from the side, its bend drawn too large">
      <rect x={60} y={26} width={150} height={78} fill="var(--foam-eps)" stroke="var(--line)" />
      <path d="M70 4h40v22h-40z" fill="var(--paper-bright)" stroke="var(--graphite)" strokeWidth={1.5} />
      {tool.kind === "wand" ? (
        <path d={`${leg(86)}${leg(94)}M${86 + bend} 104h8`} fill="none" stroke="var(--amber)" strokeWidth={2} />
      ) : (
        <path d={`${leg(76)}${leg(104)}M${76 + bend} 104h28`} fill="none" stroke="var(--amber)" strokeWidth={2} />
      )}
      <path d="M86 26V104" stroke="var(--graphite-soft)" strokeDasharray="3 3" />
      <path d="M172 14h26m0 0l-7 -4m7 4l-7 4" stroke="var(--graphite)" fill="none" transform="rotate(180 185 14)" />
      <text x={150} y={18} textAnchor="end" fontSize={9} fill="var(--graphite-soft)">
        drag
      </text>
    </svg>
  );
}

/** A tool without a spring: how far its own stiffness lets it bend, a wand's hole, and a rod in a soldering iron in its place. */
export function StiffToolPanel({ evaluation, tool }: { evaluation: DesignEvaluation; tool: StiffTool }) {
  const { show } = useUnits();
  const [gapMm, setGapMm] = useState(1);
  const [metal, setMetal] = useState<TipMetal>("copper");
  const [rodMm, setRodMm] = useState(2);
  const [depthMm, setDepthMm] = useState(tool.depthM * 1000);
  const [watts, setWatts] = useState(40);
  const [ironC, setIronC] = useState(350);
  const { pair, feedMPerS, cut } = evaluation;
  const none = noCut(evaluation);
  const wand = tool.kind === "wand" && none === null ? wandCut(pair, feedMPerS, cut.powerWPerM, gapMm / 1000) : null;
  const drag = wand ? wand.dragNPerM : cut.dragNPerM;
  const bowM = none !== null || drag === null ? null : stiffBowM(tool, pair.wire, drag);
  const share = bowM === null ? 0 : bowM / tool.depthM;
  const tip = useMemo(() => {
    try {
      return solderingTip(pair, { metal, diameterM: rodMm / 1000, depthM: depthMm / 1000 }, { watts, atC: ironC }, feedMPerS);
    } catch (error) {
      if (error instanceof CoreError) return error.message;
      throw error;
    }
  }, [pair, metal, rodMm, depthMm, watts, ironC, feedMPerS]);
  const kerf = (metres: number) => show("kerf", metres * 1000);
  return (
    <div className="two-up" style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 26 }}>
      <section aria-label="Stiffness">
        <ToolDrawing tool={tool} share={share} />
        <dl className="part-figures" style={{ maxWidth: 420 }}>
          <dt>Wire in the tool</dt>
          <dd className="num">{show("length", stiffWireM(tool) * 1000)}</dd>
          <dd />
          <dt>Bends back by</dt>
          <dd className="num" data-figure="bends">
            {none ?? (bowM === null ? "cannot keep up" : kerf(bowM))}
          </dd>
          <dd>
            <Why of="bend" relation={STIFF_TOOL} inputs={`${show("length", tool.depthM * 1000)} deep, ${show("diameter", pair.wire.diameterM * 1000)} wire.`} />
          </dd>
          {wand && (
            <>
              <dt>Hole it leaves</dt>
              <dd className="num" data-figure="hole">
                {kerf(wand.kerfM)}
              </dd>
              <dd>
                <Why of="hole" relation={WAND} inputs={`twice ${show("heat", cut.powerWPerM)}, legs ${show("kerf", gapMm)} apart.`} />
              </dd>
              <dt>Fastest it goes</dt>
              <dd className="num">{show("feed", wand.maxFeedMPerS * 1000)}</dd>
              <dd />
            </>
          )}
          {tool.kind === "loop" && none === null && (
            <>
              <dt>Groove it leaves</dt>
              <dd className="num" data-figure="groove">
                {show("kerf", (tool.widthM + cut.kerfM - pair.wire.outerDiameterM) * 1000)}
              </dd>
              <dd />
            </>
          )}
        </dl>
        {bowM !== null && (
          <p role="status">
            {share > STIFF_ENOUGH
              ? `Too soft: it trails by more than a tenth of its depth and no longer follows the hand. A thicker wire, a shallower tool, or slower.`
              : "Stiff enough to follow the hand."}
          </p>
        )}
        {tool.kind === "wand" && (
          <div style={{ maxWidth: 200 }}>
            <QuantityField quantity="kerf" label="Gap between the legs" value={gapMm} range={LIMITS.legGap_mm} onChange={setGapMm} />
          </div>
        )}
      </section>
      <section aria-label="A rod in a soldering iron">
        <h3 style={{ fontSize: 17, margin: "0 0 6px" }}>Only a soldering iron? A rod in its place</h3>
        <TileRow>
          {(Object.keys(TIP_METALS) as TipMetal[]).map((each) => (
            <Tile key={each} chosen={metal === each} onClick={() => setMetal(each)}>
              {each}
            </Tile>
          ))}
        </TileRow>
        <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 8, marginTop: 10, maxWidth: 420 }}>
          <QuantityField quantity="diameter" label="Rod" value={rodMm} range={{ min: 0.5, max: 12 }} onChange={setRodMm} />
          <QuantityField quantity="length" label="Depth in the foam" value={depthMm} range={LIMITS.toolDepth_mm} onChange={setDepthMm} />
          <QuantityField quantity="power" label="Iron" value={watts} range={LIMITS.iron_W} onChange={setWatts} />
          <QuantityField quantity="temperature" label="Iron's temperature" value={ironC} range={{ min: 100, max: 600 }} onChange={setIronC} />
        </div>
        {typeof tip === "string" ? (
          <p role="alert">{tip}</p>
        ) : (
          <dl className="part-figures" style={{ maxWidth: 420 }}>
            <dt>Root · free end</dt>
            <dd className="num" data-figure="tip">
              {show("temperature", tip.rootC)} · {show("temperature", tip.endC)}
            </dd>
            <dd>
              <Why
                of="rod"
                relation={SOLDERING_TIP}
                inputs={`${metal} of ${show("diameter", rodMm)}, ${show("length", depthMm)} deep at ${show("feed", feedMPerS * 1000)}; takes ${tip.takesW.toFixed(0)} W${tip.ironFalls ? ", all the iron has: it cools as you cut" : ""}.`}
              />
            </dd>
            <dt>Cuts to a depth of</dt>
            <dd className="num">{show("length", tip.cutsM * 1000)}</dd>
            <dd />
            <dt>Slot, root · end</dt>
            <dd className="num">
              {kerf(tip.rootKerfM).replace(/ .*/, "")} · {tip.endKerfM === 0 ? "melts nothing" : kerf(tip.endKerfM)}
            </dd>
            <dd />
          </dl>
        )}
        <p style={{ fontSize: 14 }}>A soldering iron is on the mains: factory-made, whole cable, never opened. It stays hot for minutes.</p>
      </section>
    </div>
  );
}
