import type { Face } from "@/core/log/entries";

export const FACE_WORDS: Readonly<Record<Face, { name: string; means: string }>> = {
  matt: { name: "even, matt", means: "right" },
  glossy: { name: "glossy, sunken", means: "too hot or too slow" },
  ridged: { name: "torn, ridged", means: "too cold or too fast" },
  grooved: { name: "line across", means: "paused" },
  hooked: { name: "hook at a corner", means: "no wait there" },
  "burnt-end": { name: "burn at the end", means: "stopped there" },
  tapered: { name: "taper wrong", means: "ends out of step" },
  "thin-middle": { name: "thin at the middle", means: "the wire trailed" },
  twisted: { name: "twisted", means: "chord lines not parallel" },
};

/** The cut face each trouble leaves, as drawn examples. 72 x 40 CSS pixels. */
export function FaceDrawing({ face }: { face: Face }) {
  const line = { fill: "none", stroke: "var(--graphite)", strokeWidth: 1.6, strokeLinecap: "round" } as const;
  const inside = {
    matt: <path d="M10 14h.1M22 20h.1M34 12h.1M46 24h.1M58 16h.1M16 30h.1M40 32h.1M60 30h.1M28 27h.1" {...line} strokeWidth={2.4} />,
    glossy: <path d="M6 12q30 10 60 0M6 30q30 -10 60 0M20 20l6 -5M30 25l10 -9" {...line} />,
    ridged: <path d="M6 12l5 4 5 -5 6 6 5 -6 6 5 5 -5 6 6 5 -5 6 5 5 -5M6 26l6 5 5 -6 6 5 5 -4 6 5 5 -5 6 5 5 -5 6 5 5 -5" {...line} />,
    grooved: <path d="M38 4q3 16 0 32M35 4q3 16 0 32" {...line} strokeWidth={2} />,
    "burnt-end": <path d="M6 14h44M6 26h44M54 12q8 2 8 8t-8 8q-4-8 0-16" {...line} strokeWidth={2} />,
    tapered: <path d="M8 10l54 6v8l-54 6z" {...line} />,
    "thin-middle": <path d="M8 9q28 9 56 0M8 31q28-9 56 0" {...line} strokeWidth={2} />,
    twisted: <path d="M8 14l54-5M8 32l54-8M8 14v18M62 9v15" {...line} />,
    hooked: <path d="M6 30h42q10 0 10 -9t-7 -9" {...line} strokeWidth={2.2} />,
  }[face];
  return (
    <svg width={72} height={40} role="img" aria-label={FACE_WORDS[face].name}>
      <rect x={2} y={3} width={68} height={34} fill="var(--paper-bright)" stroke="var(--graphite-soft)" />
      {inside}
    </svg>
  );
}
