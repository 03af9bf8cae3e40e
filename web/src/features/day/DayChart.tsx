import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import { type KeyboardEvent, useId } from "react";
import type { DayPicture, Spell } from "../../api/client";
import { useUnits } from "../../app/preferences";
import { dragX, keyStep } from "../../shared/chart/drag";
import { useSize } from "../../shared/chart/useSize";
import { SunMark } from "../../shared/ui/Mark";
import { clockText, shown } from "../../shared/units";

const MARGIN = { left: 58, right: 14, top: 34, bottom: 26 };
const LANE_HEIGHT = 96;
const LANE_GAP = 30;
const FILLS = ["var(--sun)", "var(--dog)", "var(--dog-far)"];
const STEPS = 144;

export interface SpellEdge {
  spell: number;
  edge: "starts_at" | "ends_at";
}

interface Props {
  picture: DayPicture;
  spells: Spell[]; // as set, ahead of the picture while they are dragged
  stale: boolean;
  cursor: number; // steps from the start of the day
  onCursor: (index: number) => void;
  onEdge: (edge: SpellEdge, clockMin: number) => void;
  onMove: (spell: number, byMin: number) => void;
}

/** The local clock at a place on the axis. */
export function clockAt(picture: DayPicture, index: number): number {
  const step = Math.min(Math.max(Math.floor(index), 0), STEPS - 1);
  return ((picture.clock_min[step] ?? 0) + (index - step) * 10) % 1440;
}

/** Sky above, water below: the harvest rises over the waterline, use hangs below, the bank runs under both. */
export function DayChart({ picture, spells, stale, cursor, onCursor, onEdge, onMove }: Props) {
  const units = useUnits();
  const id = useId();
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const sums = stacked(picture);
  const up = Math.max(...(sums.at(-1) ?? [0]), ...picture.clear_w, 50);
  const down = Math.max(...picture.house_w.map((w, i) => w + (picture.motor_w[i] ?? 0)), 0.3 * up);
  const right = Math.max(width - MARGIN.right, MARGIN.left + 1);
  const laneTop = height - MARGIN.bottom - LANE_HEIGHT;
  const x = scaleLinear([0, STEPS], [MARGIN.left, right]);
  const y = scaleLinear(
    [up * 1.04, -down * 1.06],
    [MARGIN.top, Math.max(laneTop - LANE_GAP, MARGIN.top + 1)],
  );
  const s = scaleLinear([1, 0], [laneTop, height - MARGIN.bottom]);
  const soc = picture.soc;
  const middle = (i: number) => x(i + 0.5);
  const ticks = y.ticks(7).filter((w) => w !== 0);
  const at = Math.min(Math.max(cursor, 0), STEPS - 1e-6);
  const step = Math.floor(at);
  const wasted = picture.thrown_away_w.some((w) => w > 1);
  const total = sums.at(-1) ?? new Array<number>(STEPS).fill(0);

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
            <pattern
              id={`${id}hatch`}
              width="6"
              height="6"
              patternUnits="userSpaceOnUse"
              patternTransform="rotate(45)"
            >
              <rect width="6" height="6" fill="var(--mist)" fillOpacity="0.35" />
              <line x1="0" x2="0" y1="0" y2="6" stroke="var(--ink)" strokeWidth="1.4" />
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
              <line
                x1={x(tick.index)}
                x2={x(tick.index)}
                y1={MARGIN.top}
                y2={height - MARGIN.bottom}
                stroke="var(--hairline)"
                strokeWidth="0.7"
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
          {ticks.map((watts) => (
            <g key={watts}>
              <line
                x1={MARGIN.left}
                x2={right}
                y1={y(watts)}
                y2={y(watts)}
                stroke="var(--hairline)"
                strokeWidth="0.7"
              />
              <text className="chart-text" x={MARGIN.left - 7} y={y(watts) + 4} textAnchor="end">
                {shown({ quantity: "power_w", value: Math.abs(watts), signed: false }, units)}
              </text>
            </g>
          ))}
          {picture.groups.map((group, g) => (
            <path
              key={group.id}
              fill={FILLS[g % FILLS.length]}
              stroke="var(--sun-edge)"
              strokeWidth="0.8"
              data-harvest
              d={
                area<number>()
                  .x((_, i) => middle(i))
                  .y0((_, i) => y(g === 0 ? 0 : (sums[g - 1]?.[i] ?? 0)))
                  .y1((w) => y(w))(sums[g] ?? []) ?? ""
              }
            />
          ))}
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
            fill="none"
            stroke="var(--sun-edge)"
            strokeWidth="1.5"
            strokeDasharray="5 4"
            d={
              line<number>()
                .x((_, i) => middle(i))
                .y((w) => y(w))(picture.clear_w) ?? ""
            }
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
          <line x1={MARGIN.left} x2={right} y1={y(0)} y2={y(0)} stroke="var(--ink)" strokeWidth="2.2" />
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
              fill="var(--field)"
              stroke="var(--edge)"
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
                  fill="none"
                  stroke="var(--bank)"
                  strokeWidth="2.4"
                  d={
                    line<number>()
                      .x((_, i) => x(i))
                      .y((w) => s(w))(soc) ?? ""
                  }
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
                <line
                  x1={MARGIN.left}
                  x2={right}
                  y1={s(picture.reserve_frac)}
                  y2={s(picture.reserve_frac)}
                  stroke="var(--alarm)"
                  strokeDasharray="3 4"
                  strokeWidth="1.5"
                />
                <text
                  className="chart-text"
                  x={right - 6}
                  y={s(picture.reserve_frac) + (picture.reserve_frac > 0.6 ? 15 : -5)}
                  textAnchor="end"
                  style={{ fill: "var(--alarm)" }}
                >
                  reserve {shown({ quantity: "fraction", value: picture.reserve_frac, signed: false }, units)}
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

type Scale = ReturnType<typeof scaleLinear<number, number>>;

function stacked(picture: DayPicture): number[][] {
  const sums: number[][] = [];
  for (const group of picture.groups) {
    const below = sums.at(-1);
    sums.push(group.power_w.map((w, i) => w + (below?.[i] ?? 0)));
  }
  return sums;
}

/** A stepped band hanging from the waterline. */
function steps(outer: number[], inner: number[], x: Scale, y: Scale): string {
  const there = outer.flatMap((w, i) => [`${x(i)},${y(-w)}`, `${x(i + 1)},${y(-w)}`]);
  const back = inner.flatMap((w, i) => [`${x(i)},${y(-w)}`, `${x(i + 1)},${y(-w)}`]).reverse();
  return `M${there.join("L")}L${back.join("L")}Z`;
}

/** Where a label stands freest inside the harvest: the highest floor around it, away from the cursor. */
function clearest(total: number[], cursor: number): number {
  const floor = (at: number) => Math.min(...total.slice(Math.max(at - 7, 0), at + 8));
  const score = (at: number) => (Math.abs(at - cursor) < 11 ? -1 : floor(at));
  return total.reduce((best, _, at) => (score(at) > score(best) ? at : best), 0);
}

/** The motor under the house: bars as long as the motor runs, not as the steps that hold them. */
function motorBars(picture: DayPicture, x: Scale, y: Scale): string {
  const bars: string[] = [];
  for (const { start, end } of picture.motoring) {
    for (let step = Math.floor(start); step < end; step++) {
      const [from, to] = [Math.max(step, start), Math.min(step + 1, end)];
      const top = picture.house_w[step] ?? 0;
      const watts = (picture.motor_w[step] ?? 0) / Math.max(to - from, 1e-6);
      if (watts > 0) bars.push(`M${x(from)},${y(-top)}H${x(to) + 0.4}V${y(-top - watts)}H${x(from)}Z`);
    }
  }
  return bars.join("");
}

function Labels({
  picture,
  x,
  y,
  total,
  wasted,
  right,
  cursor,
}: {
  cursor: number;
  picture: DayPicture;
  x: Scale;
  y: Scale;
  total: number[];
  wasted: boolean;
  right: number;
}) {
  const first = picture.motoring[0];
  const wasteAt = picture.thrown_away_w.reduce(
    (best, w, i) => (w > (picture.thrown_away_w[best] ?? 0) ? i : best),
    0,
  );
  const halo = { stroke: "var(--mist)", strokeWidth: 3.5, paintOrder: "stroke" as const };
  const main = picture.groups[0];
  const roomy = right - MARGIN.left > 420;
  const label = main ? clearest(total, cursor) : 0;
  return (
    <g pointerEvents="none">
      {picture.groups.length === 0 && (
        <text className="chart-text" x={(x(0) + right) / 2} y={y(0) - 40} textAnchor="middle">
          no panels yet: add some on the bench
        </text>
      )}
      {main && (roomy || !wasted) && y(0) - y(total[label] ?? 0) > 26 && (
        <text className="chart-label" x={x(label)} y={y(0) - 10} textAnchor="middle" fill="#3a2a00">
          {picture.groups.length > 1 ? `${main.name} and ${picture.groups.length - 1} more` : main.name}
        </text>
      )}
      {roomy && Math.max(...picture.clear_w) > 0 && (
        <text
          className="chart-label"
          x={right - 4}
          y={MARGIN.top + 12}
          textAnchor="end"
          fill="var(--sun-text)"
          {...halo}
        >
          dashed: clear sky would give
        </text>
      )}
      {wasted && (
        <text
          className="chart-label"
          x={x(wasteAt)}
          y={y(0) - 28}
          textAnchor="middle"
          fill="var(--ink)"
          {...halo}
        >
          thrown away
        </text>
      )}
      {picture.house_w.some((w) => w > 0) && (
        <text
          className="chart-label"
          x={x(1.5)}
          y={y(-Math.max(...picture.house_w.slice(0, 14))) + 15}
          fill="var(--house-text)"
          {...halo}
        >
          house
        </text>
      )}
      {first && x(first.end) - x(first.start) > 84 && picture.motor_w.some((w) => w > 0) && (
        <text
          className="chart-label"
          x={(x(first.start) + x(first.end)) / 2}
          y={y(-(picture.motor_w[Math.floor((first.start + first.end) / 2)] ?? 0) / 2) + 5}
          textAnchor="middle"
          fill="#ffffff"
        >
          propulsion
        </text>
      )}
    </g>
  );
}

function Spells({
  picture,
  spells,
  x,
  y,
  onEdge,
  onMove,
}: Pick<Props, "picture" | "spells" | "onEdge" | "onMove"> & { x: Scale; y: Scale }) {
  const top = y(0);
  return (
    <g>
      {spells.map((spell, index) => {
        const start = minutesOf(spell.starts_at);
        const end = minutesOf(spell.ends_at);
        const [a, b] = [indexOf(picture, start), indexOf(picture, end)];
        const nudge = (edge: SpellEdge["edge"], from: number) => (event: KeyboardEvent) => {
          const step = keyStep(event.key);
          if (!step) return;
          event.preventDefault();
          onEdge({ spell: index, edge }, (from + step * 10 + 1440) % 1440);
        };
        const name = `Motoring spell ${index + 1}`;
        return (
          <g key={`${index}-${spells.length}`}>
            {b > a && (
              <rect
                x={x(a)}
                y={top + 3}
                width={x(b) - x(a)}
                height="24"
                fill="transparent"
                className="cursor-grab"
                style={{ touchAction: "none" }}
                onPointerDown={(event) => {
                  let from =
                    event.clientX - (event.currentTarget.ownerSVGElement?.getBoundingClientRect().left ?? 0);
                  dragX(event, (px) => {
                    const by = Math.round(((x.invert(px) - x.invert(from)) * 10) / 10) * 10;
                    if (by === 0) return;
                    onMove(index, by);
                    from = px;
                  });
                }}
              />
            )}
            {(
              [
                ["starts_at", a, start],
                ["ends_at", b, end],
              ] as const
            ).map(([edge, at, clock]) => (
              <g key={edge} transform={`translate(${x(at)} ${top})`}>
                <rect
                  x="-5"
                  y="-9"
                  width="10"
                  height="26"
                  rx="4"
                  fill="var(--field)"
                  stroke="var(--water-text)"
                  strokeWidth="2"
                  className="cursor-ew-resize"
                  style={{ touchAction: "none" }}
                  tabIndex={0}
                  role="slider"
                  aria-label={`${name} ${edge === "starts_at" ? "starts" : "ends"}`}
                  aria-valuemin={0}
                  aria-valuemax={1439}
                  aria-valuenow={clock}
                  aria-valuetext={clockText(clock)}
                  onKeyDown={nudge(edge, clock)}
                  onPointerDown={(event) =>
                    dragX(event, (px) =>
                      onEdge(
                        { spell: index, edge },
                        (Math.round(
                          clockAt(picture, Math.min(Math.max(x.invert(px), 0), STEPS - 0.01)) / 10,
                        ) *
                          10) %
                          1440,
                      ),
                    )
                  }
                />
              </g>
            ))}
          </g>
        );
      })}
    </g>
  );
}

export function minutesOf(clock: string): number {
  const [hours = 0, minutes = 0] = clock.split(":").map(Number);
  return hours * 60 + minutes;
}

/** Where a local clock time stands on the axis. */
export function indexOf(picture: DayPicture, clockMin: number): number {
  const first = picture.clock_min[0] ?? 0;
  return ((clockMin - first + 1440) % 1440) / 10;
}

function Cursor({
  picture,
  x,
  at,
  step,
  total,
  onCursor,
  height,
  right,
}: {
  picture: DayPicture;
  x: Scale;
  at: number;
  step: number;
  total: number[];
  onCursor: (index: number) => void;
  height: number;
  right: number;
}) {
  const units = useUnits();
  const clock = clockText(clockAt(picture, at));
  const out = (picture.house_w[step] ?? 0) + (picture.motor_w[step] ?? 0);
  const soc = picture.soc?.[step + 1];
  const before = picture.soc?.[step] ?? 0;
  const power = (value: number) => shown({ quantity: "power_w", value, signed: false }, units);
  const elevation = picture.elevation_deg[step] ?? 0;
  const sunText = elevation > 0 ? `sun ${Math.round(elevation)}° up` : "sun down";
  const lines = [`${clock} · ${sunText}`, `in ${power(total[step] ?? 0)}   out ${power(out)}`];
  if (soc !== undefined) {
    const trend = Math.abs(soc - before) < 1e-5 ? "steady" : soc > before ? "filling" : "emptying";
    lines.push(`bank ${shown({ quantity: "fraction", value: soc, signed: false }, units)}, ${trend}`);
  }
  const left = x(at) + 184 > right ? Math.max(x(at) - 178, MARGIN.left + 4) : x(at) + 10;
  const boxTop = height - MARGIN.bottom - LANE_HEIGHT - LANE_GAP - lines.length * 19 - 22;
  return (
    <g>
      <line
        x1={x(at)}
        x2={x(at)}
        y1={MARGIN.top - 8}
        y2={height - MARGIN.bottom}
        stroke="var(--ink)"
        strokeWidth="1.3"
        pointerEvents="none"
      />
      <g pointerEvents="none" transform={`translate(${left} ${boxTop})`}>
        <rect width="168" height={lines.length * 19 + 12} rx="4" fill="var(--ink)" />
        {lines.map((text, i) => (
          <text
            key={text}
            x="10"
            y={20 + i * 19}
            fontSize="13"
            fontWeight={i === 0 ? 700 : 400}
            fill="var(--mist)"
          >
            {text}
          </text>
        ))}
      </g>
      <g
        transform={`translate(${x(at)} ${MARGIN.top - 16})`}
        tabIndex={0}
        role="slider"
        aria-label="Time of day"
        aria-valuemin={0}
        aria-valuemax={STEPS}
        aria-valuenow={Math.round(at)}
        aria-valuetext={lines.join(", ")}
        className="cursor-ew-resize"
        style={{ touchAction: "none" }}
        onPointerDown={(event) =>
          dragX(event, (px) => onCursor(Math.min(Math.max(x.invert(px), 0), STEPS - 0.01)))
        }
        onKeyDown={(event) => {
          const by = keyStep(event.key);
          if (!by) return;
          event.preventDefault();
          onCursor(Math.min(Math.max(at + by, 0), STEPS - 0.01));
        }}
      >
        <rect x="-24" y="-15" width="48" height="30" fill="transparent" />
        <SunMark x={0} y={0} r={8} />
      </g>
    </g>
  );
}
