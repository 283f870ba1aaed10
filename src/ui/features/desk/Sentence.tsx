"use client";
import { memo } from "react";
import type { Design } from "@/core/cutters/design/schema";
import type { DesignEvaluation } from "@/core/cutters/solve/evaluate";
import { trim } from "@/core/units/trim";
import type { PartId } from "../../cutter/partId";
import { controlSentence, supplySentence, tensionWords, wireWords } from "../../cutter/words";
import { useNarrow } from "../../kit/useNarrow";
import { useUnits } from "../../kit/useUnits";

/** The set-up as plain words with parts that open. */
export const Sentence = memo(function Sentence({
  design,
  evaluation,
  onPick,
}: {
  design: Design;
  evaluation: DesignEvaluation;
  onPick: (part: PartId) => void;
}) {
  const { show } = useUnits();
  const warned = (place: string) =>
    evaluation.cautions.some((caution) => caution.place === place) ? (
      <strong>
        {" "}
        !<span className="visually-hidden"> has a caution</span>
      </strong>
    ) : null;
  const part = (id: PartId, words: string, place?: string) => (
    <button type="button" data-part={id} onClick={() => onPick(id)}>
      {words}
      {place && warned(place)}
    </button>
  );
  const { job, wire, leads } = design;
  const leadWords = leads ? `${trim(show("leadLength", leads.oneWay_m))} of ${leads.gauge_awg} AWG leads` : "no leads";
  // A phone or a small tablet shows the same parts as rows a thumb can hit.
  const rows = useNarrow(820);
  if (rows) {
    const row = (label: string, id: PartId, words: string, place?: string) => (
      <li>
        <button type="button" data-part={id} onClick={() => onPick(id)}>
          <span>{label}</span>
          <span>
            {words}
            {place && warned(place)}
          </span>
        </button>
      </li>
    );
    return (
      <ul className="sentence-rows">
        {row("Cut", "foam", evaluation.pair.foam.name, "foam")}
        {row("wide", "width", trim(show("length", job.width_mm)))}
        {row("thick", "thickness", trim(show("length", job.thickness_mm)))}
        {row("at", "feed", trim(show("feed", job.feed_mm_s)), "feed")}
        {row("with", "wire", wireWords(design, show), "wire")}
        {row("between posts", "length", trim(show("length", wire.length_mm)))}
        {row("from", "supply", supplySentence(design, show), "supply")}
        {row("through", "control", controlSentence(design, show), "control")}
        {row("and", "leads", leadWords)}
        {row("held by", "tension", tensionWords(design, show), "tension")}
        {row("room at", "room", trim(show("temperature", design.ambient_C)))}
      </ul>
    );
  }
  return (
    <p className="sentence">
      Cut {part("foam", evaluation.pair.foam.name, "foam")}, {part("width", trim(show("length", job.width_mm)))} wide,{" "}
      {part("thickness", trim(show("length", job.thickness_mm)))} thick, at {part("feed", trim(show("feed", job.feed_mm_s)), "feed")}, with{" "}
      {part("wire", wireWords(design, show), "wire")}, {part("length", trim(show("length", wire.length_mm)))} between posts, from a{" "}
      {part("supply", supplySentence(design, show), "supply")} through {part("control", controlSentence(design, show), "control")} and{" "}
      {part("leads", leadWords)}, held by a {part("tension", tensionWords(design, show), "tension")}, in a room at{" "}
      {part("room", trim(show("temperature", design.ambient_C)))}.
    </p>
  );
});
