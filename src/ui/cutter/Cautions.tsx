"use client";
import { memo } from "react";
import type { Caution } from "@/core/cutters/solve/cautions";
import { useUnits } from "../kit/useUnits";

/** Cautions in full, worst first, each with how far it can be trusted. */
export const Cautions = memo(function Cautions({ cautions }: { cautions: readonly Caution[] }) {
  const { system } = useUnits();
  return cautions.map((caution) => (
    <p
      key={caution.code}
      data-caution={caution.code}
      style={{
        margin: "0 0 8px",
        fontSize: 15,
        lineHeight: 1.35,
        borderLeft: `5px solid var(--${caution.severity === "danger" ? "ember" : "straw"})`,
        paddingLeft: 10,
      }}
    >
      <strong>{caution.severity === "danger" ? "Danger. " : "Caution. "}</strong>
      {caution.words(system)} <span style={{ fontSize: 13, color: "var(--graphite-soft)" }}>({caution.basis})</span>
    </p>
  ));
});
