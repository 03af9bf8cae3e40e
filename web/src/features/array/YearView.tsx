import type { ThroughYear } from "../../api/client";
import { useStudy } from "../../asking/live";
import { Level } from "../../kit/chart/lines";
import { useSize } from "../../kit/chart/useSize";
import { Waiting } from "../../kit/chart/Waiting";
import { useSay } from "../../kit/preferences";
import { MONTHS } from "../../kit/units";

const FOOT = 22;
const HEAD = 20;
const GAP = 0.22;

/** What the array gives through the year: the mean day of every month, under the plan's sky and a clear one. */
export function YearView() {
  const say = useSay();
  const { data, stale, error, retry } = useStudy("array/year");
  if (!data) return <Waiting error={error} retry={retry} what="The year" />;
  if (data.nameplate_w === 0)
    return (
      <p className="m-auto max-w-[44ch] text-center text-muted">
        No panels in this set. Add a place with panels on the left to see its year.
      </p>
    );
  return (
    <div className={`flex min-h-0 flex-1 flex-col transition-opacity ${stale ? "opacity-75" : ""}`} data-year>
      <p className="m-0 mb-1 text-[15px]">
        <b>{say("energy_wh", data.year_wh)}</b> a year under a {data.sky} sky every day
        {data.sky !== "clear" && (
          <span className="text-muted">, {say("energy_wh", data.clear_year_wh)} under a clear one</span>
        )}
      </p>
      <Months year={data} />
      <p className="mt-1 mb-1 text-[13px] text-muted">
        The mean day of each month at the bank, shade and all, as the places stand in this state
        {data.sky !== "clear" ? "; pale: a clear sky" : ""}. Winter weather is its own: this keeps one sky all
        year.
      </p>
    </div>
  );
}

function Months({ year }: { year: ThroughYear }) {
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const say = useSay();
  const top = Math.max(...year.months.map((month) => month.clear_wh), 1);
  const ground = height - FOOT;
  const wide = width / 12;
  const y = (wh: number) => ground - (wh / top) * (ground - HEAD);
  const kWh = (wh: number) => say("energy_wh", wh);
  const words = `Mean day by month: ${year.months
    .map((month) => `${MONTHS[month.month - 1]} ${kWh(month.day_wh)}`)
    .join(", ")}`;
  return (
    <div ref={box} className="relative min-h-[260px] flex-1">
      {width > 0 && (
        <svg className="absolute" width={width} height={height} role="img" aria-label={words}>
          {year.months.map((month, i) => {
            const left = (i + GAP / 2) * wide;
            const name = MONTHS[month.month - 1] ?? "";
            return (
              <g key={name} data-month={month.month}>
                <rect
                  x={left}
                  y={y(month.clear_wh)}
                  width={wide * (1 - GAP)}
                  height={ground - y(month.clear_wh)}
                  fill="var(--dog-far)"
                />
                <rect
                  x={left}
                  y={y(month.day_wh)}
                  width={wide * (1 - GAP)}
                  height={ground - y(month.day_wh)}
                  fill="var(--sun)"
                />
                <text
                  x={left + (wide * (1 - GAP)) / 2}
                  y={Math.min(y(month.day_wh) - 5, ground - 4)}
                  textAnchor="middle"
                  paintOrder="stroke"
                  className="fill-ink stroke-mist stroke-[2.5] font-bold text-[12.5px]"
                >
                  {(month.day_wh / 1000).toFixed(1)}
                </text>
                <text
                  className="chart-text"
                  x={left + (wide * (1 - GAP)) / 2}
                  y={height - 6}
                  textAnchor="middle"
                >
                  {name}
                </text>
              </g>
            );
          })}
          <Level y={ground} x1="0" x2={width} stroke="var(--ink)" strokeWidth="1.5" />
          <text className="chart-text" x="0" y="12">
            kWh a day
          </text>
        </svg>
      )}
    </div>
  );
}
