"use client";
import { PERMANENT_ADVICE } from "@/core/cutters/solve/permanentAdvice";
import { type Answers, EXACTNESS, type Exactness } from "@/core/start/answers";
import { KERF_MM, paceFor } from "@/core/start/wishes";
import { Tile, TileRow } from "../../kit/Tile";
import { useUnits } from "../../kit/useUnits";

/** A cut's edge under a loupe, as rough as the choice allows. */
const EDGES: Readonly<Record<Exactness, { name: string; path: string }>> = {
  rough: { name: "A few millimetres either way", path: "M4 44c8-14 14 6 22-4s12-14 20-2 14 10 22-4 12 6 20-2 14-6 24 4" },
  fair: { name: "Within about a millimetre", path: "M4 42c12-5 20 3 32-1s18-4 30 1 26-4 46 0" },
  fine: { name: "As exact as it goes", path: "M4 42H112" },
};

/** How exact, how fast, and how near the mains? */
export function CareStep({ answers, change }: { answers: Answers; change: (part: Partial<Answers>) => void }) {
  const { show } = useUnits();
  const { exact, mains, brisk } = answers;
  return (
    <>
      <h2>How exact must it come out?</h2>
      <div className="edge-tiles">
        {EXACTNESS.map((id) => (
          <Tile key={id} chosen={exact === id} onClick={() => change({ exact: id })}>
            <svg width="116" height="72" aria-hidden="true">
              <path d={`${EDGES[id].path}V70H4z`} fill="var(--foam-eps)" stroke="var(--graphite)" strokeWidth="1.6" />
              <path d="M4 42H112" stroke="var(--amber)" strokeWidth="1.4" strokeDasharray="2 4" />
            </svg>
            <strong>{EDGES[id].name}</strong>
            <span className="tile-more">kerf up to {show("kerf", KERF_MM[id], 1)}</span>
          </Tile>
        ))}
      </div>
      <h2>How fast do you want to move?</h2>
      <TileRow>
        {[false, true].map((fast) => (
          <Tile key={String(fast)} chosen={brisk === fast} onClick={() => change({ brisk: fast })}>
            <strong>{fast ? "Briskly" : "Calmly"}</strong>
            <span className="tile-more">
              {show("feed", paceFor({ ...answers, brisk: fast }))}, {fast ? "for a practised hand" : "for first cuts"}
            </span>
          </Tile>
        ))}
      </TileRow>
      <h2>May you work on the mains side?</h2>
      <TileRow>
        <Tile chosen={!mains} onClick={() => change({ mains: false })}>
          <strong>No: closed supplies and batteries only</strong>
          <span className="tile-more">nothing to open, nothing above low volts within reach</span>
        </Tile>
        <Tile chosen={mains} onClick={() => change({ mains: true })}>
          <strong>Yes: a transformer and its dimmer too</strong>
          <span className="tile-more">boxed and fused, as the local code asks</span>
        </Tile>
      </TileRow>
      <p role="note" className={mains ? "ask-caution" : "ask-more"}>
        {mains && <strong>Caution. </strong>}
        {PERMANENT_ADVICE.supply}
      </p>
    </>
  );
}
