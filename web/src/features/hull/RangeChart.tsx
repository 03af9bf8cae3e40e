import { scaleLinear, scaleLog } from "d3-scale";
import { curveMonotoneX, line } from "d3-shape";
import { useState } from "react";
import type { RangePicture } from "../../api/client";
import { Columns, Rows } from "../../kit/chart/axes";
import { Upright } from "../../kit/chart/lines";
import { Readable } from "../../kit/chart/Readable";
import { Readout } from "../../kit/chart/Readout";
import { spread } from "../../kit/chart/spread";
import { useSize } from "../../kit/chart/useSize";
import { useSay, useUnits } from "../../kit/preferences";
import { type Kind, unitOf } from "../../kit/units";
import { PlanMark } from "./PlanMark";

const MARGIN = { left: 62, right: 18, top: 14, bottom: 34 };
const DASHES: Record<string, string | undefined> = {
  dark: "3 4",
  overcast: "9 5",
  form: "1.5 4",
  formula: "6 5",
};
const LETTER = 7.4; // px, of a name in bold
const LABEL = 19; // between names under each other
const STROKES: Record<string, string> = {
  form: "var(--water)",
  formula: "var(--muted)",
  clear: "var(--sun-edge)",
  dark: "var(--bank)",
  overcast: "var(--muted)",
};

interface Props {
  picture: RangePicture;
  planSpeed: number;
  stale: boolean;
  onPlanSpeed: (speedMps: number) => void;
}

/** Distance to the reserve at each speed under each sky; where the sun keeps up a line runs off the top. */
export function RangeChart({ picture, planSpeed, stale, onPlanSpeed }: Props) {
  const units = useUnits();
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const [read, setRead] = useState<number | null>(null);
  const [speedUnit, speedSize] = unitOf("speed_mps", units);
  const [distanceUnit, distanceSize] = unitOf("distance_m", units);
  const speeds = picture.speed_mps;
  const slowest = speeds[0] ?? 0;
  const fastest = speeds.at(-1) ?? 1;
  const known = picture.reaches.flatMap((reach) => reach.distance_m.filter((d): d is number => d !== null));
  const far = Math.max(...known, 1);
  const near = Math.max(Math.min(...known.filter((d) => d > 0), far), far / 500);
  const bottom = height - MARGIN.bottom;
  const x = scaleLinear([slowest, fastest], [MARGIN.left, Math.max(width - MARGIN.right, MARGIN.left + 1)]);
  const y = scaleLog([near * 0.8, far * 1.25], [Math.max(bottom, MARGIN.top + 1), MARGIN.top]);
  const say = useSay();
  const ticks = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000].filter(
    (n) => n * distanceSize >= near * 0.8 && n * distanceSize <= far * 1.25,
  );
  const speedTicks = scaleLinear([slowest / speedSize, fastest / speedSize], [0, 1]).ticks(6);
  const nearest =
    read === null
      ? -1
      : speeds.reduce((a, v, i) => (Math.abs(v - read) < Math.abs((speeds[a] ?? 0) - read) ? i : a), 0);
  const plan = Math.min(Math.max(planSpeed, slowest), fastest);

  const rows = ticks.map((n) => [y(n * distanceSize), `${n} ${distanceUnit}`] as const);
  const columns = speedTicks.map((v) => [x(v * speedSize), `${v} ${speedUnit}`] as const);
  const hover = (px: number | null) => {
    const at = px === null ? -1 : x.invert(px);
    setRead(at >= slowest && at <= fastest ? at : null);
  };
  const step = (by: number) => {
    const gap = (fastest - slowest) / Math.max(speeds.length - 1, 1);
    setRead(Math.min(Math.max((read ?? plan) + by * gap, slowest), fastest));
  };

  return (
    <Readable
      box={box}
      width={width}
      height={height}
      label="Range over speed. Arrow keys read the curves."
      said={
        nearest >= 0
          ? `${say("speed_mps", speeds[nearest] ?? 0)}: ${readLines(picture, nearest, say).join(", ")}`
          : undefined
      }
      stale={stale}
      onRead={hover}
      onStep={step}
    >
      <Rows of={rows} left={MARGIN.left} right={width - MARGIN.right} />
      <Columns of={columns} top={MARGIN.top} bottom={bottom} foot={height - 10} />
      <Upright
        x={x(plan)}
        y1={MARGIN.top}
        y2={bottom}
        className="stroke-water stroke-[1.5] [stroke-dasharray:2_3]"
      />
      {picture.reaches.map((reach) => (
        <ReachLine key={reach.key} reach={reach} speeds={speeds} x={x} y={y} />
      ))}
      {labelled(picture.reaches, speeds, x, y, bottom).map(({ reach, at, left }) => (
        <text
          key={reach.key}
          className="chart-label halo"
          x={at.x}
          y={at.y}
          textAnchor={left ? "end" : "start"}
          fill={STROKES[reach.key] ?? "var(--sun-text)"}
        >
          {reach.label}
        </text>
      ))}
      <g transform={`translate(${x(plan)} ${bottom})`}>
        <PlanMark
          speed={plan}
          planned={planSpeed}
          fastest={fastest}
          size={16}
          at={(px) => Math.min(Math.max(x.invert(px), slowest), fastest)}
          onPlanSpeed={onPlanSpeed}
        />
        <text className="chart-text" x="14" y="-10" style={{ fill: "var(--water-text)", fontWeight: 650 }}>
          you plan {say("speed_mps", plan)}
        </text>
      </g>
      {nearest >= 0 && (
        <g pointerEvents="none">
          <Upright x={x(speeds[nearest] ?? 0)} y1={MARGIN.top} y2={bottom} className="stroke-ink stroke-1" />
          <Readout
            x={Math.min(x(speeds[nearest] ?? 0) + 10, width - 250)}
            y={MARGIN.top + 8}
            width={236}
            lines={[say("speed_mps", speeds[nearest] ?? 0), ...readLines(picture, nearest, say)]}
          />
        </g>
      )}
    </Readable>
  );
}

function readLines(picture: RangePicture, at: number, say: (kind: Kind, value: number) => string): string[] {
  return picture.reaches.map((reach) => {
    const distance = reach.distance_m[at];
    const hours = reach.hours[at];
    return distance == null || hours == null
      ? `${reach.label}: the sun keeps up`
      : `${reach.label}: ${say("distance_m", distance)}, ${say("duration_h", hours)}`;
  });
}

type Reach = RangePicture["reaches"][number];
type Scale = (v: number) => number;

const pointsOf = (reach: Reach, speeds: number[]) =>
  speeds
    .map((speed, i) => ({ speed, distance: reach.distance_m[i] ?? null }))
    .filter((p): p is { speed: number; distance: number } => p.distance !== null && p.distance > 0);

/** Where the curves' names stand; those at the left margin are pushed apart, for curves may run as one. */
function labelled(reaches: Reach[], speeds: number[], x: Scale, y: Scale, bottom: number) {
  const wanted = reaches.flatMap((reach, index) => {
    const points = pointsOf(reach, speeds);
    const first = points[0];
    if (!first) return [];
    const middle = points[Math.floor(points.length * 0.42)] ?? first;
    const high = MARGIN.top + 22 + LABEL * index;
    const at =
      reach.school !== "curve"
        ? { x: x(middle.speed) - 6, y: y(middle.distance) + 17 }
        : { x: x(first.speed) - 8, y: reach.keeps_up_mps != null ? high : y(first.distance) - 10 };
    return [{ reach, at, left: at.x > MARGIN.left + 60 }];
  });
  const long = (label: { reach: Reach }) => label.reach.label.length * LETTER;
  const names = Math.max(0, ...wanted.filter((label) => !label.left).map(long));
  const reachesThem = (label: (typeof wanted)[number]) =>
    !label.left || label.at.x - long(label) < MARGIN.left + 12 + names;
  const near = wanted.filter(reachesThem).map((item) => ({ item, at: item.at.y }));
  const apart = spread(near, LABEL, MARGIN.top + 12, bottom - 6);
  return [
    ...wanted.filter((label) => !reachesThem(label)),
    ...apart.map(({ item, y: stands }) => ({
      ...item,
      at: { x: item.left ? item.at.x : MARGIN.left + 8, y: stands },
    })),
  ];
}

function ReachLine({ reach, speeds, x, y }: { reach: Reach; speeds: number[]; x: Scale; y: Scale }) {
  const points = pointsOf(reach, speeds);
  const first = points[0];
  if (!first) return null;
  const stroke = STROKES[reach.key] ?? "var(--sun)";
  const curve = line<(typeof points)[number]>()
    .x((p) => x(p.speed))
    .y((p) => y(p.distance))
    .curve(curveMonotoneX);
  const school = reach.school !== "curve";
  return (
    <g data-reach={reach.key}>
      {reach.keeps_up_mps != null && !school && (
        <path
          d={`M${x(first.speed)} ${y(first.distance)}L${x(first.speed)} ${MARGIN.top + 4}m-5 8l5 -8l5 8`}
          stroke={stroke}
          className="fill-none stroke-[1.6]"
        />
      )}
      <path
        d={curve(points) ?? ""}
        fill="none"
        stroke={stroke}
        strokeWidth={school ? 1.6 : 2.6}
        strokeDasharray={DASHES[reach.key]}
      />
    </g>
  );
}
