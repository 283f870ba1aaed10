"use client";
import Button from "@mui/material/Button";
import { useMemo } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { boundsOf } from "@/core/geometry/points";
import { type Board, blanksOfPanels, cutList, otherFoam, SAW_MM } from "@/core/plans/cutList";
import { clearBelowMm, ENDS, flatterFace, lagOf, type PlanEvaluation, STRESS_TRIM_MM } from "@/core/plans/evaluate";
import { evaluatePanels } from "@/core/plans/panels";
import type { Plan } from "@/core/plans/plan";
import { useSize } from "../../kit/useSize";
import { useUnits } from "../../kit/useUnits";

/** The block seen from its end, the root's and the tip's sections in it. */
function BlankPicture({ plan, evaluation, width }: { plan: Plan; evaluation: PlanEvaluation; width: number }) {
  const { show } = useUnits();
  const { block } = evaluation;
  const trim = plan.blank.trim_mm;
  const scale = Math.min(4, (width - 150) / block.widthMm, 300 / block.boardMm);
  const left = 70;
  const top = 40;
  const px = (x: number) => left + (x - block.minX) * scale;
  const py = (y: number) => top + (block.maxY + trim - y) * scale;
  const path = (points: readonly (readonly [number, number])[]) => `M${points.map(([x, y]) => `${px(x).toFixed(1)} ${py(y).toFixed(1)}`).join("L")}Z`;
  const height = block.boardMm * scale + top + 54;
  const part = boundsOf(ENDS.flatMap((end) => evaluation[end].placed.flatMap(({ outline }) => outline)));
  return (
    <svg
      width={width}
      height={height}
      role="img"
      aria-label={`Blank from its end: ${show("length", block.widthMm)} wide, ${show("length", block.boardMm)} thick`}
      data-testid="blank"
    >
      <title>blank from its end</title>
      <rect
        x={px(block.minX)}
        y={py(block.maxY + trim)}
        width={block.widthMm * scale}
        height={block.boardMm * scale}
        fill="var(--paper-bright)"
        stroke="var(--graphite)"
        strokeWidth={1.6}
      />
      {trim > 0 &&
        [block.maxY, block.minY].map((y) => (
          <path key={y} d={`M${px(block.minX)} ${py(y)}H${px(block.maxX)}`} stroke="var(--graphite-soft)" strokeDasharray="6 5" />
        ))}
      {ENDS.map((end) =>
        evaluation[end].placed.map(({ outline, holes }, i) => (
          <path
            // biome-ignore lint/suspicious/noArrayIndexKey: pieces in their order
            key={`${end} ${i}`}
            d={[outline, ...holes].map(path).join("")}
            fill={end === "root" ? "var(--line)" : "none"}
            fillOpacity={0.6}
            fillRule="evenodd"
            stroke="var(--graphite)"
            strokeDasharray={end === "root" ? undefined : "5 4"}
            strokeWidth={1.3}
          />
        )),
      )}
      <g fontSize={13} className="num" fill="var(--graphite)">
        <text x={(px(block.minX) + px(block.maxX)) / 2} y={py(block.minY - trim) + 24} textAnchor="middle">
          {show("length", block.widthMm)}
        </text>
        <text transform={`translate(${px(block.minX) - 12} ${(py(block.minY) + py(block.maxY)) / 2}) rotate(-90)`} textAnchor="middle">
          {show("length", block.boardMm)}
        </text>
        <text x={px(block.minX) + 4} y={py(part.maxY) - 6}>
          nose
        </text>
        <text x={px(block.maxX) - 4} y={py(part.maxY) - 6} textAnchor="end">
          tail
        </text>
      </g>
    </svg>
  );
}

/** Every blank with its sizes, and what of it becomes part. @param hands blanks to a panel */
function CutListTable({ blanks, panels, hands }: { blanks: ReturnType<typeof blanksOfPanels>; panels: ReturnType<typeof evaluatePanels>; hands: number }) {
  const { show } = useUnits();
  return (
    <table className="plain-table" data-testid="cut-list">
      <caption style={{ textAlign: "left", fontWeight: 700 }}>Cut list</caption>
      <thead>
        <tr>
          <th scope="col">blank</th>
          <th scope="col">long</th>
          <th scope="col">wide</th>
          <th scope="col">thick</th>
          <th scope="col">foam of it</th>
          <th scope="col">part of it</th>
        </tr>
      </thead>
      <tbody>
        {blanks.map((blank, i) => {
          // As many blanks to a panel as it has hands.
          const own = panels[Math.floor(i / hands)]?.evaluation as PlanEvaluation;
          return (
            <tr key={blank.name}>
              <th scope="row" style={{ fontWeight: 400 }}>
                {blank.name}
              </th>
              <td className="num">{show("length", blank.lengthMm)}</td>
              <td className="num">{show("length", blank.widthMm)}</td>
              <td className="num">{show("length", blank.thickMm)}</td>
              <td className="num">{((blank.widthMm * blank.thickMm * blank.lengthMm) / 1e6).toFixed(2)} L</td>
              <td className="num">
                {(own.volumeMm3 / 1e6).toFixed(2)} L{own.massG === null ? "" : `, ${own.massG.toFixed(0)} g`}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** Where the part lies in its block: seen from the end, both sections over one another, with every margin measured. */
export function BlankView({
  plan,
  evaluation,
  boards,
  whole,
  design,
  onChange,
}: {
  plan: Plan;
  evaluation: PlanEvaluation;
  boards: readonly Board[];
  /** The plan with all its panels, and the cutter it is for. */
  whole: Plan;
  design: Design | null;
  onChange: (plan: Plan, key: string) => void;
}) {
  const { show } = useUnits();
  const [ref, { width }] = useSize<HTMLDivElement>({ width: 900, height: 400 });
  const { block } = evaluation;
  const trim = plan.blank.trim_mm;
  const hands = plan.part.hands === "one" ? 1 : 2;
  const panels = useMemo(() => evaluatePanels(whole, design, false), [whole, design]);
  const blanks = blanksOfPanels(panels);
  const massG = panels.every((panel) => panel.evaluation.massG !== null) ? panels.reduce((sum, panel) => sum + (panel.evaluation.massG ?? 0), 0) : null;
  const down = flatterFace(evaluation.root);
  const clear = clearBelowMm(block, evaluation.root, evaluation.tip);
  const lag = useMemo(() => (evaluation.cutter ? lagOf(evaluation.cutter.design, plan, evaluation) : null), [evaluation, plan]);
  const measures: [string, number][] = [
    ["nose", plan.blank.nose_mm],
    ["tail", plan.blank.tail_mm],
    ["top", plan.blank.top_mm],
    ["bottom", plan.blank.bottom_mm],
  ];
  return (
    <div ref={ref} className="plan-blank">
      <BlankPicture plan={plan} evaluation={evaluation} width={width} />
      <CutListTable blanks={blanks} panels={panels} hands={hands} />
      {blanks.length > 1 && (
        <p style={{ margin: "6px 0" }}>
          {blanks.length} blanks
          {massG === null ? (
            ""
          ) : (
            <>
              , <span className="num">{(massG * hands).toFixed(0)} g</span> of part in all
            </>
          )}
          . Write its hand and its end on each before anything is cut: mirrored blanks look the same.
        </p>
      )}
      {boards.length === 0 && <p>Measure a block of foam in the drawer (its three sizes), and the blanks are laid out on it here.</p>}
      {boards.map((board) => {
        const refused = design ? otherFoam(board, design.job.foam) : null;
        return <BoardView key={board.name} board={board} found={refused ? { board, refused } : cutList(blanks, board)} cure={refused ? whole.cutter : null} />;
      })}
      {evaluation.notes.some(({ code }) => code === "stress") && (
        <p>
          <Button variant="outlined" onClick={() => onChange({ ...plan, blank: { ...plan.blank, trim_mm: STRESS_TRIM_MM } }, "blank")}>
            Trim {show("length", STRESS_TRIM_MM)} off both faces first
          </Button>
        </p>
      )}
      <p data-testid="laying">
        The {down} face is the flatter: that side of the block lies down. Weights go on top of the offcut above the part, behind the wire's way, not on the part
        itself (common practice). At its lowest the wire passes <span className="num">{show("length", Math.abs(clear))}</span>{" "}
        {clear < 0 ? "below the block's underside" : "above the bench"}
        {lag === null ? (
          ""
        ) : (
          <>
            ; its middle trails by <span className="num">{show("kerf", lag)}</span> there
          </>
        )}
        .
      </p>
      <p>
        Margins: {measures.map(([name, mm]) => `${name} ${show("length", mm)}`).join(", ")}
        {trim > 0 ? `; ${show("length", trim)} trimmed off both faces first` : ""}.
      </p>
    </div>
  );
}

/** Most layers that are drawn: the rest are counted. */
const MOST_DRAWN = 6;

/** The blanks laid out on one kind of board, layer by layer, to scale. */
function BoardView({
  board,
  found,
  cure,
}: {
  board: Board;
  found: ReturnType<typeof cutList>;
  /** the cutter to be set for this foam instead; null where the board is of its foam */
  cure: { id: string; name: string } | null;
}) {
  const { show } = useUnits();
  const sizes = `${show("length", board.lengthMm)} × ${show("length", board.widthMm)} × ${show("length", board.thicknessMm)}`;
  if ("refused" in found)
    return (
      <p data-board={board.name}>
        <strong>{board.name}</strong> ({board.foam}, {sizes}) is not laid out: {found.refused}.{" "}
        {cure && (
          <Button size="small" variant="outlined" href={`/cutters/${cure.id}`}>
            Set {cure.name} for {board.foam}
          </Button>
        )}
      </p>
    );
  const sheets = [...new Set(found.placed.map(({ board: which, layer }) => `${which} ${layer}`))];
  const scale = 300 / board.lengthMm;
  return (
    <section data-board={board.name} aria-label={`Blanks on ${board.name}`}>
      <h2 style={{ margin: "12px 0 4px", fontSize: 17 }}>
        On {board.name}: {found.boards} of {board.foam}, {sizes}
      </h2>
      <p style={{ margin: "0 0 6px", fontSize: 15 }}>
        {found.layers} {found.layers === 1 ? "layer" : "layers"} out of its thickness; {(100 * found.used).toFixed(0)} % becomes blanks
        {found.price === null ? "" : `; ${found.price} in all`}. {SAW_MM} mm of cut between them (common practice).
        {found.offcuts.length > 0 &&
          ` Left whole: ${found.offcuts
            .slice(0, 4)
            .map(({ longMm, wideMm, thickMm }) => `${show("length", longMm)} × ${show("length", wideMm)} × ${show("length", thickMm)}`)
            .join(", ")}.`}
      </p>
      <div style={{ display: "flex", gap: 12, flexWrap: "wrap" }}>
        {sheets.slice(0, MOST_DRAWN).map((sheet) => {
          const [which, layer] = sheet.split(" ").map(Number) as [number, number];
          return (
            <svg
              key={sheet}
              width={board.lengthMm * scale + 2}
              height={board.widthMm * scale + 2}
              role="img"
              aria-label={`board ${which + 1}, layer ${layer + 1}`}
            >
              <title>{`board ${which + 1}, layer ${layer + 1}`}</title>
              <rect x={1} y={1} width={board.lengthMm * scale} height={board.widthMm * scale} fill="var(--paper-bright)" stroke="var(--graphite)" />
              {found.placed
                .filter((each) => each.board === which && each.layer === layer)
                .map((each) => (
                  <g key={each.blank}>
                    <rect
                      x={1 + each.x * scale}
                      y={1 + each.y * scale}
                      width={each.wide * scale}
                      height={each.high * scale}
                      fill="var(--line)"
                      fillOpacity={0.6}
                      stroke="var(--graphite)"
                    />
                    <text x={6 + each.x * scale} y={17 + each.y * scale} fontSize={13} fill="var(--graphite)">
                      {each.blank}: root here
                    </text>
                  </g>
                ))}
            </svg>
          );
        })}
      </div>
      {sheets.length > MOST_DRAWN && <p>and {sheets.length - MOST_DRAWN} more layers</p>}
    </section>
  );
}
