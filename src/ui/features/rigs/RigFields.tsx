"use client";
import Button from "@mui/material/Button";
import type { Plan } from "@/core/plans/plan";
import type { Rig } from "@/core/rigs/kinds";
import type { RigNote, RigRecord } from "@/core/rigs/record";
import { FieldInput } from "../../kit/FieldForm";

type Values = Readonly<Record<string, unknown>>;
/** A note where its choice is made, with the change that cures it. */
export function RigNoteLine({ note, onCure, onPlan }: { note: RigNote; onCure: (change: Values) => void; onPlan?: ((plan: Plan) => void) | undefined }) {
  return (
    <p className={`plan-note plan-note-${note.severity}`} data-note={note.code}>
      {note.words} <span className="plan-basis">({note.basis})</span>{" "}
      {note.cure && (
        <Button size="small" variant="outlined" onClick={() => note.cure && onCure(note.cure.change)}>
          {note.cure.words}
        </Button>
      )}
      {note.planCure && onPlan && (
        <Button size="small" variant="outlined" onClick={() => note.planCure && onPlan(note.planCure.plan)}>
          {note.planCure.words}
        </Button>
      )}
    </p>
  );
}

/** What is said of a rig, group by group, from its own record. */
export function RigFields({
  record,
  rig,
  notes,
  fault,
  onChange,
}: {
  record: RigRecord<Rig>;
  rig: Rig;
  notes: readonly RigNote[];
  fault: { path: string; message: string } | null;
  onChange: (change: Values, key: string) => void;
}) {
  const values = rig as unknown as Values;
  const groups = [...new Set(record.fields.map(({ group }) => group))];
  return (
    <div>
      {groups.map((group, i) => (
        <details key={group} open={i < 2} className="rig-group">
          <summary>{group}</summary>
          <div className="rig-fields">
            {record.fields
              .filter((field) => field.group === group && (!field.only || values[field.only.key] === field.only.is))
              .map((field) => (
                <div key={`${rig.kind} ${field.key}`} className={field.as === "number" ? "" : "rig-wide"} data-field={field.key}>
                  {field.as !== "font" && <FieldInput field={field} values={values} empty={null} sliders onChange={(change) => onChange(change, field.key)} />}
                  {fault?.path.startsWith(field.key) && (
                    <p role="alert" className="plan-note plan-note-danger">
                      {fault.message}
                    </p>
                  )}
                  {notes
                    .filter((note) => note.field === field.key)
                    .map((note) => (
                      <RigNoteLine key={note.code} note={note} onCure={(change) => onChange(change, note.code)} />
                    ))}
                </div>
              ))}
          </div>
        </details>
      ))}
    </div>
  );
}
