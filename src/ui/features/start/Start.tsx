"use client";
import "../../kit/theme/screens.css";
import "../../kit/theme/start.css";
import Button from "@mui/material/Button";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useMemo, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { holdingsOf } from "@/core/drawer/holdings";
import { heldBlocks } from "@/core/start/blocks";
import { jobCard, START_STEPS, type StartStep } from "@/core/start/jobCard";
import type { DrawerRow } from "../../kit/api";
import { HOTKEYS } from "../../kit/hotkeys";
import { onDemand } from "../../kit/later";
import { PageTitle } from "../../kit/PageTitle";
import { Rail, RailSwitches } from "../../kit/Rail";
import { ShortcutsDialog } from "../../kit/Shortcuts";
import { useUnits } from "../../kit/useUnits";
import { BenchStep } from "./BenchStep";
import { BlockStep } from "./BlockStep";
import { CareStep } from "./CareStep";
import { FoamStep } from "./FoamStep";
import { useAnswers } from "./useAnswers";

const AnswerStep = onDemand(() => import("./AnswerStep").then((module) => module.AnswerStep));

/** What is asked, one question to a page. */
const QUESTIONS: Readonly<Record<StartStep, string>> = {
  foam: "What is it made of?",
  block: "How big, and what comes out of it?",
  bench: "What have you got?",
  care: "How careful shall we be?",
};
const NEXT: Readonly<Record<StartStep, string>> = {
  foam: "Next: how big",
  block: "Next: what is at hand",
  bench: "Next: how careful",
  care: "Show me the cutter",
};

const STEP_TITLES: Readonly<Record<StartStep | "answer", string>> = {
  foam: "Foam",
  block: "Block",
  bench: "What is at hand",
  care: "Quality",
  answer: "Answers",
};

/** From a job to a cutter: four questions, one to a page, the job card growing below, then three set-ups. */
export function Start({ step, drawer }: { step: StartStep | "answer"; drawer: DrawerRow[] }) {
  const { answers, change, forget } = useAnswers();
  const { system, setSystem } = useUnits();
  const router = useRouter();
  const [shortcuts, setShortcuts] = useState(false);
  const [refused, refuse] = useState<string | null>(null);
  const held = useMemo(() => holdingsOf(drawer), [drawer]);
  const blocks = useMemo(() => heldBlocks(drawer), [drawer]);
  const at = step === "answer" ? START_STEPS.length : START_STEPS.indexOf(step);
  const back = at > 0 ? `/start/${START_STEPS[at - 1]}` : "/cutters";
  const next = step === "answer" ? null : `/start/${START_STEPS[at + 1] ?? "answer"}`;
  const barred = step === "foam" && refused !== null;
  const card = jobCard(
    answers,
    system,
    drawer.some((row) => row.item.owned),
  );
  useHotkeys("n", () => next && !barred && router.push(next), HOTKEYS);
  useHotkeys("b", () => router.push(back), HOTKEYS);
  useHotkeys("u", () => setSystem(system === "metric" ? "inch" : "metric"), HOTKEYS);
  useHotkeys("?", () => setShortcuts(true), { ...HOTKEYS, useKey: true });
  return (
    <div className="shed">
      <PageTitle parts={["Start from the job", STEP_TITLES[step]]} />
      <Rail current="desk">
        <span className="spring" />
        <RailSwitches onShortcuts={() => setShortcuts(true)} />
      </Rail>
      <main className="ask" data-step={step}>
        <header>
          <h1>{step === "answer" ? "Three that would do it" : QUESTIONS[step]}</h1>
          <Link href="/cutters">I know what I want: skip this</Link>
        </header>
        {step === "foam" && <FoamStep answers={answers} change={change} refused={refused} refuse={refuse} />}
        {step === "block" && <BlockStep answers={answers} change={change} blocks={blocks} />}
        {step === "bench" && (
          <BenchStep
            answers={answers}
            change={change}
            held={{ wires: held.wires.length, supplies: held.supplies.length, controls: held.controls.length - 1 }}
          />
        )}
        {step === "care" && <CareStep answers={answers} change={change} />}
        {step === "answer" && <AnswerStep answers={answers} held={held} forget={forget} />}
        <footer>
          <section className="job-card" aria-label="Job card">
            <h2>Job card</h2>
            <ol>
              {START_STEPS.slice(0, at + 1).map((id) => (
                <li key={id}>{id === step ? card[id] : <Link href={`/start/${id}`}>{card[id]}</Link>}</li>
              ))}
            </ol>
          </section>
          <div className="ask-turn">
            <Button component={Link} href={back} size="large">
              Back
            </Button>
            {next && step !== "answer" && (
              <Button variant="contained" size="large" disabled={barred} onClick={() => router.push(next)}>
                {NEXT[step]}
              </Button>
            )}
          </div>
        </footer>
      </main>
      <ShortcutsDialog
        open={shortcuts}
        onClose={() => setShortcuts(false)}
        rows={[
          { keys: "N", does: "next question" },
          { keys: "B", does: "back" },
          { keys: "Tab, Enter", does: "reach and point at anything" },
          { keys: "arrows", does: "on the block's handles: larger and smaller, ten steps with Shift" },
          { keys: "U", does: "millimetres or inches" },
        ]}
      />
    </div>
  );
}
