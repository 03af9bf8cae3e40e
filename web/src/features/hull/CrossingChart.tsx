import { scaleLinear, scaleLog } from "d3-scale";
import { area, curveMonotoneX, line } from "d3-shape";
import { useId, useState } from "react";
import type { HullPicture } from "../../api/client";
import { Columns, Rows } from "../../kit/chart/axes";
import { Level, Upright } from "../../kit/chart/lines";
import { Readable } from "../../kit/chart/Readable";
import { Readout } from "../../kit/chart/Readout";
import { useSize } from "../../kit/chart/useSize";
import { useSay, useUnits } from "../../kit/preferences";
import { told, unitOf } from "../../kit/units";
import { FormLabel, FormulaLabel, MARGIN, marker, Pills, SunLine, sunNames } from "./CrossingMarks";
import { PlanMark } from "./PlanMark";

const NAMES_END = 170; // px from the left edge of the plot: no name of a line of sun goes farther
const LINE = 15; // px between two lines of text
const PILLS = 34; // px that the speeds take at the foot
const NARROW = 480; // px: the foot of the chart has no room for one more name
const SLOWEST_SHARE = 0.2; // of hull speed: slower is all idle draw

interface Props {
  picture: HullPicture;
  planSpeed: number; // as set, ahead of the picture while it is dragged
  stale: boolean;
  onPlanSpeed: (speedMps: number) => void;
}

/** Battery watts at each speed, against what the sun pays: the crossings are the sun-only speeds. */
export function CrossingChart({ picture, planSpeed, stale, onPlanSpeed }: Props) {
  const units = useUnits();
  const clip = useId();
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const [read, setRead] = useState<number | null>(null);
  const slowest = SLOWEST_SHARE * picture.hull_speed_mps;
  const fastest = picture.speed_mps.at(-1) ?? 1;
  const points = picture.speed_mps
    .map((speed, i) => ({
      speed,
      power: picture.power_w[i] ?? 0,
      low: picture.low_w[i] ?? 0,
      high: picture.high_w[i] ?? 0,
      formula: picture.formula_w[i] ?? 0,
      form: picture.form_w[i] ?? 0,
    }))
    .filter((point) => point.speed >= slowest * 0.98);
  const lines = picture.lines.filter((item) => item.speed_mps >= slowest);
  const lowest = Math.min(...points.map((p) => p.low), ...lines.map((l) => l.power_w));
  const highest = Math.max(...points.map((p) => p.high));
  const x = scaleLinear([slowest, fastest], [MARGIN.left, Math.max(width - MARGIN.right, MARGIN.left + 1)]);
  const y = scaleLog(
    [Math.max(lowest * 0.75, 1), highest * 1.15],
    [Math.max(height - MARGIN.bottom, MARGIN.top + 1), MARGIN.top],
  );
  const [speedUnit, speedSize] = unitOf("speed_mps", units);
  const speedTicks = scaleLinear([slowest / speedSize, fastest / speedSize], [0, 1]).ticks(6);
  const [low = 1, high = 10] = y.domain();
  const powerTicks = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1e3, 2e3, 5e3, 1e4, 2e4, 5e4, 1e5].filter(
    (w) => w >= low && w <= high,
  );
  const curve = line<(typeof points)[number]>()
    .x((p) => x(p.speed))
    .curve(curveMonotoneX);
  const readout =
    read === null
      ? null
      : points.reduce((a, b) => (Math.abs(b.speed - read) < Math.abs(a.speed - read) ? b : a));
  const bottom = height - MARGIN.bottom;
  const say = useSay();
  const plan = marker(picture, planSpeed);
  const named = sunNames(lines, y, bottom - PILLS);
  const most = picture.rated_power_w < high ? y(picture.rated_power_w) + 16 : null;
  const powerRows = powerTicks.map((watts) => [y(watts), say("power_w", watts)] as const);
  const speedColumns = speedTicks.map((v) => [x(v * speedSize), `${v} ${speedUnit}`] as const);

  const hover = (px: number | null) => {
    const at = px === null ? -1 : x.invert(px);
    setRead(at >= slowest && at <= fastest ? at : null);
  };
  const step = (by: number) =>
    setRead(Math.min(Math.max((read ?? plan.speed) + (by * (fastest - slowest)) / 78, slowest), fastest));

  return (
    <Readable
      box={box}
      width={width}
      height={height}
      label="Battery watts over speed. Arrow keys read the curve."
      said={readout ? `${say("speed_mps", readout.speed)} takes ${say("power_w", readout.power)}` : ""}
      stale={stale}
      onRead={hover}
      onStep={step}
    >
      <clipPath id={clip}>
        <rect
          x={MARGIN.left}
          y={MARGIN.top}
          width={Math.max(width - MARGIN.left - MARGIN.right, 0)}
          height={Math.max(bottom - MARGIN.top, 0)}
        />
      </clipPath>
      <Rows of={powerRows} left={MARGIN.left} right={width - MARGIN.right} />
      <Columns of={speedColumns} top={MARGIN.top} bottom={bottom} foot={height - 10} />
      <g clipPath={`url(#${clip})`}>
        <path
          d={
            area<(typeof points)[number]>()
              .x((p) => x(p.speed))
              .y0((p) => y(p.low))
              .y1((p) => y(p.high))
              .curve(curveMonotoneX)(points) ?? ""
          }
          fill="var(--water-soft)"
          data-band
        />
        <path
          d={curve.y((p) => y(Math.max(p.formula, low / 4)))(points) ?? ""}
          data-formula
          className="fill-none stroke-muted stroke-[1.6] [stroke-dasharray:6_5]"
        />
        {picture.runs.length > 0 && (
          <path
            d={curve.y((p) => y(p.form))(points) ?? ""}
            data-form
            className="fill-none stroke-water stroke-[1.5] [stroke-dasharray:1.5_4]"
          />
        )}
        <path
          d={curve.y((p) => y(p.power))(points) ?? ""}
          data-curve
          className="fill-none stroke-water stroke-3"
        />
        <Upright
          x={x(picture.hull_speed_mps)}
          y1={MARGIN.top}
          y2={bottom}
          className="stroke-alarm stroke-[1.5] [stroke-dasharray:2_4]"
        />
        {picture.rated_power_w < high && (
          <Level
            y={y(picture.rated_power_w)}
            x1={MARGIN.left}
            x2={width - MARGIN.right}
            className="stroke-muted stroke-[1.5] [stroke-dasharray:1_4]"
          />
        )}
      </g>
      <text
        className="chart-text"
        x={x(picture.hull_speed_mps) - 7}
        y={width < NARROW ? MARGIN.top + 12 : bottom - 46}
        textAnchor="end"
        style={{ fill: "var(--alarm)" }}
      >
        hull speed {say("speed_mps", picture.hull_speed_mps)}
      </text>
      {most !== null && (
        <text className="chart-text" x={width - MARGIN.right - 4} y={most} textAnchor="end">
          most the drive takes
        </text>
      )}
      {picture.runs.length > 0 && <FormLabel points={points} x={x} y={y} />}
      <FormulaLabel points={points} x={x} y={y} top={MARGIN.top} taken={most} />
      {lines.map((item) => (
        <SunLine
          key={item.key}
          item={item}
          cross={{ x: x(item.speed_mps), y: y(item.power_w) }}
          bottom={bottom}
          label={told(item.label, units)}
          stands={named.get(item.key) ?? y(item.power_w)}
          watts={say("power_w", item.power_w)}
        />
      ))}
      <Pills lines={lines} x={x} bottom={bottom} units={units} />
      {picture.runs.map((run) => (
        <circle
          key={run.id}
          cx={x(run.speed_mps)}
          cy={y(run.power_w)}
          r="5"
          fill={run.outlier ? "var(--alarm)" : "var(--field)"}
          fillOpacity={run.off_frac === null ? 0.3 : 1}
          strokeDasharray={run.both_ways ? undefined : "2.5 2"}
          data-run
          className="stroke-ink stroke-2"
        />
      ))}
      <g transform={`translate(${x(plan.speed)} ${y(plan.power)})`}>
        <PlanMark
          speed={plan.speed}
          planned={planSpeed}
          fastest={fastest}
          size={14}
          at={(px) => Math.min(Math.max(x.invert(px), 0.1), fastest)}
          onPlanSpeed={onPlanSpeed}
        />
        <text
          className="chart-text"
          x="14"
          y={planUnder(y(plan.power), x(plan.speed), [...named.values()])}
          style={{ fill: "var(--water-text)", fontWeight: 650 }}
        >
          you plan {say("speed_mps", plan.speed)}, {say("power_w", plan.power)}
        </text>
      </g>
      {readout && (
        <g pointerEvents="none">
          <Upright x={x(readout.speed)} y1={MARGIN.top} y2={bottom} stroke="var(--ink)" strokeWidth="1" />
          <circle cx={x(readout.speed)} cy={y(readout.power)} r="4" fill="var(--ink)" />
          <Readout
            x={Math.min(x(readout.speed) + 10, width - 186)}
            y={Math.max(bottom - 150, MARGIN.top)}
            width={172}
            lines={[
              `${say("speed_mps", readout.speed)}: ${say("power_w", readout.power)}`,
              `band ${say("power_w", readout.low)} to ${say("power_w", readout.high)}`,
              ...(picture.runs.length > 0 ? [`by form alone ${say("power_w", readout.form)}`] : []),
              `formula ${say("power_w", readout.formula)}`,
            ]}
          />
        </g>
      )}
    </Readable>
  );
}

/** How far under its mark the plan's name stands: a line lower where a line of sun has its name. */
function planUnder(mark: number, across: number, names: number[]): number {
  const taken = (under: number) =>
    across < MARGIN.left + NAMES_END && names.some((name) => Math.abs(name - mark - under) < LINE);
  return [18, 18 + LINE, 18 + 2 * LINE].find((under) => !taken(under)) ?? 18;
}
