"use client";
import type { StoredDocument } from "@/core/kernel/document";
import "../../kit/theme/screens.css";
import "../../kit/theme/plans.css";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useMemo, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { simplified } from "@/core/geometry/offset";
import { boundsOf, type Region } from "@/core/geometry/points";
import { CoreError } from "@/core/kernel/errors";
import { firstPlan, MAX_PLAN_CHARACTERS, type Plan } from "@/core/plans/plan";
import { drawShape, shapeRecord } from "@/core/plans/shapes";
import { trim } from "@/core/units/trim";
import { ApiError, api, type UnreadableRow } from "../../kit/api";
import type { CutterAtHand } from "../../kit/CutterAtHand";
import { useChanges } from "../../kit/changes";
import { FileButton } from "../../kit/FileButton";
import { Rail, RailSwitches } from "../../kit/Rail";
import { PutAway, RowActions, useActs } from "../../kit/Shelf";
import { ShortcutsDialog } from "../../kit/Shortcuts";
import { UnreadableRows } from "../../kit/UnreadableRows";
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
  if (points.length === 0) return <span className="plan-sketch">{plan.root.shape.kind === "text" ? plan.root.shape.text : ""}</span>;
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
    <svg className="plan-sketch" viewBox={`${minX - 2} ${-maxY - 2} ${maxX - minX + 4} ${maxY - minY + 4}`} aria-hidden="true">
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

/** Every plan in the shed: made, opened, copied, put away and brought back. */
export function PlanList({
  plans,
  deleted,
  unreadable,
  cutter,
}: {
  plans: StoredDocument<Plan>[];
  deleted: StoredDocument<Plan>[];
  unreadable: UnreadableRow[];
  /** what a new plan is meant for */
  cutter: CutterAtHand<Design["job"]> | null;
}) {
  const { show } = useUnits();
  const [shortcuts, setShortcuts] = useState(false);
  const router = useRouter();
  useChanges(["plans"], () => router.refresh());
  const { act, fault, forget } = useActs();
  const make = () =>
    act(async () => router.push(`/plans/${(await api.plans.create(firstPlan("New plan", cutter && { id: cutter.id, name: cutter.name }, cutter?.job))).id}`));
  const open = (chosen: File) =>
    act(async () => {
      if (chosen.size > 4 * MAX_PLAN_CHARACTERS) throw new ApiError("too-large", `${chosen.name} is too large for a plan`, 0);
      router.push(`/plans/${(await api.plans.importText(await chosen.text())).id}`);
    });
  return (
    <div className="shed">
      <Rail current="plans">
        <span className="spring" />
        <RailSwitches onShortcuts={() => setShortcuts(true)} />
      </Rail>
      <main>
        <div style={{ display: "flex", gap: 10, alignItems: "center", flexWrap: "wrap" }}>
          <h1 style={{ flex: 1, margin: 0, fontSize: 30 }}>Plans</h1>
          <FileButton variant="outlined" label="Plan file" accept=".json,application/json" onFile={(chosen) => void open(chosen)}>
            Import a plan
          </FileButton>
          <Button variant="contained" onClick={() => void make()}>
            New plan
          </Button>
        </div>
        <UnreadableRows rows={unreadable} what="plan" />
        {fault && (
          <Alert severity="error" onClose={forget} sx={{ mt: 2 }}>
            {fault}
          </Alert>
        )}
        {plans.length === 0 ? (
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
        ) : (
          <ul className="plan-rows">
            {plans.map(({ id, document: plan }) => (
              <li key={id} data-plan={plan.name}>
                <Sketch plan={plan} />
                <div>
                  <h2>
                    <Link href={`/plans/${id}`}>{plan.name}</Link>
                  </h2>
                  <p>
                    {shapeRecord(plan.root.shape.kind).words(plan.root.shape)}
                    {plan.tip ? ` to ${shapeRecord(plan.tip.shape.kind).words(plan.tip.shape)}` : ""}, {trim(show("length", plan.part.span_mm))} long
                    {plan.cutter ? `, for ${plan.cutter.name}` : ""}
                  </p>
                </div>
                <RowActions id={id} name={plan.name} at="plans" deeds={api.plans} act={act} />
              </li>
            ))}
          </ul>
        )}
        <PutAway rows={deleted.map(({ id, document: plan }) => ({ id, name: plan.name }))} deeds={api.plans} act={act} />
      </main>
      <ShortcutsDialog open={shortcuts} onClose={() => setShortcuts(false)} rows={[{ keys: "Tab, Enter", does: "reach and press anything on this page" }]} />
    </div>
  );
}
