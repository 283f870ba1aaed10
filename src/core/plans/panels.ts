import type { Design } from "../cutters/design/schema";
import { evaluatePlan, type PlanEvaluation } from "./evaluate";
import type { Plan } from "./plan";

/** How many panels a plan has. */
export const panelCount = (plan: Plan): number => 1 + plan.panels.length;

/**
 * One panel of a plan as a plan of its own: its root is the tip of the panel before it.
 * @param index 0 is the plan's own root and tip
 * @param feedMmS at the panel's root: what the tip of the panel before it was cut at, so that the joint's one template fits both
 */
export function panelPlan(plan: Plan, index: number, feedMmS?: number): Plan {
  const panel = index === 0 ? undefined : plan.panels[index - 1];
  if (!panel) return plan.panels.length === 0 ? plan : { ...plan, panels: [] };
  const before = index === 1 ? undefined : plan.panels[index - 2];
  const { rootKerf_mm: _root, tipKerf_mm, ...cut } = plan.cut;
  // The basis of the templates is the first panel's: kerfs of the others follow from it.
  const { made: _made, ...bare } = plan;
  const rootKerf = before ? before.tipKerf_mm : tipKerf_mm;
  return {
    ...bare,
    panels: [],
    root: before ? before.tip : (plan.tip ?? plan.root),
    tip: panel.tip,
    part: { ...plan.part, span_mm: panel.span_mm, sweep_mm: panel.sweep_mm, offset_mm: panel.offset_mm, washout_deg: panel.washout_deg },
    cut: {
      ...cut,
      feed_mm_s: feedMmS ?? cut.feed_mm_s,
      ...(rootKerf === undefined ? {} : { rootKerf_mm: rootKerf }),
      ...(panel.tipKerf_mm === undefined ? {} : { tipKerf_mm: panel.tipKerf_mm }),
    },
  };
}

/** A change made to one panel as {@link panelPlan} shows it, back in the plan it belongs to. The joint's section changes for both panels that meet there. */
export function withPanel(plan: Plan, index: number, shown: Plan): Plan {
  if (index === 0) return { ...shown, panels: plan.panels };
  const { span_mm, sweep_mm, offset_mm, washout_deg, ...part } = shown.part;
  const { rootKerf_mm, tipKerf_mm, feed_mm_s: _feed, ...cut } = shown.cut;
  const kerf = (value: number | undefined) => (value === undefined ? {} : { tipKerf_mm: value });
  const panels = plan.panels.map((panel, i) => {
    if (i === index - 1) return { tip: shown.tip ?? shown.root, span_mm, sweep_mm, offset_mm, washout_deg, ...kerf(tipKerf_mm) };
    if (i === index - 2) {
      const { tipKerf_mm: _old, ...rest } = panel;
      return { ...rest, tip: shown.root, ...kerf(rootKerf_mm) };
    }
    return panel;
  });
  const own = {
    feed_mm_s: plan.cut.feed_mm_s,
    ...(plan.cut.rootKerf_mm === undefined ? {} : { rootKerf_mm: plan.cut.rootKerf_mm }),
    ...(index === 1 ? kerf(rootKerf_mm) : kerf(plan.cut.tipKerf_mm)),
  };
  const joint = panelPlan(plan, index).root;
  return {
    ...shown,
    root: plan.root,
    // A first panel of one section gets a tip of its own once its joint is changed.
    tip: index === 1 && shown.root !== joint ? shown.root : plan.tip,
    part: {
      ...part,
      span_mm: plan.part.span_mm,
      sweep_mm: plan.part.sweep_mm,
      offset_mm: plan.part.offset_mm,
      washout_deg: plan.part.washout_deg,
    },
    cut: { ...cut, ...own },
    panels,
    ...(plan.made ? { made: plan.made } : {}),
  };
}

/** A plan with one more panel, which begins as a smaller one of the last. */
export function withOneMore(plan: Plan): Plan {
  const last = panelPlan(plan, plan.panels.length);
  const end = last.tip ?? last.root;
  const tip = end.chord_mm === undefined ? end : { ...end, chord_mm: Math.max(1, Math.round(end.chord_mm * 0.7)) };
  return { ...plan, panels: [...plan.panels, { tip, span_mm: last.part.span_mm, sweep_mm: 0, offset_mm: 0, washout_deg: 0 }] };
}

export interface PanelEvaluation {
  plan: Plan;
  evaluation: PlanEvaluation;
}

/**
 * All panels of a plan, from the root outwards.
 * @throws CoreError as {@link evaluatePlan}
 */
export function evaluatePanels(plan: Plan, design: Design | null, withLosses = true, upTo = plan.panels.length): PanelEvaluation[] {
  const all: PanelEvaluation[] = [];
  let [feedMmS, turned]: [number | undefined, number] = [undefined, 0];
  for (let i = 0; i <= upTo; i++) {
    const own = panelPlan(plan, i, feedMmS);
    const bare = evaluatePlan(own, design, withLosses);
    // The joint's one template lies on one base line: a panel's tip is turned on it by the washout of all panels up to there.
    const evaluation = { ...bare, baseDeg: { root: bare.baseDeg.root + turned, tip: bare.baseDeg.tip + turned } };
    all.push({ plan: own, evaluation });
    feedMmS = evaluation.tip.feedMmS;
    turned = evaluation.baseDeg.tip;
  }
  return all;
}
