"use client";
import type { StoredDocument } from "@/core/kernel/document";
import "../../kit/theme/plans.css";
import "../../kit/theme/rigs.css";
import Button from "@mui/material/Button";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useCallback, useMemo, useState } from "react";
import { CoreError } from "@/core/kernel/errors";
import type { OutDrawing } from "@/core/plans/outputs/drawing";
import { around } from "@/core/rigs/around";
import { fittedFrame, PENS } from "@/core/rigs/fitted";
import { RIG_KINDS, type Rig, type RigKind, rigRecord } from "@/core/rigs/kinds";
import type { RigJob } from "@/core/rigs/record";
import { MAX_RIG_CHARACTERS, newRig, type RigDocument } from "@/core/rigs/rig";
import type { RigLayer } from "@/core/rigs/sketch";
import { api, type UnreadableRow } from "../../kit/api";
import type { CutterAtHand } from "../../kit/CutterAtHand";
import { DocumentList, type ListedDocument } from "../../kit/DocumentList";
import { Tile } from "../../kit/Tile";
import { useListActions } from "../../kit/useListActions";

const alone = around(null, null);

/** A small drawing of a rig, without words and measures. */
function Sketch({ rig }: { rig: Rig }) {
  const drawing = useMemo((): OutDrawing | null => {
    try {
      const whole = rigRecord(rig.kind).draw(rig, alone, () => "");
      return { ...whole, lines: whole.lines.filter(({ layer }) => layer !== "measures"), texts: [] };
    } catch (error) {
      if (error instanceof CoreError) return null;
      throw error;
    }
  }, [rig]);
  if (!drawing) return <span className="row-sketch" />;
  const { left, top, wide, high } = fittedFrame(drawing);
  return (
    <svg className="row-sketch" viewBox={`${left} ${-top} ${wide} ${high}`} aria-hidden="true">
      {drawing.lines.map(({ layer, points, closed }, i) => (
        <path
          // biome-ignore lint/suspicious/noArrayIndexKey: a line is its place
          key={i}
          d={`M${points.map(([x, y]) => `${x.toFixed(0)} ${(-y).toFixed(0)}`).join("L")}${closed ? "Z" : ""}`}
          fill="none"
          stroke={`var(--${{ graphite: "graphite", soft: "graphite-soft", cool: "cool", ember: "ember" }[PENS[layer as RigLayer].ink as string] ?? "graphite"})`}
          strokeWidth={1.2}
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </svg>
  );
}

/** The list of rigs, of all or of those for one plan. */
export function RigList({
  rigs,
  deleted,
  unreadable,
  cutter,
  plan,
}: {
  rigs: readonly StoredDocument<RigDocument>[];
  deleted: readonly StoredDocument<RigDocument>[];
  unreadable: readonly UnreadableRow[];
  cutter: CutterAtHand<RigJob> | null;
  /** the plan that a new rig is for; only its rigs are shown */
  plan: RigDocument["plan"];
}) {
  const [choosing, setChoosing] = useState(rigs.length === 0 || plan !== null);
  const router = useRouter();
  const open = useCallback((id: string) => router.push(`/rigs/${id}`), [router]);
  const { notice, actions } = useListActions(api.rigs, open);
  const make = (kind: RigKind) =>
    actions.run(async () => {
      const name = plan ? `${rigRecord(kind).title} for ${plan.name}`.slice(0, 80) : undefined;
      open((await api.rigs.create(newRig(kind, name, cutter && { id: cutter.id, name: cutter.name }, plan, cutter?.job))).id);
    });
  const rowOf = ({ id, document, changedBy }: StoredDocument<RigDocument>): ListedDocument => ({
    id,
    name: document.name,
    changedBy,
    drawing: <Sketch rig={document.rig} />,
    line: `${rigRecord(document.rig.kind).title}${document.cutter ? `, for ${document.cutter.name}` : ""}${document.plan ? `; cuts ${document.plan.name}` : ""}`,
  });
  return (
    <DocumentList
      kind="rigs"
      rows={rigs.filter(({ document }) => plan === null || document.plan?.id === plan.id).map(rowOf)}
      archived={deleted.map(({ id, document }) => ({ id, name: document.name }))}
      unreadable={unreadable}
      maxCharacters={MAX_RIG_CHARACTERS}
      notice={notice}
      actions={actions}
      create={
        <Button variant="contained" onClick={() => setChoosing(!choosing)} aria-expanded={choosing}>
          New rig
        </Button>
      }
      empty={null}
    >
      {choosing && (
        <section aria-label="Kinds of rig" style={{ margin: "14px 0" }}>
          {rigs.length === 0 && (
            <p style={{ fontSize: 20, lineHeight: 1.5, maxWidth: 640 }}>
              A rig moves the wire against the foam, or the foam against the wire. Choose one, enter its sizes, and it shows where everything goes.
            </p>
          )}
          {plan && (
            <p>
              For <Link href={`/plans/${plan.id}`}>{plan.name}</Link>: its guides and slopes are used.
            </p>
          )}
          <div className="rig-kinds">
            {RIG_KINDS.filter((kind) => plan === null || rigRecord(kind).takesPlan).map((kind) => (
              <Tile key={kind} chosen={false} onClick={() => void make(kind)}>
                <strong>{rigRecord(kind).title}</strong>
                <br />
                <span style={{ fontSize: 14 }}>{rigRecord(kind).purpose}</span>
              </Tile>
            ))}
          </div>
        </section>
      )}
    </DocumentList>
  );
}
