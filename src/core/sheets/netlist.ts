import type { Design } from "../cutters/design/schema";
import { liveMm, pairOf } from "../cutters/solve/evaluate";
import { WRITTEN_BY } from "../kernel/version";
import { toDigits } from "../numerics/round";
import { resistanceOhmPerM } from "../physics/heat/wire";
import { recordOf } from "../physics/power/controls";
import { leadsOhm } from "../physics/power/leads";
import { supplyEmfV, supplyOhm, supplyRecordOf } from "../physics/power/supplies";

const figure = (value: number) => String(toDigits(value, 9));
/** Comments are one line each, even where the name has line breaks. */
const oneLine = (text: string) => text.replaceAll(/[^\x20-\x7e]+/g, " ").trim();

/**
 * The design's cold circuit as a SPICE netlist: every part an element, the operating point being the moment of switch-on.
 * Alternating current is written as direct current of the same root mean square (the same heat in a resistance); chopped current is written as switched on.
 * The wire's current is that of VWIRE, the supply's that of VSUPPLY.
 */
export function netlistOf(design: Design): string {
  const { supply, control, leads, ambient_C } = design;
  const wireOhm = (resistanceOhmPerM(pairOf(design).wire, ambient_C) * liveMm(design)) / 1000;
  const emf = supplyEmfV(supply);
  const inside = supplyOhm(supply);
  const lines: string[] = [
    `* ${oneLine(design.name) || "cutter"}: cold circuit at ${ambient_C} degC, the moment of switch-on`,
    `* Written by ${WRITTEN_BY}. Run an operating point: i(VWIRE) is the wire's current, i(VSUPPLY) the supply's.`,
  ];
  let node = "s0";
  const series = (name: string, ohm: number, to: string, words: string) => {
    // A simulator wants no resistor of nothing: where there is none the nodes are one.
    if (ohm <= 0) {
      lines.push(`* ${words}: none`);
      return;
    }
    lines.push(`R${name} ${node} ${to} ${figure(ohm)} ; ${words}`);
    node = to;
  };
  const { record, own } = recordOf(control);
  const winding = record.winding(own);
  const part = record.netlist(own, figure);
  const source = supplyRecordOf(supply);
  lines.push(...source.record.netlist(source.own, { emfV: emf * (part.share ?? 1), print: figure, remark: part.remark ?? "" }));
  node = "s1";
  if (source.record.netlistOhms) series("INSIDE", inside * winding ** 2, "s2", "ohms inside the supply");
  if (part.comment) lines.push(part.comment);
  if (part.series) series(part.series.name, part.series.ohm, "c1", part.series.words);
  if (part.block) {
    const block = part.block(node);
    lines.push(...block.lines);
    node = block.node;
  }
  const leadOhm = leads ? leadsOhm({ ...leads, joint_ohm: 0 }, ambient_C) : 0;
  series("LEADOUT", leadOhm / 2, "l1", `lead to the wire${leads ? `, ${leads.gauge_awg} AWG` : ""}`);
  series("JOINTS", leads?.joint_ohm ?? 0, "l2", "joints");
  lines.push(`VWIRE ${node} w1 0`, `RWIRE w1 w2 ${figure(wireOhm)} ; the wire, cold`);
  node = "w2";
  if (leadOhm > 0) lines.push(`RLEADBACK w2 0 ${figure(leadOhm / 2)} ; lead back`);
  else lines.push("VBACK w2 0 0");
  return `${lines.join("\n")}\n.op\n.end\n`;
}
