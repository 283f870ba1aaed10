"use client";
import { memo } from "react";
import type { Plan, PlanEnd } from "@/core/plans/plan";
import { shapeRecord } from "@/core/plans/shapes";
import { trim } from "@/core/units/trim";
import { useUnits } from "../../kit/useUnits";

/** Parts of a plan that open where they are. */
export const PLAN_PARTS = ["root", "tip", "span", "lie", "skin", "hands", "cutter", "feed", "kerf", "template", "blank"] as const;
export type PlanPart = (typeof PLAN_PARTS)[number];

/** A figure without needless noughts. */
const plain = (value: number) => String(Number(value.toFixed(2)));

/** The part as plain words with parts that open. */
export const PlanSentence = memo(function PlanSentence({
  plan,
  cutterFeed,
  motors = null,
  onPick,
}: {
  plan: Plan /** the cutter's own, mm/s */;
  cutterFeed: number | null;
  /** the motorised frame that cuts it: no template then */
  motors?: string | null;
  onPick: (part: PlanPart) => void;
}) {
  const { show } = useUnits();
  const open = (part: PlanPart, words: string) => (
    <button type="button" data-part={part} onClick={() => onPick(part)}>
      {words}
    </button>
  );
  const end = ({ shape, chord_mm, thickness }: PlanEnd) =>
    `${shapeRecord(shape.kind).words(shape)}${chord_mm === undefined ? "" : `, ${trim(show("length", chord_mm))}`}${thickness === 1 ? "" : `, ${plain(thickness)} times as thick`}`;
  const { part, cut, template } = plan;
  const measured = cut.rootKerf_mm !== undefined || cut.tipKerf_mm !== undefined ? ", kerf as measured" : "";
  const lie = [
    ...(part.sweep_mm === 0 ? [] : [`swept ${trim(show("length", part.sweep_mm))}`]),
    ...(part.offset_mm === 0 ? [] : [`raised ${trim(show("length", part.offset_mm))}`]),
    ...(part.washout_deg === 0 ? [] : [`${plain(part.washout_deg)}° washout`]),
  ];
  return (
    <p className="sentence">
      A part {open("span", trim(show("length", part.span_mm)))} long, {open("root", end(plan.root))} at the root,{" "}
      {open("tip", plan.tip ? `${end(plan.tip)}` : "the same")} at the tip, {open("lie", lie.length > 0 ? lie.join(", ") : "straight and flat")}, skin{" "}
      {open("skin", part.skin_mm === 0 ? "none" : trim(show("kerf", part.skin_mm)))}, {open("hands", part.hands === "one" ? "one of it" : "a left and a right")}
      ; cut with {open("cutter", plan.cutter?.name ?? "no cutter yet")} at{" "}
      {open("feed", cut.feed_mm_s === null ? `its own ${cutterFeed === null ? "feed" : trim(show("feed", cutterFeed))}` : trim(show("feed", cut.feed_mm_s)))} at
      the root, led by{" "}
      {motors !== null ? (
        open("kerf", `the motors of ${motors}${measured}`)
      ) : (
        <>
          {open("kerf", `the ${cut.guidance === "edge" ? "edge of a template" : "wire's centre"}${measured}`)}, with{" "}
          {open(
            "template",
            `${template.faces === "pair" ? "an upper and a lower" : template.faces === "single" ? "one all round" : "one to be flipped"} of ${template.material}`,
          )}
        </>
      )}
      , from {open("blank", "a blank with its margins")}.
    </p>
  );
});
