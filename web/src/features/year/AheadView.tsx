import type { DaysAhead } from "../../api/client";
import { useStudy } from "../../asking/live";
import { Level } from "../../kit/chart/lines";
import { useSize } from "../../kit/chart/useSize";
import { Waiting } from "../../kit/chart/Waiting";
import { Wide } from "../../kit/chart/Wide";
import { useDesign } from "../../kit/document";
import { useSay, useUnits } from "../../kit/preferences";
import { Fields } from "../../kit/ui/Field";
import { ToldList } from "../../kit/ui/ToldList";
import { Head, View } from "../../kit/ui/View";
import { MONTHS, shown } from "../../kit/units";
import { DayByDay, weekday } from "./DayByDay";

const LEFT = 44;
const FOOT = 34;
const DULL = ["overcast", "rain"];

/** Out some days, at rest some days, fog between: what the bank and the miles do on the days the place has. */
export function AheadView() {
  const { design, entries } = useDesign();
  const { data, stale, error, retry } = useStudy("year/ahead");
  const say = useSay();
  const skies = entries.words("/plan/sky");
  const byDay = (design.plan.trip?.days ?? []).length > 0;
  return (
    <View label="Days ahead" stale={stale && data !== undefined} data-ahead>
      <DayByDay />
      <div className={`mb-1 grid grid-cols-2 gap-x-8 pr-2 ${byDay ? "hidden" : ""}`}>
        <Fields at="/plan/trip" of="out_days rest_days rounds rest_state fog_days fog_from" />
      </div>
      {data === undefined ? (
        <Waiting error={error} retry={retry} what="The days ahead" />
      ) : data === null ? (
        <p className="text-muted">Without a bank no day knows of the one before: see The year.</p>
      ) : (
        <>
          <ToldList lines={data.told} name="ahead" />
          <Charges ahead={data} />
          <table className="plain-table mt-1">
            <Head
              of={["day", "bank at its end", "1 in 10 below", "distance", "motor stopped", "house dark"]}
            />
            <tbody>
              {data.days.map((day) => (
                <tr key={day.number} data-ahead-day={day.number}>
                  <td>
                    {day.date ? weekday(day.date) : day.number}, {day.kind === "out" ? "out" : "at rest"}
                    {day.sky && `, ${skies[day.sky]}`}
                  </td>
                  <td>
                    <b>{say("fraction", day.charge_middle)}</b>
                  </td>
                  <td>{say("fraction", day.charge_low)}</td>
                  <td>{day.kind === "out" ? say("distance_m", day.metres_middle) : "–"}</td>
                  <td>{day.stopped_frac > 0 ? `on ${say("fraction", day.stopped_frac)}` : "–"}</td>
                  <td>{day.dark_frac > 0 ? `on ${say("fraction", day.dark_frac)}` : "–"}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="mt-1 mb-1 text-[13px] text-muted">
            200 trips on {MONTHS[Number((design.plan.date ?? "").slice(5, 7)) - 1]} days as the climate of the
            place has them, or under the sky that a day is given; each day's charge carried into the next, out
            in the plan's hours, without foresight. Shore, wind and the other sources are counted.
          </p>
        </>
      )}
    </View>
  );
}

/** The bank at the end of each day: the usual trip, and the band of eight in ten. */
function Charges({ ahead }: { ahead: DaysAhead }) {
  const skies = useDesign().entries.words("/plan/sky");
  const units = useUnits();
  const [box, { width }] = useSize<HTMLDivElement>();
  const height = 190;
  const days = ahead.days;
  const wide = (width - LEFT) / days.length;
  const x = (k: number) => LEFT + k * wide;
  const y = (charge: number) => 8 + (1 - charge) * (height - FOOT - 8);
  const line = (of: (day: DaysAhead["days"][number]) => number) => [
    `${x(0)},${y(ahead.start_frac)}`,
    ...days.map((day, k) => `${x(k + 1)},${y(of(day))}`),
  ];
  const percent = (value: number) => shown({ quantity: "fraction", value, signed: false }, units);
  return (
    <Wide
      box={box}
      width={width}
      height={height}
      label={`Bank at the end of each day: ${days.map((d) => `day ${d.number} ${percent(d.charge_middle)}`).join(", ")}`}
    >
      {days.map((day, k) => (
        <g key={day.number}>
          {day.kind === "out" && (
            <rect
              x={x(k)}
              y={8}
              width={wide}
              height={height - FOOT - 8}
              className="fill-water-soft [fill-opacity:0.5]"
            />
          )}
          {day.sky && DULL.includes(day.sky) && (
            <rect x={x(k)} y={8} width={wide} height={10} fill="var(--muted)" fillOpacity="0.7" />
          )}
          <text x={x(k + 0.5)} y={height - FOOT + 15} fontSize="12.5" textAnchor="middle" fill="var(--ink)">
            {day.date ? weekday(day.date) : day.number}
          </text>
          <text x={x(k + 0.5)} y={height - 4} fontSize="12" textAnchor="middle" fill="var(--muted)">
            {day.sky ? skies[day.sky] : day.kind}
          </text>
        </g>
      ))}
      <polygon
        points={[...line((d) => d.charge_high), ...line((d) => d.charge_low).reverse()].join(" ")}
        className="fill-bank [fill-opacity:0.25]"
      />
      <polyline
        points={line((d) => d.charge_middle).join(" ")}
        className="fill-none stroke-bank stroke-[2.4]"
      />
      <Level y={y(ahead.reserve_frac)} x1={LEFT} x2={width} stroke="var(--alarm)" strokeDasharray="3 3" />
      {[0, 0.5, 1].map((charge) => (
        <text className="chart-text" key={charge} x={LEFT - 6} y={y(charge) + 4} textAnchor="end">
          {percent(charge)}
        </text>
      ))}
      <text x={width - 4} y={y(ahead.reserve_frac) - 4} fontSize="12.5" textAnchor="end" fill="var(--alarm)">
        reserve {percent(ahead.reserve_frac)}
      </text>
      <Level y={height - FOOT} x1={LEFT} x2={width} stroke="var(--ink)" />
    </Wide>
  );
}
