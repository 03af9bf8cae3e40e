import type { BoatDesign, Forecast } from "../../api/client";
import { ForecastSource } from "../../boat/ForecastSource";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { Field } from "../../kit/ui/Field";
import { LinkButton } from "../../kit/ui/LinkButton";

type TripDay = NonNullable<NonNullable<BoatDesign["plan"]["trip"]>["days"]>[number];

const WEEK = 7;
const MOST_FORECAST = 16; // days
const DAY_MS = 86_400_000;

/** A date as a person names the days of a week. */
export const weekday = (date: string) =>
  new Date(`${date}T12:00:00Z`).toLocaleDateString("en-GB", {
    weekday: "short",
    day: "numeric",
    timeZone: "UTC",
  });

const later = (date: string, days: number) =>
  new Date(Date.parse(`${date}T12:00:00Z`) + days * DAY_MS).toISOString().slice(0, 10);

/** The days ahead one by one: out or at rest, under which sky, at which speed; or from a forecast. */
export function DayByDay() {
  const { design, apply, entries } = useDesign();
  const date = design.plan.date ?? "";
  const days = design.plan.trip?.days ?? [];
  const set = (next: TripDay[]) =>
    apply((current) => withValue(current, "/plan/trip/days", next), "trip-days");
  const change = (index: number, part: Partial<TripDay>) =>
    set(days.map((day, i) => (i === index ? { ...day, ...part } : day)));
  const take = (forecast: Forecast) =>
    set(forecast.days.map((item, i) => ({ out: days[i]?.out ?? true, ...days[i], sky: item.sky })));
  return (
    <div className="mb-1" data-day-by-day>
      <ForecastSource
        inline
        words="skies from the forecast"
        fileWords="or from a file"
        days={Math.min(Math.max(days.length, WEEK), MOST_FORECAST)}
        onForecast={take}
      >
        {days.length === 0 ? (
          <LinkButton onClick={() => set(Array.from({ length: WEEK }, () => ({ out: true }) as TripDay))}>
            plan it day by day
          </LinkButton>
        ) : (
          <LinkButton onClick={() => set([])}>back to rounds</LinkButton>
        )}
        {days.length > 0 && entries.hasRoom(design, "/plan/trip/days") && (
          <LinkButton onClick={() => set([...days, { out: true } as TripDay])}>one more day</LinkButton>
        )}
        {days.length > 0 && <LinkButton onClick={() => set(days.slice(0, -1))}>one less</LinkButton>}
      </ForecastSource>
      {days.length > 0 && (
        <div className="flex flex-wrap gap-1">
          {days.map((day, index) => {
            const called = weekday(later(date, index));
            return (
              <fieldset
                key={later(date, index)}
                className="m-0 grid w-[85px] min-w-0 grid-cols-[minmax(0,1fr)] content-start gap-1 rounded-[6px] border border-solid border-hairline p-1"
                data-trip-day={index + 1}
              >
                <legend className="px-1 text-[13px] font-bold">{called}</legend>
                <button
                  type="button"
                  className="btn min-h-[26px]! px-2! text-[13px]"
                  aria-pressed={day.out ?? true}
                  data-main={(day.out ?? true) || undefined}
                  aria-label={`${called}: ${(day.out ?? true) ? "out; press for a rest" : "at rest; press to go out"}`}
                  onClick={() => change(index, { out: !(day.out ?? true) })}
                >
                  {(day.out ?? true) ? "out" : "at rest"}
                </button>
                <Field bare at={`/plan/trip/days/${index}/sky`} label={`${called}: sky`} width={75} />
                {(day.out ?? true) && (
                  <Field
                    bare
                    at={`/plan/trip/days/${index}/speed_mps`}
                    label={`${called}: speed; empty: the plan's`}
                    width={75}
                  />
                )}
              </fieldset>
            );
          })}
        </div>
      )}
    </div>
  );
}
