"use client";
import type { Readout } from "@/core/bench/lessons";
import { START_GAP_M } from "@/core/bench/simulator";
import { useUnits } from "../../kit/useUnits";
import { type Bench, useBenchFigures } from "./useBench";

/** Said in place of a figure that a lesson hides. */
export const VEIL = "count, do not read";

/** What the supply does, in words. */
export function SupplyLine({ bench }: { bench: Bench }) {
  const frame = useBenchFigures(bench);
  const words = frame?.broken
    ? "the wire has melted through"
    : frame?.supply === "tripped"
      ? "the supply has tripped"
      : frame?.heatOn
        ? frame.charge === null
          ? "heat on"
          : `heat on, ${Math.round(frame.charge * 100)} % charge left`
        : "heat off";
  return (
    <span role="status" style={{ fontSize: 15 }}>
      {words}
    </span>
  );
}

/** The bench's figures in a row. */
export function BenchFigures({ bench, hidden }: { bench: Bench; hidden: (readout: Readout) => boolean }) {
  const { show } = useUnits();
  const frame = useBenchFigures(bench);
  const feed = frame && frame.endFeedMPerS < 1e-5 ? "still" : frame ? show("feed", Math.max(0.001, frame.endFeedMPerS * 1000)) : "";
  const rows: [string, string, string][] = [
    ["feed of the ends", "bench-feed", hidden("feed") ? VEIL : feed],
    ["force", "bench-force", frame?.shownN == null ? "no reading" : show("force", frame.shownN, 2)],
    [
      "wire, air · foam",
      "bench-wire",
      hidden("temperature")
        ? "by eye"
        : frame
          ? `${show("temperature", frame.airC)} · ${frame.shownC === null ? "no reading" : show("temperature", frame.shownC)}`
          : "",
    ],
    ["volts · amps", "bench-amps", hidden("current") ? "by feel" : frame ? `${frame.volts.toFixed(1)} V · ${frame.currentA.toFixed(2)} A` : ""],
    ["middle trails", "bench-lag", frame ? show("kerf", frame.lagM * 1000) : ""],
  ];
  return (
    <dl className="bench-figures">
      {rows.map(([label, figure, value]) => (
        <div key={figure}>
          <dt>{label}</dt>
          <dd className="num" data-figure={figure}>
            {value}
          </dd>
        </div>
      ))}
    </dl>
  );
}

/** How the cut goes, in a few words. */
export function BenchAdvice({ bench, quiet }: { bench: Bench; quiet: boolean }) {
  const frame = useBenchFigures(bench);
  const share = frame?.inFoam && frame.topFeedMPerS > 0 ? frame.endFeedMPerS / frame.topFeedMPerS : 0;
  const words =
    quiet || !frame?.inFoam
      ? ""
      : frame.topFeedMPerS === 0
        ? "Not melting yet: wait, or turn up."
        : share > 0.85
          ? "It drags: slower, or hotter."
          : frame.endFeedMPerS < 1e-4 && frame.heatOn
            ? "Resting: the groove grows."
            : `At ${Math.round(share * 100)} % of its top feed.`;
  return (
    <span role="status" data-advice-bench>
      {words}
    </span>
  );
}

/** How smoothly it runs here, and the keys. */
export function BenchFoot({ bench }: { bench: Bench }) {
  const { show } = useUnits();
  // Renders at reading pace; the counts themselves live outside React.
  useBenchFigures(bench);
  const { frames, dropped } = bench.count.current;
  return (
    <p className="bench-foot" data-frames={frames} data-dropped={dropped}>
      Wire starts {show("length", START_GAP_M * 1000)} before the foam. Keys: H heat, - and = knob, up and down pace, space go or stop, P pause, R fresh block.
    </p>
  );
}
