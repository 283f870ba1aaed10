import type { CutFace } from "@/core/log/entries";
import { FACE_WORDS } from "@/core/log/faces";

/** The cut face each trouble leaves, as drawn examples. 72 x 40 CSS pixels. */
export function FaceDrawing({ face }: { face: CutFace }) {
  const line = { fill: "none", stroke: "var(--graphite)", strokeWidth: 1.6, strokeLinecap: "round" } as const;
  const inside = {
    matt: <path d="M10 14h.1M22 20h.1M34 12h.1M46 24h.1M58 16h.1M16 30h.1M40 32h.1M60 30h.1M28 27h.1" {...line} strokeWidth={2.4} />,
    hairs: <path d="M8 30h56M14 30q-2-8 2-16M24 30q3-9-1-14M34 30q-3-7 1-17M44 30q3-8 0-13M54 30q-2-9 2-15" {...line} strokeWidth={1.2} />,
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
