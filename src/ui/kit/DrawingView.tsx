import type { Drawing, Ink } from "@/core/kernel/drawing";

const INKS: Readonly<Record<Ink, string>> = {
  graphite: "var(--graphite)",
  soft: "var(--graphite-soft)",
  line: "var(--line)",
  cool: "var(--cool)",
  straw: "var(--straw)",
  amber: "var(--amber)",
  ember: "var(--ember)",
  paper: "var(--paper-bright)",
  none: "none",
};

/** A core drawing on screen, in the scheme's own inks. Its units fill the width given. */
export function DrawingView({ drawing }: { drawing: Drawing }) {
  return (
    <svg viewBox={`0 0 ${drawing.width} ${drawing.height}`} style={{ display: "block", width: "100%", height: "auto" }} role="img" aria-label={drawing.title}>
      <title>{drawing.title}</title>
      {drawing.shapes.map((shape, i) =>
        shape.kind === "text" ? (
          <text
            // biome-ignore lint/suspicious/noArrayIndexKey: a drawing's shapes have no other name and are redrawn as a whole
            key={i}
            x={shape.x}
            y={shape.y}
            fontSize={shape.size}
            textAnchor={shape.anchor}
            fontWeight={shape.bold ? 700 : undefined}
            className={shape.mono ? "num" : undefined}
            fill={INKS[shape.ink ?? "graphite"]}
          >
            {shape.text}
          </text>
        ) : (
          <path
            // biome-ignore lint/suspicious/noArrayIndexKey: as above
            key={i}
            d={shape.d}
            fill={INKS[shape.fill ?? "none"]}
            stroke={INKS[shape.stroke ?? "graphite"]}
            strokeWidth={shape.width ?? 0.5}
            strokeDasharray={shape.dash?.join(" ")}
            strokeLinecap="round"
            strokeLinejoin="round"
          />
        ),
      )}
    </svg>
  );
}
