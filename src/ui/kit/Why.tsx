"use client";
import { useState } from "react";
import type { Relation } from "@/core/kernel/provenance";
import { later } from "./later";
import type { WhyPopoverProps } from "./WhyPopover";

const WhyPopover = later<WhyPopoverProps>(
  () => import("./WhyPopover").then((module) => module.WhyPopover),
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
      <WhyPopover anchor={anchor} inputs={inputs} relation={relation} onClose={() => setAnchor(null)} />
    </>
  );
}
