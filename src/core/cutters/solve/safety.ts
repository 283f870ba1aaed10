import { supplyRecordOf } from "../../physics/power/supplies";
import type { Design } from "../design/schema";
import { SAFETY_KEYS, type SafetyKey } from "../design/vocabulary";

/** The questions in words, as a person answers them before the cutter. */
export const SAFETY_WORDS: Readonly<Record<SafetyKey, string>> = {
  isolation: "is the supply isolated from the mains",
  fuse_A: "which fuse is fitted",
  switch: "which switch is fitted",
  insulatedPost: "is one post insulated from the frame",
  jumper: "is current led past the spring",
};

/** Safety questions that this cutter raises: a battery has no mains to be isolated from, a weight no spring to be bridged. */
export const safetyQuestions = ({ supply, tension }: Pick<Design, "supply" | "tension">): SafetyKey[] =>
  SAFETY_KEYS.filter((key) => (key === "isolation" ? !supplyRecordOf(supply).record.apart : key === "jumper" ? tension.device === "spring" : true));

/** Those that no person has answered yet. */
export const unansweredSafety = (design: Design): SafetyKey[] =>
  safetyQuestions(design).filter((key) => design.wiring?.answered?.[key] === undefined || (key !== "fuse_A" && design.wiring[key] === undefined));

/** A design with one of them answered by a person. @param by who, where somebody is signed in */
export function withSafetyAnswer<K extends SafetyKey>(design: Design, key: K, value: NonNullable<Design["wiring"]>[K], at: string, by: string | null): Design {
  return { ...design, wiring: { ...design.wiring, [key]: value, answered: { ...design.wiring?.answered, [key]: { at, by } } } };
}
