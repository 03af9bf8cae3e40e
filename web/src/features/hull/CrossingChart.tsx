import { scaleLinear, scaleLog } from "d3-scale";
import { area, curveMonotoneX, line } from "d3-shape";
import { type KeyboardEvent, type PointerEvent, useId, useState } from "react";
import type { HullPicture } from "../../api/client";
import { dragX, keyStep } from "../../kit/chart/drag";
import { Readout } from "../../kit/chart/Readout";
import { useSize } from "../../kit/chart/useSize";
import { useSay, useUnits } from "../../kit/preferences";
import { told, unitOf } from "../../kit/units";
import { FormLabel, FormulaLabel, MARGIN, marker, Pills, SunLine } from "./CrossingMarks";

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

  function hover(event: PointerEvent<SVGElement>) {
    const at = x.invert(event.clientX - event.currentTarget.getBoundingClientRect().left);
    setRead(at >= slowest && at <= fastest ? at : null);
  }
  function readKeys(event: KeyboardEvent) {
    const step = keyStep(event.key);
    if (!step) return;
    event.preventDefault();
    const from = read ?? plan.speed;
    setRead(Math.min(Math.max(from + (step * (fastest - slowest)) / 78, slowest), fastest));
  }
  function planKeys(event: KeyboardEvent) {
    const step = keyStep(event.key);
    if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    onPlanSpeed(Math.max(planSpeed + step * 0.1 * speedSize, 0.1 * speedSize));
  }

  return (
    <div ref={box} className={`h-full min-h-0 transition-opacity duration-150 ${stale ? "opacity-75" : ""}`}>
      {width > 0 && (
        <svg
          width={width}
          height={height}
          role="group"
          aria-label="Battery watts over speed. Arrow keys read the curve."
          tabIndex={0}
          onPointerMove={hover}
          onPointerLeave={() => setRead(null)}
          onKeyDown={readKeys}
          onBlur={() => setRead(null)}
        >
          <clipPath id={clip}>
            <rect
              x={MARGIN.left}
              y={MARGIN.top}
              width={Math.max(width - MARGIN.left - MARGIN.right, 0)}
              height={Math.max(bottom - MARGIN.top, 0)}
            />
          </clipPath>
          {powerTicks.map((watts) => (
            <g key={watts}>
              <line
                x1={MARGIN.left}
                x2={width - MARGIN.right}
                y1={y(watts)}
                y2={y(watts)}
                stroke="var(--hairline)"
                strokeWidth="0.8"
              />
              <text className="chart-text" x={MARGIN.left - 8} y={y(watts) + 4} textAnchor="end">
                {say("power_w", watts)}
              </text>
            </g>
          ))}
          {speedTicks.map((speed) => (
            <g key={speed}>
              <line
                x1={x(speed * speedSize)}
                x2={x(speed * speedSize)}
                y1={MARGIN.top}
                y2={bottom}
                stroke="var(--hairline)"
                strokeWidth="0.8"
              />
              <text className="chart-text" x={x(speed * speedSize)} y={height - 10} textAnchor="middle">
                {speed} {speedUnit}
              </text>
            </g>
          ))}
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
              fill="none"
              stroke="var(--muted)"
              strokeWidth="1.6"
              strokeDasharray="6 5"
              data-formula
            />
            {picture.runs.length > 0 && (
              <path
                d={curve.y((p) => y(p.form))(points) ?? ""}
                fill="none"
                stroke="var(--water)"
                strokeWidth="1.5"
                strokeDasharray="1.5 4"
                data-form
              />
            )}
            <path
              d={curve.y((p) => y(p.power))(points) ?? ""}
              fill="none"
              stroke="var(--water)"
              strokeWidth="3"
              data-curve
            />
            <line
              x1={x(picture.hull_speed_mps)}
              x2={x(picture.hull_speed_mps)}
              y1={MARGIN.top}
              y2={bottom}
              stroke="var(--alarm)"
              strokeDasharray="2 4"
              strokeWidth="1.5"
            />
            {picture.rated_power_w < high && (
              <line
                x1={MARGIN.left}
                x2={width - MARGIN.right}
                y1={y(picture.rated_power_w)}
                y2={y(picture.rated_power_w)}
                stroke="var(--muted)"
                strokeDasharray="1 4"
                strokeWidth="1.5"
              />
            )}
          </g>
          <text
            className="chart-text"
            x={x(picture.hull_speed_mps) - 7}
            y={bottom - 46}
            textAnchor="end"
            style={{ fill: "var(--alarm)" }}
          >
            hull speed {say("speed_mps", picture.hull_speed_mps)}
          </text>
          {picture.rated_power_w < high && (
            <text
              className="chart-text"
              x={width - MARGIN.right - 4}
              y={y(picture.rated_power_w) + 16}
              textAnchor="end"
            >
              most the drive takes
            </text>
          )}
          {picture.runs.length > 0 && <FormLabel points={points} x={x} y={y} />}
          <FormulaLabel points={points} x={x} y={y} top={MARGIN.top} />
          {lines.map((item) => (
            <SunLine
              below={lines.some((other) => {
                const gap = y(item.power_w) - y(other.power_w);
                return other !== item && gap >= 0 && gap < 20;
              })}
              key={item.key}
              item={item}
              cross={{ x: x(item.speed_mps), y: y(item.power_w) }}
              bottom={bottom}
              label={told(item.label, units)}
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
              stroke="var(--ink)"
              strokeWidth="2"
              strokeDasharray={run.both_ways ? undefined : "2.5 2"}
              data-run
            />
          ))}
          <g transform={`translate(${x(plan.speed)} ${y(plan.power)})`}>
            <rect
              x="-7"
              y="-7"
              width="14"
              height="14"
              transform="rotate(45)"
              fill="var(--field)"
              stroke="var(--water)"
              strokeWidth="3"
              tabIndex={0}
              role="slider"
              className="cursor-ew-resize"
              style={{ touchAction: "none" }}
              aria-label="Planned speed"
              aria-valuenow={Number((plan.speed / speedSize).toFixed(1))}
              aria-valuemin={0}
              aria-valuemax={Number((fastest / speedSize).toFixed(1))}
              aria-valuetext={say("speed_mps", plan.speed)}
              onKeyDown={planKeys}
              onPointerDown={(event) =>
                dragX(event, (px) =>
                  onPlanSpeed(
                    Math.round(Math.min(Math.max(x.invert(px), 0.1), fastest) / speedSize / 0.05) *
                      0.05 *
                      speedSize,
                  ),
                )
              }
            />
            <text className="chart-text" x="14" y="18" style={{ fill: "var(--water-text)", fontWeight: 650 }}>
              you plan {say("speed_mps", plan.speed)}, {say("power_w", plan.power)}
            </text>
          </g>
          {readout && (
            <g pointerEvents="none">
              <line
                x1={x(readout.speed)}
                x2={x(readout.speed)}
                y1={MARGIN.top}
                y2={bottom}
                stroke="var(--ink)"
                strokeWidth="1"
              />
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
        </svg>
      )}
      <p className="sr-only" aria-live="polite">
        {readout && `${say("speed_mps", readout.speed)} takes ${say("power_w", readout.power)}`}
      </p>
    </div>
  );
}
