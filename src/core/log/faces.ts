import type { CutFace, Finishing } from "./entries";

/** A face of a cut: its name, what it means for the next cut, and what is done with this piece. Common practice. */
export const FACE_WORDS: Readonly<Record<CutFace, { name: string; means: string; finish: string }>> = {
  matt: { name: "even, matt", means: "right", finish: "Nothing to do but a light sanding." },
  hairs: {
    name: "fine hairs",
    means: "near the right heat",
    finish: "Sand them off lightly with about 150 grit: otherwise glue, paint and skin hold only to the hairs.",
  },
  glossy: {
    name: "glossy, sunken",
    means: "too hot or too slow",
    finish: "Less heat or a faster feed on the next piece. Sand the gloss dull; where the face lies below its line, fill it or cut again.",
  },
  ridged: {
    name: "torn, ridged",
    means: "too cold or too fast",
    finish: "Slower or hotter on the next piece. Sand light ridges down to the line; torn beads are filled or cut again.",
  },
  grooved: {
    name: "line across",
    means: "paused",
    finish: "Fill it where it will be hidden, otherwise cut again. On the next piece wait only in a slot that will be filled, at a corner, or on the run-out.",
  },
  hooked: {
    name: "hook at a corner",
    means: "the middle was behind",
    finish: "Sand or fill the corner, or cut again. On the next piece more tension, slower, or an ear into the waste.",
  },
  "burnt-end": { name: "burn at the end", means: "stopped there", finish: "Trim the tail to a thickness that holds. A longer run-out on the next piece." },
  tapered: {
    name: "taper wrong",
    means: "ends out of step",
    finish: "Check both ends against their templates. Too thick is sanded to them; too thin is cut again.",
  },
  "thin-middle": {
    name: "thin at the middle",
    means: "the wire trailed",
    finish: "Measure how much the middle lacks: a skin or filler makes up a little, otherwise cut again, slower.",
  },
  twisted: { name: "twisted", means: "chord lines not parallel", finish: "Cut again with both chord lines level: sanding does not take a twist out." },
};

/** Faces that show the right heat and feed. */
export const isGoodFace = (face: CutFace): boolean => face === "matt" || face === "hairs";

/** What was done with a part, as a log says it. */
export const FINISHING_WORDS: Readonly<Record<Finishing, string>> = {
  stress: "board trimmed and turned",
  cool: "cooled and freed",
  hairs: "hairs sanded off",
  lines: "lines sanded or filled",
  tail: "tail trimmed",
  nose: "nose rounded",
  check: "measured",
  glue: "glued",
  skin: "skin laid on",
  rest: "rested",
};
