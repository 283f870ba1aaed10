"use client";
import Button from "@mui/material/Button";
import { useState } from "react";
import { CoreError } from "@/core/kernel/errors";
import { type EndShape, SHAPE_KINDS, shapeRecord } from "@/core/plans/shapes";
import { fontFile } from "@/core/plans/shapes/text";
import type { Field } from "@/core/units/field";
import { FieldInput } from "../../kit/FieldForm";
import { FileButton } from "../../kit/FileButton";
import { Tile, TileRow } from "../../kit/Tile";

type Fields = Record<string, unknown>;

/** A font of the person's own: its file goes with the plan. */
function FontField({ field, shape, onChange }: { field: Extract<Field, { as: "font" }>; shape: EndShape; onChange: (shape: EndShape) => void }) {
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
        field.as === "font" ? (
          <FontField key={`${shape.kind} ${field.key}`} field={field} shape={shape} onChange={onChange} />
        ) : (
          <FieldInput
            key={`${shape.kind} ${field.key}`}
            field={field}
            values={shape as unknown as Fields}
            empty={undefined}
            sliders={false}
            onChange={(change) => onChange({ ...shape, ...change } as EndShape)}
          />
        ),
      )}
    </div>
  );
}
