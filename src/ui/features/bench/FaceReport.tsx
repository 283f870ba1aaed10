"use client";
import type { BenchFace, BenchReport } from "@/core/bench/face";
import { BENCH } from "@/core/bench/simulator";
import { FACE_WORDS } from "@/core/log/faces";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";

/** How each stretch of a face is drawn: strokes in a tile of 16 x 34 units. */
const TEXTURE: Readonly<Record<BenchFace, string>> = {
  matt: "M3 6h.1M11 12h.1M6 20h.1M13 27h.1M4 30h.1",
  glossy: "M2 32L14 4M8 32L16 14",
  ridged: "M0 8l4 5 4-5 4 5 4-5M0 22l4 5 4-5 4 5 4-5",
  grooved: "M6 0v34M10 0v34",
  hooked: "M2 28h8q4 0 4-6t-6-6",
};

/** The cut's face laid flat, stretch by stretch, with its figures. */
export function FacePanel({ report }: { report: BenchReport }) {
  const { show } = useUnits();
  const { face } = report;
  if (!face) return <p>The wire left no cut to look at.</p>;
  const from = face.stretches[0]?.fromM ?? 0;
  const length = Math.max(1e-6, (face.stretches.at(-1)?.toM ?? 0) - from);
  const kerf = (metres: number) => show("kerf", metres * 1000);
  const rows: [string, string][] = [
    ["Kerf", `${kerf(face.kerfM.mean)} (${kerf(face.kerfM.least)} to ${kerf(face.kerfM.most)})`],
    ["Face off true by", kerf(face.errorM)],
    ["Deepest groove", kerf(face.grooveM)],
    ...(face.hookM === null ? [] : ([["Passed the corner at", kerf(face.hookM)]] as [string, string][])),
    ["Feed", report.feed ? `${show("feed", report.feed.meanMPerS * 1000)}, even to ${Math.round(report.feed.spread * 100)} %` : "none"],
    ["Middle trailed by up to", kerf(report.mostLagM)],
  ];
  return (
    <section aria-label="The cut face" data-face={face.overall}>
      <svg
        viewBox="0 0 640 40"
        style={{ width: "100%", display: "block" }}
        role="img"
        aria-label={`The face past the entry: ${FACE_WORDS[face.overall].name}, ${FACE_WORDS[face.overall].means}`}
      >
        <defs>
          {Object.entries(TEXTURE).map(([id, d]) => (
            <pattern key={id} id={`face-${id}`} width="16" height="34" patternUnits="userSpaceOnUse">
              <path d={d} fill="none" stroke="var(--graphite)" strokeWidth={id === "matt" ? 2 : 1.3} strokeLinecap="round" />
            </pattern>
          ))}
        </defs>
        <rect x={1} y={3} width={638} height={34} fill="var(--paper-bright)" stroke="var(--graphite-soft)" />
        {face.stretches.map((stretch) => (
          <rect
            key={stretch.fromM}
            x={1 + (638 * (stretch.fromM - from)) / length}
            y={3}
            width={Math.max(2, (638 * (stretch.toM - stretch.fromM)) / length)}
            height={34}
            fill={`url(#face-${stretch.face})`}
          />
        ))}
      </svg>
      <p style={{ margin: "4px 0" }}>
        <strong>{FACE_WORDS[face.overall].name}</strong>: {FACE_WORDS[face.overall].means}.{" "}
        <Why of="the cut face" relation={BENCH} inputs={`${face.stretches.length} stretches of ${show("length", length * 1000)} of cut past its entry.`} />
      </p>
      <dl className="part-figures" style={{ gridTemplateColumns: "auto 1fr" }}>
        {rows.map(([label, value]) => (
          <div key={label} style={{ display: "contents" }}>
            <dt>{label}</dt>
            <dd className="num" style={{ textAlign: "right" }}>
              {value}
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
