import type { Relation } from "../../kernel/provenance";
import { FRAMING, type FramingId, type MemberSection, sectionProperties } from "../../materials/framing";
import { toDigits } from "../../numerics/round";
import { formatQuantity, type UnitSystem } from "../../units/units";

export const BOW_SAW: Relation = {
  id: "bow-saw",
  title: "Forces in a bow-saw frame",
  formula: "T_cable = T_wire a/b, C_spreader = T_wire + T_cable, M_arm = T_wire a",
  words: "Each arm is a seesaw on the spreader: the cable balances the wire, and the spreader carries both.",
  range: "spreader pinned to the arms, cable and wire parallel to it",
  basis: "published",
  source: "statics: moments about the pivot; common practice: equal distances give equal tensions",
};

export const EULER: Relation = {
  id: "euler",
  title: "When a spreader buckles",
  formula: "P = pi^2 E I/(K L)^2, K = 1 for pinned ends",
  words: "A long thin strut bows out sideways at a load that depends on its stiffness and length, not on its strength.",
  range: "straight strut, load in its middle, stress below yield; keep to a third of it",
  basis: "published",
  source: "Euler's column; end factors K: both pinned 1, one fixed 0.7, both fixed 0.5, one free 2 (strength-of-materials handbooks)",
};

export const BENDING: Relation = {
  id: "bending",
  title: "Bending of arms and backs",
  formula: "sigma = M c/I; tip of a cantilever moves F l^3/(3 E I)",
  words: "The wire's pull bends every member that holds it; depth counts by its cube.",
  range: "small bends, straight members of one section",
  basis: "published",
  source: "beam theory; moduli and working stresses from memory of handbooks, timber along the grain",
};

export const END_CONDITIONS = { pinned: 1, "one fixed": 0.7, fixed: 0.5 } as const;
export type EndCondition = keyof typeof END_CONDITIONS;

/** Share of Euler's load a working spreader should stay under: struts are never straight (common practice). */
export const BUCKLING_SHARE = 1 / 3;

export interface FrameMember {
  material: FramingId;
  section: MemberSection;
}

/** Load at which a strut buckles, N. See {@link EULER}. */
export function eulerLoadN(strut: FrameMember & { lengthM: number; ends: EndCondition }): number {
  const { inertiaM4 } = sectionProperties(strut.section);
  // It gives way about its weaker axis: a flat bar across its thickness.
  const weak =
    strut.section.shape === "bar" ? Math.min(inertiaM4, (strut.section.depth_mm / 1000) * (strut.section.width_mm / 1000) ** 3 * (1 / 12)) : inertiaM4;
  return (Math.PI ** 2 * FRAMING[strut.material].youngPa * weak) / (END_CONDITIONS[strut.ends] * strut.lengthM) ** 2;
}

/** Bending stress of a member under a moment, Pa. See {@link BENDING}. */
export function bendingPa(member: FrameMember, momentNm: number): number {
  const { inertiaM4, halfDepthM } = sectionProperties(member.section);
  return (momentNm * halfDepthM) / inertiaM4;
}

const flexNm2 = (member: FrameMember) => FRAMING[member.material].youngPa * sectionProperties(member.section).inertiaM4;

export type CutterFrame =
  | {
      kind: "bow-saw";
      /** pivot to wire, pivot to cable, m */
      wireArmM: number;
      cableArmM: number;
      arm: FrameMember;
      spreader: FrameMember & { lengthM: number; ends: EndCondition };
    }
  | { kind: "c-frame"; throatM: number; backM: number; member: FrameMember }
  | { kind: "table-arm"; armM: number; member: FrameMember }
  | { kind: "camber-tube"; spanM: number; riseM: number; member: FrameMember };

/** One check of a frame: what it carries against its limit. */
export interface FrameCheck {
  part: string;
  /** N, MPa or mm by `unit` */
  value: number;
  limit: number | null;
  unit: "N" | "MPa" | "mm";
  /** The craft's judgement in words. */
  words: string;
  ok: boolean;
}

export interface FrameResult {
  checks: FrameCheck[];
  /** Wire ends move together by this much under the tension, m. */
  closesM: number;
  /** N/m the frame itself gives: it acts as a spring. */
  rateNPerM: number;
  /** Tension the frame makes on its own (a flexed camber tube), N. */
  ownTensionN: number | null;
}

function stressCheck(part: string, member: FrameMember, momentNm: number): FrameCheck {
  const stress = bendingPa(member, momentNm) / 1e6;
  const limit = FRAMING[member.material].workingPa / 1e6;
  const ok = stress <= limit;
  return {
    part,
    value: stress,
    limit,
    unit: "MPa",
    ok,
    words: ok
      ? `${part} bends at ${toDigits(stress, 2)} MPa of ${limit}: ${stress < limit / 2 ? "plenty in hand" : "enough, not much more"}`
      : `${part} would be at ${toDigits(stress, 2)} MPa, past the ${limit} its material bears for long: deeper or shorter`,
  };
}

/** Forces, stresses and movement of a frame under the wire's tension. See {@link BOW_SAW}, {@link EULER}, {@link BENDING}. */
export function solveFrame(frame: CutterFrame, wireN: number, units: UnitSystem = "metric"): FrameResult {
  const force = (newtons: number) => formatQuantity("force", newtons, units, newtons < 20 ? 1 : 0);
  const move = (metres: number) => formatQuantity("kerf", metres * 1000, units, units === "metric" ? 1 : 2);
  switch (frame.kind) {
    case "bow-saw": {
      const cableN = (wireN * frame.wireArmM) / frame.cableArmM;
      const spreaderN = wireN + cableN;
      const buckles = eulerLoadN(frame.spreader);
      const bears = buckles * BUCKLING_SHARE;
      const perWire = 1 + frame.wireArmM / frame.cableArmM;
      // Each arm is two cantilevers on the pivot; the wire's end moves by its own bend and by the turn the cable's side allows.
      const flex = flexNm2(frame.arm);
      const tip = (wireN * frame.wireArmM ** 3) / (3 * flex) + ((cableN * frame.cableArmM ** 3) / (3 * flex)) * (frame.wireArmM / frame.cableArmM);
      return {
        closesM: 2 * tip,
        rateNPerM: wireN / (2 * tip),
        ownTensionN: null,
        checks: [
          {
            part: "cable",
            value: cableN,
            limit: null,
            unit: "N",
            ok: true,
            words: `the cable pulls ${force(cableN)}${Math.abs(frame.wireArmM - frame.cableArmM) < 1e-6 ? ", as much as the wire: equal arms" : ""}`,
          },
          {
            part: "spreader",
            value: spreaderN,
            limit: bears,
            unit: "N",
            ok: spreaderN <= bears,
            words: `your spreader carries ${force(spreaderN)} and, ${frame.spreader.ends === "pinned" ? "pinned at both ends" : frame.spreader.ends === "fixed" ? "fixed at both ends" : "fixed at one end"}, buckles at ${force(buckles)}: ${
              spreaderN <= bears
                ? `fine for ${force(wireN)} of wire, and up to ${force(bears / perWire)}`
                : `too slender for ${force(wireN)} of wire; ${force(bears / perWire)} is its safe most`
            }`,
          },
          stressCheck("each arm", frame.arm, wireN * frame.wireArmM),
          {
            part: "ends close",
            value: 2 * tip * 1000,
            limit: null,
            unit: "mm",
            ok: true,
            words: `the ends of the wire come ${move(2 * tip)} closer as it is strung`,
          },
        ],
      };
    }
    case "c-frame": {
      const flex = flexNm2(frame.member);
      const arms = (2 * wireN * frame.throatM ** 3) / (3 * flex);
      const back = (wireN * frame.throatM ** 2 * frame.backM) / flex;
      const closes = arms + back;
      return {
        closesM: closes,
        rateNPerM: wireN / closes,
        ownTensionN: null,
        checks: [
          stressCheck("the back", frame.member, wireN * frame.throatM),
          {
            part: "ends close",
            value: closes * 1000,
            limit: null,
            unit: "mm",
            ok: true,
            words: `the ends come ${move(closes)} closer: ${toDigits((arms / closes) * 100, 2)} % from the arms, the rest from the back`,
          },
        ],
      };
    }
    case "table-arm": {
      const tip = (wireN * frame.armM ** 3) / (3 * flexNm2(frame.member));
      return {
        closesM: tip,
        rateNPerM: wireN / tip,
        ownTensionN: null,
        checks: [
          stressCheck("the arm", frame.member, wireN * frame.armM),
          {
            part: "tip drops",
            value: tip * 1000,
            limit: null,
            unit: "mm",
            ok: true,
            words: `the arm's tip comes down ${move(tip)}: square the wire to the table under tension, not before`,
          },
        ],
      };
    }
    case "camber-tube": {
      // A tube strung like a bow is a buckled strut: it pulls with Euler's load regardless of its rise, and bends by its rise.
      const own = eulerLoadN({ ...frame.member, lengthM: frame.spanM, ends: "pinned" });
      const { halfDepthM } = sectionProperties(frame.member.section);
      const stress = (FRAMING[frame.member.material].youngPa * halfDepthM * frame.riseM * Math.PI ** 2) / frame.spanM ** 2 / 1e6;
      const limit = FRAMING[frame.member.material].workingPa / 1e6;
      const ok = stress <= limit;
      return {
        closesM: (Math.PI ** 2 * frame.riseM ** 2) / (4 * frame.spanM),
        // Beyond buckling the load hardly rises with more bend: P = P_E (1 + c/(2 L)) for a chord c shorter (elastica, second order).
        rateNPerM: own / (2 * frame.spanM),
        ownTensionN: own,
        checks: [
          {
            part: "tube pulls",
            value: own,
            limit: null,
            unit: "N",
            ok: true,
            words: `strung like a bow the tube pulls ${force(own)}, almost independent of its rise: ${own >= wireN * 0.9 ? (own > wireN * 1.3 ? "more than you ask" : "about what you ask") : `less than the ${force(wireN)} you ask; a stouter tube`}`,
          },
          {
            part: "the tube",
            value: stress,
            limit,
            unit: "MPa",
            ok,
            words: ok
              ? `bent ${move(frame.riseM)} it is at ${toDigits(stress, 2)} MPa of ${limit}`
              : `bent ${move(frame.riseM)} it would be at ${toDigits(stress, 2)} MPa, past ${limit}: less rise, or it takes a set`,
          },
        ],
      };
    }
  }
}
