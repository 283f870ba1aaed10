import { Chart, Filler, Legend, LinearScale, LineController, LineElement, PointElement, ScatterController, Tooltip } from "chart.js";

// Only what the app's charts use, so that the rest is not shipped.
Chart.register(LineController, LineElement, PointElement, ScatterController, LinearScale, Tooltip, Legend, Filler);

Chart.defaults.font.family = '"Spline Sans Mono Variable", ui-monospace, monospace';

/** Colours of the scheme in force for a chart inside an element. */
export function chartInk(element: Element) {
  const style = getComputedStyle(element);
  const of = (name: string) => style.getPropertyValue(name).trim();
  return {
    graphite: of("--graphite"),
    soft: of("--graphite-soft"),
    line: of("--line"),
    cool: of("--cool"),
    ember: of("--ember"),
    amber: of("--amber"),
    num: of("--num"),
  };
}

export { Chart };
