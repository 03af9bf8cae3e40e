import type { ScaleLinear } from "d3-scale";
import type { Leg, PassagePicture } from "../../api/client";
import { Upright } from "../../kit/chart/lines";
import { LETTER_PX } from "../../kit/chart/wrapped";
import { useSay } from "../../kit/preferences";
import { hourText } from "../../kit/units";

interface Props {
  picture: PassagePicture;
  x: ScaleLinear<number, number>;
  top: number;
  height: number;
  legs: Leg[];
  chosen: string | null;
  onLeg: (leg: string) => void;
}

const NARROW = 0.34; // of the height, at a mark
const HOUR_WIDE = 44; // pixels

/** The water of the way: a pool for every leg, narrow at its marks; arrows for the stream; hours underneath. */
export function RibbonWater({ picture, x, top, height, legs, chosen, onLeg }: Props) {
  const say = useSay();
  const middle = top + height / 2;
  const count = legs.length;
  const mine = (k: number) => (k < count ? k : count + count - 1 - k);
  let lastHour = Number.NEGATIVE_INFINITY;
  const marks = picture.marks.filter((mark) => mark.arrives_h != null);
  const whole = marks.length === picture.marks.length;
  const names = placed(marks, x, whole);
  return (
    <g>
      {picture.legs.map((leg, k) => {
        if (leg.to_frac <= leg.from_frac) return null; // the motor stops before it
        const [from, to] = [x(leg.from_frac), x(leg.to_frac)];
        const wide = Math.max(to - from, 2);
        const own = legs[mine(k)];
        return (
          <g key={`${leg.name} ${leg.from_frac}`}>
            <path
              d={pool(from, wide, middle, height / 2)}
              className={`stroke-water ${own && chosen === own.id ? "stroke-[2.6]" : "stroke-[1.2]"}`}
              fill="var(--water-soft, rgb(31 111 120 / 0.14))"
            />
            {leg.stream_mps != null && wide > 34 && (
              <Arrow
                x={from + wide / 2}
                y={middle + 14}
                with={leg.stream_mps >= 0}
                slack={Math.abs(leg.stream_mps) < 0.03}
              />
            )}
            {leg.stream_mps != null && wide > 52 && (
              <text className="chart-text" x={from + wide / 2} y={top + height + 14} textAnchor="middle">
                {say("speed_mps", leg.stream_mps, true)}
              </text>
            )}
            {own && (
              <rect
                x={from}
                y={top}
                width={wide}
                height={height}
                fill="transparent"
                className="cursor-pointer"
                onPointerDown={() => onLeg(own.id)}
              >
                <title>{`${leg.name}: ${say("distance_m", leg.distance_m)} on ${say("angle_deg", leg.course_deg)}`}</title>
              </rect>
            )}
          </g>
        );
      })}
      {picture.stops_h != null && (
        <text
          className="chart-label"
          x={x(1)}
          y={top + height + 32}
          textAnchor="end"
          style={{ fill: "var(--alarm)" }}
          data-stops
        >
          motor stops {hourText(picture.stops_h)}
        </text>
      )}
      <text className="chart-text" x={2} y={top + height + 14}>
        stream
      </text>
      <text className="chart-text" x={2} y={top + height + 32}>
        there
      </text>
      {marks.map((mark, k) => {
        const place = x(mark.from_frac);
        const last = whole && k === marks.length - 1;
        const room = last || (place - lastHour > HOUR_WIDE && x(1) - place > 1.6 * HOUR_WIDE);
        if (room) lastHour = k === 0 ? place + 0.6 * HOUR_WIDE : place;
        return (
          <g key={`${mark.name} ${mark.gone_m}`} data-mark={mark.kind}>
            {x(mark.to_frac) - place > 3 && (
              <rect
                x={place}
                y={middle - 9}
                width={x(mark.to_frac) - place}
                height={18}
                className="fill-field stroke-edge stroke-[0.8]"
              />
            )}
            <MarkSign kind={mark.kind} x={place} y={middle} />
            {names[k] && (
              <text
                className="chart-text"
                x={place}
                y={top - (names[k] === 1 ? 6 : 21)}
                textAnchor={k === 0 ? "start" : last ? "end" : "middle"}
                fill="var(--ink)"
              >
                {mark.name}
              </text>
            )}
            {mark.arrives_h != null && room && (
              <text
                className={last || k === 0 ? "chart-label" : "chart-text"}
                x={place}
                y={top + height + 32}
                textAnchor={k === 0 ? "start" : last ? "end" : "middle"}
                fill="var(--ink)"
              >
                {hourText(mark.arrives_h)}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}

/** In which of two rows a mark's name stands over it: 1 the lower, 2 the upper, 0 where there is no room. */
function placed(marks: PassagePicture["marks"], x: ScaleLinear<number, number>, whole: boolean): number[] {
  const ends = [0, Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY];
  const count = marks.length;
  const half = (k: number) => ((marks[k]?.name.length ?? 0) * LETTER_PX) / 2;
  const last = whole ? marks[count - 1] : undefined;
  const kept = last ? x(last.from_frac) - 2 * half(count - 1) : Number.POSITIVE_INFINITY;
  return marks.map((mark, k) => {
    const place = x(mark.from_frac);
    const [from, to] = k === 0 ? [place, place + 2 * half(k)] : [place - half(k), place + half(k)];
    if (last && k === count - 1) return 1;
    for (const row of [1, 2]) {
      if (from > (ends[row] ?? 0) + 6 && (row === 2 || to < kept - 6)) {
        ends[row] = to;
        return row;
      }
    }
    return 0;
  });
}

/** A pool from one narrow to the next. */
function pool(from: number, wide: number, middle: number, half: number): string {
  const narrow = half * NARROW;
  const reach = Math.min(wide * 0.35, 40);
  const to = from + wide;
  return (
    `M${from},${middle - narrow}C${from + reach},${middle - narrow} ${from + reach * 0.6},${middle - half} ${from + wide / 2},${middle - half}` +
    `S${to - reach},${middle - narrow} ${to},${middle - narrow}V${middle + narrow}` +
    `C${to - reach},${middle + narrow} ${to - reach * 0.6},${middle + half} ${from + wide / 2},${middle + half}` +
    `S${from + reach},${middle + narrow} ${from},${middle + narrow}Z`
  );
}

/** A stream: filled with her, hollow against her. */
function Arrow(props: { x: number; y: number; with: boolean; slack: boolean }) {
  const { x, y, slack } = props;
  if (slack) return <circle cx={x} cy={y} r={2.5} className="fill-none stroke-ink" />;
  const tip = props.with ? 9 : -9;
  return (
    <path
      d={`M${x + tip},${y}l${-2 * tip},-5v10z`}
      className={`stroke-ink stroke-[1.2] ${props.with ? "fill-water" : "fill-mist"}`}
    />
  );
}

function MarkSign({ kind, x, y }: { kind: string; x: number; y: number }) {
  const stroke = "stroke-ink stroke-[1.6] fill-field";
  if (kind === "lock" || kind === "gate")
    return (
      <path
        d={`M${x - 6},${y - 13}l6,13l-6,13M${x + 1},${y - 13}l6,13l-6,13`}
        className="fill-none stroke-ink stroke-[2]"
      />
    );
  if (kind === "bridge")
    return <path d={`M${x - 9},${y + 6}a9,9 0 0 1 18,0`} className="fill-none stroke-ink stroke-[2.2]" />;
  if (kind === "anchorage")
    return (
      <path
        d={`M${x},${y - 9}v17m-7,-5a7,7 0 0 0 14,0m-11,-6h8`}
        className="fill-none stroke-ink stroke-[1.8]"
      />
    );
  if (kind === "charging")
    return <path d={`M${x + 2},${y - 10}l-6,11h5l-2,9l7,-12h-5z`} className={stroke} />;
  if (kind === "refuge") return <path d={`M${x - 7},${y + 6}v-8l7,-7l7,7v8z`} className={stroke} />;
  if (kind === "ramp") return <path d={`M${x - 8},${y + 7}l16,-14v14z`} className={stroke} />;
  if (kind === "start") return <Upright x={x} y1={y - 14} y2={y + 14} stroke="var(--ink)" strokeWidth="4" />;
  return <circle cx={x} cy={y} r={4} className={stroke} />;
}
