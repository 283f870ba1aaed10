import { CoreError } from "../kernel/errors";
import type { Source } from "../kernel/provenance";
import { interpolate, type Table } from "../numerics/interpolate";

export type FoamFamilyId = "eps" | "xps" | "epp" | "pe";

/** A foam family: what its cell walls are made of, and the densities it is sold in. */
export interface FoamFamily {
  id: FoamFamilyId;
  name: string;
  /** How the sentence on the desk calls it. */
  shortName: string;
  polymer: "polystyrene" | "polypropylene" | "polyethylene";
  gradesKgM3: readonly number[];
  densityMinKgM3: number;
  densityMaxKgM3: number;
  conductivityWMK: number;
  specificHeatJKgK: number;
  latentKJKg: number;
  collapseC: number;
  fumeCautionC: number;
  fumeLimitC: number;
  flashIgnitionC: number;
  selfIgnitionC: number;
  /** [kg/m3, kPa at 10 % strain] */
  strength10: Table;
  notes: string;
  origin: Record<"thermal" | "fumes" | "ignition" | "strength", Source>;
}

const thermal: Source = {
  standing: "from memory",
  source: "polymer handbooks, written from memory",
  note: "a tuning log replaces it by what was measured",
};
const fumes: Source = {
  standing: "estimate",
  source: "this project's estimate for the wire's temperature in the kerf",
  note: "test cuts calibrate it",
};
const ignition: Source = { standing: "from memory", source: "fire-safety handbooks, written from memory" };
const strength: Source = {
  standing: "from memory",
  source: "makers' data sheets and ASTM C578 grades, written from memory",
  note: "straight lines between grades, held at the ends",
};

export const FOAM_FAMILIES: readonly FoamFamily[] = [
  {
    id: "eps",
    name: "Expanded bead polystyrene",
    shortName: "EPS",
    polymer: "polystyrene",
    gradesKgM3: [12, 15, 18, 20, 22, 29, 38, 45, 64],
    densityMinKgM3: 12,
    densityMaxKgM3: 64,
    conductivityWMK: 0.035,
    specificHeatJKgK: 1400,
    latentKJKg: 0,
    collapseC: 108,
    fumeCautionC: 340,
    fumeLimitC: 420,
    flashIgnitionC: 345,
    selfIgnitionC: 490,
    strength10: [
      [15, 70],
      [18, 90],
      [22, 104],
      [29, 173],
      [38, 276],
      [45, 345],
    ],
    notes: "White, visible beads; easy to cut. Density varies by source: weigh a measured block. The first slice of moulded packaging can hide voids.",
    origin: { thermal, fumes, ignition, strength },
  },
  {
    id: "xps",
    name: "Extruded polystyrene sheet",
    shortName: "XPS",
    polymer: "polystyrene",
    gradesKgM3: [25, 29, 35, 48],
    densityMinKgM3: 25,
    densityMaxKgM3: 48,
    conductivityWMK: 0.033,
    specificHeatJKgK: 1400,
    latentKJKg: 0,
    collapseC: 108,
    fumeCautionC: 340,
    fumeLimitC: 420,
    flashIgnitionC: 345,
    selfIgnitionC: 490,
    strength10: [
      [25, 173],
      [29, 276],
      [35, 414],
      [48, 690],
    ],
    notes: "Coloured board, smooth, fine surface; denser and slower. Trim about 6 mm off both faces before thin shapes, or they bow (common practice).",
    origin: { thermal, fumes, ignition, strength },
  },
  {
    id: "epp",
    name: "Expanded polypropylene bead",
    shortName: "EPP",
    polymer: "polypropylene",
    gradesKgM3: [20, 30, 45, 60],
    densityMinKgM3: 20,
    densityMaxKgM3: 60,
    conductivityWMK: 0.038,
    specificHeatJKgK: 1900,
    latentKJKg: 60,
    collapseC: 150,
    fumeCautionC: 340,
    fumeLimitC: 430,
    flashIgnitionC: 345,
    selfIgnitionC: 390,
    strength10: [
      [20, 80],
      [30, 150],
      [45, 250],
      [60, 340],
    ],
    notes: "Springy; melts far higher than polystyrene: a clearly hotter wire, metal templates, slower feed.",
    origin: { thermal, fumes, ignition, strength },
  },
  {
    id: "pe",
    name: "Polyethylene foam",
    shortName: "PE",
    polymer: "polyethylene",
    gradesKgM3: [25, 33, 45],
    densityMinKgM3: 25,
    densityMaxKgM3: 45,
    conductivityWMK: 0.04,
    specificHeatJKgK: 2300,
    latentKJKg: 100,
    collapseC: 112,
    fumeCautionC: 340,
    fumeLimitC: 430,
    flashIgnitionC: 340,
    selfIgnitionC: 350,
    strength10: [
      [25, 20],
      [33, 30],
      [45, 45],
    ],
    notes: "Expanded or cross-linked; soft, sticky, strings; a little hotter than EPS.",
    origin: { thermal, fumes, ignition, strength },
  },
];

/** Materials never to meet a hot wire, and why. */
export interface ForbiddenFoam {
  id: string;
  /** Other names people type for it. */
  aliases: readonly string[];
  name: string;
  why: string;
}

export const FORBIDDEN_FOAMS: readonly ForbiddenFoam[] = [
  {
    id: "pu",
    aliases: ["pur", "polyurethane"],
    name: "Polyurethane",
    why: "a hot wire drives isocyanates and hydrogen cyanide out of it. Cut it cold: saw, knife or abrasive, with dust extraction.",
  },
  {
    id: "pir",
    aliases: ["polyiso", "polyisocyanurate"],
    name: "Polyisocyanurate board",
    why: "a hot wire drives isocyanates and hydrogen cyanide out of it. Cut it cold: saw or knife.",
  },
  {
    id: "pvc",
    aliases: ["vinyl"],
    name: "PVC foam",
    why: "heated PVC gives off hydrogen chloride, which burns lungs and rusts the shop. Cut it cold.",
  },
  { id: "phenolic", aliases: [], name: "Phenolic foam", why: "it does not melt: it chars and gives off phenol and formaldehyde. Cut it cold." },
  { id: "melamine", aliases: [], name: "Melamine foam", why: "it does not melt: it breaks down to toxic nitrogen gases. Cut it with a knife." },
  {
    id: "unknown",
    aliases: ["unmarked"],
    name: "Foam of unknown make",
    why: "it may be any of the poisonous ones. Find its mark or data sheet first, or cut it cold.",
  },
  {
    id: "faced",
    aliases: ["foil", "mesh", "laminated"],
    name: "Anything with foil, mesh or glue lines in the path",
    why: "foil shorts the wire, mesh stops it, and most glues smoke. Strip the face first. A light bead of hot-melt glue is the exception: the wire passes it (common practice).",
  },
];

/** A foam with every figure the models need. SI units but where the name says otherwise. */
export interface Foam {
  family: FoamFamilyId;
  name: string;
  densityKgM3: number;
  conductivityWMK: number;
  specificHeatJKgK: number;
  latentJKg: number;
  collapseC: number;
  strength10Pa: number;
  fumeCautionC: number;
  fumeLimitC: number;
  flashIgnitionC: number;
  selfIgnitionC: number;
}

export interface FoamSpec {
  family: FoamFamilyId;
  density_kg_m3: number;
  conductivity_W_mK?: number | undefined;
  specificHeat_J_kgK?: number | undefined;
  latent_kJ_kg?: number | undefined;
  collapse_C?: number | undefined;
  strength10_kPa?: number | undefined;
}

export function foamFamily(id: FoamFamilyId): FoamFamily {
  const family = FOAM_FAMILIES.find((row) => row.id === id);
  if (!family) throw new CoreError("not-one-of", "foam.family", `foam family must be one of ${FOAM_FAMILIES.map((f) => f.id).join(", ")}`);
  return family;
}

/** The forbidden material a name stands for, if it does: "pu-30", "PVC", "polyiso". */
export function forbiddenFoam(name: string): ForbiddenFoam | undefined {
  const word = name.trim().toLowerCase().split("-")[0] ?? "";
  return FORBIDDEN_FOAMS.find((row) => row.id === word || row.aliases.includes(word));
}

/** Fills a foam's figures from its family, keeping whatever the maker measured. */
export function resolveFoam(spec: FoamSpec): Foam {
  const family = foamFamily(spec.family);
  return {
    family: family.id,
    name: `${family.shortName} ${spec.density_kg_m3}`,
    densityKgM3: spec.density_kg_m3,
    conductivityWMK: spec.conductivity_W_mK ?? family.conductivityWMK,
    specificHeatJKgK: spec.specificHeat_J_kgK ?? family.specificHeatJKgK,
    latentJKg: 1000 * (spec.latent_kJ_kg ?? family.latentKJKg),
    collapseC: spec.collapse_C ?? family.collapseC,
    strength10Pa: 1000 * (spec.strength10_kPa ?? interpolate(family.strength10, spec.density_kg_m3).y),
    fumeCautionC: family.fumeCautionC,
    fumeLimitC: family.fumeLimitC,
    flashIgnitionC: family.flashIgnitionC,
    selfIgnitionC: family.selfIgnitionC,
  };
}

/**
 * Reads a short foam name, "family-density".
 * @throws CoreError `forbidden-foam`, `not-one-of` or `out-of-range`, all at path `foam`
 * @example parseFoamId("eps-20").density_kg_m3 // 20
 */
export function parseFoamId(text: string): FoamSpec {
  const forbidden = forbiddenFoam(text);
  if (forbidden) throw new CoreError("forbidden-foam", "foam", `${forbidden.name} must never be cut with a hot wire: ${forbidden.why}`);
  const match = /^([a-z]+)-(\d+(?:\.\d+)?)$/.exec(text.trim().toLowerCase());
  const family = match && FOAM_FAMILIES.find((row) => row.id === match[1]);
  if (!match || !family) {
    throw new CoreError("not-one-of", "foam", `foam must be family-density with family ${FOAM_FAMILIES.map((f) => f.id).join(", ")}, such as "eps-20"`);
  }
  const density = Number(match[2]);
  if (!(density >= family.densityMinKgM3 && density <= family.densityMaxKgM3)) {
    throw new CoreError("out-of-range", "foam", `${family.shortName} runs from ${family.densityMinKgM3} to ${family.densityMaxKgM3} kg/m3 (got ${density})`);
  }
  return { family: family.id, density_kg_m3: density };
}
