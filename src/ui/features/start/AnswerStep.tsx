"use client";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useMemo, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { LEAST_TO_SPARE } from "@/core/cutters/search/search";
import { heatCourseOf } from "@/core/cutters/solve/cutBands";
import { describeVerdict } from "@/core/cutters/solve/describe";
import { evaluateDesign } from "@/core/cutters/solve/evaluate";
import type { Holdings } from "@/core/drawer/holdings";
import { atPlate, ownKnob, supplyRecordOf } from "@/core/physics/power/supplies";
import type { Answers } from "@/core/start/answers";
import type { Choice, ChoiceKind, ChoicePart } from "@/core/start/choices";
import { paceFor } from "@/core/start/wishes";
import { trim } from "@/core/units/trim";
import { Rod } from "../../cutter/Rod";
import { VerdictMark } from "../../cutter/VerdictMark";
import { controlSentence, supplySentence, tensionWords, wireWords } from "../../cutter/words";
import { ApiError, api } from "../../kit/api";
import { useEngine } from "../../kit/useEngine";
import { useUnits } from "../../kit/useUnits";

const PART_NAMES: Readonly<Record<ChoicePart, string>> = { wire: "the wire", supply: "the supply", control: "the control" };
const PLACES = ["First", "Second", "Third"] as const;
/** Prices differ by shop and year: classes, not money (common practice). */
const COST_WORDS: Readonly<Record<Choice["cost"], string>> = { cheap: "Cheap", middling: "Neither cheap nor dear", dear: "Dear" };
const KIND_WORDS: Readonly<Record<ChoiceKind, string>> = {
  owned: "What you own",
  slower: "What you own, slower",
  cheapest: "Cheapest to buy",
  "best-cut": "Best cut",
  other: "Another",
};

/** Three set-ups side by side, as sentences. */
export function AnswerStep({ answers, held, forget }: { answers: Answers; held: Holdings; forget: () => void }) {
  const { system } = useUnits();
  const { result, current, fault } = useEngine(
    "start",
    useMemo(() => ({ answers, held, units: system }), [answers, held, system]),
  );
  if (fault) return <p role="alert">The set-ups could not be worked out: {fault}</p>;
  if (!result || !current) return <p role="status">Trying every wire on every supply…</p>;
  const { choices, why, passedOver } = result;
  if (choices.length === 0)
    return (
      <div role="status">
        <p className="refusal">
          <strong>Nothing sold or owned does this job as it is.</strong> {why ? `Most often because ${why}.` : ""}
        </p>
        <p>What changes it: a narrower or lighter block, a calmer pace, a rougher cut, or a transformer where you may use one.</p>
        <p className="ask-links">
          <Link href="/start/block">A smaller block</Link>
          <Link href="/start/care">Another pace or exactness</Link>
          <Link href="/cutters">To the cutters, and an empty desk</Link>
        </p>
      </div>
    );
  const [first, ...others] = choices;
  const parts = new Set(others.flatMap((other) => (other.differs ? [other.differs] : [])));
  return (
    <>
      <ol className="choices">
        {choices.map((choice, i) => (
          <ChoiceColumn
            key={PLACES[i]}
            choice={choice}
            place={i}
            mostBowMm={Math.max(...choices.map(({ bowMm }) => bowMm))}
            bold={choice === first ? parts : new Set(choice.differs ? [choice.differs] : [])}
            answers={answers}
            onMade={forget}
          />
        ))}
      </ol>
      {passedOver.length > 0 && (
        <section aria-label="What you have that is not used">
          <h2 style={{ fontSize: 18, margin: "10px 0 4px" }}>Not used, of what you have</h2>
          <ul style={{ margin: 0, paddingLeft: 18 }}>
            {passedOver.map(({ name, why: reason }) => (
              <li key={name}>
                <strong>{name}.</strong> {reason}
              </li>
            ))}
          </ul>
        </section>
      )}
      {choices.length < 3 && (
        <p className="ask-more">No more than {choices.length === 1 ? "this one does" : "these two do"} the job from what is sold and owned.</p>
      )}
    </>
  );
}

/** What has to be bought, as a shop would be asked for it. */
function shoppingWords({ design, buy }: Choice, show: ReturnType<typeof useUnits>["show"]): string[] {
  return buy.map((part) => {
    if (part === "wire")
      return `${wireWords(design, show)}, ${trim(show("length", Math.ceil((design.wire.length_mm * 2.2) / 100) * 100))} of it: two wires and their ends`;
    if (part === "supply") return supplySentence({ supply: atPlate(design.supply) }, show);
    return controlSentence(design, show).replace(/ (at|leaving) .*/, "");
  });
}

/** A sheet slicer on a new cutter, with the sizes that were asked for. @returns its id */
async function slicerOn(id: string, design: Design, { sheet }: Answers): Promise<string> {
  // Rigs and what draws them come only with one.
  const [{ newRig }, { rigJobOf }] = await Promise.all([import("@/core/rigs/rig"), import("@/core/rigs/record")]);
  const slicer = newRig("sheet", `Sheets of ${sheet.thick_mm} mm`, { id, name: design.name }, null, rigJobOf(design));
  const rig = { ...slicer.rig, sheet_mm: sheet.thick_mm, blockLong_mm: sheet.along_mm };
  return (await api.rigs.create({ ...slicer, rig })).id;
}

function ChoiceColumn({
  choice,
  place,
  bold,
  mostBowMm,
  answers,
  onMade,
}: {
  choice: Choice;
  place: number;
  bold: ReadonlySet<ChoicePart>;
  mostBowMm: number;
  answers: Answers;
  onMade: () => void;
}) {
  const { show, system } = useUnits();
  const router = useRouter();
  const [busy, setBusy] = useState(false);
  const [refusal, setRefusal] = useState<string | null>(null);
  const { design, candidate, buy, hurts, blocked } = choice;
  const evaluation = useMemo(() => evaluateDesign(design), [design]);
  const course = useMemo(() => heatCourseOf(design, evaluation), [design, evaluation]);
  const shopping = shoppingWords(choice, show);
  const name = `${PLACES[place]} set-up`;
  const part = (id: ChoicePart, words: string) => (bold.has(id) ? <strong>{words}</strong> : words);
  const make = async () => {
    setBusy(true);
    setRefusal(null);
    try {
      const made = await api.cutters.create(design);
      const next = answers.wanted === "sheets" ? `/rigs/${await slicerOn(made.id, design, answers)}` : `/cutters/${made.id}`;
      onMade();
      router.push(next);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      setRefusal(error.message);
      setBusy(false);
    }
  };
  const giving = candidate.reasons.find((reason) => reason.startsWith(LEAST_TO_SPARE));
  const why = candidate.reasons.slice(1).filter((reason) => reason !== giving && !reason.startsWith("as good as"));
  const driven =
    design.control.kind === "direct" ? (ownKnob(design.supply) && !supplyRecordOf(design.supply).record.holdsLimit ? " by its own knob" : "") : null;
  return (
    <li aria-label={name}>
      <h2>
        {KIND_WORDS[choice.kind]}
        <span>{buy.length === 0 ? "nothing to buy" : `buy ${buy.map((id) => PART_NAMES[id]).join(" and ")}`}</span>
      </h2>
      <Rod
        id={`rod-${place}`}
        label={`The rod of the ${name.toLowerCase()}`}
        design={design}
        evaluation={evaluation}
        course={course}
        onPick={null}
        mostBowMm={mostBowMm}
      />
      <p className="choice-sentence">
        {part("wire", wireWords(design, show))}, {show("length", design.wire.length_mm)} between posts, from a {part("supply", supplySentence(design, show))}
        {driven === null ? <> through {part("control", controlSentence(design, show))}</> : driven}, held by a {tensionWords(design, show)}.
      </p>
      <p className="verdict-mark">
        <VerdictMark verdict={evaluation.verdict} /> {describeVerdict(design, evaluation, system).headline}
      </p>
      <div className="choice-act">
        {refusal && <Alert severity="error">{refusal}</Alert>}
        <Button
          variant={place === 0 ? "contained" : "outlined"}
          size="large"
          disabled={busy}
          onClick={() => void make()}
          aria-label={`Make this cutter: the ${PLACES[place]?.toLowerCase()}`}
        >
          {answers.wanted === "sheets" ? "Make this cutter and its slicer" : "Make this cutter"}
        </Button>
      </div>
      <dl>
        <dt>Why</dt>
        <dd>
          {choice.kind === "slower" && `At ${show("feed", design.job.feed_mm_s)} instead of ${show("feed", paceFor(answers))}, because it gives no more heat. `}
          {[candidate.reasons[0], ...why].map((reason) => `${reason?.charAt(0).toUpperCase() ?? ""}${reason?.slice(1) ?? ""}.`).join(" ")} The wire bows{" "}
          {show("kerf", choice.bowMm)} at mid-span.
        </dd>
        <dt>Gives up</dt>
        <dd>{giving ? `Least to spare is ${giving.slice(LEAST_TO_SPARE.length)}.` : "Nothing that matters here."}</dd>
        <dt>To buy</dt>
        <dd>{shopping.length === 0 ? "Nothing." : `${shopping.join("; ")}. ${COST_WORDS[choice.cost]}.`}</dd>
        <dt>Would hurt</dt>
        <dd>
          {hurts.length === 0 && blocked.length === 0 ? "nothing out of the ordinary: glasses on, doors open." : null}
          {blocked.map((words) => (
            <span key={words} className="hurt">
              <strong>Not ready yet. </strong>
              {words}
            </span>
          ))}
          {hurts
            .filter((hurt) => !blocked.includes(hurt.words))
            .map((hurt) => (
              <span key={hurt.words} className="hurt">
                <strong>{hurt.danger ? "Danger. " : "Caution. "}</strong>
                {hurt.words}
              </span>
            ))}
        </dd>
      </dl>
    </li>
  );
}
