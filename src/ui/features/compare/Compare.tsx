"use client";
import type { StoredDocument } from "@/core/kernel/document";
import { foamWords } from "@/core/materials/foams";
import "../../kit/theme/screens.css";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useMemo, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { compareDesigns } from "@/core/cutters/solve/compare";
import { heatCourseOf } from "@/core/cutters/solve/cutBands";
import { describeVerdict } from "@/core/cutters/solve/describe";
import { trim } from "@/core/units/trim";
import { Rod } from "../../cutter/Rod";
import { VerdictMark } from "../../cutter/VerdictMark";
import { controlSentence, supplySentence, tensionWords, wireWords } from "../../cutter/words";
import { InstrumentBoundary } from "../../kit/InstrumentBoundary";
import { PageTitle } from "../../kit/PageTitle";
import { Rail, RailSwitches } from "../../kit/Rail";
import { ShortcutsDialog } from "../../kit/Shortcuts";
import { useUnits } from "../../kit/useUnits";

type Show = ReturnType<typeof useUnits>["show"];

/** What the maker set, part by part. */
const PARTS: readonly { label: string; words: (design: Design, show: Show) => string }[] = [
  { label: "Foam", words: (design) => `${foamWords(design.job.foam)} ${design.job.foam.density_kg_m3}` },
  { label: "Width", words: (design, show) => trim(show("length", design.job.width_mm)) },
  { label: "Feed", words: (design, show) => trim(show("feed", design.job.feed_mm_s)) },
  { label: "Wire", words: (design, show) => wireWords(design, show) },
  { label: "Between posts", words: (design, show) => trim(show("length", design.wire.length_mm)) },
  { label: "Supply", words: (design, show) => supplySentence(design, show) },
  { label: "Control", words: (design, show) => controlSentence(design, show) },
  { label: "Held by", words: (design, show) => tensionWords(design, show) },
];

/** Two cutters side by side, with their differences named. Which two is in the address. */
export function Compare({
  names,
  left: one,
  right: other,
}: {
  names: { id: string; name: string }[];
  left: StoredDocument<Design> | null;
  right: StoredDocument<Design> | null;
}) {
  const { system, show } = useUnits();
  const router = useRouter();
  const ids: [string, string] = [one?.id ?? "", other?.id ?? one?.id ?? ""];
  const [shortcuts, setShortcuts] = useState(false);
  const [left, right] = [one?.document, other?.document ?? one?.document];
  const both = useMemo(() => (left && right ? compareDesigns(left, right, system) : null), [left, right, system]);
  const courses = useMemo(
    () => (both && left && right ? [heatCourseOf(left, both.answers[0]), heatCourseOf(right, both.answers[1])] : null),
    [both, left, right],
  );
  const pick = (side: 0 | 1, label: string) => (
    <TextField
      select
      size="small"
      label={label}
      value={ids[side]}
      onChange={(event) => router.push(`/compare?a=${side === 0 ? event.target.value : ids[0]}&b=${side === 1 ? event.target.value : ids[1]}`)}
      sx={{ minWidth: 220 }}
    >
      {names.map((row) => (
        <MenuItem key={row.id} value={row.id}>
          {row.name}
        </MenuItem>
      ))}
    </TextField>
  );
  return (
    <div className="shed">
      <PageTitle parts={["Compare"]} />
      <Rail current="compare">
        <span className="spring" />
        <RailSwitches onShortcuts={() => setShortcuts(true)} />
      </Rail>
      <main style={{ maxWidth: "none" }}>
        <div style={{ display: "flex", gap: 14, alignItems: "center", flexWrap: "wrap" }}>
          <h1 style={{ margin: 0, fontSize: 30 }}>Compare</h1>
          {names.length > 1 && pick(0, "This")}
          {names.length > 1 && pick(1, "with this")}
        </div>
        {names.length < 2 && (
          <p>
            Two cutters are needed: <Link href="/cutters">make or copy one</Link>. A copy with one part changed is the clearest question.
          </p>
        )}
        {both && left && right && courses && (
          <>
            <p role="status" style={{ fontSize: 17, maxWidth: 900 }}>
              {both.summary}
            </p>
            {[left, right].map((design, i) => (
              <div key={ids[i]} style={{ marginBottom: 8 }}>
                <InstrumentBoundary name="the rod">
                  <Rod
                    id={i === 0 ? "left" : "right"}
                    label={`The rod of ${i === 0 ? "this" : "the other"}: ${design.name}`}
                    design={design}
                    evaluation={both.answers[i] as (typeof both.answers)[0]}
                    course={courses[i] as (typeof courses)[0]}
                    onPick={() => router.push(`/cutters/${ids[i]}`)}
                  />
                </InstrumentBoundary>
              </div>
            ))}
            <table className="plain-table compare-table">
              <thead>
                <tr>
                  <th scope="col">
                    <span className="visually-hidden">Part or figure</span>
                  </th>
                  {[left, right].map((design, i) => (
                    <th key={ids[i]} scope="col">
                      <Link href={`/cutters/${ids[i]}`}>{design.name}</Link>
                    </th>
                  ))}
                  <th scope="col">What it means</th>
                </tr>
              </thead>
              <tbody>
                <tr>
                  <th scope="row">Verdict</th>
                  {[left, right].map((design, i) => (
                    <td key={ids[i]}>
                      <VerdictMark verdict={both.answers[i]?.verdict ?? "clean"} />{" "}
                      {describeVerdict(design, both.answers[i] as (typeof both.answers)[0], system).headline}
                    </td>
                  ))}
                  <td />
                </tr>
                {PARTS.map((part) => {
                  const [x, y] = [part.words(left, show), part.words(right, show)];
                  return (
                    <tr key={part.label} data-differs={x !== y}>
                      <th scope="row">{part.label}</th>
                      <td>{x === y ? x : <strong>{x}</strong>}</td>
                      <td>{x === y ? "the same" : <strong>{y}</strong>}</td>
                      <td />
                    </tr>
                  );
                })}
                {both.figures.map((figure) => (
                  <tr key={figure.label} data-better={figure.better ?? "none"}>
                    <th scope="row">{figure.label}</th>
                    {(["a", "b"] as const).map((side) => (
                      <td key={side} className="num">
                        {figure[side]}
                        {figure.better === side && <span className="better"> better</span>}
                        {figure.better !== null && figure.better !== side && figure.words && <span className="means">{figure.words}</span>}
                      </td>
                    ))}
                    <td>{figure.words && `${(figure.better === "a" ? right : left).name}: ${figure.words}`}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        )}
      </main>
      <ShortcutsDialog open={shortcuts} onClose={() => setShortcuts(false)} rows={[{ keys: "Tab", does: "from choice to choice" }]} />
    </div>
  );
}
