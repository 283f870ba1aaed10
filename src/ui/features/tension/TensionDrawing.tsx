import type { Design } from "@/core/cutters/design/schema";
import type { DesignEvaluation } from "@/core/cutters/solve/evaluate";
import type { TensionDesk } from "@/core/cutters/solve/tensionDesk";
import { tensionRecord } from "@/core/physics/mechanics/devices";
import type { FrameResult } from "@/core/physics/mechanics/frame";
import { heatColour } from "../../cutter/heatColour";
import { useUnits } from "../../kit/useUnits";

const W = 760;
const H = 250;
const POST = 90;
const REST = 470;
/** The growth is drawn so many pixels long, whether it is small or large. */
const GROWTH_PX = 46;

/** Zigzag of a spring between two places. */
function coils(from: number, to: number, y: number): string {
  const step = (to - from - 20) / 16;
  return `M${from} ${y}h10${Array.from({ length: 8 }, () => `l${step} -9l${step} 9`).join("")}h10`;
}

/** The wire cold and hot, one above the other: it grows, the device gives, the frame closes; drawn so many times too big, and says so. Coordinates are pixels of the view. */
export function TensionDrawing({
  design,
  evaluation,
  desk,
  frame,
}: {
  design: Design;
  evaluation: DesignEvaluation;
  desk: TensionDesk;
  frame: FrameResult | null;
}) {
  const { show } = useUnits();
  const { tension } = evaluation;
  const { device } = design.tension;
  const times = tension.growthM > 0 ? Math.max(1, Math.round((GROWTH_PX / (tension.growthM * 1000)) * (design.wire.length_mm / (REST - POST)))) : 1;
  const wall = 700;
  const slackHot = tension.hotN <= 0.05;
  const rows = [
    { name: "cold", y: 70, end: REST, newtons: tension.coldN, colour: "var(--cold-wire)" },
    { name: "hot", y: 180, end: REST + GROWTH_PX, newtons: tension.hotN, colour: heatColour(evaluation.circuit.wireC) },
  ];
  const hold = (row: (typeof rows)[number]) => {
    const stroke = { fill: "none", stroke: "var(--cool)", strokeWidth: 2.4, strokeLinejoin: "round", strokeLinecap: "round" } as const;
    switch (device) {
      case "spring":
      case "band":
        return <path d={`${coils(row.end, wall, row.y)}`} {...stroke} />;
      case "weight":
        return (
          <g>
            <circle cx={row.end + 40} cy={row.y + 10} r={10} {...stroke} />
            <path d={`M${row.end} ${row.y}h40a10 10 0 0 1 10 10v${20 + (row.end - REST)}m-13 0h26l5 26h-36z`} {...stroke} />
          </g>
        );
      case "arm":
        return (
          <path
            d={`M${row.end} ${row.y}h24M${row.end + 24} ${row.y - 34}Q${row.end + 34} ${row.y + 10} ${wall - 90} ${row.y + 44}`}
            {...stroke}
            strokeWidth={5}
          />
        );
      case "turnbuckle":
        return <path d={`M${row.end} ${row.y}H${REST + 30}m0 -9h60v18h-60zm60 9H${wall}`} {...stroke} />;
    }
  };
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      style={{ width: "100%", display: "block" }}
      role="img"
      aria-label={`Wire cold at ${show("force", tension.coldN, 1)} and hot at ${show("force", tension.hotN, 1)}; it grows ${show("kerf", tension.growthM * 1000)}`}
    >
      {rows.map((row) => (
        <g key={row.name}>
          <path d={`M${POST} ${row.y - 28}v56M${wall} ${row.y - 28}v56`} stroke="var(--graphite)" strokeWidth={5} strokeLinecap="round" />
          <path
            d={slackHot && row.name === "hot" ? `M${POST} ${row.y}Q${(POST + row.end) / 2} ${row.y + 40} ${row.end} ${row.y}` : `M${POST} ${row.y}H${row.end}`}
            stroke={row.colour}
            strokeWidth={3.5}
            fill="none"
          />
          {hold(row)}
          <text x={10} y={row.y + 5} fontSize={15} fill="var(--graphite)">
            {row.name}
          </text>
          <text x={(POST + REST) / 2} y={row.y - 10} textAnchor="middle" fontSize={17} className="num" fill="var(--graphite)" fontWeight={600}>
            {show("force", row.newtons, 1)}
          </text>
          {desk.stretchColdM !== null && tensionRecord(device).showsStretch && (
            <text x={(row.end + wall) / 2} y={row.y - 16} textAnchor="middle" fontSize={13} className="num" fill="var(--cool)">
              stretched {show("kerf", ((row.name === "cold" ? desk.stretchColdM : desk.stretchHotM) ?? 0) * 1000)}
            </text>
          )}
        </g>
      ))}
      <path d={`M${REST} 84V200M${REST + GROWTH_PX} 150V200`} stroke="var(--graphite-soft)" strokeDasharray="3 4" />
      <path d={`M${REST} 206h${GROWTH_PX}`} stroke="var(--ember)" strokeWidth={2} />
      <text x={REST + GROWTH_PX / 2} y={224} textAnchor="middle" fontSize={13} fill="var(--graphite)">
        grows {show("kerf", tension.growthM * 1000)}
      </text>
      <text x={W - 6} y={H - 4} textAnchor="end" fontSize={12} fill="var(--graphite-soft)">
        growth drawn {times} times too big{frame ? `; the frame closes ${show("kerf", frame.closesM * 1000)} as it is strung` : ""}
      </text>
    </svg>
  );
}
