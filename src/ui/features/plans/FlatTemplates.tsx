"use client";
import { useMemo } from "react";
import { boundsOf } from "@/core/geometry/points";
import { TEMPLATE_EDGE } from "@/core/physics/cut/wireBar";
import { templateCraft } from "@/core/plans/craft";
import { ENDS, type PlanEvaluation, type Template } from "@/core/plans/evaluate";
import { sheetsOf, TEMPLATE_FACE_WORDS, templateDrawing, templateWords } from "@/core/plans/outputs/templates";
import type { Plan } from "@/core/plans/plan";
import { useEngine } from "../../kit/useEngine";
import { useSize } from "../../kit/useSize";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";

const ROOM = 14;

/** One template flat and to scale: its edge, the part it makes, its body, pins and base line. All on a page share one scale. */
function Flat({ plan, evaluation, template, pxPerMm }: { plan: Plan; evaluation: PlanEvaluation; template: Template; pxPerMm: number }) {
  const { show } = useUnits();
  const drawing = templateDrawing(plan, evaluation, template);
  const { minX, minY, maxX, maxY } = boundsOf(drawing.lines.flatMap(({ points }) => points));
  const [width, height] = [(maxX - minX) * pxPerMm + 2 * ROOM, (maxY - minY) * pxPerMm + 2 * ROOM];
  const at = ([x, y]: readonly [number, number]) => `${((x - minX) * pxPerMm + ROOM).toFixed(1)} ${((maxY - y) * pxPerMm + ROOM).toFixed(1)}`;
  const name = `${template.end}, ${TEMPLATE_FACE_WORDS[template.face]}`;
  return (
    <figure className="flat-template" data-flat={`${template.end}-${template.face}`}>
      <svg width={width} height={height} role="img" aria-label={`Template, ${name}, ${show("length", template.lengthMm)} of edge`}>
        <title>{name}</title>
        {drawing.lines.map(({ layer, points, closed }, i) => (
          <path
            // biome-ignore lint/suspicious/noArrayIndexKey: a drawing's lines in their order
            key={i}
            data-layer={layer}
            d={`M${points.map(at).join("L")}${closed ? "Z" : ""}`}
            fill="none"
            stroke={
              layer === "guide" ? "var(--cool)" : layer === "travel" ? "var(--ember)" : layer === "finished part" ? "var(--graphite-soft)" : "var(--graphite)"
            }
            strokeWidth={layer === "guide" ? 2.2 : 1}
            strokeDasharray={layer === "finished part" || layer === "base line" ? "4 4" : undefined}
          />
        ))}
      </svg>
      <figcaption>
        {templateWords(plan, evaluation, template).map((words, i) => (
          <div key={words} style={i === 0 ? { fontWeight: 700 } : undefined}>
            {words}
          </div>
        ))}
        <div>
          edge <span className="num">{show("length", template.lengthMm)}</span> with ramp and run-out
        </div>
      </figcaption>
    </figure>
  );
}

/** What each material would take from the wire next to it, and how far into the foam that is felt. */
function EdgeTable({ plan, evaluation }: { plan: Plan; evaluation: PlanEvaluation }) {
  const { show, system } = useUnits();
  const job = useMemo(
    () =>
      evaluation.cutter && {
        design: evaluation.cutter.design,
        spanMm: plan.part.span_mm,
        feedMmS: evaluation.root.feedMmS,
        thicknessMm: plan.template.thickness_mm,
      },
    [evaluation.cutter, evaluation.root.feedMmS, plan.part.span_mm, plan.template.thickness_mm],
  );
  const { result, fault } = useEngine("edges", job);
  if (!job) return null;
  if (fault) return <p role="alert">What an edge takes from the wire is not known: {fault}</p>;
  if (!result) return null;
  if (result.length === 0) return <p>The part is longer than this wire, or the wire is cold: what an edge takes from it is not known.</p>;
  const degrees = (kelvin: number) => `${Math.abs(system === "metric" ? kelvin : kelvin * 1.8).toFixed(0)} ${system === "metric" ? "°C" : "°F"}`;
  return (
    <table className="plain-table" data-testid="edge-costs">
      <caption style={{ textAlign: "left" }}>
        An edge {show("kerf", plan.template.thickness_mm)} thick next to the foam{" "}
        <Why
          of="edge"
          relation={TEMPLATE_EDGE}
          inputs={`${show("feed", evaluation.root.feedMmS)} at the root, ${show("length", plan.part.span_mm)} of foam on the wire.`}
        />
      </caption>
      <tbody>
        {result.map(({ material, lostC, affectedMm }) => (
          <tr key={material} data-material={material}>
            <th scope="row" style={{ fontWeight: plan.template.material === material ? 700 : 400 }}>
              {material}
            </th>
            <td className="num">
              {degrees(lostC)} {lostC >= 0 ? "colder" : "hotter"}
            </td>
            <td>
              {lostC < 0 ? (
                "keeps the wire warm: it scorches"
              ) : affectedMm < 0.5 ? (
                "not felt"
              ) : (
                <>
                  felt for <span className="num">{show("length", affectedMm)}</span> of the foam
                </>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** All templates of a plan, flat, to one scale with a rule. */
export function FlatTemplates({ plan, evaluation }: { plan: Plan; evaluation: PlanEvaluation }) {
  const { show, system } = useUnits();
  const [ref, { width }] = useSize<HTMLDivElement>({ width: 1000, height: 500 });
  const all = ENDS.flatMap((end) => (end === "tip" && plan.tip === null ? [] : sheetsOf(evaluation, end)));
  const widest = Math.max(
    ...all.map((template) => {
      const { minX, maxX } = boundsOf(template.closed ? evaluation[template.end].templates.flatMap(({ line }) => line) : template.line);
      return maxX - minX;
    }),
  );
  const pxPerMm = Math.max(0.15, Math.min(3, (width - 2 * ROOM - 8) / widest));
  const rule = system === "metric" ? 100 : 101.6;
  return (
    <div ref={ref} className="flat-templates">
      <svg
        width={Math.max(340, rule * pxPerMm + 2 * ROOM)}
        height={34}
        role="img"
        aria-label={`A rule of ${show("length", rule)}, to the scale of the drawings`}
      >
        <title>rule</title>
        <path d={`M${ROOM} 10v8h${rule * pxPerMm}v-8M${ROOM + (rule * pxPerMm) / 2} 13v5`} fill="none" stroke="var(--graphite)" />
        <text x={ROOM} y={31} fontSize={12.5} className="num" fill="var(--graphite-soft)">
          {show("length", rule)}, drawn {(pxPerMm / (96 / 25.4)).toFixed(2)} of full size
        </text>
      </svg>
      {all.map((template) => (
        <Flat key={`${template.end} ${template.face}`} plan={plan} evaluation={evaluation} template={template} pxPerMm={pxPerMm} />
      ))}
      <section aria-label="Making and fixing templates" className="template-craft">
        {templateCraft(plan, show).map(({ title, words }) => (
          <div key={title}>
            <h2>{title}</h2>
            <ul>
              {words.map((each) => (
                <li key={each}>{each}</li>
              ))}
            </ul>
          </div>
        ))}
      </section>
      <EdgeTable plan={plan} evaluation={evaluation} />
    </div>
  );
}
