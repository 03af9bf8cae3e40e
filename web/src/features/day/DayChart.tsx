import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import { useId } from "react";
import type { DayPicture, Spell } from "../../api/client";
import { Rows } from "../../kit/chart/axes";
import { Level, Upright } from "../../kit/chart/lines";
import { useSize } from "../../kit/chart/useSize";
import { useSay } from "../../kit/preferences";
import { clockText } from "../../kit/units";
import { Cursor, type SpellHandlers, Spells } from "./DayHandles";
import { Labels } from "./DayLabels";
import { frameOf, LANE_GAP, LANE_HEIGHT, MARGIN, motorBars, stacked, steps } from "./dayAxis";

const FILLS = ["var(--sun)", "var(--dog)", "var(--dog-far)"];

interface Props extends SpellHandlers {
  picture: DayPicture;
  spells: Spell[]; // as set, ahead of the picture while they are dragged
  stale: boolean;
  cursor: number; // steps from the start of the day
  onCursor: (index: number) => void;
}

/** Sky above, water below: the harvest rises over the waterline, use hangs below, the bank runs under both. */
export function DayChart({ picture, spells, stale, cursor, onCursor, onEdge, onMove }: Props) {
  const say = useSay();
  const id = useId();
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const sums = stacked(picture);
  const up = Math.max(...(sums.at(-1) ?? [0]), ...picture.clear_w, 50);
  const down = Math.max(...picture.house_w.map((w, i) => w + (picture.motor_w[i] ?? 0)), 0.3 * up);
  const right = Math.max(width - MARGIN.right, MARGIN.left + 1);
  const laneTop = height - MARGIN.bottom - LANE_HEIGHT;
  const whole = frameOf(picture).steps;
  const x = scaleLinear([0, whole], [MARGIN.left, right]);
  const y = scaleLinear(
    [up * 1.04, -down * 1.06],
    [MARGIN.top, Math.max(laneTop - LANE_GAP, MARGIN.top + 1)],
  );
  const s = scaleLinear([1, 0], [laneTop, height - MARGIN.bottom]);
  const soc = picture.soc;
  const middle = (i: number) => x(i + 0.5);
  const ticks = y.ticks(7).filter((w) => w !== 0);
  const watts = ticks.map((w) => [y(w), say("power_w", Math.abs(w))] as const);
  const at = Math.min(Math.max(cursor, 0), whole - 1e-6);
  const step = Math.floor(at);
  const wasted = picture.thrown_away_w.some((w) => w > 1);
  const total = sums.at(-1) ?? new Array<number>(whole).fill(0);

  return (
    <div ref={box} className={`h-full min-h-0 transition-opacity duration-150 ${stale ? "opacity-75" : ""}`}>
      {width > 0 && (
        <svg
          width={width}
          height={height}
          role="group"
          aria-label="The day's harvest above the waterline, use below, and the bank"
        >
          <defs>
            <pattern id={`${id}dots`} width="7" height="7" patternUnits="userSpaceOnUse">
              <rect width="7" height="7" fill="var(--mist)" />
              <circle cx="2" cy="2" r="1.3" fill="var(--water)" />
            </pattern>
            <pattern
              id={`${id}hatch`}
              width="6"
              height="6"
              patternUnits="userSpaceOnUse"
              patternTransform="rotate(45)"
            >
              <rect width="6" height="6" fill="var(--mist)" fillOpacity="0.35" />
              <Upright x={0} y1="0" y2="6" stroke="var(--ink)" strokeWidth="1.4" />
            </pattern>
          </defs>
          {picture.sunset_index != null && (
            <rect
              x={x(picture.sunset_index)}
              y={MARGIN.top}
              width={Math.max(right - x(picture.sunset_index), 0)}
              height={height - MARGIN.top - MARGIN.bottom}
              fill="var(--night)"
            />
          )}
          {picture.ticks?.map((tick) => (
            <g key={tick.index}>
              <Upright
                x={x(tick.index)}
                y1={MARGIN.top}
                y2={height - MARGIN.bottom}
                className="stroke-hairline stroke-[0.7]"
              />
              {x(tick.index) < right - 14 &&
                x(tick.index) > MARGIN.left + 6 &&
                (tick.clock_min / 60) % (width < 480 ? 4 : 2) === 0 && (
                  <text className="chart-text" x={x(tick.index)} y={height - 8} textAnchor="middle">
                    {clockText(tick.clock_min)}
                  </text>
                )}
            </g>
          ))}
          <Rows of={watts} left={MARGIN.left} right={right} />
          {picture.groups.map((group, g) => (
            <path
              key={group.id}
              fill={FILLS[g % FILLS.length]}
              data-harvest
              d={
                area<number>()
                  .x((_, i) => middle(i))
                  .y0((_, i) => y(g === 0 ? 0 : (sums[g - 1]?.[i] ?? 0)))
                  .y1((w) => y(w))(sums[g] ?? []) ?? ""
              }
              className="stroke-sun-edge stroke-[0.8]"
            />
          ))}
          {picture.others.map((other, k) => {
            const g = picture.groups.length + k;
            return (
              <path
                key={other.kind}
                fill={`url(#${id}dots)`}
                data-other={other.kind}
                d={
                  area<number>()
                    .x((_, i) => middle(i))
                    .y0((_, i) => y(g === 0 ? 0 : (sums[g - 1]?.[i] ?? 0)))
                    .y1((w) => y(w))(sums[g] ?? []) ?? ""
                }
                className="stroke-ink stroke-[0.8]"
              />
            );
          })}
          {wasted && (
            <path
              fill={`url(#${id}hatch)`}
              data-wasted
              d={
                area<number>()
                  .x((_, i) => middle(i))
                  .y0((w, i) => y(Math.max((total[i] ?? 0) - w, 0)))
                  .y1((_, i) => y(total[i] ?? 0))(picture.thrown_away_w) ?? ""
              }
            />
          )}
          <path
            d={
              line<number>()
                .x((_, i) => middle(i))
                .y((w) => y(w))(picture.clear_w) ?? ""
            }
            className="fill-none stroke-sun-edge stroke-[1.5] [stroke-dasharray:5_4]"
          />
          <path
            fill="var(--house)"
            d={steps(
              picture.house_w,
              picture.house_w.map(() => 0),
              x,
              y,
            )}
          />
          <path fill="var(--water)" data-motor d={motorBars(picture, x, y)} />
          <Level y={y(0)} x1={MARGIN.left} x2={right} stroke="var(--ink)" strokeWidth="2.2" />
          <Labels picture={picture} x={x} y={y} total={total} wasted={wasted} right={right} cursor={at} />
          <Spells {...{ picture, spells, x, y, onEdge, onMove }} />
          <g data-bank>
            <text className="chart-label" x={MARGIN.left} y={laneTop - 9} fill="var(--ink)">
              In the bank
              <tspan dx="10" fontWeight="400" fill="var(--muted)">
                {soc
                  ? width < 480
                    ? "band: 8 of 10 such days"
                    : "line: this day · band: 8 of 10 such days"
                  : "no bank aboard"}
              </tspan>
            </text>
            <rect
              x={MARGIN.left}
              y={laneTop}
              width={right - MARGIN.left}
              height={LANE_HEIGHT}
              className="fill-field stroke-edge"
            />
            {soc && picture.soc_low && picture.soc_high && (
              <>
                <path
                  fill="var(--bank-soft)"
                  d={
                    area<number>()
                      .x((_, i) => x(i))
                      .y0((w) => s(w))
                      .y1((_, i) => s(picture.soc_high?.[i] ?? 0))(picture.soc_low) ?? ""
                  }
                />
                <path
                  d={
                    line<number>()
                      .x((_, i) => x(i))
                      .y((w) => s(w))(soc) ?? ""
                  }
                  className="fill-none stroke-bank stroke-[2.4]"
                />
              </>
            )}
            {[1, 0.5, 0].map((share) => (
              <text
                key={share}
                className="chart-text"
                x={MARGIN.left - 7}
                y={s(share) + (share === 1 ? 10 : share === 0 ? 0 : 4)}
                textAnchor="end"
              >
                {share * 100} %
              </text>
            ))}
            {picture.reserve_frac != null && (
              <>
                <Level
                  y={s(picture.reserve_frac)}
                  x1={MARGIN.left}
                  x2={right}
                  className="stroke-alarm stroke-[1.5] [stroke-dasharray:3_4]"
                />
                <text
                  className="chart-text"
                  x={right - 6}
                  y={s(picture.reserve_frac) + (picture.reserve_frac > 0.6 ? 15 : -5)}
                  textAnchor="end"
                  style={{ fill: "var(--alarm)" }}
                >
                  reserve {say("fraction", picture.reserve_frac)}
                </text>
              </>
            )}
          </g>
          <Cursor {...{ picture, x, at, step, total, onCursor, height, right }} />
        </svg>
      )}
    </div>
  );
}
