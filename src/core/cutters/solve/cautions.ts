import { JUDGEMENT } from "../../kernel/constants";
import type { Source } from "../../kernel/provenance";
import { TEMPER_TESTS, temperOf } from "../../materials/temper";
import type { CutPair } from "../../physics/cut/cut";
import { TENSION_RECORDS } from "../../physics/mechanics/devices";
import { EULER } from "../../physics/mechanics/frame";
import { STRENGTH_LIMITS, type TensionResult } from "../../physics/mechanics/tension";
import { type CircuitResult, isAlternating, leastOhm, touchLimitV } from "../../physics/power/circuit";
import { controlRecord, recordOf } from "../../physics/power/controls";
import { BLIND_C_PER_PERCENT, degreesAPercent, HELD_READING } from "../../physics/power/controls/held";
import { FUSE_HEADROOM, FUSE_RULE, fuseAdvice } from "../../physics/power/powerAdvice";
import { supplyEmfV, supplyLimitA, supplyRecordOf } from "../../physics/power/supplies";
import { formatQuantity, type UnitSystem } from "../../units/units";
import type { Design } from "../design/schema";
import { frameOf } from "./frameModel";
import type { CautionPlace } from "./permanentAdvice";

export interface Caution extends Source {
  code: string;
  severity: "note" | "caution" | "danger";
  place: CautionPlace;
  /** A set-up with this cannot be called ready. */
  blocks: boolean;
  words: (units: UnitSystem) => string;
}

interface Situation {
  design: Design;
  circuit: CircuitResult;
  pair: CutPair;
  tension: TensionResult;
}

/** One row of the table: when it applies and what it says. */
interface CautionRule extends Omit<Caution, "words"> {
  when: (situation: Situation) => boolean;
  words: (situation: Situation, units: UnitSystem) => string;
}

const temperature = (c: number, units: UnitSystem) => formatQuantity("temperature", c, units);
const amps = (a: number) => formatQuantity("current", a, "metric");
const ohms = (r: number) => formatQuantity("resistance", r, "metric");

/** Usable stretch left in the spring when cold, mm; plenty where nothing is known of it. */
function travelLeftMm({ tension: set }: Design, tension: TensionResult): number {
  if (set.device !== "spring" || set.travel_mm === undefined || set.rate_N_per_mm === undefined) return Number.POSITIVE_INFINITY;
  return set.travel_mm - Math.max(0, tension.coldN - (set.initial_N ?? 0)) / set.rate_N_per_mm;
}

/** Ordinary lead insulation ends here, degC. */
const LEAD_LIMIT_C = 70;
const JOINT_LIMIT_C = 90;

/** True where the supply can drive more through a short circuit than the leads withstand for long. */
function leadsCanBurn(design: Design, circuit: CircuitResult): boolean {
  return supplyLimitA(design.supply) > fuseAdvice(circuit.supplyCurrentA, design.leads?.gauge_awg).leadRatingA;
}

const isUnderWire = ({ design, circuit }: Situation) => supplyRecordOf(design.supply).record.cutsOut && circuit.coldOhm < leastOhm(design.supply);

/** Hazards the core watches for; screens, sheets and the command-line interface all read this one table. */
export const CAUTION_RULES: readonly CautionRule[] = [
  {
    code: "recycled",
    severity: "caution",
    place: "foam",
    blocks: false,
    basis: "common practice",
    source: "boards with recycled content cut less well: inclusions stop the wire",
    when: ({ design }) => design.job.foam.recycled === true,
    words: () =>
      "A board with recycled content: something in it will stop the wire. Do not pull through it: ease back, cut round it, and trust the figures less until a test cut has taught them.",
  },
  {
    code: "trips-cold",
    severity: "danger",
    place: "supply",
    blocks: true,
    basis: "common practice",
    source: "newer train controllers take a cold wire for a short circuit and cut out; older ones do not",
    when: ({ circuit }) => circuit.warnings.some((warning) => warning.code === "trips-cold"),
    words: ({ design, circuit }) =>
      `Cold, the wire would draw ${amps(circuit.inrushA)}; this make cuts out at ${amps(supplyLimitA(design.supply))} and never starts. A longer or thinner wire, or an older make that only sags.`,
  },
  {
    code: "overload",
    severity: "danger",
    place: "supply",
    blocks: true,
    basis: "published",
    source: "Ohm's law against the supply's plate",
    when: ({ circuit }) => circuit.state === "overload" && !circuit.warnings.some((warning) => warning.code === "trips-cold"),
    words: ({ design, circuit }) =>
      `This set-up asks ${amps(circuit.supplyCurrentA)} of a supply rated ${amps(supplyLimitA(design.supply))}: it trips, hiccups or burns out.${
        controlRecord(design.control.kind).onCurrentStays ? " A lower duty does not help: the supply still meets the full on-current." : ""
      }`,
  },
  {
    code: "under-wire",
    severity: "caution",
    place: "wire",
    blocks: false,
    basis: "common practice",
    source: "a supply of V volts limited to I amperes wants a wire of at least V/I ohm",
    when: (s) => isUnderWire(s),
    words: ({ design, circuit }) =>
      `The cold wire is ${ohms(circuit.coldOhm)}; this supply wants at least ${ohms(leastOhm(design.supply))} (volts over amperes). At switch-on it would draw ${amps(circuit.inrushA)}.`,
  },
  {
    code: "glowing",
    severity: "danger",
    place: "control",
    blocks: true,
    basis: "common practice",
    source: "a wire that glows plainly is far hotter than any foam needs; 650 degC taken",
    when: ({ circuit }) => circuit.wireC > JUDGEMENT.glowingC,
    words: ({ circuit }, units) =>
      `In air this wire would sit at ${temperature(circuit.wireC, units)} and glow: it stretches, burns out and lights foam. Foam never needs a glowing wire.`,
  },
  {
    code: "above-self-ignition",
    severity: "danger",
    place: "control",
    blocks: false,
    basis: "from memory",
    source: "self-ignition temperature of the foam's polymer, fire-safety handbooks",
    when: ({ circuit, pair }) => circuit.wireC > pair.foam.selfIgnitionC,
    words: ({ circuit, pair }, units) =>
      `The bare wire reaches ${temperature(circuit.wireC, units)}; vapour of this foam lights on its own near ${temperature(pair.foam.selfIgnitionC, units)}. Switch the heat on only while foam cools the wire, never leave it, and extract at the wire.`,
  },
  {
    code: "above-flash-ignition",
    severity: "caution",
    place: "control",
    blocks: false,
    basis: "from memory",
    source: "flash-ignition temperature of the foam's polymer, fire-safety handbooks",
    when: ({ circuit, pair }) => circuit.wireC > pair.foam.flashIgnitionC && circuit.wireC <= pair.foam.selfIgnitionC,
    words: ({ circuit, pair }, units) =>
      `The bare wire reaches ${temperature(circuit.wireC, units)}, above this foam's flash ignition near ${temperature(pair.foam.flashIgnitionC, units)}: keep sparks away and switch off between cuts.`,
  },
  {
    code: "fumes",
    severity: "caution",
    place: "feed",
    blocks: false,
    basis: "estimate",
    source: "this project's fume figures for the wire's temperature in the kerf",
    when: ({ circuit, pair }) => circuit.cut !== undefined && circuit.cut.wireC > pair.foam.fumeCautionC,
    words: ({ circuit, pair }, units) =>
      `In the cut the wire runs at about ${temperature(circuit.cut?.wireC ?? 0, units)}; above ${temperature(pair.foam.fumeCautionC, units)} fumes grow quickly. Open doors, extract at the wire, wear an organic-vapour mask where air is still.`,
  },
  {
    code: "touch-voltage",
    severity: "danger",
    place: "supply",
    blocks: true,
    basis: "published",
    source: "IEC 61140 idea of touch voltage: 50 V alternating or chopped, 120 V ripple-free direct; halved here for damp workshops on direct current",
    when: ({ design }) => supplyEmfV(design.supply) > touchLimitV(design.supply, design.control),
    words: ({ design }) =>
      `${formatQuantity("voltage", supplyEmfV(design.supply), "metric")} on a bare wire can shock: stay at or under ${touchLimitV(design.supply, design.control)} V ${
        isAlternating(design.supply, design.control) ? "chopped or alternating" : "direct"
      }, less in the wet. Follow local electrical codes and ask a licensed electrician.`,
  },
  {
    code: "leads-hot",
    severity: "danger",
    place: "supply",
    blocks: true,
    basis: "common practice",
    source: "ordinary insulation is rated 70 degC; lead temperature is this project's estimate",
    when: ({ circuit }) => circuit.leadC > LEAD_LIMIT_C,
    words: ({ design, circuit }, units) =>
      `The ${design.leads?.gauge_awg ?? ""} AWG leads would run near ${temperature(circuit.leadC, units)} at ${amps(circuit.currentA)}; ordinary insulation ends at ${temperature(LEAD_LIMIT_C, units)}. Thicker leads.`,
  },
  {
    code: "joints-hot",
    severity: "caution",
    place: "supply",
    blocks: false,
    basis: "estimate",
    source: "this project's estimate of a joint's cooling; joints that heat loosen, and loose joints heat (common practice)",
    when: ({ circuit }) => circuit.jointC > JOINT_LIMIT_C && circuit.leadC <= LEAD_LIMIT_C,
    words: ({ circuit }, units) =>
      `The joints would run near ${temperature(circuit.jointC, units)}: clean, crimp and re-tighten them; a joint that heats works loose.`,
  },
  {
    code: "breaks-hot",
    severity: "danger",
    place: "tension",
    blocks: true,
    basis: STRENGTH_LIMITS.basis,
    source: STRENGTH_LIMITS.source,
    when: ({ tension }) => tension.hotN > tension.hotLimits.creepsN,
    words: ({ tension, circuit }, units) =>
      `At ${temperature(circuit.wireC, units)} this wire breaks at ${formatQuantity("force", tension.hotLimits.breaksN, units)}: under ${formatQuantity("force", tension.hotN, units)} it goes on stretching until it parts, and a broken wire lashes. Keep under ${formatQuantity("force", tension.hotLimits.creepsN, units)}.`,
  },
  {
    code: "breaks-cold",
    severity: "danger",
    place: "tension",
    blocks: true,
    basis: STRENGTH_LIMITS.basis,
    source: STRENGTH_LIMITS.source,
    when: ({ tension }) => tension.coldN > tension.coldLimits.breaksN,
    words: ({ tension }, units) =>
      `Cold, the device pulls ${formatQuantity("force", tension.coldN, units)}, and this wire breaks at ${formatQuantity("force", tension.coldLimits.breaksN, units)}. A softer device, or set it slacker.`,
  },
  {
    code: "temper-unknown",
    severity: "note",
    place: "wire",
    blocks: false,
    basis: "from memory",
    source: "how stainless wire is sold: lock wire annealed, leader hard-drawn",
    when: ({ design }) => temperOf(design.wire) === "unknown",
    words: () => `Whether this wire is annealed or hard-drawn is not known. It counts as annealed, which carries about a quarter. ${TEMPER_TESTS}`,
  },
  {
    code: "takes-a-set",
    severity: "caution",
    place: "tension",
    blocks: false,
    basis: STRENGTH_LIMITS.basis,
    source: STRENGTH_LIMITS.source,
    when: ({ tension }) => tension.hotN > tension.hotLimits.setN && tension.hotN <= tension.hotLimits.creepsN,
    words: ({ tension, circuit }, units) =>
      `${formatQuantity("force", tension.hotN, units)} is past the proof load of ${formatQuantity("force", tension.hotLimits.setN, units)} at ${temperature(circuit.wireC, units)}: the wire takes a set once and hardens by it. Tension it again after the first heat; people work it so for years (common practice).`,
  },
  {
    code: "yields-cold",
    severity: "caution",
    place: "tension",
    blocks: false,
    basis: "from memory",
    source: "proof stress at room temperature, metals handbooks",
    // Where it takes its set hot anyway, once is enough to say.
    when: ({ tension }) => tension.coldN > tension.coldLimits.setN && tension.coldN <= tension.coldLimits.breaksN && tension.hotN <= tension.hotLimits.setN,
    words: ({ tension }, units) =>
      `Cold, the device pulls ${formatQuantity("force", tension.coldN, units)}: past this wire's proof load of ${formatQuantity("force", tension.coldLimits.setN, units)}, so it takes a set before it is ever hot. A softer device, or slacken it when cold.`,
  },
  {
    code: "spring-travel",
    severity: "caution",
    place: "tension",
    blocks: false,
    basis: "common practice",
    source: "at least 10 mm of travel in hand",
    when: ({ design, tension }) => travelLeftMm(design, tension) < 10,
    words: ({ design, tension }, units) => {
      const left = travelLeftMm(design, tension);
      return left < 0
        ? `Cold, the spring would be ${formatQuantity("kerf", -left, units)} past its usable stretch: it takes a set or lets go. A longer or stiffer spring.`
        : `Cold, the spring has only ${formatQuantity("kerf", left, units)} of stretch in hand; at least ${formatQuantity("length", 10, units)} is wise.`;
    },
  },
  {
    code: "frame-weak",
    severity: "danger",
    place: "tension",
    blocks: true,
    basis: EULER.basis,
    source: `${EULER.source}; bending against working stresses from memory of handbooks`,
    when: ({ design, tension }) => frameOf(design, tension.coldN)?.checks.some((check) => !check.ok && check.limit !== null) === true,
    words: ({ design, tension }, units) => {
      const failing = frameOf(design, tension.coldN, units)?.checks.find((check) => !check.ok && check.limit !== null);
      return `The frame is not up to it cold: ${failing?.words ?? ""}.`;
    },
  },
  // What each tension device has against it.
  ...TENSION_RECORDS.flatMap(({ device, caution }): CautionRule[] =>
    caution
      ? [
          {
            code: caution.code,
            severity: "caution",
            place: "tension",
            blocks: false,
            basis: caution.basis,
            source: caution.source,
            when: ({ design }) => design.tension.device === device,
            words: ({ design, tension }, units) =>
              caution.words({ growthM: tension.growthM, coldN: tension.coldN, hot_N: design.tension.hot_N }, (quantity, value) =>
                formatQuantity(quantity, value, units),
              ),
          },
        ]
      : [],
  ),
  {
    code: "isolation-unknown",
    severity: "danger",
    place: "wiring",
    blocks: true,
    basis: "published",
    source: "IEC 61140 idea: extra-low voltage is only safe from a source isolated from the mains",
    when: ({ design }) => design.wiring?.isolation === "unknown" && !supplyRecordOf(design.supply).record.apart,
    words: () =>
      "A supply that is not known to be isolated can put mains on a bare wire. Use a factory-made one marked as isolated (safety extra-low voltage), or have a licensed electrician test it.",
  },
  {
    code: "no-fuse",
    severity: "danger",
    place: "wiring",
    blocks: true,
    basis: "common practice",
    source: "a battery or a strong supply without a fuse sets fire to its leads in a short circuit",
    when: ({ design, circuit }) => design.wiring?.fuse_A === null && (supplyRecordOf(design.supply).record.charge !== null || leadsCanBurn(design, circuit)),
    words: ({ design }) =>
      `No fuse: in a short circuit this ${supplyRecordOf(design.supply).record.charge ? "battery" : "supply"} drives more than the leads withstand, and they burn. Fuse it at ${supplyRecordOf(design.supply).record.fusedAt}.`,
  },
  {
    code: "fuse-too-large",
    severity: "danger",
    place: "wiring",
    blocks: true,
    basis: FUSE_RULE.basis,
    source: FUSE_RULE.source,
    when: ({ design, circuit }) => (design.wiring?.fuse_A ?? 0) > fuseAdvice(circuit.supplyCurrentA, design.leads?.gauge_awg).leadRatingA,
    words: ({ design, circuit }) => {
      const { leadRatingA, fuseA } = fuseAdvice(circuit.supplyCurrentA, design.leads?.gauge_awg);
      return `A ${design.wiring?.fuse_A} A fuse does not protect leads good for ${leadRatingA} A: they burn first. ${fuseA === null ? "Thicker leads." : `${fuseA} A is right here.`}`;
    },
  },
  {
    code: "held-blind",
    severity: "caution",
    place: "control",
    blocks: false,
    basis: HELD_READING.basis,
    source: HELD_READING.source,
    when: ({ design, pair }) => design.control.kind === "held" && degreesAPercent(pair.wire, design.control.hold_C) > BLIND_C_PER_PERCENT,
    words: ({ design, pair }) => {
      const degC = degreesAPercent(pair.wire, design.control.kind === "held" ? design.control.hold_C : 0);
      return Number.isFinite(degC)
        ? `The ohms of ${pair.wire.alloy.shortName} hardly tell its heat: one per cent of reading is ${degC.toFixed(0)} °C. Hold stainless or nickel by its ohms, or turn this wire by a plain knob.`
        : `The ohms of ${pair.wire.alloy.shortName} do not rise with heat here: a controller that reads them cannot hold it. Another alloy, or a plain knob.`;
    },
  },
  {
    code: "fuse-too-small",
    severity: "caution",
    place: "wiring",
    blocks: false,
    basis: FUSE_RULE.basis,
    source: FUSE_RULE.source,
    when: ({ design, circuit }) => typeof design.wiring?.fuse_A === "number" && design.wiring.fuse_A < FUSE_HEADROOM * circuit.supplyCurrentA,
    words: ({ design, circuit }) =>
      `A ${design.wiring?.fuse_A} A fuse will blow at ${amps(circuit.supplyCurrentA)} of work: the next size above a quarter more is wanted.`,
  },
  {
    code: "frame-live",
    severity: "danger",
    place: "wiring",
    blocks: true,
    basis: "common practice",
    source: "both posts on one metal frame short the wire; the frame carries the current and everything it touches",
    when: ({ design }) => design.wiring?.insulatedPost === false,
    words: () =>
      "Without an insulated post a metal frame shorts the wire and becomes live. Insulate one post, and beware of a metal socket shell that ties the chassis to the supply's ground.",
  },
  {
    code: "current-through-spring",
    severity: "danger",
    place: "wiring",
    blocks: true,
    basis: "common practice",
    source: "current through the tension spring wastes power and anneals it; a spring that lets go drops a hot wire",
    when: ({ design }) => design.wiring?.jumper === false && design.tension.device === "spring",
    words: () =>
      "Current through the tension spring heats it until it loses its temper and lets the hot wire go. Bridge it with a flexible jumper, or clip the lead on to the wire itself.",
  },
  {
    code: "no-switch",
    severity: "caution",
    place: "wiring",
    blocks: false,
    basis: "common practice",
    source: "no unattended heat: a switch that opens when let go",
    when: ({ design }) => design.wiring?.switch === "none",
    words: () => "No switch: the wire is hot as long as anything is plugged in. A foot switch that opens when let go keeps the heat attended.",
  },
  {
    code: "battery-fuse",
    severity: "caution",
    place: "supply",
    blocks: false,
    basis: "common practice",
    source: "a battery has no current limit of its own",
    when: ({ design }) => supplyRecordOf(design.supply).record.charge !== null,
    words: ({ circuit }) => {
      const { fuseA } = fuseAdvice(circuit.supplyCurrentA);
      return `A battery has no limit of its own: fuse it at its terminal${fuseA === null ? "" : ` (${fuseA} A for this wire)`}, never short it, and charge it away from foam.`;
    },
  },
  {
    code: "mains-side",
    severity: "caution",
    place: "supply",
    blocks: false,
    basis: "common practice",
    source: "local electrical codes",
    when: ({ design }) => supplyRecordOf(design.supply).record.mainsSide,
    words: () =>
      "A transformer brings mains to the bench: factory-made, isolated, earthed and fused, behind a residual-current device, with covers on. Dimmer and mains side by a licensed electrician, to local code.",
  },
  {
    code: "short-wire",
    severity: "caution",
    place: "wire",
    blocks: true,
    basis: "published",
    source: "geometry",
    when: ({ design }) => design.job.width_mm > recordOf(design.control).record.liveMm(recordOf(design.control).own, design.wire.length_mm),
    words: ({ design }, units) =>
      `The foam is ${formatQuantity("length", design.job.width_mm, units)} wide and the wire ${formatQuantity("length", design.wire.length_mm, units)} long: it does not reach across.`,
  },
];

/** The cautions a design raises, worst first. */
export function cautionsFor(design: Design, circuit: CircuitResult, pair: CutPair, tension: TensionResult): Caution[] {
  const situation = { design, circuit, pair, tension };
  const order = { danger: 0, caution: 1, note: 2 };
  return CAUTION_RULES.filter((rule) => rule.when(situation))
    .map((rule) => ({ ...rule, words: (units: UnitSystem) => rule.words(situation, units) }))
    .sort((a, b) => order[a.severity] - order[b.severity]);
}
