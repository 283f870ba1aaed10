"use client";
import type { StoredDocument } from "@/core/kernel/document";
import "../../kit/theme/screens.css";
import "../../kit/theme/plans.css";
import "../../kit/theme/rigs.css";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useMemo, useState } from "react";
import { CoreError } from "@/core/kernel/errors";
import type { OutDrawing } from "@/core/plans/outputs/drawing";
import { around } from "@/core/rigs/around";
import { frameOf, PENS } from "@/core/rigs/fitted";
import { RIG_KINDS, type Rig, type RigKind, rigRecord } from "@/core/rigs/kinds";
import type { RigJob } from "@/core/rigs/record";
import { MAX_RIG_CHARACTERS, newRig, type RigDocument } from "@/core/rigs/rig";
import type { RigLayer } from "@/core/rigs/sketch";
import { ApiError, api, type UnreadableRow } from "../../kit/api";
import type { CutterAtHand } from "../../kit/CutterAtHand";
import { useChanges } from "../../kit/changes";
import { FileButton } from "../../kit/FileButton";
import { Rail, RailSwitches } from "../../kit/Rail";
import { PutAway, RowActions, useActs } from "../../kit/Shelf";
import { ShortcutsDialog } from "../../kit/Shortcuts";
import { Tile } from "../../kit/Tile";
import { UnreadableRows } from "../../kit/UnreadableRows";

const alone = around(null, null);

/** A rig drawn small, by itself: without words and measures. */
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
  if (!drawing) return <span className="plan-sketch" />;
  const { left, top, wide, high } = frameOf(drawing);
  return (
    <svg className="plan-sketch" viewBox={`${left} ${-top} ${wide} ${high}`} aria-hidden="true">
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

/** Every rig in the shed: made, opened, copied, put away and brought back. */
export function RigList({
  rigs,
  deleted,
  unreadable,
  cutter,
  plan,
}: {
  rigs: StoredDocument<RigDocument>[];
  deleted: StoredDocument<RigDocument>[];
  unreadable: UnreadableRow[];
  cutter: CutterAtHand<RigJob> | null;
  /** what a new rig is meant for, and whose rigs are shown */
  plan: RigDocument["plan"];
}) {
  const [shortcuts, setShortcuts] = useState(false);
  const [choosing, setChoosing] = useState(rigs.length === 0 || plan !== null);
  const router = useRouter();
  useChanges(["rigs"], () => router.refresh());
  const { act, fault, forget } = useActs();
  const make = (kind: RigKind) =>
    act(async () =>
      router.push(
        `/rigs/${(await api.rigs.create(newRig(kind, plan ? `${rigRecord(kind).title} for ${plan.name}`.slice(0, 80) : undefined, cutter && { id: cutter.id, name: cutter.name }, plan, cutter?.job))).id}`,
      ),
    );
  const open = (chosen: File) =>
    act(async () => {
      if (chosen.size > 4 * MAX_RIG_CHARACTERS) throw new ApiError("too-large", `${chosen.name} is too large for a rig`, 0);
      router.push(`/rigs/${(await api.rigs.importText(await chosen.text())).id}`);
    });
  return (
    <div className="shed">
      <Rail current="rigs">
        <span className="spring" />
        <RailSwitches onShortcuts={() => setShortcuts(true)} />
      </Rail>
      <main>
        <div style={{ display: "flex", gap: 10, alignItems: "center", flexWrap: "wrap" }}>
          <h1 style={{ flex: 1, margin: 0, fontSize: 30 }}>Rigs</h1>
          <FileButton variant="outlined" label="Rig file" accept=".json,application/json" onFile={(chosen) => void open(chosen)}>
            Import a rig
          </FileButton>
          <Button variant="contained" onClick={() => setChoosing(!choosing)} aria-expanded={choosing}>
            New rig
          </Button>
        </div>
        <UnreadableRows rows={unreadable} what="rig" />
        {fault && (
          <Alert severity="error" onClose={forget} sx={{ mt: 2 }}>
            {fault}
          </Alert>
        )}
        {choosing && (
          <section aria-label="Kinds of rig" style={{ margin: "14px 0" }}>
            {rigs.length === 0 && (
              <p style={{ fontSize: 20, lineHeight: 1.5, maxWidth: 640 }}>
                A rig moves the wire against the foam, or the foam against the wire. Choose one, say its measures, and it tells where everything stands.
              </p>
            )}
            {plan && (
              <p>
                For <Link href={`/plans/${plan.id}`}>{plan.name}</Link>: its guides and slopes are taken over.
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
        <ul className="plan-rows">
          {rigs
            .filter(({ document: rig }) => plan === null || rig.plan?.id === plan.id)
            .map(({ id, document: rig }) => (
              <li key={id} data-rig={rig.name}>
                <Sketch rig={rig.rig} />
                <div>
                  <h2>
                    <Link href={`/rigs/${id}`}>{rig.name}</Link>
                  </h2>
                  <p>
                    {rigRecord(rig.rig.kind).title}
                    {rig.cutter ? `, for ${rig.cutter.name}` : ""}
                    {rig.plan ? `; cuts ${rig.plan.name}` : ""}
                  </p>
                </div>
                <RowActions id={id} name={rig.name} at="rigs" deeds={api.rigs} act={act} />
              </li>
            ))}
        </ul>
        <PutAway rows={deleted.map(({ id, document: rig }) => ({ id, name: rig.name }))} deeds={api.rigs} act={act} />
      </main>
      <ShortcutsDialog open={shortcuts} onClose={() => setShortcuts(false)} rows={[{ keys: "Tab, Enter", does: "reach and press anything on this page" }]} />
    </div>
  );
}
