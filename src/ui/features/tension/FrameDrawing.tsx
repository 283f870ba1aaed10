import type { Design } from "@/core/cutters/design/schema";
import type { FrameResult } from "@/core/physics/mechanics/frame";
import { useUnits } from "../../kit/useUnits";

const W = 560;
const H = 250;
/** The largest bend is drawn this long, whether it is small or large. */
const BEND_PX = 26;

/** The frame with its forces, bent as the tension bends it but so many times too much, and says so. Coordinates are pixels of the view. */
export function FrameDrawing({ design, frame, tensionN }: { design: Design; frame: FrameResult; tensionN: number }) {
  const { show } = useUnits();
  const mine = design.frame;
  if (!mine) return null;
  const member = { fill: "none", stroke: "var(--graphite)", strokeWidth: 7, strokeLinecap: "round" } as const;
  const ghost = { fill: "none", stroke: "var(--line)", strokeWidth: 4, strokeDasharray: "3 6" } as const;
  const wire = { fill: "none", stroke: "var(--amber)", strokeWidth: 3 } as const;
  const force = (part: string) => frame.checks.find((check) => check.part === part)?.value ?? 0;
  const say = (x: number, y: number, words: string, anchor: "start" | "middle" | "end" = "middle") => (
    <text x={x} y={y} textAnchor={anchor} fontSize={14} fill="var(--graphite)">
      {words}
    </text>
  );
  const d = BEND_PX;
  const weak = frame.checks.some((check) => !check.ok);
  const body = () => {
    switch (mine.kind) {
      case "bow-saw": {
        const share = mine.wire_arm_mm / (mine.wire_arm_mm + mine.cable_arm_mm);
        const top = 36;
        const bottom = 206;
        const pivot = bottom - share * (bottom - top);
        return (
          <>
            <path d={`M90 ${top}V${bottom}M470 ${top}V${bottom}`} {...ghost} />
            <path
              d={`M90 ${pivot}H470`}
              {...member}
              strokeWidth={9}
              stroke={weak && frame.checks.some((check) => check.part === "spreader" && !check.ok) ? "var(--ember)" : "var(--graphite)"}
            />
            <path d={`M${90 + d} ${top}Q${90 - d} ${pivot} ${90 + d} ${bottom}M${470 - d} ${top}Q${470 + d} ${pivot} ${470 - d} ${bottom}`} {...member} />
            <path d={`M${90 + d} ${top}H${470 - d}`} fill="none" stroke="var(--cool)" strokeWidth={2.5} />
            <path d={`M${90 + d} ${bottom}H${470 - d}`} {...wire} />
            {say(280, top - 10, `cable ${show("force", force("cable"), 0)}`)}
            {say(280, pivot - 10, `spreader ${show("force", force("spreader"), 0)}, squeezed`)}
            {say(280, bottom + 20, `wire ${show("force", tensionN, 0)}`)}
          </>
        );
      }
      case "c-frame":
        return (
          <>
            <path d="M90 200V60H470V200" {...ghost} />
            <path
              d={`M${90 + d} 200Q90 120 92 60Q280 ${60 - d * 0.6} 468 60Q470 120 ${470 - d} 200`}
              {...member}
              stroke={weak ? "var(--ember)" : "var(--graphite)"}
            />
            <path d={`M${90 + d} 200H${470 - d}`} {...wire} />
            {say(280, 34, "back, bent and squeezed")}
            {say(280, 222, `wire ${show("force", tensionN, 0)}`)}
          </>
        );
      case "table-arm":
        return (
          <>
            <path d="M110 215H500M150 60H430" {...ghost} />
            <path d={`M150 215V60Q300 60 430 ${60 + d}`} {...member} stroke={weak ? "var(--ember)" : "var(--graphite)"} />
            <path d="M90 215H510" stroke="var(--graphite)" strokeWidth={4} />
            <path d={`M430 ${60 + d}V215`} {...wire} />
            {say(300, 46, "arm")}
            {say(444, 150, `wire ${show("force", tensionN, 0)}`, "start")}
          </>
        );
      case "camber-tube":
        return (
          <>
            <path d="M80 180Q280 20 480 180" {...member} stroke={weak ? "var(--ember)" : "var(--graphite)"} />
            <path d="M80 180H480" {...wire} />
            {say(280, 84, `tube, pulling ${show("force", frame.ownTensionN ?? 0, 0)} on its own`)}
            {say(280, 204, `wire, ${show("force", tensionN, 0)} asked`)}
          </>
        );
    }
  };
  const times = frame.closesM > 0 ? Math.round((2 * BEND_PX * (design.wire.length_mm / 380)) / (frame.closesM * 1000)) : 1;
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      style={{ width: "100%", maxWidth: 620, display: "block" }}
      role="img"
      aria-label={`Frame under ${show("force", tensionN, 0)} of wire; its ends close by ${show("kerf", frame.closesM * 1000)}`}
    >
      {body()}
      <text x={W - 4} y={H - 4} textAnchor="end" fontSize={12} fill="var(--graphite-soft)">
        {mine.kind === "camber-tube" ? "not to scale" : `bend drawn about ${Math.max(1, times)} times too big`}
      </text>
    </svg>
  );
}
