import type { Source } from "../kernel/provenance";

/** What frames and flexed arms are made of. */
export interface FramingRow extends Source {
  name: string;
  /** Young's modulus along the grain or length, Pa. */
  youngPa: number;
  /** Bending stress it may bear for years, Pa. */
  workingPa: number;
  densityKgM3: number;
}

const memory = (source: string, note?: string): Source => ({ basis: "from memory", source, ...(note ? { note } : {}) });

export const FRAMING = {
  timber: {
    name: "timber, along the grain",
    youngPa: 11e9,
    workingPa: 12e6,
    densityKgM3: 600,
    ...memory("timber engineering handbooks, mean of sound hardwood and softwood", "creeps under load: its bend settles over days"),
  },
  steel: { name: "mild steel", youngPa: 205e9, workingPa: 150e6, densityKgM3: 7850, ...memory("structural steel tables") },
  "spring-steel": { name: "spring steel", youngPa: 205e9, workingPa: 600e6, densityKgM3: 7850, ...memory("spring design handbooks") },
  aluminium: { name: "aluminium alloy", youngPa: 69e9, workingPa: 90e6, densityKgM3: 2700, ...memory("aluminium structural tables") },
  pvc: { name: "rigid PVC tube", youngPa: 3e9, workingPa: 12e6, densityKgM3: 1400, ...memory("plastic pipe tables", "creeps, and softens in the sun") },
  "glass-fibre": { name: "glass-fibre rod", youngPa: 38e9, workingPa: 200e6, densityKgM3: 1900, ...memory("pultruded profile data sheets") },
} as const satisfies Record<string, FramingRow>;

export type FramingId = keyof typeof FRAMING;
export const FRAMING_IDS = Object.keys(FRAMING) as FramingId[];

/** A cross-section that bends. Millimetres; `depth` lies in the plane of bending. */
export type MemberSection =
  | { shape: "bar"; width_mm: number; depth_mm: number }
  | { shape: "rod"; diameter_mm: number }
  | { shape: "tube"; diameter_mm: number; wall_mm: number };

/** Second moment of area (m4), half depth (m) and area (m2) of a section. Closed forms of beam theory. */
export function sectionProperties(section: MemberSection): { inertiaM4: number; halfDepthM: number; areaM2: number } {
  switch (section.shape) {
    case "bar": {
      const [b, h] = [section.width_mm / 1000, section.depth_mm / 1000];
      return { inertiaM4: (b * h ** 3) / 12, halfDepthM: h / 2, areaM2: b * h };
    }
    case "rod": {
      const d = section.diameter_mm / 1000;
      return { inertiaM4: (Math.PI * d ** 4) / 64, halfDepthM: d / 2, areaM2: (Math.PI * d * d) / 4 };
    }
    case "tube": {
      const outer = section.diameter_mm / 1000;
      const inner = Math.max(0, outer - (2 * section.wall_mm) / 1000);
      return { inertiaM4: (Math.PI * (outer ** 4 - inner ** 4)) / 64, halfDepthM: outer / 2, areaM2: (Math.PI * (outer ** 2 - inner ** 2)) / 4 };
    }
  }
}
