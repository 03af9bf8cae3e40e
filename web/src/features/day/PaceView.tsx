import { useState } from "react";
import type { DayPicture, Pace } from "../../api/client";
import { useStudy } from "../../asking/live";
import { Rows } from "../../kit/chart/axes";
import { Level } from "../../kit/chart/lines";
import { useSize } from "../../kit/chart/useSize";
import { Waiting } from "../../kit/chart/Waiting";
import { Wide } from "../../kit/chart/Wide";
import { useDesign } from "../../kit/document";
import { useSay, useUnits } from "../../kit/preferences";
import { Told } from "../../kit/ui/Told";
import { ToldList } from "../../kit/ui/ToldList";
import { Head, View } from "../../kit/ui/View";
import { clockText, shown } from "../../kit/units";

type Ways = NonNullable<Pace["ways"]>;
type Way = Ways["ways"][number];
type Worth = NonNullable<Pace["worths"]>;
type Ticks = DayPicture["ticks"];

type Rank = "gain_m" | "by_worth_m" | "for_100_coins_m" | "for_10_kg_m";

const RANKS: readonly (readonly [Rank, string])[] = [
  ["gain_m", "wins a day"],
  ["by_worth_m", "by the worths"],
  ["for_100_coins_m", "for 100 coins"],
  ["for_10_kg_m", "for 10 kg"],
];
const LEFT = 52;
const FOOT = 24;
const STROKES: Record<Way["key"], { dash?: string; wide: number; colour: string }> = {
  best: { wide: 3, colour: "var(--water-text)" },
  constant: { wide: 2, colour: "var(--ink)", dash: "7 4" },
  sun: { wide: 2.2, colour: "var(--sun-edge)", dash: "2 3" },
  sprint: { wide: 1.6, colour: "var(--alarm)", dash: "10 3 2 3" },
};

/** How fast at every hour: four ways through the day on the same energy, and what every step is worth. */
export function PaceView({ ticks }: { ticks: Ticks }) {
  const { design } = useDesign();
  const { data, stale, error, retry } = useStudy("day/pace");
  if (!data) return <Waiting error={error} retry={retry} what="The pace" />;
  if (!data.ways)
    return (
      <p className="m-auto max-w-[48ch] text-center text-muted">
        {design.banks?.length
          ? "No hours to motor in: set some on the bench."
          : "Without a bank the sun sets the pace: there is nothing to hold back for later."}
      </p>
    );
  return (
    <View label="Pace" stale={stale} data-pace>
      <ToldList lines={data.ways.told} name="pace" />
      <Lines ways={data.ways} ticks={ticks} />
      <WayTable ways={data.ways} />
      {data.worths && <WorthTable worths={data.worths} />}
    </View>
  );
}

/** Speeds over the day, one line a way, and the bank under them. */
function Lines({ ways, ticks }: { ways: Ways; ticks: Ticks }) {
  const say = useSay();
  const [box, { width }] = useSize<HTMLDivElement>();
  const tall = 132;
  const lane = 84;
  const height = tall + lane + FOOT;
  const top = Math.max(...ways.ways.flatMap((way) => way.speed_mps)) * 1.12 || 1;
  const steps = ways.ways[0]?.speed_mps.length || 1;
  const x = (i: number) => LEFT + (i * (width - LEFT)) / steps;
  const y = (mps: number) => tall - 4 - (mps / top) * (tall - 12);
  const s = (soc: number) => tall + 12 + (1 - soc) * (lane - 14);
  const percent = (value: number) => say("fraction", value);
  const path = (way: Way) =>
    way.speed_mps.map((mps, i) => `${i === 0 ? "M" : "L"}${x(i)},${y(mps)}H${x(i + 1)}`).join("");
  const last = [...ways.ways].reverse();
  const rows = [0, top / 2.24, top / 1.12].map((mps) => [y(mps), say("speed_mps", mps)] as const);
  return (
    <Wide
      box={box}
      width={width}
      height={height}
      label={`Speed over the day: ${ways.ways.map((way) => `${way.label} up to ${say("speed_mps", Math.max(...way.speed_mps))}`).join(", ")}`}
    >
      <Rows of={rows} left={LEFT} right={width} />
      {last.map((way) => (
        <g key={way.key} data-way={way.key}>
          <path
            d={path(way)}
            fill="none"
            stroke={STROKES[way.key].colour}
            strokeWidth={STROKES[way.key].wide}
            strokeDasharray={STROKES[way.key].dash}
          />
          <polyline
            points={way.soc.map((soc, i) => `${x(i)},${s(soc)}`).join(" ")}
            fill="none"
            stroke={STROKES[way.key].colour}
            strokeWidth={STROKES[way.key].wide * 0.8}
            strokeDasharray={STROKES[way.key].dash}
          />
        </g>
      ))}
      <rect x={LEFT} y={s(1)} width={width - LEFT} height={s(0) - s(1)} fill="none" stroke="var(--edge)" />
      <Level y={s(ways.reserve_frac)} x1={LEFT} x2={width} stroke="var(--alarm)" strokeDasharray="3 4" />
      {[0, 1].map((share) => (
        <text className="chart-text" key={share} x={LEFT - 6} y={s(share) + (share ? 9 : 0)} textAnchor="end">
          {percent(share)}
        </text>
      ))}
      <text className="chart-text" x={LEFT + 6} y={s(0) - 6}>
        in the bank
      </text>
      {ticks
        .filter((tick) => (tick.clock_min / 60) % 4 === 0 && x(tick.index) < width - 16)
        .map((tick) => (
          <text className="chart-text" key={tick.index} x={x(tick.index)} y={height - 6} textAnchor="middle">
            {clockText(tick.clock_min)}
          </text>
        ))}
    </Wide>
  );
}

function WayTable({ ways }: { ways: Ways }) {
  const say = useSay();
  const stream = ways.ways.some((way) => way.ground_m != null);
  const head = ["way", stream ? "comes, over ground" : "comes", "fastest", "bank at the end", "thrown away"];
  return (
    <table className="plain-table mt-1 max-w-[640px]">
      <Head of={stream ? [...head, "through the water"] : head} />
      <tbody>
        {ways.ways.map((way) => (
          <tr key={way.key} data-way-row={way.key}>
            <td className="whitespace-nowrap">
              <svg width="34" height="10" aria-hidden="true" className="mr-2 inline-block align-middle">
                <Level
                  y={5}
                  x1="0"
                  x2="34"
                  stroke={STROKES[way.key].colour}
                  strokeWidth={STROKES[way.key].wide}
                  strokeDasharray={STROKES[way.key].dash}
                />
              </svg>
              {way.label}
              {way.stops && <span className="text-alarm"> ▲ stops</span>}
            </td>
            <td>
              <b>{say("distance_m", way.ground_m ?? way.distance_m)}</b>
            </td>
            <td>{say("speed_mps", Math.max(...way.speed_mps))}</td>
            <td>{say("fraction", way.end_frac)}</td>
            <td>{way.wasted_wh > 1 ? say("energy_wh", way.wasted_wh) : "–"}</td>
            {stream && <td>{say("distance_m", way.distance_m)}</td>}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What holds the day's run on sun back, step by step. */
function WorthTable({ worths }: { worths: Worth }) {
  const say = useSay();
  const units = useUnits();
  const [by, setBy] = useState<Rank>("gain_m");
  const ranked = [...worths.steps].sort(
    (a, b) => (b[by] ?? Number.NEGATIVE_INFINITY) - (a[by] ?? Number.NEGATIVE_INFINITY),
  );
  const metres = (value: number | null | undefined) =>
    value == null ? "–" : shown({ quantity: "distance_m", value, signed: true }, units);
  return (
    <section className="mt-3" data-worths>
      <h2 className="m-0 text-[15px] font-bold">What a step is worth, a day on sun alone</h2>
      <ToldList lines={worths.told} name="worths" />
      <table className="plain-table max-w-[640px]">
        <thead>
          <tr>
            <th>step</th>
            {RANKS.map(([key, name]) => (
              <th key={key} aria-sort={by === key ? "descending" : undefined}>
                <button
                  type="button"
                  className={by === key ? "link font-bold" : "link"}
                  aria-label={`Rank by ${name}`}
                  onClick={() => setBy(key)}
                >
                  {name}
                </button>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {ranked.map((step) => (
            <tr key={step.key} data-worth={step.key}>
              <td>
                <Told sentence={step.label} />
              </td>
              <td>
                <b>{metres(step.gain_m)}</b>
              </td>
              <td>{metres(step.by_worth_m)}</td>
              <td>{metres(step.for_100_coins_m)}</td>
              <td>{metres(step.for_10_kg_m)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 mb-1 max-w-[76ch] text-[13px] text-muted">
        The furthest such day that gives its charge back comes {say("distance_m", worths.distance_m)}; at one
        speed it is {say("distance_m", worths.steady_m)}. "Wins" is the day solved again with the step, its
        weight counted; "by the worths" is what the marginal values of the one solve say: they part where a
        step is large. Prices are invented coins.
      </p>
    </section>
  );
}
