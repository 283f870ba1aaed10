"use client";
import TextField from "@mui/material/TextField";
import { type ReactNode, useState } from "react";
import type { AllowedChoice, AllowedNumber, Asked, Field } from "@/core/units/field";
import { CountField } from "./CountField";
import { readList, readWord, type TextKind, writtenAs } from "./fieldText";
import { OptionalCount } from "./OptionalCount";
import { OptionalQuantity } from "./OptionalQuantity";
import { QuantityField } from "./QuantityField";
import { Tile, TileRow } from "./Tile";

type Values = Readonly<Record<string, unknown>>;
type NumberAsked = Omit<AllowedNumber, "as"> & Pick<Asked, "label" | "hint">;

/** A number typed with its unit, or a plain one. */
export function NumberInput({ field, value, onChange }: { field: NumberAsked; value: number; onChange: (value: number) => void }) {
  const { quantity, label, min, max, unit, whole = false, decimals, hint } = field;
  return quantity ? (
    <QuantityField
      quantity={quantity}
      label={label}
      value={value}
      range={{ min, max }}
      onChange={onChange}
      {...(decimals === undefined ? {} : { decimals })}
      hint={hint ?? " "}
    />
  ) : (
    <CountField label={label} value={value} min={min} max={max} unit={hint ?? unit ?? ""} whole={whole} onChange={onChange} />
  );
}

/** A number that may be left empty. */
function OptionalInput({ field, value, onChange }: { field: NumberAsked; value: number | undefined; onChange: (value: number | undefined) => void }) {
  const { quantity, label, min, max, unit, hint } = field;
  return quantity ? (
    <OptionalQuantity quantity={quantity} label={label} value={value} range={{ min, max }} hint={hint ?? " "} onChange={onChange} />
  ) : (
    <OptionalCount label={label} value={value} min={min} max={max} hint={hint ?? unit ?? " "} onChange={onChange} />
  );
}

/** One of some words, each on a tile. */
export function ChoiceInput({ options, value, onChange }: { options: AllowedChoice["options"]; value: unknown; onChange: (value: string) => void }) {
  return (
    <TileRow>
      {options.map(([option, words]) => (
        <Tile key={option} chosen={value === option} onClick={() => onChange(option)}>
          {words}
        </Tile>
      ))}
    </TileRow>
  );
}

/** The stretch a slider covers: from nothing, or both ways, to well past the figure's value when the page opened. */
function stretchOf({ min, max }: NumberAsked, value: number): { min: number; max: number } {
  const reach = Math.min(max, Math.max(Math.abs(value) * 2.2, Math.min(max, 1)));
  return { min: min < 0 ? Math.max(min, -reach) : min, max: reach };
}

/** A figure with a slider under it: typed exactly, or found by hand. */
function SliderInput({ field, value, onChange }: { field: NumberAsked; value: number; onChange: (value: number) => void }) {
  const [stretch] = useState(() => stretchOf(field, value));
  return (
    <div>
      <NumberInput field={field.quantity ? { hint: "", ...field } : field} value={value} onChange={onChange} />
      <input
        type="range"
        className="rig-slider"
        aria-label={`${field.label}, by hand`}
        min={stretch.min}
        max={Math.max(stretch.max, value)}
        step={field.whole ? 1 : (stretch.max - stretch.min) / 400}
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

/** Words, a list or a table as they are typed: stored when they are valid, marked where not, and never lost. */
function TextInput({ field, value, onChange }: { field: Extract<Field, TextKind>; value: unknown; onChange: (value: unknown) => void }) {
  const [text, setText] = useState<string | null>(null);
  const written = writtenAs(field, value);
  const result = text === null ? null : field.as === "word" ? readWord(field, text) : readList(field, text);
  const error = result && "fault" in result ? result.fault : null;
  const lines = field.as === "rows" ? 3 : field.as === "text" && field.lines !== undefined ? 5 : 1;
  const hint =
    field.as === "rows"
      ? `${field.columns.map(({ label }) => label).join(", ")}, mm`
      : field.as === "numbers"
        ? field.quantity === "force"
          ? "newtons"
          : "mm"
        : " ";
  return (
    <TextField
      label={field.label}
      size="small"
      fullWidth
      multiline={lines > 1}
      minRows={lines > 1 ? lines : undefined}
      maxRows={lines > 1 ? 12 : undefined}
      value={text ?? written}
      error={error !== null}
      helperText={error ?? (field.hint || hint)}
      onChange={(event) => {
        setText(event.target.value);
        const next = field.as === "word" ? readWord(field, event.target.value) : readList(field, event.target.value);
        if ("value" in next) onChange(next.value);
      }}
      onBlur={() => error === null && setText(null)}
      slotProps={{ htmlInput: { className: field.as === "text" && !field.lines ? undefined : "num", autoComplete: "off", spellCheck: false } }}
    />
  );
}

/**
 * One field of a document, from its record.
 * @param empty what the document holds where a figure is not given
 */
export function FieldInput({
  field,
  values,
  empty,
  sliders,
  onChange,
}: {
  field: Exclude<Field, { as: "font" }>;
  values: Values;
  empty: null | undefined;
  sliders: boolean;
  onChange: (change: Values) => void;
}): ReactNode {
  const value = values[field.key];
  const set = (next: unknown) => onChange({ [field.key]: next });
  switch (field.as) {
    case "number":
      if (field.optional) return <OptionalInput field={field} value={(value as number | null) ?? undefined} onChange={(next) => set(next ?? empty)} />;
      if (sliders) return <SliderInput field={field} value={value as number} onChange={set} />;
      return <NumberInput field={field} value={value as number} onChange={set} />;
    case "choice":
      return (
        <fieldset className="rig-choice">
          <legend>{field.label}</legend>
          <ChoiceInput options={field.options} value={value} onChange={set} />
        </fieldset>
      );
    case "switch":
      return (
        <Tile chosen={value === true} onClick={() => set(value !== true)}>
          {field.label}
        </Tile>
      );
    default:
      return <TextInput field={field} value={value} onChange={set} />;
  }
}
