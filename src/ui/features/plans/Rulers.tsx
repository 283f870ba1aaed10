"use client";
import type { PaceRow } from "@/core/pace/planPace";
import type { Stations } from "@/core/plans/stations";
import { useSize } from "../../kit/useSize";
import { useUnits } from "../../kit/useUnits";

const LEFT = 44;
const HIGH = 196;
const [TOP, FOOT] = [66, 138];
/** Numbers closer than this on a ruler are not all written, px. */
const LEAST_PX = 17;

/** Both ends' edges unrolled straight, one over the other like two rulers, with ties between equal numbers: where ties lean, one hand runs. The time from number to number is written between. */
export function Rulers({ stations, rows }: { stations: Stations; rows: readonly PaceRow[] | null }) {
  const { show } = useUnits();
  const [ref, { width }] = useSize<HTMLDivElement>({ width: 900, height: HIGH });
  const longest = Math.max(stations.rootLengthMm, stations.tipLengthMm);
  const scale = (width - LEFT - 24) / longest;
  const at = (mm: number) => LEFT + mm * scale;
  const whole = stations.stations.filter((each) => each.whole);
  const gap = (Math.min(stations.rootLengthMm, stations.tipLengthMm) * scale) / Math.max(1, whole.length - 1);
  const every = Math.max(1, Math.ceil(LEAST_PX / gap));
  const fastest = rows ? Math.max(...rows.map(({ rootFeedMmS }) => rootFeedMmS)) : 1;
  return (
    <div ref={ref} className="rulers">
      <svg
        width={width}
        height={HIGH}
        role="img"
        data-testid="rulers"
        aria-label={`${whole.length - 1} numbers: ${show("length", stations.rootLengthMm)} along the root, ${show("length", stations.tipLengthMm)} along the tip`}
      >
        <title>both edges unrolled, ties between equal numbers</title>
        {rows?.map((row, i) => {
          const [a, b] = [whole[i], whole[i + 1]];
          if (!a || !b) return null;
          // The slower a stretch, the darker the band between its two numbers.
          const slow = Math.min(1, (2 * (fastest - row.rootFeedMmS)) / fastest);
          return (
            <path
              key={row.from}
              d={`M${at(a.rootAlongMm)} ${TOP}H${at(b.rootAlongMm)}L${at(b.tipAlongMm)} ${FOOT}H${at(a.tipAlongMm)}Z`}
              fill="var(--straw)"
              fillOpacity={0.06 + 0.5 * slow}
            />
          );
        })}
        {whole.map((each) => (
          <path
            key={each.label}
            data-tie={each.label}
            d={`M${at(each.rootAlongMm)} ${TOP}L${at(each.tipAlongMm)} ${FOOT}`}
            stroke={each.at === "nose" || each.at === "corner" ? "var(--ember)" : "var(--hatch)"}
            strokeWidth={each.at ? 1.6 : 0.9}
          />
        ))}
        {(["root", "tip"] as const).map((end) => {
          const y = end === "root" ? TOP : FOOT;
          const up = end === "root" ? -1 : 1;
          const along = (each: (typeof whole)[number]) => at(end === "root" ? each.rootAlongMm : each.tipAlongMm);
          return (
            <g key={end}>
              <path d={`M${at(0)} ${y}H${at(end === "root" ? stations.rootLengthMm : stations.tipLengthMm)}`} stroke="var(--graphite)" strokeWidth={2} />
              {stations.stations.map((each) => (
                <path key={each.label} d={`M${along(each)} ${y}v${up * (each.whole ? 12 : 6)}`} stroke="var(--graphite)" strokeWidth={each.whole ? 1.6 : 0.8} />
              ))}
              {whole.map((each, i) =>
                i % every === 0 || i === whole.length - 1 ? (
                  <text
                    key={each.label}
                    x={along(each)}
                    y={y + (end === "root" ? -17 : 27)}
                    textAnchor="middle"
                    fontSize={14}
                    className="num"
                    fill="var(--graphite)"
                  >
                    {each.label}
                  </text>
                ) : null,
              )}
              <text x={6} y={y + 5} fontSize={14} fontStyle="italic" fill="var(--graphite)">
                {end}
              </text>
            </g>
          );
        })}
        {rows?.map((row, i) => {
          const [a, b] = [whole[i], whole[i + 1]];
          if (!a || !b || (b.rootAlongMm - a.rootAlongMm) * scale < 26) return null;
          return (
            <text
              key={row.from}
              x={(at(a.rootAlongMm) + at(b.rootAlongMm)) / 2}
              y={26}
              textAnchor="middle"
              fontSize={12.5}
              className="num"
              fill="var(--graphite-soft)"
            >
              {row.seconds.toFixed(1)}
              {row.waitS > 0 ? `+${row.waitS.toFixed(1)}` : ""}
            </text>
          );
        })}
        <text x={6} y={26} fontSize={12.5} fill="var(--graphite-soft)">
          s
        </text>
      </svg>
    </div>
  );
}
