// Writes docs/sources.md, docs/headless.md and docs/rigs.md from the records the program itself uses. With --check it only compares.
import { readFileSync, writeFileSync } from "node:fs";
import path from "node:path";
import { runVerb, VERBS } from "@/cli/verbs";
import { CAUTION_RULES } from "@/core/cutters/solve/cautions";
import { JUDGEMENT } from "@/core/kernel/constants";
import type { Source } from "@/core/kernel/provenance";
import { ALLOYS } from "@/core/materials/alloys";
import { CELLS } from "@/core/materials/batteries";
import { FOAM_FAMILIES, FORBIDDEN_FOAMS } from "@/core/materials/foams";
import { STRENGTHS } from "@/core/materials/strength";
import type { Table } from "@/core/numerics/interpolate";
import { COPPER } from "@/core/physics/power/leads";
import { RELATIONS } from "@/core/relations";
import { RIG_KINDS, rigRecord } from "@/core/rigs/kinds";
import type { Field } from "@/core/units/field";
import { LIMITS } from "@/core/units/limits";

const cell = (text: string) => text.replaceAll("|", "\\|");
const row = (...cells: (string | number)[]) => `| ${cells.map((text) => cell(String(text))).join(" | ")} |`;
const table = (head: string[], rows: string[]) => [row(...head), row(...head.map(() => "---")), ...rows].join("\n");
const basis = (source: Source) => `${source.basis}: ${source.source}${source.note ? ` (${source.note})` : ""}`;

const pairs = (rows: Table) => rows.map(([x, y]) => `${x}: ${y}`).join(", ");

const rigValues = (field: Field): string => {
  switch (field.as) {
    case "number":
      return `${field.min} to ${field.max} ${field.unit ?? ""}${field.whole ? ", whole" : ""}${field.optional ? "; or `null`" : ""}`;
    case "choice":
      return field.options.map(([value, words]) => `\`${value}\` (${words})`).join(", ");
    case "word":
      return `a word of ${field.least} to ${field.most} characters`;
    case "switch":
      return "`true`, `false`";
    case "numbers":
      return `at most ${field.most} numbers from ${field.min} to ${field.max}`;
    case "rows":
      return `at most ${field.most} of [${field.columns.map(({ label, min, max }) => `${label} ${min} to ${max}`).join(", ")}]`;
    default:
      throw new Error(`no rig has a field of kind ${field.as}`);
  }
};

function rigs(): string {
  const kinds = RIG_KINDS.map((kind) => {
    const { title, purpose, fields, logged, takesPlan } = rigRecord(kind);
    return `## \`${kind}\`: ${title}

${purpose}${takesPlan ? " Takes a plan." : ""} A cut on it is logged with ${logged.map(({ key }) => `\`${key}\``).join(", ")}.

${table(
  ["field", "what it is", "values"],
  fields.map((field) =>
    row(`\`${field.key}\``, field.only ? `${field.label} (where \`${field.only.key}\` is ${field.only.is})` : field.label, rigValues(field)),
  ),
)}`;
  });
  return `# Rigs

What a rig's file says of each kind, in the unit of the field's name. Written by \`npm run docs\` from the kinds' own records; do not edit by hand. The envelope is in file-format.md.

${kinds.join("\n\n")}
`;
}

function sources(): string {
  const head = ["what", "value", "unit", "where it comes from"];
  const alloys = ALLOYS.map((alloy) => {
    const { resistivity, temperatureFactor, other } = alloy.origin;
    return `### ${alloy.name} (\`${alloy.id}\`)\n\n${table(head, [
      row("resistivity at 20 degC", alloy.resistivityUohmM, "uohm m", basis(resistivity)),
      row("resistance against temperature", alloy.temperatureFactor.map(([c, f]) => `${c}: ${f}`).join(", "), "degC: factor", basis(temperatureFactor)),
      row("density", alloy.densityKgM3, "kg/m3", basis(other)),
      row("specific heat", alloy.specificHeatJKgK, "J/kgK", basis(other)),
      row("conductivity", alloy.conductivityWMK, "W/mK", basis(other)),
      row("expansion", `${(alloy.expansionPerK * 1e6).toFixed(1)}e-6`, "1/K", basis(other)),
      row("emissivity, oxidised", alloy.emissivity, "", basis(other)),
      row("begins to melt", alloy.meltsC, "degC", basis(other)),
    ])}`;
  });
  const foams = FOAM_FAMILIES.map(
    (foam) =>
      `### ${foam.name} (\`${foam.id}-<density>\`, ${foam.densityMinKgM3} to ${foam.densityMaxKgM3} kg/m3)\n\n${table(head, [
        row("conductivity", foam.conductivityWMK, "W/mK", basis(foam.origin.thermal)),
        row("specific heat", foam.specificHeatJKgK, "J/kgK", basis(foam.origin.thermal)),
        row("latent heat", foam.latentKJKg, "kJ/kg", basis(foam.origin.thermal)),
        row("collapse temperature", foam.collapseC, "degC", basis(foam.origin.thermal)),
        row("fume caution, wire in the kerf", foam.fumeCautionC, "degC", basis(foam.origin.fumes)),
        row("fume limit, wire in the kerf", foam.fumeLimitC, "degC", basis(foam.origin.fumes)),
        row("flash ignition", foam.flashIgnitionC, "degC", basis(foam.origin.ignition)),
        row("self-ignition", foam.selfIgnitionC, "degC", basis(foam.origin.ignition)),
        row("strength at 10 % strain", foam.strength10.map(([d, k]) => `${d}: ${k}`).join(", "), "kg/m3: kPa", basis(foam.origin.strength)),
      ])}`,
  );
  return `# Sources

Every constant the core computes with, its unit and where it comes from. Written by \`npm run docs\` from the data rows themselves; do not edit by hand.

Standing of a figure: **published** (a source you can open), **common practice** (what people do, no published source), **from memory** (written from
memory of handbooks; treat as good to a few per cent until replaced), **estimate** (this project's own; test cuts calibrate it).

## Relations

${table(
  ["relation", "formula", "holds for", "where it comes from"],
  RELATIONS.map((r) => row(r.title, r.formula, r.range, basis(r))),
)}

## Wires

Gauge diameters: AWG by ASTM B258, d = 0.127 mm x 92^((36 - n)/39) (published); SWG by the BS 3737 table (published). Copper leads: ${COPPER.resistivityOhmM * 1e6} uohm m at
20 degC, ${COPPER.perKelvin} per kelvin (from memory; IEC 60028 gives 0.017241 and 0.00393).

${alloys.join("\n\n")}

## Foams

${foams.join("\n\n")}

### Refused

${table(
  ["material", "why"],
  FORBIDDEN_FOAMS.map((f) => row(f.name, f.why)),
)}

## Strength of wires

Recommended pull: the lesser of proof stress and 0.4 of ultimate strength, hot. Past proof a wire takes a set once; past 0.6 of ultimate it creeps and breaks (see strength-limits above).

${table(
  ["alloy", "temper", "proof stress, degC: MPa", "ultimate strength, degC: MPa", "modulus, GPa", "where it comes from"],
  Object.entries(STRENGTHS).flatMap(([id, s]) => [
    row(id, "annealed", pairs(s.annealed.proof), pairs(s.annealed.ultimate), s.youngPa / 1e9, basis(s)),
    ...(s.spring ? [row(id, "spring", pairs(s.spring.proof), pairs(s.spring.ultimate), s.youngPa / 1e9, basis(s))] : []),
  ]),
)}

## Battery cells

${table(
  ["chemistry", "open-circuit volts by charge", "floor, V", "ohm x Ah", "where it comes from"],
  Object.entries(CELLS).map(([id, cell]) => row(id, pairs(cell.emfV), cell.floorV, cell.ohmAh, basis(cell))),
)}

## Cautions

${table(
  ["caution", "severity", "beside", "blocks ready", "where it comes from"],
  CAUTION_RULES.map((c) => row(c.code, c.severity, c.place, c.blocks ? "yes" : "no", basis(c))),
)}

## Judgements

This project's own choices, each with its reason next to it in \`src/core/kernel/constants.ts\` (estimates).

${table(
  ["name", "value"],
  Object.entries(JUDGEMENT).map(([name, value]) => row(name, Number(value.toPrecision(4)))),
)}

## Allowed ranges

${table(
  ["figure", "from", "to", "unit"],
  Object.entries(LIMITS).map(([name, limit]) => row(name, limit.min, limit.max, limit.unit)),
)}
`;
}

const code = (names: readonly string[]) => names.map((name) => `\`${name}\``).join(", ");
const keysOf = (value: unknown): string[] => {
  const row = Array.isArray(value) ? value[0] : value;
  return row !== null && typeof row === "object" ? Object.keys(row) : [];
};

function headless(): string {
  const verbs = VERBS.filter((verb) => verb.name !== "help").map(
    ({ name, summary, example }) => `- **\`${name}\`** ${summary}\n  Takes ${code(keysOf(example))}. Returns ${code(keysOf(runVerb(name, example)))}.`,
  );
  const cut = VERBS.find(({ name }) => name === "cut")?.example;
  return `# The command-line interface

What the core computes, without a browser. \`npm run -s upwind -- VERB\` reads one JSON value from standard input and writes one to standard output.

\`\`\`sh
echo '${JSON.stringify(cut)}' | npm run -s upwind -- cut
npm run -s upwind -- help   # every verb with a whole example
\`\`\`

- A list of inputs gives a list of results of the same length, in one process: a fast batch.
- Exit code 0: only JSON on standard output. Bad input is exit code 2, nothing on standard output, and on standard error
  \`{"error":{"code":"...","path":"wire.diameter_mm","message":"..."}}\`; for a list the path begins with the index.
- Units are in the names. Unknown keys, wrong types and figures outside the allowed range are refused with the range.
- A result may have \`warnings: [{code, message}]\`: a figure beyond a table or correlation is given with a warning.

Error codes: \`bad-json\`, \`unknown-verb\`, \`unknown-key\`, \`missing-key\`, \`wrong-type\`, \`out-of-range\`, \`not-one-of\`, \`conflict\`, \`forbidden-foam\`, \`lethal\`, \`outside-domain\`, \`no-solution\`.

## Verbs

With the keys that each example takes and returns. This page is written by \`npm run docs\`, which runs the examples.

${verbs.join("\n")}
`;
}

const pages: [string, string][] = [
  ["docs/sources.md", sources()],
  ["docs/rigs.md", rigs()],
  ["docs/headless.md", headless()],
];
const check = process.argv.includes("--check");
for (const [file, text] of pages) {
  const full = path.resolve(file);
  if (!check) writeFileSync(full, text);
  else if (readFileSync(full, "utf8") !== text) {
    console.error(`${file} is out of date: run npm run docs`);
    process.exitCode = 1;
  }
}
