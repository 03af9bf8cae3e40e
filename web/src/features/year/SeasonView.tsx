import { useState } from "react";
import type { WholeSeason } from "../../api/client";
import { useWork } from "../../asking/work";
import { Level } from "../../kit/chart/lines";
import { useSize } from "../../kit/chart/useSize";
import { Wide } from "../../kit/chart/Wide";
import { Working } from "../../kit/chart/Working";
import { useDesign } from "../../kit/document";
import { useSay } from "../../kit/preferences";
import { Told } from "../../kit/ui/Told";
import { ToldList } from "../../kit/ui/ToldList";
import { Head, View } from "../../kit/ui/View";
import { MONTHS } from "../../kit/units";

type Month = WholeSeason["months"][number];

const ANSWERS = { yes: "Yes, on the sun alone", partly: "In part", no: "Not on the sun alone" } as const;
const FOOT = 22;
const LEFT = 44;

/** Is it worth it: the year month by month on the days that the place has. */
export function SeasonView() {
  const say = useSay();
  const { design } = useDesign();
  const run = useWork("season", [{ name: "", design }]);
  const [chosen, setChosen] = useState<number | null>(null);
  const [data, stale] = [run.data, run.stale];
  if (!data) return <Working run={run} doing="Twelve months of days" what="The year" />;
  if ((design.panels ?? []).length === 0)
    return (
      <p className="m-auto max-w-[44ch] text-center text-muted">
        No panels yet: the year has nothing to harvest. Place some at the Array.
      </p>
    );
  const month = chosen ?? Number((design.plan.date ?? "").slice(5, 7));
  const now = data.months[month - 1] as Month;
  return (
    <View label="The year" stale={stale} data-season>
      <h2 className="m-0 text-[16px] font-bold" data-season-answer={data.answer}>
        {ANSWERS[data.answer]}
      </h2>
      <p className="m-0 mb-1 max-w-[76ch]">
        <Told sentence={data.verdict} />
      </p>
      {data.turning.length > 0 && <ToldList lines={data.turning} name="turning" mark="→" />}
      <Speeds season={data} month={month} onMonth={setChosen} />
      <p className="m-0 text-[13px] text-muted">
        Line: the speed that the month's mean day sustains over the plan's hours. Band: from the sceptic (a
        poor day, a heavy hull) to the enthusiast (a clear day, an easy one).
      </p>
      <Energies season={data} month={month} onMonth={setChosen} />
      <table className="plain-table mt-1">
        <Head
          of={[
            `${MONTHS[month - 1]}, a day`,
            "1 in 10 less",
            "usual",
            "1 in 10 more",
            "motor never stopped",
            "full-sun hours",
          ]}
        />
        <tbody>
          <tr data-season-month={month}>
            <td>{now.speed_mps > 0 ? `at ${say("speed_mps", now.speed_mps)}` : "no speed is sustained"}</td>
            <td>{say("distance_m", now.poor_m)}</td>
            <td>
              <b>{say("distance_m", now.middle_m)}</b>
            </td>
            <td>{say("distance_m", now.good_m)}</td>
            <td>{now.speed_mps > 0 ? `on ${say("fraction", now.kept_frac)} of days` : "–"}</td>
            <td>{now.sun_h.toFixed(1)}</td>
          </tr>
        </tbody>
      </table>
      <p className="mt-1 mb-1 text-[13px] text-muted">
        {data.days.toLocaleString("en-GB")} days of each month in their order, each carrying its charge into
        the next; the motor stops at the reserve, without foresight. <Told sentence={data.climate} /> Every
        day is motored: a boat that rests between has more.
      </p>
    </View>
  );
}

interface ChartProps {
  season: WholeSeason;
  month: number;
  onMonth: (month: number) => void;
}

/** Sun-only speed by month, from the sceptic's to the enthusiast's. */
function Speeds({ season, month, onMonth }: ChartProps) {
  const say = useSay();
  const [box, { width }] = useSize<HTMLDivElement>();
  const height = 170;
  const top = Math.max(...season.months.map((m) => m.enthusiast_mps), season.wished_mps) * 1.1;
  const x = (i: number) => LEFT + ((i + 0.5) * (width - LEFT)) / 12;
  const y = (mps: number) => height - FOOT - (mps / top) * (height - FOOT - 8);
  const path = (of: (m: Month) => number) => season.months.map((m, i) => `${x(i)},${y(of(m))}`);
  return (
    <Wide
      box={box}
      width={width}
      height={height}
      label={`Sun-only speed by month: ${season.months.map((m) => `${MONTHS[m.month - 1]} ${say("speed_mps", m.speed_mps)}`).join(", ")}`}
    >
      <polygon
        points={[...path((m) => m.enthusiast_mps), ...path((m) => m.sceptic_mps).reverse()].join(" ")}
        fill="var(--water-soft)"
      />
      <polyline
        points={path((m) => m.speed_mps).join(" ")}
        className="fill-none stroke-water-text stroke-[2.4]"
      />
      <Level y={y(season.wished_mps)} x1={LEFT} x2={width} stroke="var(--ink)" strokeDasharray="5 4" />
      <text x={width - 4} y={y(season.wished_mps) - 5} fontSize="12.5" textAnchor="end" fill="var(--ink)">
        your {say("speed_mps", season.wished_mps)}
      </text>
      <Axis x={x} height={height} width={width} month={month} onMonth={onMonth} />
      {season.months.map((m, i) => (
        <circle
          key={m.month}
          cx={x(i)}
          cy={y(m.speed_mps)}
          r={m.month === month ? 5 : 3}
          fill="var(--water-text)"
        />
      ))}
      <text
        x={x(month - 1)}
        y={Math.max(y(season.months[month - 1]?.speed_mps ?? 0) - 9, 12)}
        textAnchor="middle"
        className="fill-ink font-bold text-[13px]"
      >
        {say("speed_mps", season.months[month - 1]?.speed_mps ?? 0)}
      </text>
    </Wide>
  );
}

const PARTS = [
  ["motor_wh", "motor", "var(--water)"],
  ["house_wh", "house", "var(--house)"],
  ["lost_wh", "lost in bank", "var(--muted)"],
  ["refused_wh", "thrown away", "var(--hairline)"],
] as const;

/** Where the mean day's harvest goes, month by month. */
function Energies({ season, month, onMonth }: ChartProps) {
  const say = useSay();
  const [box, { width }] = useSize<HTMLDivElement>();
  const height = 150;
  const whole = (m: Month) => PARTS.reduce((sum, [key]) => sum + m[key], 0);
  const top = Math.max(...season.months.map(whole), 1);
  const wide = (width - LEFT) / 12;
  const now = season.months[month - 1] as Month;
  return (
    <>
      <Wide
        box={box}
        width={width}
        height={height}
        label={`Harvest of the mean day by month: ${season.months.map((m) => `${MONTHS[m.month - 1]} ${say("energy_wh", m.harvest_wh)}`).join(", ")}`}
      >
        {season.months.map((m, i) => {
          let from = height - FOOT;
          return PARTS.map(([key, , fill]) => {
            const tall = (m[key] / top) * (height - FOOT - 6);
            from -= tall;
            return (
              <rect
                key={`${m.month}/${key}`}
                x={LEFT + i * wide + wide * 0.18}
                y={from}
                width={wide * 0.64}
                height={tall}
                fill={fill}
                stroke={m.month === month ? "var(--ink)" : "none"}
                strokeWidth="0.8"
              />
            );
          });
        })}
        <Axis
          x={(i) => LEFT + (i + 0.5) * wide}
          height={height}
          width={width}
          month={month}
          onMonth={onMonth}
        />
      </Wide>
      <p className="m-0 flex flex-wrap gap-x-4 text-[13px]">
        <b>{MONTHS[month - 1]}</b>
        {PARTS.map(([key, name, fill]) => (
          <span key={key}>
            <span
              aria-hidden="true"
              className="mr-1 inline-block h-[10px] w-[10px] border border-solid border-edge"
              style={{ background: fill }}
            />
            {name} {say("energy_wh", now[key])}
          </span>
        ))}
      </p>
    </>
  );
}

/** The months under a chart, to choose one. */
function Axis(props: {
  x: (i: number) => number;
  height: number;
  width: number;
  month: number;
  onMonth: (month: number) => void;
}) {
  const { x, height, width, month, onMonth } = props;
  return (
    <g>
      <Level y={height - FOOT} x1={LEFT} x2={width} stroke="var(--ink)" />
      {MONTHS.map((name, i) => (
        // biome-ignore lint/a11y/noStaticElementInteractions: the list below the chart does the same by key
        <text
          key={name}
          x={x(i)}
          y={height - 6}
          fontWeight={i + 1 === month ? 700 : 400}
          textAnchor="middle"
          fill={i + 1 === month ? "var(--ink)" : "var(--muted)"}
          className="cursor-pointer text-[12.5px]"
          onClick={() => onMonth(i + 1)}
        >
          {name}
        </text>
      ))}
    </g>
  );
}
