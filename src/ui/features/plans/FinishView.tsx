"use client";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { Finishing } from "@/core/log/entries";
import { FACE_WORDS } from "@/core/log/faces";
import type { PlanEvaluation } from "@/core/plans/evaluate";
import { finishSteps, restHours } from "@/core/plans/finish";
import type { Plan } from "@/core/plans/plan";
import { FaceDrawing } from "../../cutter/FaceDrawing";
import { CountField } from "../../kit/CountField";
import { logQueue } from "../../kit/logQueue";
import { useUnits } from "../../kit/useUnits";

/** Faces that sanding, filling or a better next cut answers. */
const SEEN = ["hairs", "glossy", "ridged", "grooved"] as const;

/** What is done with the part once it is cut, with its own measures; what was done goes into the cutter's log. */
export function FinishView({ plan, evaluation, onChange }: { plan: Plan; evaluation: PlanEvaluation; onChange: (plan: Plan, key: string) => void }) {
  const { show } = useUnits();
  const [done, setDone] = useState<readonly Finishing[]>([]);
  const [saved, setSaved] = useState<"no" | "yes" | { fault: string }>("no");
  const steps = finishSteps(plan, evaluation, show);
  const set = (next: Partial<Plan["finish"]>) => onChange({ ...plan, finish: { ...plan.finish, ...next } }, "finish");
  const cutter = plan.cutter?.id;
  const keep = async () => {
    if (!cutter) return;
    try {
      await logQueue.keep(cutter, {
        kind: "finish",
        at: new Date().toISOString(),
        part: plan.name,
        pieces: 1,
        done: steps.map(({ id }) => id).filter((id) => done.includes(id)),
        note: "",
      });
      setSaved("yes");
    } catch (error) {
      setSaved({ fault: (error as Error).message });
    }
  };
  return (
    <section className="finish-view" aria-label="Finishing">
      <h2>What to do with it</h2>
      {steps.map(({ id, words, basis }) => (
        <label key={id} data-finish={id}>
          <input
            type="checkbox"
            checked={done.includes(id)}
            onChange={(event) => {
              setSaved("no");
              setDone(event.target.checked ? [...done, id] : done.filter((each) => each !== id));
            }}
          />
          <span>
            {words} <span className="plan-basis">({basis})</span>
          </span>
        </label>
      ))}
      <p>
        <Button variant="contained" disabled={!cutter || done.length === 0 || saved === "yes"} onClick={() => void keep()}>
          {saved === "yes" ? "Logged" : "Log what is ticked"}
        </Button>{" "}
        {cutter ? "" : "Name the cutter of this plan first: its log keeps it."}
      </p>
      {typeof saved === "object" && (
        <Alert severity="error" role="alert">
          It could not be kept: {saved.fault}
        </Alert>
      )}
      <h2>With what</h2>
      <div className="plan-pair">
        <CountField label="Grit" value={plan.finish.grit} min={40} max={2000} unit="150 is usual" whole onChange={(grit) => set({ grit })} />
        <CountField
          label="Rest"
          value={restHours(plan, evaluation)}
          min={0}
          max={1000}
          unit="h before it is measured again"
          onChange={(rest_h) => set({ rest_h })}
        />
        <TextField
          label="Glue"
          size="small"
          value={plan.finish.glue}
          helperText="tried on a scrap of this foam"
          onChange={({ target }) => set({ glue: target.value })}
          slotProps={{ htmlInput: { maxLength: 60 } }}
        />
        <TextField
          label="Skin of"
          size="small"
          value={plan.finish.skin}
          helperText={plan.part.skin_mm > 0 ? `${show("kerf", plan.part.skin_mm)} on each face` : "no skin in this plan"}
          onChange={({ target }) => set({ skin: target.value })}
          slotProps={{ htmlInput: { maxLength: 60 } }}
        />
      </div>
      <h2>What its face says</h2>
      <dl className="face-finish">
        {SEEN.map((face) => (
          <div key={face} style={{ display: "flex", gap: 12, padding: "6px 0" }}>
            <dt style={{ flex: "none" }}>
              <FaceDrawing face={face} />
            </dt>
            <dd style={{ margin: 0 }}>
              <strong>{FACE_WORDS[face].name}</strong>, {FACE_WORDS[face].means}. {FACE_WORDS[face].finish}
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
