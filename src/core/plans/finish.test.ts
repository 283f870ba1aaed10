import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import type { Design } from "../cutters/design/schema";
import { CUT_FACES, entrySchema, FINISHING } from "../log/entries";
import { FACE_WORDS, isGoodFace } from "../log/faces";
import { formatQuantity, type Quantity } from "../units/units";
import { templateCraft } from "./craft";
import { evaluatePlan } from "./evaluate";
import { finishSteps } from "./finish";
import { newPlan, type Plan } from "./plan";

const show = (quantity: Quantity, value: number, decimals?: number) => formatQuantity(quantity, value, "metric", decimals);
const bow = DEMO_CUTTERS[0] as Design;
const inFoam = (family: "eps" | "xps"): Design => ({ ...bow, job: { ...bow.job, foam: { ...bow.job.foam, family } } });
const section = { shape: { kind: "naca4" as const, code: "0020" }, chord_mm: 200 };
const plan = (over: Partial<Plan["part"]> = {}, more: Partial<Plan> = {}): Plan => ({
  ...newPlan("Fin", { root: section, tip: { ...section, chord_mm: 100 }, part: { span_mm: 300, ...over } }),
  ...more,
});
const stepsOf = (of: Plan, family: "eps" | "xps" = "eps") => finishSteps(of, evaluatePlan(of, inFoam(family)), show);

describe("finishing a part", () => {
  it("a plain part in light foam: cooled, hairs off, lines, tail, measured; in their order", () => {
    const steps = stepsOf(plan());
    const ids = steps.map(({ id }) => id);
    expect(ids).toEqual(FINISHING.filter((id) => ids.includes(id)));
    expect(ids).toEqual(expect.arrayContaining(["cool", "hairs", "lines", "tail", "check"]));
    for (const id of ["stress", "glue", "skin", "rest"]) expect(ids).not.toContain(id);
    expect(steps.find(({ id }) => id === "hairs")?.words).toContain("150 grit");
    // A fifth of either chord.
    expect(steps.find(({ id }) => id === "check")?.words).toMatch(/root 40\.0 mm, tip 20\.0 mm\./);
  });
  it("a skin is measured before and after, glued on a scrap first", () => {
    const steps = stepsOf(plan({ skin_mm: 1 }, { finish: { grit: 180, glue: "white glue", skin: "glass", rest_h: null } }));
    const words = (id: string) => steps.find((step) => step.id === id)?.words;
    expect(words("check")).toMatch(/root 38\.0 mm, tip 18\.0 mm before the skin/);
    expect(words("skin")).toMatch(/Lay glass on, 1\.00 mm on each face\. Then it measures root 40\.0 mm/);
    expect(words("glue")).toMatch(/Glue the skin with white glue\. Try/);
    expect(words("hairs")).toContain("180 grit");
  });
  it("pressed board: trimmed and turned before, rested overnight after, unless the maker says otherwise", () => {
    expect(stepsOf(plan(), "xps").map(({ id }) => id)).toEqual(expect.arrayContaining(["stress", "rest"]));
    expect(stepsOf(plan(), "xps").find(({ id }) => id === "rest")?.words).toContain("12 h");
    const said = (rest_h: number) => stepsOf(plan({}, { finish: { grit: 150, glue: "", skin: "", rest_h } }), "xps").find(({ id }) => id === "rest")?.words;
    expect(said(0)).toBeUndefined();
    expect(said(3)).toContain("3 h");
  });
  it("fine hairs are a good face; every face says what it calls for; a finished part is an entry of the log", () => {
    expect(CUT_FACES.filter(isGoodFace)).toEqual(["matt", "hairs"]);
    expect(FACE_WORDS.hairs).toMatchObject({ means: "near the right heat", finish: expect.stringMatching(/150 grit/) });
    const finish = { kind: "finish", at: "2026-12-01T10:00:00Z", part: "Fin", done: ["hairs", "check"], note: "" };
    expect(entrySchema.parse(finish)).toMatchObject({ pieces: 1 });
    for (const done of [[], ["polished"]]) expect(entrySchema.safeParse({ ...finish, done }).success).toBe(false);
  });
});

describe("making templates", () => {
  const words = (of: Plan) => JSON.stringify(templateCraft(of, show));
  const with_ = (template: Partial<Plan["template"]>, panels = 0): Plan => {
    const base = plan();
    const beyond = { tip: { ...base.root, chord_mm: 80 }, span_mm: 100, sweep_mm: 0, offset_mm: 0, washout_deg: 0 };
    return { ...base, template: { ...base.template, ...template }, panels: Array.from({ length: panels }, () => beyond) };
  };
  it("counts them: upper and lower at each end, a joint's shared by its two panels", () => {
    expect(words(with_({ faces: "pair" }))).toContain("It takes 4 of them");
    expect(words(with_({ faces: "pair" }, 1))).toContain("It takes 6 of them");
    expect(words(with_({ faces: "single" }, 2))).toContain("It takes 4 of them");
  });
  it("speaks of pins, ramp, slot and run-out only where there are any", () => {
    expect(words(with_({ pins: [] }))).not.toContain("drill the pin holes");
    expect(words(with_({}))).toMatch(/Clamp upper and lower together and drill/);
    expect(words(with_({ ramp_mm: 0 }))).toMatch(/There is no ramp: set a nail in front of the nose/);
    expect(words(with_({ runOut_mm: 0 }))).toMatch(/Not at the tail: there is no run-out/);
    expect(words(with_({}))).not.toContain("spar's slot");
    expect(words(with_({ spar: { as: "slot", face: "lower", at: 0.3, width_mm: 6, depth_mm: 6 } }))).toContain("In the spar's slot");
  });
});
