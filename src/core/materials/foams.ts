import { CoreError } from "../kernel/errors";
import { interpolate } from "../numerics/interpolate";
import { epp } from "./foams/epp";
import { eps } from "./foams/eps";
import type { FoamFamily } from "./foams/family";
import { pe } from "./foams/pe";
import { xps } from "./foams/xps";

export type { FoamFamily };

/** Every foam family that comes with the program, in the order choosers show them. The one list: a new family is a file beside these, a word here and its two colours. */
const FAMILIES = [eps, xps, epp, pe] as const;
export type FoamFamilyId = (typeof FAMILIES)[number]["id"];
export const FOAM_FAMILIES: readonly (FoamFamily & { id: FoamFamilyId })[] = FAMILIES;

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

/** A family that a person gives: named by them, of a polymer that melts cleanly, with what its data sheet says. What is left out is its nearest kin's. */
export interface OwnFoam {
  name: string;
  fumeCaution_C?: number | undefined;
  fumeLimit_C?: number | undefined;
}

export interface FoamSpec {
  /** of those that come with the program; with `own`, the one it is nearest to */
  family: FoamFamilyId;
  own?: OwnFoam | undefined;
  density_kg_m3: number;
  conductivity_W_mK?: number | undefined;
  specificHeat_J_kgK?: number | undefined;
  latent_kJ_kg?: number | undefined;
  collapse_C?: number | undefined;
  strength10_kPa?: number | undefined;
}

export function foamFamily(id: FoamFamilyId): FoamFamily & { id: FoamFamilyId } {
  const family = FOAM_FAMILIES.find((row) => row.id === id);
  if (!family) throw new CoreError("not-one-of", "foam.family", `foam family must be one of ${FOAM_FAMILIES.map((f) => f.id).join(", ")}`);
  return family;
}

/** The forbidden material a name represents, if it does: "pu-30", "PVC", "polyiso". */
export function forbiddenFoam(name: string): ForbiddenFoam | undefined {
  const word = name.trim().toLowerCase().split("-")[0] ?? "";
  return FORBIDDEN_FOAMS.find((row) => row.id === word || row.aliases.includes(word));
}

/** Fills a foam's figures from its family, keeping all that the maker measured. */
export function resolveFoam(spec: FoamSpec): Foam {
  const family = foamFamily(spec.family);
  return {
    family: family.id,
    name: `${spec.own?.name ?? family.shortName} ${spec.density_kg_m3}`,
    densityKgM3: spec.density_kg_m3,
    conductivityWMK: spec.conductivity_W_mK ?? family.conductivityWMK,
    specificHeatJKgK: spec.specificHeat_J_kgK ?? family.specificHeatJKgK,
    latentJKg: 1000 * (spec.latent_kJ_kg ?? family.latentKJKg),
    collapseC: spec.collapse_C ?? family.collapseC,
    strength10Pa: 1000 * (spec.strength10_kPa ?? interpolate(family.strength10, spec.density_kg_m3).y),
    fumeCautionC: spec.own?.fumeCaution_C ?? family.fumeCautionC,
    fumeLimitC: spec.own?.fumeLimit_C ?? family.fumeLimitC,
    flashIgnitionC: family.flashIgnitionC,
    selfIgnitionC: family.selfIgnitionC,
  };
}

/** Most characters of a foam's own name. */
export const MOST_OWN_NAME = 40;

/** The forbidden material that a person's own name for a foam speaks of, if it does. */
export const forbiddenIn = (name: string): ForbiddenFoam | undefined =>
  name
    .split(/[\s,/()-]+/)
    .map(forbiddenFoam)
    .find((each) => each !== undefined);

/** Why a foam cannot be called so, in words; null where it can. */
export function ownFoamFault(name: string): string | null {
  const forbidden = forbiddenIn(name);
  if (forbidden) return `${forbidden.name} must never be cut with a hot wire: ${forbidden.why}`;
  return name.trim().length >= 1 && name.trim().length <= MOST_OWN_NAME ? null : `must be 1 to ${MOST_OWN_NAME} characters`;
}

/** A foam's identity: family, whose own it is, density. */
export type FoamName = Pick<FoamSpec, "family" | "own" | "density_kg_m3">;

/** A foam's name alone, without measured figures. */
export const foamNamed = ({ family, own, density_kg_m3 }: FoamName): FoamName => ({ family, ...(own ? { own } : {}), density_kg_m3 });

/** Whether two foams are one for what was learnt of it. */
export const sameFoam = (a: FoamName, b: FoamName): boolean => a.family === b.family && a.own?.name === b.own?.name && a.density_kg_m3 === b.density_kg_m3;

/** How a foam is called: "EPS 20", or by its own name. */
export const foamWords = (foam: Pick<FoamSpec, "family" | "own">): string => foam.own?.name ?? foamFamily(foam.family).shortName;

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

/** What a slab weighs, g: its sizes in mm, its foam's density in kg/m3. */
export const slabGrams = (longMm: number, wideMm: number, thickMm: number, densityKgM3: number): number => (longMm * wideMm * thickMm * densityKgM3) / 1e6;
