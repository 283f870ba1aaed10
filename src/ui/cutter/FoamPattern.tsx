import type { FoamFamilyId } from "@/core/materials/foams";

/** SVG pattern that draws a foam family's grain: beads, smooth board, dark beads, soft cells. Sizes in CSS pixels. */
export function FoamPattern({ family, id }: { family: FoamFamilyId; id: string }) {
  const ground = `var(--foam-${family})`;
  const line = family === "epp" ? "#8a8f92" : "#8f8a7c";
  if (family === "xps") {
    return (
      <pattern id={id} width="7" height="7" patternUnits="userSpaceOnUse">
        <rect width="7" height="7" fill={ground} />
        <path d="M0 6.5H7" stroke={line} strokeWidth="0.4" opacity="0.6" />
      </pattern>
    );
  }
  if (family === "pe") {
    return (
      <pattern id={id} width="12" height="9" patternUnits="userSpaceOnUse">
        <rect width="12" height="9" fill={ground} />
        <path d="M0 3q3 3 6 0t6 0M0 7.5q3-3 6 0t6 0" fill="none" stroke={line} strokeWidth="0.5" opacity="0.8" />
      </pattern>
    );
  }
  return (
    <pattern id={id} width="14" height="12" patternUnits="userSpaceOnUse">
      <rect width="14" height="12" fill={ground} />
      <path
        d="M3.5 0.5l3.5 2v3.5l-3.5 2-3.500-2V2.500zM10.500 6.500l3.500 2v3.500l-3.500 2-3.500-2V8.500zM10.500-5.500l3.500 2V0l-3.500 2L7 0v-3.500z"
        fill="none"
        stroke={line}
        strokeWidth="0.5"
        opacity="0.75"
      />
    </pattern>
  );
}
