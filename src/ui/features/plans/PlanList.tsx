"use client";
import type { StoredDocument } from "@/core/kernel/document";
import "../../kit/theme/plans.css";
import Button from "@mui/material/Button";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useCallback, useMemo } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { simplified } from "@/core/geometry/offset";
import { boundsOf, type Region } from "@/core/geometry/points";
import { CoreError } from "@/core/kernel/errors";
import { firstPlan, MAX_PLAN_CHARACTERS, type Plan } from "@/core/plans/plan";
import { drawShape, shapeRecord } from "@/core/plans/shapes";
import { trim } from "@/core/units/trim";
import { api, type UnreadableRow } from "../../kit/api";
import type { CutterAtHand } from "../../kit/CutterAtHand";
import { DocumentList, type ListedDocument } from "../../kit/DocumentList";
import { useListActions } from "../../kit/useListActions";
import { useUnits } from "../../kit/useUnits";

/** Root and tip over one another, small. Letters need a font that a list does not fetch: they are written. */
function Sketch({ plan }: { plan: Plan }) {
  const drawn = useMemo(() => {
    try {
      return [plan.root, ...(plan.tip ? [plan.tip] : [])].map(({ shape, chord_mm }) => (shape.kind === "text" ? [] : drawShape(shape, chord_mm).regions));
    } catch (error) {
      if (error instanceof CoreError) return [];
      throw error;
    }
  }, [plan]);
  const points = drawn.flatMap((regions) => regions.flatMap(({ outline }) => outline));
  if (points.length === 0) return <span className="row-sketch">{plan.root.shape.kind === "text" ? plan.root.shape.text : ""}</span>;
  const { minX, minY, maxX, maxY } = boundsOf(points);
  const path = ({ outline, holes }: Region) =>
    [outline, ...holes]
      .map(
        (line) =>
          `M${simplified(line, (maxX - minX) / 400)
            .map(([x, y]) => `${x.toFixed(1)} ${(-y).toFixed(1)}`)
            .join("L")}Z`,
      )
      .join("");
  return (
    <svg className="row-sketch" viewBox={`${minX - 2} ${-maxY - 2} ${maxX - minX + 4} ${maxY - minY + 4}`} aria-hidden="true">
      {drawn.map((regions, i) => (
        <path
          // biome-ignore lint/suspicious/noArrayIndexKey: root, then tip
          key={i}
          d={regions.map(path).join("")}
          fill={i === 0 ? "var(--paper-bright)" : "none"}
          stroke="var(--graphite)"
          strokeWidth={1.4}
          strokeDasharray={i === 0 ? undefined : "4 3"}
          vectorEffect="non-scaling-stroke"
          fillRule="evenodd"
        />
      ))}
    </svg>
  );
}

/** The list of plans. */
export function PlanList({
  plans,
  deleted,
  unreadable,
  cutter,
}: {
  plans: readonly StoredDocument<Plan>[];
  deleted: readonly StoredDocument<Plan>[];
  unreadable: readonly UnreadableRow[];
  /** the cutter that a new plan is for */
  cutter: CutterAtHand<Design["job"]> | null;
}) {
  const { show } = useUnits();
  const router = useRouter();
  const open = useCallback((id: string) => router.push(`/plans/${id}`), [router]);
  const { notice, actions } = useListActions(api.plans, open);
  const make = () =>
    actions.run(async () => open((await api.plans.create(firstPlan("New plan", cutter && { id: cutter.id, name: cutter.name }, cutter?.job))).id));
  const rowOf = ({ id, document: plan, changedBy }: StoredDocument<Plan>): ListedDocument => ({
    id,
    name: plan.name,
    changedBy,
    drawing: <Sketch plan={plan} />,
    line: `${shapeRecord(plan.root.shape.kind).words(plan.root.shape)}${plan.tip ? ` to ${shapeRecord(plan.tip.shape.kind).words(plan.tip.shape)}` : ""}, ${trim(show("length", plan.part.span_mm))} long${plan.cutter ? `, for ${plan.cutter.name}` : ""}`,
  });
  return (
    <DocumentList
      kind="plans"
      rows={plans.map(rowOf)}
      archived={deleted.map(({ id, document }) => ({ id, name: document.name }))}
      unreadable={unreadable}
      maxCharacters={MAX_PLAN_CHARACTERS}
      notice={notice}
      actions={actions}
      create={
        <Button variant="contained" onClick={() => void make()}>
          New plan
        </Button>
      }
      empty={
        <div style={{ margin: "60px 0", maxWidth: 560 }}>
          <p style={{ fontSize: 20, lineHeight: 1.5 }}>
            A plan turns a drawing into templates at full size, with the kerf of your own cutter taken off at each end.
          </p>
          <p className="empty-acts">
            <Button variant="contained" size="large" onClick={() => void make()}>
              Make a plan
            </Button>
            <Button size="large" component={Link} href="/demo/long-tom">
              Look round a demo cutter
            </Button>
          </p>
        </div>
      }
    />
  );
}
