"use client";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useEffect, useState } from "react";
import type { Point } from "@/core/geometry/points";
import { CoreError } from "@/core/kernel/errors";
import { type EndShape, SHAPE_KINDS, shapeRecord } from "@/core/plans/shapes";
import type { ShapeField } from "@/core/plans/shapes/record";
import { fontFile } from "@/core/plans/shapes/text";
import { CountField } from "../../kit/CountField";
import { FileButton } from "../../kit/FileButton";
import { Tile, TileRow } from "../../kit/Tile";

type Fields = Record<string, unknown>;

/** A good shape takes effect as it is typed; a bad one is named under its field and nothing is lost. */
function TypedField({
  field,
  shape,
  onChange,
}: {
  field: Extract<ShapeField, { as: "text" | "long" | "pairs" }>;
  shape: EndShape;
  onChange: (shape: EndShape) => void;
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
    const wished = { ...shape, [field.key]: read } as EndShape;
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

/** A font of the person's own: its file goes with the plan. */
function FontField({ field, shape, onChange }: { field: Extract<ShapeField, { as: "font" }>; shape: EndShape; onChange: (shape: EndShape) => void }) {
  const [fault, setFault] = useState<string | null>(null);
  const { [field.key]: file, [field.nameKey]: name, ...bare } = shape as unknown as Fields;
  const open = async (chosen: File) => {
    try {
      const read = fontFile(await chosen.arrayBuffer());
      setFault(null);
      onChange({ ...bare, [field.key]: read, [field.nameKey]: chosen.name.replace(/\.[^.]*$/, "").slice(0, 100) } as unknown as EndShape);
    } catch (error) {
      if (!(error instanceof CoreError)) throw error;
      setFault(`${chosen.name}: ${error.message}`);
    }
  };
  return (
    <div>
      <FileButton variant="outlined" label={field.label} accept=".ttf,.otf,.woff" onFile={(chosen) => void open(chosen)}>
        Open a font
      </FileButton>{" "}
      <span>{file === undefined ? "the app's own lettering" : String(name ?? "a font of your own")}</span>{" "}
      {file !== undefined && <Button onClick={() => onChange(bare as unknown as EndShape)}>The app's own again</Button>}
      {fault && (
        <p role="alert" style={{ margin: "4px 0", color: "var(--danger)" }}>
          {fault}
        </p>
      )}
    </div>
  );
}

/** Which shape, and its figures: all of it from the shapes' own records. */
export function ShapeFields({ shape, onChange }: { shape: EndShape; onChange: (shape: EndShape) => void }) {
  const record = shapeRecord(shape.kind);
  const set = (key: string, value: unknown) => onChange({ ...shape, [key]: value } as EndShape);
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
        ) : field.as === "font" ? (
          <FontField key={`${shape.kind} ${field.key}`} field={field} shape={shape} onChange={onChange} />
        ) : (
          <TypedField key={`${shape.kind} ${field.key}`} field={field} shape={shape} onChange={onChange} />
        ),
      )}
    </div>
  );
}
