import { parseOrThrow } from "../kernel/parse";
import { type Item, itemSchema } from "./items";
import { readPlate } from "./plate";

const supply = (name: string, plate: string, price: number, owned = true) => ({ kind: "supply", name, plate, supply: readPlate(plate).supply, price, owned });

/** What lies in the drawers of the Saltmarsh Lantern Parade float shed (invented). */
export const DEMO_DRAWER: readonly Item[] = [
  { kind: "wire", name: "Rib wire, hard-drawn", alloy: "ss-304", diameter_mm: 0.64, temper: "spring", length_m: 24, price_per_m: 0.4 },
  { kind: "wire", name: "Fine stainless", alloy: "ss-304", diameter_mm: 0.41, temper: "spring", length_m: 60, price_per_m: 0.3, measured_ohm_per_m: 5.6 },
  { kind: "wire", name: "Fence spool", alloy: "nicr-80-20", gauge_awg: 26, length_m: 18, price_per_m: 1.1 },
  { kind: "wire", name: "Pane wire", alloy: "nicr-80-20", gauge_awg: 34, length_m: 9, price_per_m: 0.9 },
  { kind: "wire", name: "Heater coil, straightened", alloy: "fecral", gauge_awg: 28, length_m: 7, price_per_m: 0.5 },
  { kind: "wire", name: "Buoy wire", alloy: "ni-superalloy", diameter_mm: 0.3, length_m: 5, price_per_m: 4.5 },
  supply("Bench supply", "bench supply 0-30 V 10 A", 140),
  supply("Old laptop brick", "19 V 4.74 A", 12),
  supply("Strip-light brick", "12V - 8A", 15),
  supply("Lantern battery", "lead-acid 12V 18Ah", 45),
  supply("Doorbell transformer", "24 VAC 100 VA", 30),
  supply("Nine-volt brick", "9 V 1 A", 6),
  supply("Bigger brick, in the shop", "24 V 10 A", 35, false),
  { kind: "control", name: "PWM module", control: "pwm", max_A: 10, price: 9 },
  { kind: "control", name: "Step-down converter", control: "buck", max_A: 8, price: 11 },
  { kind: "control", name: "Wall dimmer in its box", control: "phase", max_A: 3, price: 14 },
  { kind: "lead", name: "Silicone lead", gauge_awg: 14, length_m: 6, price: 9 },
  { kind: "lead", name: "Lamp flex", gauge_awg: 18, length_m: 10, price: 5 },
  { kind: "tensioner", name: "Gate spring", device: "spring", rate_N_per_mm: 2.4, travel_mm: 60, force_N: 65, price: 4 },
  { kind: "tensioner", name: "Screen-door spring", device: "spring", rate_N_per_mm: 1.2, travel_mm: 90, force_N: 40, price: 3 },
  { kind: "tensioner", name: "Sand tin", device: "weight", force_N: 12 },
  { kind: "fuse", name: "Blade 5 A", rating_A: 5, count: 4, price: 0.5 },
  { kind: "fuse", name: "Blade 10 A", rating_A: 10, count: 2, price: 0.5 },
  { kind: "foam", name: "Float blocks", family: "eps", block_length_mm: 1200, block_width_mm: 600, block_thickness_mm: 120, mass_g: 1560, price: 14 },
  { kind: "foam", name: "Blue board", family: "xps", density_kg_m3: 35, price: 11 },
  { kind: "foam", name: "Buoy sheet", family: "epp", density_kg_m3: 30, price: 22 },
].map((item) => parseOrThrow(itemSchema, item));
