import { type FoamFamilyId, foamFamily } from "@/core/materials/foams";

/** SVG pattern that draws a foam family's grain, as its record has it. Sizes in CSS pixels. */
export function FoamPattern({ family, id }: { family: FoamFamilyId; id: string }) {
  const { width, height, ...line } = foamFamily(family).pattern;
  return (
    <pattern id={id} width={width} height={height} patternUnits="userSpaceOnUse">
      <rect width={width} height={height} fill={`var(--foam-${family})`} />
      <path fill="none" {...line} />
    </pattern>
  );
}
