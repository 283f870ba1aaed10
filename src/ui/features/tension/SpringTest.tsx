"use client";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useMemo, useState } from "react";
import { CoreError } from "@/core/kernel/errors";
import { type MeasuredSpring, measureSpring, rateFromWeight, SPRING_TEST } from "@/core/physics/mechanics/springs";
import { parseQuantity } from "@/core/units/parseQuantity";
import type { Quantity } from "@/core/units/units";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";

const FIELDS = [
  { key: "rest", label: "Length at rest", quantity: "length", hint: "hook to hook, nothing on it" },
  { key: "force1", label: "First weight", quantity: "force", hint: 'such as "2 kg"' },
  { key: "length1", label: "Length under it", quantity: "length", hint: " " },
  { key: "force2", label: "Second weight", quantity: "force", hint: "leave out where it stretches at once" },
  { key: "length2", label: "Length under it, second", quantity: "length", hint: " " },
] as const satisfies readonly { key: string; label: string; quantity: Quantity; hint: string }[];

/** A spring nobody labelled: two weights, two lengths, its rate and winding; or one weight and the stretch it makes, for a spring that is not wound tight. */
export function SpringTest({ onTake }: { onTake: (spring: MeasuredSpring) => void }) {
  const { system, show } = useUnits();
  const [texts, setTexts] = useState<Record<string, string>>({});
  const read = useMemo((): MeasuredSpring | string | null => {
    const values: Record<string, number> = {};
    const single = !texts.force2?.trim() && !texts.length2?.trim();
    for (const { key, quantity } of FIELDS) {
      if (single && key.endsWith("2")) continue;
      const parsed = parseQuantity(quantity, texts[key] ?? "", system, { min: 0.01, max: 5000 });
      if (!parsed.ok) return null;
      values[key] = parsed.value;
    }
    const at = (key: string) => values[key] as number;
    try {
      if (single) {
        const byM = (at("length1") - at("rest")) / 1000;
        if (!(byM > 0)) return "the length under the weight must be more than the length at rest: a weight that moves nothing measures nothing";
        return { rateNPerM: rateFromWeight(at("force1"), byM), initialN: 0, restM: at("rest") / 1000, worstErrorN: 0 };
      }
      return measureSpring(at("rest") / 1000, [
        { forceN: at("force1"), lengthM: at("length1") / 1000 },
        { forceN: at("force2"), lengthM: at("length2") / 1000 },
      ]);
    } catch (error) {
      if (error instanceof CoreError) return error.message;
      throw error;
    }
  }, [texts, system]);
  return (
    <fieldset style={{ border: "1px solid var(--line)", margin: "10px 0 0", padding: "8px 12px 12px" }}>
      <legend>Do not know your spring? Hang a weight or two on it</legend>
      <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 8 }}>
        {FIELDS.map((field) => (
          <TextField
            key={field.key}
            size="small"
            label={field.label}
            helperText={field.hint}
            value={texts[field.key] ?? ""}
            onChange={(event) => setTexts({ ...texts, [field.key]: event.target.value })}
            sx={field.key === "rest" ? { gridColumn: "1 / -1" } : undefined}
          />
        ))}
      </div>
      {typeof read === "string" && <p role="alert">{read}</p>}
      {read !== null && typeof read !== "string" && (
        <p role="status" style={{ margin: "6px 0" }}>
          <strong className="num">{show("springRate", read.rateNPerM / 1000)}</strong>, wound with{" "}
          <span className="num">{show("force", read.initialN, 1)}</span>{" "}
          <Why of="spring" relation={SPRING_TEST} inputs={`rest ${show("length", read.restM * 1000)}.`} />{" "}
          <Button size="small" variant="outlined" onClick={() => onTake(read)}>
            Take this spring
          </Button>
        </p>
      )}
    </fieldset>
  );
}
