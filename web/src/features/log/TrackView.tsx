import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import type { LogDay } from "../../api/client";
import { frameOf, type Spot, spotAt } from "../../kit/chart/plane";
import { useSize } from "../../kit/chart/useSize";
import { NorthUp, Water } from "../../kit/chart/Water";
import { useSay, useUnits } from "../../kit/preferences";
import { Heading } from "../../kit/ui/Page";
import { clockText, unitOf } from "../../kit/units";

type Track = NonNullable<LogDay["track"]>;
type Place = Track["places"][number];

const EDGE = 48;
const PAID = ["sun", "else", "still"] as const;
type Paid = (typeof PAID)[number];

const paidAt = (place: Place): Paid => (place.sun_pays == null ? "still" : place.sun_pays ? "sun" : "else");

/** The track in stretches that were paid for alike; each begins where the one before it ends. */
function stretches(places: Place[]): { paid: Paid; places: Place[] }[] {
  const found: { paid: Paid; places: Place[] }[] = [];
  for (const place of places) {
    const last = found.at(-1);
    if (last) last.places.push(place);
    if (!last || last.paid !== paidAt(place)) found.push({ paid: paidAt(place), places: [place] });
  }
  return found.filter((one) => one.places.length > 1);
}

/** Where an outing went, north up, and where on it the sun paid. */
export function TrackView({ day }: { day: LogDay }) {
  const say = useSay();
  const far = say("distance_m", day.way_m);
  return (
    <>
      <Heading title="Her track" in={`${day.date}: ${far}, and where on it the sun paid`} />
      {day.track ? <TrackChart track={day.track} /> : <NoTrack />}
    </>
  );
}

const NoTrack = () => (
  <p className="m-0 mt-3 max-w-[52ch] text-muted" data-empty>
    No places were read on this outing. Tick “with the place” beside a note, listen to a receiver under
    Devices, or read a GPX track under Files.
  </p>
);

function TrackChart({ track }: { track: Track }) {
  const say = useSay();
  const [, mile] = unitOf("distance_m", useUnits());
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const spots = track.places.map((place): Spot => [place.east_m, place.north_m]);
  const frame = frameOf(spots, Math.max(width - 2 * EDGE, 50), Math.max(height - 2 * EDGE - 20, 50), EDGE);
  const at = (place: { east_m: number; north_m: number }) => spotAt(frame, [place.east_m, place.north_m]);
  const path = line<Place>(
    (place) => at(place)[0],
    (place) => at(place)[1],
  );
  const parts = stretches(track.places);
  const seen = PAID.filter((paid) => parts.some((part) => part.paid === paid));
  const words = { sun: "the sun paid", else: track.else_paid, still: "no motor" };
  const bar = scaleLinear([0, mile], [0, frame.scale * mile]);
  const miles = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50].find((n) => bar(n * mile) > 60) ?? 100;
  const [first, last] = [track.places[0], track.places.at(-1)];
  const tall = Math.max(height, 260);
  const narrow = width < 520;
  const name = `Her track, north up, from ${clockText(first?.minute ?? 0)} to ${clockText(last?.minute ?? 0)}`;
  return (
    <div ref={box} className="mt-1 flex min-h-[300px] flex-1 flex-col" data-track>
      {width > 0 && (
        <svg width={width} height={tall} role="img" aria-label={`${name}; no chart to steer by`}>
          <Water width={width} />
          <NorthUp />
          {parts.map((part) => (
            <Stretch key={part.places[0]?.minute} paid={part.paid} d={path(part.places) ?? ""} />
          ))}
          {track.hours.map((hour, k) => {
            const [x, y] = at(hour);
            const others = track.hours.filter((other) => other !== hour).map(at);
            const left = x > width - 60 || others.some((other) => beside(other, [x, y]));
            const free = track.hours.slice(0, k).every((other) => apart(at(other), [x, y]));
            return (
              <g key={hour.minute} data-hour={hour.minute}>
                <circle cx={x} cy={y} r={4} className="fill-field stroke-ink stroke-[1.6]" />
                {free && (
                  <text
                    className="chart-text halo"
                    x={x + (left ? -9 : 9)}
                    y={y + 4}
                    textAnchor={left ? "end" : "start"}
                  >
                    {clockText(hour.minute)}
                  </text>
                )}
              </g>
            );
          })}
          {first && <rect {...square(at(first))} className="fill-field stroke-water stroke-[2.4]" />}
          {last && <rect {...square(at(last))} className="fill-water stroke-ink stroke-[1.4]" />}
          <g transform="translate(56, 24)" data-key>
            {seen.map((paid, k) => (
              <g key={paid} transform={narrow ? `translate(0, ${k * 18})` : `translate(${k * 150}, 0)`}>
                <Stretch paid={paid} d="M0,0H34" />
                <text className="chart-text" x={42} y={4}>
                  {words[paid]}
                </text>
              </g>
            ))}
          </g>
          <g transform={`translate(${EDGE - 20}, ${tall - (narrow ? 34 : 18)})`}>
            <path
              d={`M0,-5V0H${bar(miles * mile).toFixed(1)}V-5`}
              className="fill-none stroke-ink stroke-[1.6]"
            />
            <text className="chart-text" x={bar(miles * mile) + 8} y={0}>
              {say("distance_m", miles * mile)}
            </text>
          </g>
          <text className="chart-text" x={width - 10} y={tall - 10} textAnchor="end">
            no shores, no depths: no chart to steer by
          </text>
        </svg>
      )}
    </div>
  );
}

/** Whether the names of two places do not meet. */
const apart = ([x0, y0]: Spot, [x1, y1]: Spot) => Math.abs(x0 - x1) > 48 || Math.abs(y0 - y1) > 15;

/** Whether the first place would lie under a name to the right of the second. */
const beside = ([x0, y0]: Spot, [x1, y1]: Spot) => x0 > x1 && x0 < x1 + 56 && Math.abs(y0 - y1) < 12;

const square = ([x, y]: Spot) => ({ x: x - 6, y: y - 6, width: 12, height: 12, rx: 3 });

/** A stretch of the way: broad and cased where the sun paid, a plain line where it did not, dots at rest. */
function Stretch({ paid, d }: { paid: Paid; d: string }) {
  if (paid === "sun")
    return (
      <>
        <path d={d} className="fill-none stroke-sun-edge stroke-[8]" strokeLinecap="round" />
        <path d={d} className="fill-none stroke-sun stroke-[5]" strokeLinecap="round" />
      </>
    );
  return (
    <path
      d={d}
      className={`fill-none ${paid === "else" ? "stroke-deep stroke-[3]" : "stroke-muted stroke-[2]"}`}
      strokeDasharray={paid === "still" ? "2 5" : undefined}
      strokeLinecap="round"
    />
  );
}
