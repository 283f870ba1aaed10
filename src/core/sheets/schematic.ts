import type { Design } from "../cutters/design/schema";
import { type DesignEvaluation, liveMm } from "../cutters/solve/evaluate";
import { box, type Drawing, dot, path, type Shape, text, zigzag } from "../kernel/drawing";
import { toDigits } from "../numerics/round";
import { tensionRecord } from "../physics/mechanics/devices";
import { controlRecord, recordOf } from "../physics/power/controls";
import { fuseAdvice } from "../physics/power/powerAdvice";
import { supplyRecordOf } from "../physics/power/supplies";
import { formatQuantity, type UnitSystem } from "../units/units";

/** What must not be done, next to the drawing. Common practice unless said otherwise. */
export interface WiringNote {
  words: string;
  /** True for a thing that must not be connected. */
  never: boolean;
}

export interface Schematic {
  drawing: Drawing;
  notes: WiringNote[];
}

const W = 290;
const TOP = 50;
const BOTTOM = 112;
/** Width of the words under the wire. */
const WIRE_WORDS = 62;
/** The frame is above the wire it holds. */
const FRAME = 22;

const plain = (value: number) => String(toDigits(value, 4));

/** What is between the supply's box and the mains. */
function mainsSide(design: Design): Shape[] {
  if (supplyRecordOf(design.supply).record.apart) return [];
  const dimmer = design.control.kind === "phase";
  const shapes: Shape[] = [
    box(2, 30, 38, 98, { stroke: "ember", dash: [2, 2], fill: "none" }),
    text(2, 133, "mains side: by a licensed", { size: 3.6, anchor: "start", ink: "ember" }),
    text(2, 137.5, "electrician, to local code", { size: 3.6, anchor: "start", ink: "ember" }),
    path(`M7 62h33M7 98h33`, { stroke: "soft" }),
    ...(dimmer ? [] : [text(7, 59, "plug, earthed", { size: 3.4, anchor: "start", ink: "soft" })]),
    text(7, 103, "RCD, fuse", { size: 3.4, anchor: "start", ink: "soft" }),
  ];
  if (dimmer) {
    shapes.push(
      box(12, 56, 20, 12),
      path("M16 65l12 -6m0 0l-1.500 3m1.500 -3l-3.400 0.200"),
      text(22, 73.5, "dimmer for", { size: 3.4 }),
      text(22, 77.5, "transformers", { size: 3.4 }),
    );
  }
  return shapes;
}

function fuseShapes(x: number, fuse: string): Shape[] {
  if (fuse === "none") return [path(`M${x} ${TOP}h16`, { stroke: "ember" }), text(x + 8, TOP - 4, "no fuse", { ink: "ember", size: 3.8 })];
  return [
    box(x, TOP - 2.6, 16, 5.2),
    path(`M${x} ${TOP}h16`),
    text(x + 8, TOP - 5, "fuse", { size: 3.8 }),
    text(x + 8, TOP + 8.5, fuse, { mono: true, size: 4 }),
  ];
}

function switchShapes(x: number, kind: "foot" | "hand" | "none"): Shape[] {
  if (kind === "none") return [path(`M${x} ${TOP}h14`), text(x + 7, TOP - 4, "no switch", { size: 3.8, ink: "ember" })];
  const foot = kind === "foot" ? [path(`M${x + 7} ${TOP - 4.2}v-5M${x + 2.5} ${TOP - 9.2}h9`)] : [path(`M${x + 7} ${TOP - 4.2}v-4`)];
  return [dot(x, TOP), dot(x + 14, TOP), path(`M${x} ${TOP}l12 -7`), ...foot, text(x + 7, TOP + 13.5, `${kind} switch`, { size: 3.8 })];
}

/** The control between x and x + 34 on the top rail. Returns also where the bottom rail is joined. */
function controlShapes(design: Design, x: number): Shape[] {
  const { record, own } = recordOf(design.control);
  return record.symbol?.(own, { x, top: TOP, bottom: BOTTOM, print: plain }) ?? [path(`M${x - 2} ${TOP}h40`)];
}

/**
 * The wiring of a design as a drawing, with what must not be connected. The mains side is a boundary only: local electrical codes and a licensed electrician.
 * Drawing units are millimetres.
 */
export function schematicOf(design: Design, evaluation: DesignEvaluation, units: UnitSystem): Schematic {
  const { circuit } = evaluation;
  const wiring = design.wiring ?? {};
  const source = supplyRecordOf(design.supply);
  // Without a mains side there is room to the left.
  const { apart } = source.record;
  const { control } = design;
  const advice = fuseAdvice(circuit.supplyCurrentA, design.leads?.gauge_awg);
  const fuse =
    wiring.fuse_A === null ? "none" : wiring.fuse_A !== undefined ? `${plain(wiring.fuse_A)} A` : advice.fuseA === null ? "see leads" : `${advice.fuseA} A`;
  const supplyX = apart ? 36 : 62;
  const fuseX = supplyX + (apart ? 4 : 20);
  const switchX = fuseX + 21;
  const controlX = switchX + 19;
  const postX = controlX + 54;
  const springX = W - 38;
  const clip = controlRecord(design.control.kind).shortens;
  const liveShare = clip ? liveMm(design) / design.wire.length_mm : 1;
  const wireY = (TOP + BOTTOM) / 2;
  const wireFrom = postX;
  const wireTo = springX - 8;
  const liveTo = wireFrom + (wireTo - wireFrom) * liveShare;
  const device = tensionRecord(design.tension.device);
  const springy = device.stretches;
  const jumper = wiring.jumper !== false;
  const throughSpring = springy && !jumper && !clip;
  const insulated = wiring.insulatedPost !== false;
  const backX = throughSpring ? springX + 26 : clip ? liveTo : wireTo;
  // Under a clip the lead goes down through the middle: the wire's words keep to the side of it that has room for them.
  const wordsAnchor = !clip ? "middle" : backX - wireFrom > WIRE_WORDS ? "end" : "start";
  const wordsX = { middle: (wireFrom + wireTo) / 2, end: backX - 3, start: backX + 3 }[wordsAnchor];
  // What is left of the words under a clip may reach the device's own place.
  const deviceY = wireY + (clip ? 21 : springy ? 9 : 7);
  const leadWords = design.leads ? `${formatQuantity("leadLength", design.leads.oneWay_m, units)} of ${design.leads.gauge_awg} AWG each way` : "leads";
  const shapes: Shape[] = [
    ...mainsSide(design),
    ...source.record.symbol(source.own, {
      x: supplyX,
      top: TOP,
      bottom: BOTTOM,
      print: plain,
      isolated: wiring.isolation !== "unknown",
      tap: control.kind === "tap" ? control.fraction : null,
    }),
    path(`M${supplyX} ${TOP}H${fuseX}M${fuseX + 16} ${TOP}H${switchX}M${switchX + 14} ${TOP}H${controlX}`),
    ...fuseShapes(fuseX, fuse),
    ...switchShapes(switchX, wiring.switch ?? "hand"),
    ...controlShapes(design, controlX),
    path(controlRecord(design.control.kind).bothRails ? `M${supplyX} ${BOTTOM}H${controlX}` : `M${supplyX} ${BOTTOM}H${controlX + 38}`),
    // Leads: there to the left end, back from the far end of what is live.
    path(`M${controlX + 36} ${TOP}H${postX - 7}V${wireY}H${wireFrom}`, { stroke: "ember", width: 0.9 }),
    path(`M${controlX + 36} ${BOTTOM}H${backX}V${wireY}`, { width: 0.9 }),
    text(postX - 9, TOP + 12, "lead", { size: 3.8, anchor: "end" }),
    text((controlX + 40 + backX) / 2, BOTTOM + 6, leadWords, { size: 3.8 }),
    // The wire itself, as the resistance it is.
    path(zigzag(wireFrom, wireY, Math.max(10, liveTo - wireFrom), 9), { stroke: "amber", width: 1.2 }),
    ...(clip
      ? [
          path(`M${liveTo} ${wireY}H${wireTo}`, { stroke: "soft", dash: [1.5, 1.5] }),
          text(liveTo + 2, wireY - 7, `clip, ${formatQuantity("length", liveMm(design), units)} live`, { size: 3.8, anchor: "start" }),
        ]
      : []),
    text(wordsX, wireY + 9.5, `wire ${formatQuantity("length", design.wire.length_mm, units)}`, { size: 4, anchor: wordsAnchor }),
    text(wordsX, wireY + 15, `${circuit.coldOhm.toFixed(2)} ohm cold, ${circuit.hotOhm.toFixed(2)} hot`, { size: 3.8, mono: true, anchor: wordsAnchor }),
    dot(wireFrom, wireY),
    dot(backX, wireY),
    // The frame above: its left post through an insulator, its right one through the tension device.
    path(`M${wireFrom} ${FRAME}V${wireY - (insulated ? 9 : 1)}M${wireFrom} ${FRAME}H${springX + 26}V${wireY + 4}`, { stroke: "soft", width: 2 }),
    ...(insulated
      ? [
          box(wireFrom - 3.5, wireY - 9, 7, 8, { fill: "line" }),
          text(wireFrom + 6, wireY - 18, "insulated post", { size: 3.6, anchor: "start" }),
          path(`M${wireFrom + 12} ${wireY - 16.5}l-7 9`, { stroke: "soft", width: 0.3 }),
        ]
      : [text(wireFrom + 4, wireY - 18, "post not insulated", { size: 3.6, anchor: "start", ink: "ember" })]),
    ...(springy
      ? [
          path(`M${wireTo} ${wireY}h8${Array.from({ length: 6 }, () => "l1.500 -4 l1.500 4").join("")}h8`, {
            stroke: throughSpring ? "ember" : "cool",
            width: 0.9,
          }),
          text(springX + 9, deviceY, device.short, { size: 3.8, ink: "cool" }),
          ...(jumper
            ? [
                path(`M${wireTo} ${wireY}c4 -15 30 -15 34 0`, { stroke: "soft", dash: [1.6, 1.4] }),
                text(springX + 23, wireY - 17, "flexible jumper, if a", { size: 3.2, ink: "soft", anchor: "end" }),
                text(springX + 23, wireY - 13.4, "lead must end at the post", { size: 3.2, ink: "soft", anchor: "end" }),
              ]
            : []),
        ]
      : [path(`M${wireTo} ${wireY}h34`, { stroke: "cool", width: 0.9 }), text(springX + 8, deviceY, device.short, { size: 3.8, ink: "cool" })]),
    text((wireFrom + springX + 26) / 2, FRAME - 3.5, insulated ? "frame: carries no current" : "frame: live", { size: 3.8, ink: insulated ? "soft" : "ember" }),
  ];
  const never = [
    "Never send current through the tension spring: the lead sits on the wire itself, before the spring.",
    "Never tie the frame to anything electrical: beware of a metal socket shell that joins the chassis to the supply's ground.",
    "Never open or alter the mains side. Local electrical codes rule.",
    ...controlRecord(design.control.kind).never,
    ...source.record.never(source.own),
  ];
  const always = [
    source.record.fuseWords,
    ...source.record.always(source.own),
    "Crimped eyelets, strain relief at both ends; a switch at the hand or foot that opens when let go.",
  ];
  const notes: WiringNote[] = [...never.map((words) => ({ words, never: true })), ...always.map((words) => ({ words, never: false }))];
  return { drawing: { title: `Wiring of ${design.name}`, width: W, height: 142, shapes }, notes };
}
