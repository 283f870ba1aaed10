"use client";
import TextField from "@mui/material/TextField";
import { useEffect, useState } from "react";
import type { Point } from "@/core/geometry/points";
import { SHAPE_KINDS, type Shape, shapeRecord } from "@/core/plans/shapes";
import type { ShapeField } from "@/core/plans/shapes/record";
import { CountField } from "../../kit/CountField";
import { Tile, TileRow } from "../../kit/Tile";

type Fields = Record<string, unknown>;

/** A good shape takes effect as it is typed; a bad one is named under its field and nothing is lost. */
function TypedField({
  field,
  shape,
  onChange,
}: {
  field: Extract<ShapeField, { as: "text" | "long" | "pairs" }>;
  shape: Shape;
  onChange: (shape: Shape) => void;
}) {
  const value = (shape as unknown as Fields)[field.key];
  const shown = field.as === "pairs" ? (value as Point[]).map(([x, y]) => `${x} ${y}`).join("\n") : String(value ?? "");
  const [text, setText] = useState(shown);
  const [error, setError] = useState<string | null>(null);
  const [typing, setTyping] = useState(false);
  useEffect(() => {
    if (!typing) setText(shown);
  }, [shown, typing]);
  const take = (next: string) => {
    setTyping(true);
    setText(next);
    const read: unknown =
      field.as === "pairs"
        ? next
            .trim()
            .split(/\n+/)
            .map((line) =>
              line
                .trim()
                .split(/[\s,;]+/)
                .map(Number),
            )
        : next;
    const wished = { ...shape, [field.key]: read } as Shape;
    const result = shapeRecord(shape.kind).schema.safeParse(wished);
    if (result.success) {
      setError(null);
      onChange(result.data);
    } else setError(`${field.label.toLowerCase()}: ${result.error.issues[0]?.message ?? "cannot be read"}`);
  };
  return (
    <TextField
      label={field.label}
      value={text}
      size="small"
      fullWidth
      multiline={field.as !== "text"}
      minRows={field.as === "text" ? undefined : 5}
      maxRows={12}
      error={error !== null}
      helperText={error ?? field.hint}
      onChange={(event) => take(event.target.value)}
      onBlur={() => {
        setTyping(false);
        setError(null);
        setText(shown);
      }}
      slotProps={{ htmlInput: { className: field.as === "text" ? undefined : "num" } }}
    />
  );
}

/** Which shape, and its figures: all of it from the shapes' own records. */
export function ShapeFields({ shape, onChange }: { shape: Shape; onChange: (shape: Shape) => void }) {
  const record = shapeRecord(shape.kind);
  const set = (key: string, value: unknown) => onChange({ ...shape, [key]: value } as Shape);
  return (
    <div className="plan-fields">
      <TileRow>
        {SHAPE_KINDS.map((kind) => (
          <Tile key={kind} chosen={shape.kind === kind} onClick={() => shape.kind !== kind && onChange(shapeRecord(kind).start())}>
            {shapeRecord(kind).title}
          </Tile>
        ))}
      </TileRow>
      {record.fields.map((field) =>
        field.as === "number" ? (
          <CountField
            key={`${shape.kind} ${field.key}`}
            label={field.label}
            value={Number((shape as unknown as Fields)[field.key] ?? 100)}
            min={field.min}
            max={field.max}
            unit={field.unit || " "}
            whole={field.whole ?? false}
            onChange={(value) => set(field.key, value)}
          />
        ) : field.as === "switch" ? (
          <TileRow key={field.key}>
            <Tile chosen={Boolean((shape as unknown as Fields)[field.key])} onClick={() => set(field.key, !(shape as unknown as Fields)[field.key])}>
              {field.label}
            </Tile>
          </TileRow>
        ) : (
          <TypedField key={`${shape.kind} ${field.key}`} field={field} shape={shape} onChange={onChange} />
        ),
      )}
    </div>
  );
}
