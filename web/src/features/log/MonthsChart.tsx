import { scaleLinear } from "d3-scale";
import { useId } from "react";
import type { LogSeason } from "../../api/client";
import { Rows } from "../../kit/chart/axes";
import { Level, Upright } from "../../kit/chart/lines";
import { useSize } from "../../kit/chart/useSize";
import { useSay, useUnits } from "../../kit/preferences";
import { counted, unitOf } from "../../kit/units";

const HEIGHT = 250;
const MARGIN = { left: 62, right: 14, top: 10, bottom: 24 };

/** Months: harvest above the waterline, with what was not taken; the run below it, and what was planned. */
export function MonthsChart({ season }: { season: LogSeason }) {
  const say = useSay();
  const units = useUnits();
  const id = useId();
  const [box, { width }] = useSize<HTMLDivElement>();
  const { months } = season;
  const up = Math.max(...months.map((m) => Math.max(m.harvest_wh + m.thrown_wh, m.modelled_wh)), 1);
  const down = Math.max(...months.map((m) => Math.max(m.way_m, m.planned_m)), 1);
  const line = MARGIN.top + (HEIGHT - MARGIN.top - MARGIN.bottom) * 0.55;
  const above = scaleLinear([0, up], [line, MARGIN.top]);
  const [, size] = unitOf("distance_m", units);
  const below = scaleLinear([0, down], [line, HEIGHT - MARGIN.bottom]);
  const room = Math.max(width - MARGIN.left - MARGIN.right, 1) / Math.max(months.length, 1);
  const bar = Math.min(room * 0.32, 56);
  const energies = above.ticks(3).filter((wh) => wh > 0);
  const ways = scaleLinear([0, down / size], [0, 1])
    .ticks(3)
    .filter((way) => way > 0)
    .map((way) => way * size);
  return (
    <div ref={box} className="h-[250px] flex-none">
      {width > 0 && (
        <svg width={width} height={HEIGHT} role="img" aria-label="The season by month">
          <defs>
            <pattern
              id={`${id}hatch`}
              width="6"
              height="6"
              patternUnits="userSpaceOnUse"
              patternTransform="rotate(45)"
            >
              <rect width="6" height="6" fill="var(--mist)" />
              <Upright x={0} y1="0" y2="6" stroke="var(--ink)" strokeWidth="1.4" />
            </pattern>
          </defs>
          <Rows
            of={energies.map((wh) => [above(wh), say("energy_wh", wh)] as const)}
            left={MARGIN.left}
            right={width - MARGIN.right}
          />
          <Rows
            of={ways.map((m) => [below(m), say("distance_m", m)] as const)}
            left={MARGIN.left}
            right={width - MARGIN.right}
          />
          {months.map((month, i) => {
            const x = MARGIN.left + room * (i + 0.24) - bar / 2;
            return (
              <g key={month.label} data-month={month.label}>
                <rect
                  x={x}
                  y={above(month.harvest_wh)}
                  width={bar}
                  height={line - above(month.harvest_wh)}
                  fill="var(--sun)"
                  stroke="var(--sun-edge)"
                />
                {month.thrown_wh > 1 && (
                  <rect
                    x={x}
                    y={above(month.harvest_wh + month.thrown_wh)}
                    width={bar}
                    height={above(month.harvest_wh) - above(month.harvest_wh + month.thrown_wh)}
                    fill={`url(#${id}hatch)`}
                    stroke="var(--ink)"
                    strokeWidth="0.8"
                  />
                )}
                <rect x={x} y={line} width={bar} height={below(month.way_m) - line} fill="var(--water)" />
                <path
                  d={`M${x - 4} ${line}V${above(month.modelled_wh)}H${x + bar + 4}V${below(month.planned_m)}H${x - 4}Z`}
                  className="fill-none stroke-ink stroke-[1.3] [stroke-dasharray:4_3]"
                />
                <text
                  x={x + bar + 9}
                  y={Math.min(above(month.harvest_wh) + 12, line - 6)}
                  className="chart-text font-bold"
                >
                  {say("energy_wh", month.harvest_wh)}
                </text>
                <text x={x + bar + 9} y={line + 18} className="chart-text font-bold">
                  {say("distance_m", month.way_m)}
                </text>
                {month.sun_share != null && (
                  <text x={x + bar + 9} y={line + 34} className="chart-text" fill="var(--water)">
                    sun {say("fraction", month.sun_share)}
                  </text>
                )}
                <text x={x + bar / 2} y={HEIGHT - 6} textAnchor="middle" className="chart-text">
                  {month.label}, {counted(month.days, "day")}
                </text>
              </g>
            );
          })}
          <Level y={line} x1={MARGIN.left} x2={width - MARGIN.right} stroke="var(--ink)" strokeWidth="2.2" />
        </svg>
      )}
    </div>
  );
}
