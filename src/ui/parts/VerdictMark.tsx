import { VERDICT_WORD } from "@/core/design/describe";
import type { DesignVerdict } from "@/core/design/evaluate";

/** A small drawing of the cut face each verdict leaves: said in shape, never by colour alone. 34 x 22 CSS pixels. */
export function VerdictMark({ verdict }: { verdict: DesignVerdict }) {
  const line = { fill: "none", stroke: "var(--graphite)", strokeWidth: 2, strokeLinecap: "round" } as const;
  const drawing = {
    clean: <path d="M2 8H32M2 14H32" {...line} />,
    drags: <path d="M2 8q4 -5 8 0t8 0 8 0 6 0M2 15l4 3 4 -4 5 4 4 -4 5 4 4 -4 4 3" {...line} />,
    wide: <path d="M2 4H32M2 18H32" {...line} />,
    smokes: <path d="M2 17H32M9 12q-4 -3 0 -6t0 -5M18 12q-4 -3 0 -6t0 -5M27 12q-4 -3 0 -6t0 -5" {...line} />,
    overload: <path d="M2 11h9l3 -7M20 11h12M14 18l6 -14" {...line} />,
    "too-cold": <path d="M2 11H32" {...line} strokeDasharray="1 5" />,
    "short-wire": <path d="M2 11H14M24 4V18M32 4V18" {...line} />,
  }[verdict];
  return (
    <svg width="34" height="22" role="img" aria-label={VERDICT_WORD[verdict]}>
      {drawing}
    </svg>
  );
}
