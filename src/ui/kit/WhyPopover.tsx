"use client";
import Popover from "@mui/material/Popover";
import type { Relation } from "@/core/kernel/provenance";

export interface WhyPopoverProps {
  anchor: HTMLElement | null;
  inputs: string;
  relation: Relation;
  onClose: () => void;
}

/** Where a figure comes from, next to it. */
export function WhyPopover({ anchor, inputs, relation, onClose }: WhyPopoverProps) {
  return (
    <Popover open anchorEl={anchor} onClose={onClose} slotProps={{ paper: { sx: { p: 2, maxWidth: 420 } } }}>
      <h3 style={{ margin: "0 0 6px", fontSize: 17 }}>{relation.title}</h3>
      <p style={{ margin: "0 0 8px" }}>{relation.words}</p>
      <p className="num" style={{ margin: "0 0 8px", fontSize: 13, background: "var(--paper)", padding: 8 }}>
        {relation.formula}
      </p>
      <p style={{ margin: "0 0 6px" }}>Here: {inputs}</p>
      <p style={{ margin: 0, fontSize: 14 }}>
        <strong>
          {relation.basis === "published" ? "Published" : relation.basis === "estimate" ? "An estimate" : `From ${relation.basis.replace("from ", "")}`}
        </strong>
        : {relation.source}. Holds for: {relation.range}.
      </p>
    </Popover>
  );
}
