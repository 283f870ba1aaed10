"use client";
import { useState } from "react";
import type { Relation } from "@/core/kernel/provenance";
import { later } from "./later";
import type { WhyAnswerProps } from "./WhyAnswer";

const WhyAnswer = later<WhyAnswerProps>(
  () => import("./WhyAnswer").then((module) => module.WhyAnswer),
  ({ anchor }) => anchor !== null,
);

/** The "why?" next to a figure: formula in words, inputs, source and standing. */
export function Why({ of, inputs, relation }: { of: string; inputs: string; relation: Relation }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <button type="button" className="why" aria-label={`Why this ${of}?`} onClick={(event) => setAnchor(event.currentTarget)}>
        ?
      </button>
      <WhyAnswer anchor={anchor} inputs={inputs} relation={relation} onClose={() => setAnchor(null)} />
    </>
  );
}
