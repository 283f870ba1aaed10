import { box, type Drawing, text } from "../kernel/drawing";
import { temperOf, temperWords } from "../materials/temper";
import { resistanceOhmPerM, resolveWire } from "../physics/heat/wire";
import { trim } from "../units/trim";
import { formatQuantity, type UnitSystem } from "../units/units";
import type { ItemOf } from "./items";
import { wireOf } from "./things";

/** Size of the label, mm: it goes on the flange of a small spool. */
const LABEL = { wide: 62, high: 25, margin: 3 } as const;
/** A figure is read at arm's length. */
const TEXT_MM = { name: 4.6, line: 3.6 } as const;
const ROOM_C = 20;

/** Lines of a spool's label: its name, what it is, how hard it is drawn, and its ohms. */
export function spoolLines(item: ItemOf<"wire">, units: UnitSystem): string[] {
  const spec = wireOf(item);
  const wire = resolveWire(spec);
  const known = temperOf({ ...spec, breaking_N: item.breaking_N });
  const temper =
    known === "unknown"
      ? "temper not known: counts as annealed"
      : known === "breaking-load"
        ? `breaks at ${formatQuantity("force", item.breaking_N ?? 0, units)}`
        : temperWords(spec);
  const strands = wire.strands > 1 ? `${wire.strands}-strand ` : "";
  return [
    item.name,
    `${strands}${wire.alloy.shortName}, ${trim(formatQuantity("diameter", wire.diameterM * 1000, units))}`,
    ...(temper === "" ? [] : [temper]),
    `${formatQuantity("resistancePerLength", resistanceOhmPerM(wire, ROOM_C), units)}; ${formatQuantity("leadLength", item.length_m, units)} when labelled`,
  ];
}

/** The label at full size: its drawing units are millimetres. */
export function spoolLabel(item: ItemOf<"wire">, units: UnitSystem): Drawing {
  const [name = "", ...lines] = spoolLines(item, units);
  const { wide, high, margin } = LABEL;
  const fitted = (words: string, size: number) => ({
    size: Math.min(size, (1.75 * (wide - 2 * margin)) / Math.max(1, words.length)),
    anchor: "start" as const,
  });
  return {
    title: `Label of ${name}`,
    width: wide,
    height: high,
    shapes: [
      box(0.3, 0.3, wide - 0.6, high - 0.6),
      text(margin, margin + TEXT_MM.name, name, { ...fitted(name, TEXT_MM.name), bold: true }),
      ...lines.map((words, i) => text(margin, margin + TEXT_MM.name + (i + 1) * 4.8, words, fitted(words, TEXT_MM.line))),
    ],
  };
}
