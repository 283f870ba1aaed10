/** CSS colour of a wire by temperature: graphite while cold, dull straw to ember as it heats. Any temperature, degC. */
export function heatColour(wireC: number): string {
  const stops: [number, string][] = [
    [80, "var(--cold-wire)"],
    [200, "var(--straw)"],
    [350, "var(--amber)"],
    [520, "var(--ember)"],
  ];
  const above = stops.findIndex(([c]) => wireC < c);
  if (above === 0) return "var(--cold-wire)";
  if (above === -1) return "var(--ember)";
  const [fromC, from] = stops[above - 1] as [number, string];
  const [toC, to] = stops[above] as [number, string];
  const share = Math.round((100 * (wireC - fromC)) / (toC - fromC));
  return `color-mix(in oklab, ${to} ${share}%, ${from})`;
}
