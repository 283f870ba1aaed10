"use client";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { Plan } from "@/core/plans/plan";
import type { Rig } from "@/core/rigs/kinds";
import type { RigField, RigNote, RigRecord } from "@/core/rigs/record";
import { CountField } from "../../kit/CountField";
import { OptionalCount } from "../../kit/OptionalCount";
import { OptionalQuantity } from "../../kit/OptionalQuantity";
import { QuantityField } from "../../kit/QuantityField";
import { Tile, TileRow } from "../../kit/Tile";

type Values = Readonly<Record<string, unknown>>;
type NumberField = Extract<RigField, { as: "number" }>;

/** The stretch a slider covers: from nothing, or both ways, to well past the figure's value when the page opened. */
function stretchOf({ min, max }: NumberField, value: number): { min: number; max: number } {
  const reach = Math.min(max, Math.max(Math.abs(value) * 2.2, Math.min(max, 1)));
  return { min: min < 0 ? Math.max(min, -reach) : min, max: reach };
}

/** A figure with a slider under it: typed exactly, or found by hand. */
function Figure({ field, value, onChange }: { field: NumberField; value: number; onChange: (value: number) => void }) {
  const [stretch] = useState(() => stretchOf(field, value));
  const step = field.whole ? 1 : (stretch.max - stretch.min) / 400;
  return (
    <div>
      {field.quantity ? (
        <QuantityField
          quantity={field.quantity}
          label={field.label}
          value={value}
          range={field}
          onChange={onChange}
          {...(field.decimals === undefined ? {} : { decimals: field.decimals })}
          hint={field.hint ?? ""}
        />
      ) : (
        <CountField
          label={field.label}
          value={value}
          min={field.min}
          max={field.max}
          unit={field.hint ?? field.unit ?? ""}
          whole={field.whole ?? false}
          onChange={onChange}
        />
      )}
      <input
        type="range"
        className="rig-slider"
        aria-label={`${field.label}, by hand`}
        min={stretch.min}
        max={Math.max(stretch.max, value)}
        step={step}
        value={value}
        onChange={(event) => {
          const next = Number(event.target.value);
          // Three figures are as fine as a hand sets.
          onChange(field.whole ? next : Number(next.toPrecision(3)));
        }}
      />
    </div>
  );
}

/** A word as it is typed: stored when it is valid, marked where not, and never lost. */
function WordField({ field, value, onChange }: { field: Extract<RigField, { as: "word" }>; value: string; onChange: (value: string) => void }) {
  const [text, setText] = useState<string | null>(null);
  const bad = text !== null && (text.trim().length < field.least || text.length > field.most);
  return (
    <TextField
      size="small"
      fullWidth
      label={field.label}
      value={text ?? value}
      error={bad}
      helperText={bad ? `must be ${field.least} to ${field.most} characters` : (field.hint ?? " ")}
      slotProps={{ htmlInput: { className: "num", autoComplete: "off", spellCheck: false } }}
      onBlur={() => !bad && setText(null)}
      onChange={(event) => {
        const next = event.target.value;
        setText(next);
        if (next.trim().length >= field.least && next.length <= field.most) onChange(next);
      }}
    />
  );
}

/** A list of numbers as it is typed: stored when it is valid, marked where not, and never lost. */
function ListField({
  field,
  value,
  onChange,
}: {
  field: Extract<RigField, { as: "numbers" | "rows" }>;
  value: readonly unknown[];
  onChange: (value: unknown) => void;
}) {
  const written = field.as === "numbers" ? value.join(", ") : (value as readonly (readonly number[])[]).map((row) => row.join(" ")).join("\n");
  const [text, setText] = useState<string | null>(null);
  const read = (typed: string): unknown[] | string => {
    const numbers = (words: string, columns: readonly { label: string; min: number; max: number }[]) => {
      const found = words
        .split(/[\s,;x×]+/)
        .filter(Boolean)
        .map(Number);
      const bad = found.findIndex((each, i) => {
        const column = columns[Math.min(i, columns.length - 1)];
        return !Number.isFinite(each) || (column !== undefined && (each < column.min || each > column.max));
      });
      const column = columns[Math.min(Math.max(0, bad), columns.length - 1)];
      return bad >= 0 ? `${column?.label ?? field.label}: a number from ${column?.min} to ${column?.max}` : found;
    };
    if (field.as === "numbers") {
      const found = numbers(typed, [{ label: field.label.toLowerCase(), min: field.min, max: field.max }]);
      return typeof found !== "string" && found.length > field.most ? `at most ${field.most}` : found;
    }
    const rows: number[][] = [];
    for (const [i, line] of typed.split("\n").entries()) {
      if (line.trim() === "") continue;
      const found = numbers(line, field.columns);
      if (typeof found === "string") return `line ${i + 1}: ${found}`;
      if (found.length !== field.columns.length) return `line ${i + 1}: ${field.columns.map(({ label }) => label).join(", ")}`;
      rows.push(found);
    }
    return rows.length > field.most ? `at most ${field.most} lines` : rows;
  };
  const now = read(text ?? written);
  return (
    <TextField
      label={field.label}
      size="small"
      fullWidth
      multiline={field.as === "rows"}
      minRows={field.as === "rows" ? 3 : 1}
      maxRows={8}
      value={text ?? written}
      error={typeof now === "string"}
      helperText={
        typeof now === "string"
          ? now
          : (field.hint ?? (field.as === "rows" ? `${field.columns.map(({ label }) => label).join(", ")}, mm` : field.quantity === "force" ? "newtons" : "mm"))
      }
      onChange={(event) => {
        setText(event.target.value);
        const next = read(event.target.value);
        if (typeof next !== "string") onChange(next);
      }}
      onBlur={() => typeof now !== "string" && setText(null)}
      slotProps={{ htmlInput: { className: "num" } }}
    />
  );
}

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
  const one = (field: RigField) => {
    const value = values[field.key];
    const set = (next: unknown) => onChange({ [field.key]: next }, field.key);
    switch (field.as) {
      case "number":
        if (field.optional && !field.quantity)
          return (
            <OptionalCount
              label={field.label}
              value={(value as number | null) ?? undefined}
              min={field.min}
              max={field.max}
              onChange={(next) => set(next ?? null)}
            />
          );
        return field.optional && field.quantity ? (
          <OptionalQuantity
            quantity={field.quantity}
            label={field.label}
            value={(value as number | null) ?? undefined}
            range={field}
            hint={field.hint ?? " "}
            onChange={(next) => set(next ?? null)}
          />
        ) : (
          <Figure field={field} value={value as number} onChange={set} />
        );
      case "choice":
        return (
          <fieldset className="rig-choice">
            <legend>{field.label}</legend>
            <TileRow>
              {field.options.map(([option, words]) => (
                <Tile key={option} chosen={value === option} onClick={() => set(option)}>
                  {words}
                </Tile>
              ))}
            </TileRow>
          </fieldset>
        );
      case "switch":
        return (
          <Tile chosen={value === true} onClick={() => set(value !== true)}>
            {field.label}
          </Tile>
        );
      case "word":
        return <WordField field={field} value={value as string} onChange={set} />;
      default:
        return <ListField field={field} value={value as readonly unknown[]} onChange={set} />;
    }
  };
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
                  {one(field)}
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
