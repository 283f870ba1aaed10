"use client";
import TextField from "@mui/material/TextField";
import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import { type Answers, SHEET_LIMITS, sheetGrams, WANTED, type Wanted } from "@/core/start/answers";
import { fromBlock, type HeldBlock, isBlock } from "@/core/start/blocks";
import { LIMITS } from "@/core/units/limits";
import { FoamPattern } from "../../cutter/FoamPattern";
import { QuantityField } from "../../kit/QuantityField";
import { Tile, TileRow } from "../../kit/Tile";
import { useUnits } from "../../kit/useUnits";

/** Scene: drawing units wide and high, floor line, and the block's left edge. */
const WIDE = 760;
const HIGH = 250;
const FLOOR = 222;
const LEFT = 150;
/** A hand as it is next to the block, mm: length and breadth of a grown person's (common practice: a hand's breadth is about 100 mm with the thumb). */
const HAND_MM = 190;
/** Widths of the scene, mm, so that the block has room and the hand is still seen. */
const SPANS_MM = [570, 1000, 1700, 3200] as const;

const WANTED_TILES: Readonly<Record<Wanted, { name: string; more: string; path: string }>> = {
  straight: { name: "Straight cuts", more: "blocks, wedges, panels", path: "M6 40L26 24H74L54 40zM54 40V62L74 46V24M6 40V62H54" },
  shape: { name: "A shape", more: "along templates", path: "M6 52c4-22 30-30 68-8 4 2 2 6-4 6H12c-5 0-7 2-6 2z" },
  sheets: {
    name: "Thin sheets",
    more: "sliced from a block",
    path: "M6 30L20 20H74L60 30zM6 40l14-4M60 40L74 30M6 40H60M6 50H60L74 40M6 60H60L74 50M6 30V60M60 30V60M74 20V50",
  },
  pockets: { name: "Pockets, grooves", more: "with a small tool", path: "M6 34H24c2 18 26 18 28 0H74V62H6z" },
};

/** A count is no quantity with units: whole, and named when it is not. */
function PiecesField({ value, onChange }: { value: number; onChange: (pieces: number) => void }) {
  const [text, setText] = useState<string | null>(null);
  const { min, max } = LIMITS.pieces;
  const typed = Number(text ?? value);
  const bad = !Number.isInteger(typed) || typed < min || typed > max || text?.trim() === "";
  return (
    <TextField
      label="How many pieces"
      size="small"
      fullWidth
      autoComplete="off"
      value={text ?? String(value)}
      error={bad}
      helperText={bad ? `a whole number from ${min} to ${max}` : " "}
      onChange={(event) => {
        setText(event.target.value);
        const next = Number(event.target.value);
        if (event.target.value.trim() !== "" && Number.isInteger(next) && next >= min && next <= max) onChange(next);
      }}
      onBlur={() => !bad && setText(null)}
      slotProps={{ htmlInput: { className: "num", inputMode: "numeric" } }}
    />
  );
}

type Side = "width" | "thickness";

/** The block to scale with a hand next to it; its width and thickness are dragged, or stepped by arrow keys. */
function BlockScene({ answers, change }: { answers: Answers; change: (part: Partial<Answers>) => void }) {
  const { show } = useUnits();
  const { width_mm, thickness_mm, foam } = answers;
  const [frozen, setFrozen] = useState<number | null>(null);
  const drag = useRef<Side | null>(null);
  const drawing = useRef<SVGSVGElement>(null);
  const span = frozen ?? SPANS_MM.find((mm) => mm >= Math.max(width_mm * 1.1, thickness_mm * 3.2)) ?? Math.max(width_mm * 1.1, thickness_mm * 3.2);
  const scale = (WIDE - LEFT - 40) / span;
  const w = width_mm * scale;
  const t = thickness_mm * scale;
  const set = (side: Side, mm: number, step = 5) => {
    const { min, max } = side === "width" ? LIMITS.width_mm : LIMITS.thickness_mm;
    const value = Math.min(max, Math.max(min, Math.round(mm / step) * step));
    change(side === "width" ? { width_mm: value } : { thickness_mm: value });
  };
  const at = (event: PointerEvent) => {
    const box = drawing.current?.getBoundingClientRect();
    if (!box || !drag.current) return;
    const factor = WIDE / box.width;
    if (drag.current === "width") set("width", ((event.clientX - box.left) * factor - LEFT) / scale);
    else set("thickness", (FLOOR - (event.clientY - box.top) * factor) / scale);
  };
  const keys = (side: Side) => (event: KeyboardEvent) => {
    const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    set(side, (side === "width" ? width_mm : thickness_mm) + by * (event.shiftKey ? 50 : 5));
  };
  const handle = (side: Side, x: number, y: number, path: string) => (
    <g
      role="slider"
      tabIndex={0}
      aria-label={side === "width" ? "Width along the wire" : "Thickness"}
      aria-valuemin={(side === "width" ? LIMITS.width_mm : LIMITS.thickness_mm).min}
      aria-valuemax={(side === "width" ? LIMITS.width_mm : LIMITS.thickness_mm).max}
      aria-valuenow={side === "width" ? width_mm : thickness_mm}
      aria-valuetext={show("length", side === "width" ? width_mm : thickness_mm)}
      onKeyDown={keys(side)}
      onPointerDown={(event) => {
        drag.current = side;
        setFrozen(span);
        drawing.current?.setPointerCapture(event.pointerId);
      }}
      style={{ cursor: side === "width" ? "ew-resize" : "ns-resize", touchAction: "none" }}
    >
      <circle cx={x} cy={y} r={24} fill="transparent" />
      <path d={path} transform={`translate(${x} ${y})`} fill="var(--graphite)" />
    </g>
  );
  return (
    <svg
      ref={drawing}
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      width="100%"
      className="block-scene"
      onPointerMove={at}
      onPointerUp={() => {
        drag.current = null;
        setFrozen(null);
      }}
      onPointerCancel={() => {
        drag.current = null;
        setFrozen(null);
      }}
    >
      <title>The block with a hand next to it, to scale</title>
      <defs>
        <FoamPattern family={foam.family} id="block-grain" />
      </defs>
      <path d={`M0 ${FLOOR}H${WIDE}`} stroke="var(--graphite)" strokeWidth={3} />
      <g
        transform={`translate(${LEFT - 24} ${FLOOR}) scale(${(HAND_MM * scale) / 190})`}
        fill="var(--paper-bright)"
        stroke="var(--graphite-soft)"
        strokeWidth={1.5 / ((HAND_MM * scale) / 190)}
        strokeLinejoin="round"
      >
        <path
          d="M-34 0V-40C-42-60-58-74-70-92c-5-9 5-16 12-9l22 24V-158c0-11 15-11 15 0v-8c0-12 16-12 16 0v6c0-11 15-11 15 0v22c0-10 13-10 13 0v78L14 0zM-21-156V-98M-5-162V-98M10-156V-94"
          transform="translate(-20 0)"
        />
      </g>
      <rect x={LEFT} y={FLOOR - t} width={w} height={t} fill="url(#block-grain)" stroke="var(--graphite)" strokeWidth={1.5} />
      <path d={`M${LEFT - 16} ${FLOOR - t / 2}H${LEFT + w + 16}`} stroke="var(--amber)" strokeWidth={2.5} strokeLinecap="round" />
      <text x={LEFT + w / 2} y={FLOOR + 20} textAnchor="middle" fontSize={15} fill="var(--graphite)">
        {show("length", width_mm)} along the wire
      </text>
      <text x={LEFT + Math.min(w, WIDE - LEFT - 130) / 2} y={Math.max(14, FLOOR - t - 12)} textAnchor="middle" fontSize={15} fill="var(--graphite)">
        {show("length", thickness_mm)} thick
      </text>
      {handle("width", LEFT + w + 2, FLOOR - 10, "M-3 -9L-12 0L-3 9zM3 -9L12 0L3 9z")}
      {handle("thickness", LEFT + 18, FLOOR - t, "M-9 -3L0 -12L9 -3zM-9 3L0 12L9 3z")}
    </svg>
  );
}

/** How big is the block, and what is to come out of it? */
export function BlockStep({ answers, change, blocks }: { answers: Answers; change: (part: Partial<Answers>) => void; blocks: readonly HeldBlock[] }) {
  const { show } = useUnits();
  const { width_mm, thickness_mm, wanted, pieces } = answers;
  return (
    <>
      <BlockScene answers={answers} change={change} />
      <div className="weigh-row">
        <QuantityField
          quantity="length"
          label="Width along the wire"
          value={width_mm}
          range={LIMITS.width_mm}
          onChange={(value) => change({ width_mm: value })}
        />
        <QuantityField
          quantity="length"
          label="Thickness, at most"
          value={thickness_mm}
          range={LIMITS.thickness_mm}
          onChange={(value) => change({ thickness_mm: value })}
        />
        <PiecesField value={pieces} onChange={(value) => change({ pieces: value })} />
      </div>
      {blocks.length > 0 && (
        <>
          <h2>A block from the drawer?</h2>
          <TileRow>
            {blocks.map((block) => (
              <Tile key={block.id} chosen={isBlock(answers, block)} onClick={() => change(fromBlock(answers, block))}>
                {block.name}
                <span className="tile-more">
                  {show("length", block.along_mm)} × {show("length", block.width_mm)} × {show("length", block.thickness_mm)}
                </span>
              </Tile>
            ))}
          </TileRow>
        </>
      )}
      <h2>What comes out of it?</h2>
      <div className="wanted-tiles">
        {WANTED.map((id) => {
          const { name, more, path } = WANTED_TILES[id];
          return (
            <Tile key={id} chosen={wanted === id} onClick={() => change({ wanted: id })}>
              <svg width="80" height="68" aria-hidden="true">
                <path d={path} fill="var(--paper)" stroke="var(--graphite)" strokeWidth="1.6" strokeLinejoin="round" />
              </svg>
              <strong>{name}</strong>
              <span className="tile-more">{more}</span>
            </Tile>
          );
        })}
      </div>
      {wanted === "sheets" && (
        <div className="weigh-row">
          <QuantityField
            quantity="kerf"
            label="Thickness of a sheet"
            value={answers.sheet.thick_mm}
            range={SHEET_LIMITS.thick}
            onChange={(thick_mm) => change({ sheet: { ...answers.sheet, thick_mm } })}
          />
          <QuantityField
            quantity="length"
            label="Length, along the cut"
            value={answers.sheet.along_mm}
            range={SHEET_LIMITS.along}
            onChange={(along_mm) => change({ sheet: { ...answers.sheet, along_mm } })}
          />
          <p data-testid="sheet-mass" style={{ gridColumn: "span 2" }}>
            A sheet weighs about <span className="num">{show("mass", sheetGrams(answers), 1)}</span>.
          </p>
        </div>
      )}
    </>
  );
}
