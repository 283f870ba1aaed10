import { type Foam, type FoamFamilyId, resolveFoam } from "../materials/foams";
import type { WireSpec } from "../physics/heat/wire";
import { blockDensity } from "./block";

// Words of the drawer that need no schema to be spoken.

export const ITEM_KINDS = ["wire", "supply", "control", "lead", "tensioner", "fuse", "foam"] as const;
export type ItemKind = (typeof ITEM_KINDS)[number];

/** What each kind is called in the drawer. */
export const ITEM_NAMES: Readonly<Record<ItemKind, { one: string; many: string; empty: string }>> = {
  wire: { one: "wire spool", many: "Wire", empty: "No wire yet. Add the spools you have; measure a length if you do not know what it is." },
  supply: { one: "supply", many: "Supplies", empty: "No supply yet. Type what its plate says, such as 19 V 4.74 A." },
  control: { one: "control", many: "Controls", empty: "No control yet. A PWM module, a dimmer, a buck converter, a rheostat." },
  lead: { one: "lead", many: "Leads", empty: "No leads yet." },
  tensioner: { one: "spring or weight", many: "Springs, weights", empty: "No spring or weight yet." },
  fuse: { one: "fuse", many: "Fuses", empty: "No fuses yet." },
  foam: { one: "foam block", many: "Foam", empty: "No foam yet. Measure and weigh a block: its density decides the cut." },
};

/** The wire of a spool as the models take it. */
export function wireOf(item: WireSpec): WireSpec {
  const { alloy, diameter_mm, gauge_awg, gauge_swg, strands, temper, measured_ohm_per_m } = item;
  return { alloy, diameter_mm, gauge_awg, gauge_swg, strands, temper, measured_ohm_per_m };
}

/** The foam of a block, weighed or by its given density. */
export function foamOf(item: Parameters<typeof blockDensity>[0] & { family: FoamFamilyId; density_kg_m3?: number | undefined }): {
  foam: Foam;
  densityKgM3: number;
  weighed: boolean;
} {
  const weighed = blockDensity(item);
  const densityKgM3 = weighed?.densityKgM3 ?? (item.density_kg_m3 as number);
  return { foam: resolveFoam({ family: item.family, density_kg_m3: densityKgM3 }), densityKgM3, weighed: weighed !== null };
}

/** Most characters a drawer file may have. */
export const MAX_CSV_CHARACTERS = 1024 * 1024;
