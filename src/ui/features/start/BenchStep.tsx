"use client";
import type { Answers } from "@/core/start/answers";
import { THINGS, type Thing } from "@/core/start/things";
import { awgDiameterMm } from "@/core/units/gauges";
import { Tile } from "../../kit/Tile";

/** One shelf for each thing a cutter is made of. */
const SHELVES: readonly { kind: Thing["kind"]; title: string }[] = [
  { kind: "supply", title: "Something that gives power" },
  { kind: "control", title: "Something that turns the heat" },
  { kind: "wire", title: "Wire" },
];

const ink = { fill: "var(--paper-bright)", stroke: "var(--graphite)", strokeWidth: 1.8, strokeLinejoin: "round", strokeLinecap: "round" } as const;

/** The thing itself, on its shelf: 96 x 60 drawing units, floor at 58. */
function ThingDrawing({ thing }: { thing: Thing }) {
  if (thing.kind === "wire") {
    const mm = "gauge_awg" in thing.wire ? awgDiameterMm(thing.wire.gauge_awg ?? 26) : (thing.wire.diameter_mm ?? 0.4);
    const stroke = Math.max(1, mm * 5);
    return (
      <g fill="none" stroke="var(--amber)" strokeLinecap="round">
        <circle cx="44" cy="36" r="21" stroke="var(--graphite)" strokeWidth="1.4" />
        <circle cx="44" cy="36" r="16" strokeWidth={stroke} strokeDasharray={thing.wire.strands ? "4 1.5" : undefined} />
        <path d="M60 36c8-2 14 10 26 6" strokeWidth={stroke} strokeDasharray={thing.wire.strands ? "4 1.5" : undefined} />
        <circle cx="44" cy="36" r="8" stroke="var(--graphite)" strokeWidth="1.4" />
      </g>
    );
  }
  if (thing.kind === "control") {
    if (thing.id === "rheostat")
      return (
        <g {...ink}>
          <path d="M14 58V38H82V58z" />
          <path d="M22 38V50M30 38V50M38 38V50M46 38V50M54 38V50M62 38V50M70 38V50" />
          <path d="M14 28H82M50 20h10v12H50z" />
        </g>
      );
    return (
      <g {...ink}>
        <path d="M20 58V24H76V58z" />
        <circle cx="48" cy="41" r="11" />
        <path d={thing.id === "dimmer" ? "M48 41v-9" : thing.id === "buck" ? "M48 41l-7-6" : "M48 41l7-6"} />
        <path d={thing.id === "buck" ? "M28 30h8M60 30h8" : "M28 52h4M64 52h4"} />
      </g>
    );
  }
  const { supply } = thing;
  if (supply.kind === "battery")
    return (
      <g {...ink}>
        <path
          d={
            thing.id === "block-9"
              ? "M34 58V24H62V58zM40 24v-5h6v5M52 24v-5h6v5"
              : thing.id === "tool-18"
                ? "M26 58V36H70V58zM36 36V22H60V36"
                : "M16 58V28H80V58zM26 28v-6h8v6M62 28v-6h8v6"
          }
        />
        <path d={thing.id === "block-9" ? "M40 40h6M43 37v6M52 40h6" : "M28 42h8M32 38v8M60 42h8"} />
      </g>
    );
  if (supply.kind === "bench")
    return (
      <g {...ink}>
        <path d="M10 58V18H86V58z" />
        <path d="M18 26h34v12H18z" />
        <circle cx="66" cy="32" r="6" />
        <circle cx="66" cy="48" r="6" />
        <path d="M22 48h4M36 48h4" strokeWidth="5" />
      </g>
    );
  if (supply.kind === "transformer")
    return (
      <g {...ink}>
        <path d="M22 58V22H74V58zM34 46V34H62V46z" />
        <path d="M34 30c-8 2-8 18 0 20M62 30c8 2 8 18 0 20" />
      </g>
    );
  if (thing.id === "computer-12")
    return (
      <g {...ink}>
        <path d="M14 58V16H78V58z" />
        <circle cx="40" cy="37" r="14" />
        <path d="M40 23v28M26 37h28M62 26h10M62 34h10" />
      </g>
    );
  if (thing.id === "train-old")
    return (
      <g {...ink}>
        <path d="M16 58V40L28 22H68L80 40V58z" />
        <path d="M48 46L58 30M38 52H58" />
        <circle cx="48" cy="46" r="4" />
      </g>
    );
  if (thing.id === "machine-24")
    return (
      <g {...ink}>
        <path d="M12 58V24H84V58z" />
        <path d="M20 30v8M26 30v8M32 30v8M38 30v8M44 30v8M12 48H84M20 53h2M32 53h2M44 53h2M56 53h2M68 53h2" />
      </g>
    );
  if (thing.id === "wall-12")
    return (
      <g {...ink}>
        <path d="M30 50V22H66V50zM40 22v-8M56 22v-8" />
        <path d="M48 50c0 8 6 8 14 8H92" fill="none" />
      </g>
    );
  return (
    <g {...ink}>
      <path d="M20 58V42H76V58z" />
      <path d="M20 50H4M76 50c10 0 8-14 16-14" fill="none" />
      <path d="M30 50h18" />
    </g>
  );
}

/** What lies about: ticked, it is on the bench. */
export function BenchStep({
  answers,
  change,
  held,
}: {
  answers: Answers;
  change: (part: Partial<Answers>) => void;
  held: { wires: number; supplies: number; controls: number };
}) {
  const { things, drawer, mains } = answers;
  const toggle = (id: string) => change({ things: things.includes(id) ? things.filter((each) => each !== id) : [...things, id] });
  const owns = held.wires + held.supplies + held.controls > 0;
  return (
    <>
      {owns && (
        <Tile chosen={drawer} onClick={() => change({ drawer: !drawer })}>
          <strong>All that my drawer holds</strong>
          <span className="tile-more">
            {held.wires} wires, {held.supplies} supplies, {held.controls} controls
          </span>
        </Tile>
      )}
      <p className="ask-more">Point at what you have, even if you would rather not use it. What is missing is named at the end.</p>
      {SHELVES.map(({ kind, title }) => (
        <section key={kind} aria-label={title} className="shelf">
          <h2>{title}</h2>
          <div className="shelf-things">
            {THINGS.filter((thing) => thing.kind === kind).map((thing) => {
              const here = things.includes(thing.id);
              return (
                <button type="button" key={thing.id} className="thing" aria-pressed={here} onClick={() => toggle(thing.id)}>
                  <svg width="96" height="60" viewBox="0 0 96 60" aria-hidden="true">
                    <ThingDrawing thing={thing} />
                  </svg>
                  <span className="plank" aria-hidden="true">
                    {here ? "have it" : ""}
                  </span>
                  <strong>{thing.name}</strong>
                  <span className="tile-more">{thing.looks}</span>
                  {here && (thing.refused ?? thing.watch) && (
                    <span className="tile-more" role="note">
                      {thing.refused ? <strong>Not used: </strong> : null}
                      {thing.refused ?? thing.watch}
                    </span>
                  )}
                </button>
              );
            })}
          </div>
        </section>
      ))}
      {!mains && things.some((id) => ["transformer-24", "variable-isolated", "dimmer"].includes(id)) && (
        <p role="note" className="ask-caution">
          <strong>Caution. </strong>A transformer and its dimmer are wired on the mains side. They are counted only if the next page says so.
        </p>
      )}
    </>
  );
}
