"use client";
import Popover from "@mui/material/Popover";
import { useState } from "react";
import type { Relation } from "@/core/kernel/provenance";

/** The "why?" beside a figure: formula in words, inputs, source and standing. */
export function Why({ of, inputs, relation }: { of: string; inputs: string; relation: Relation }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <button type="button" className="why" aria-label={`Why this ${of}?`} onClick={(event) => setAnchor(event.currentTarget)}>
        ?
      </button>
      {anchor && <WhyAnswer anchor={anchor} inputs={inputs} relation={relation} onClose={() => setAnchor(null)} />}
    </>
  );
}

function WhyAnswer({ anchor, inputs, relation, onClose }: { anchor: HTMLElement; inputs: string; relation: Relation; onClose: () => void }) {
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
          {relation.standing === "published"
            ? "Published"
            : relation.standing === "estimate"
              ? "An estimate"
              : `From ${relation.standing.replace("from ", "")}`}
        </strong>
        : {relation.source}. Holds for: {relation.range}.
      </p>
    </Popover>
  );
}
