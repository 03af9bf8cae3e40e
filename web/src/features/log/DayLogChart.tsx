import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import { useId } from "react";
import type { LogDay } from "../../api/client";
import { Rows } from "../../kit/chart/axes";
import { Level, Upright } from "../../kit/chart/lines";
import { useSize } from "../../kit/chart/useSize";
import { useSay, useUnits } from "../../kit/preferences";
import { clockText, told } from "../../kit/units";

const MARGIN = { left: 58, right: 20, top: 22, foot: 20 };
const LANE = 62;
const GAP = 24;
const LINE = 16; // of words
const SHARES = [1.3, 0] as const;

type Series = (number | null)[];

/** Sky above, water below, as modelled and as read; the share of what the sky gave; the bank. */
export function DayLogChart({ day }: { day: LogDay }) {
  const say = useSay();
  const units = useUnits();
  const id = useId();
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const right = Math.max(width - MARGIN.right, MARGIN.left + 1);
  const bankTop = height - MARGIN.foot - LANE;
  const shareTop = bankTop - GAP - LANE;
  const x = scaleLinear([day.from_min, day.to_min], [MARGIN.left, right]);
  const y = scaleLinear(
    [day.top_w, -Math.max(day.bottom_w, 0.2 * day.top_w)],
    [MARGIN.top + Math.min(day.told.length, 3) * LINE, Math.max(shareTop - GAP, MARGIN.top + 1)],
  );
  const share = scaleLinear([...SHARES], [shareTop, shareTop + LANE]);
  const soc = scaleLinear([1, 0], [bankTop, bankTop + LANE]);
  const at = (i: number) => x(day.minutes[i] ?? 0);
  const path = (series: Series, place: (value: number) => number) =>
    line<number | null>()
      .defined((v) => v !== null)
      .x((_, i) => at(i))
      .y((v) => place(v ?? 0))(series) ?? "";
  const between = (low: Series, high: Series, place: (value: number) => number) =>
    area<number | null>()
      .defined((v) => v !== null)
      .x((_, i) => at(i))
      .y0((_, i) => place(low[i] ?? 0))
      .y1((v) => place(v ?? 0))(high) ?? "";
  const wide = (right - MARGIN.left) / Math.max(day.minutes.length, 1);
  const hours = Array.from({ length: 49 }, (_, h) => h * 60).filter(
    (m) => m >= day.from_min && m <= day.to_min && (m / 60) % (width < 480 ? 4 : 2) === 0,
  );
  const ticks = y.ticks(6).filter((w) => w !== 0);
  const boxes = new Map(day.boxes.map((one, i) => [one.key, i]));
  const shapeOf = (of: string | null | undefined) => boxes.get(of ?? "") ?? 0;
  return (
    <div ref={box} className="h-full min-h-0">
      {width > 0 && height > 0 && (
        <svg
          width={width}
          height={height}
          role="img"
          aria-label="The day as it went: harvest above the waterline, use below, shares and the bank"
        >
          <defs>
            <pattern
              id={`${id}hatch`}
              width="6"
              height="6"
              patternUnits="userSpaceOnUse"
              patternTransform="rotate(45)"
            >
              <Upright x={0} y1="0" y2="6" stroke="var(--ink)" strokeWidth="1.4" />
            </pattern>
          </defs>
          {hours.map((m) => (
            <g key={m}>
              <Upright
                x={x(m)}
                y1={MARGIN.top}
                y2={bankTop + LANE}
                className="stroke-hairline stroke-[0.7]"
              />
              <text className="chart-text" x={x(m)} y={height - 5} textAnchor="middle">
                {clockText(m % 1440)}
              </text>
            </g>
          ))}
          {day.skies.map((sky) => (
            <g key={sky.from_min}>
              {x(sky.to_min) - x(sky.from_min) > 34 && (
                <text
                  className="chart-text"
                  x={(x(sky.from_min) + x(sky.to_min)) / 2}
                  y="12"
                  textAnchor="middle"
                >
                  {sky.noted ? sky.label : `${sky.label}?`}
                </text>
              )}
              {sky.from_min > day.from_min && (
                <Upright x={x(sky.from_min)} y1="2" y2="16" className="stroke-muted stroke-1" />
              )}
            </g>
          ))}
          <Rows
            of={ticks.map((w) => [y(w), say("power_w", Math.abs(w))] as const)}
            left={MARGIN.left}
            right={right}
          />
          <path
            d={between(
              day.minutes.map(() => 0),
              day.harvested_w,
              y,
            )}
            fill="var(--dog-far)"
            data-harvest
          />
          <path d={between(day.low_w, day.high_w, y)} fill="var(--dog)" fillOpacity="0.8" data-band />
          {day.thrown_w.some((w) => (w ?? 0) > 1) && (
            <path
              d={between(
                day.modelled_w.map((w, i) => Math.max((w ?? 0) - (day.thrown_w[i] ?? 0), 0)),
                day.modelled_w.map((w, i) => ((day.thrown_w[i] ?? 0) > 1 ? w : null)),
                y,
              )}
              fill={`url(#${id}hatch)`}
              data-thrown
            />
          )}
          <path
            d={path(day.modelled_w, y)}
            className="fill-none stroke-sun-edge stroke-[1.8]"
            data-modelled
          />
          {day.minutes.map((m, i) => (
            <g key={m}>
              <rect
                x={at(i) - wide / 2}
                y={y(0)}
                width={wide + 0.5}
                height={y(-(day.house_w[i] ?? 0)) - y(0)}
                fill="var(--house)"
              />
              <rect
                x={at(i) - wide / 2}
                y={y(-(day.house_w[i] ?? 0))}
                width={wide + 0.5}
                height={y(-(day.motor_model_w[i] ?? 0)) - y(0)}
                fill="var(--water)"
              />
            </g>
          ))}
          {day.speeds
            .filter((span) => x(span.to_min) - x(span.from_min) > 44)
            .map((span) => (
              <text
                key={span.from_min}
                className="chart-text font-bold"
                x={(x(span.from_min) + x(span.to_min)) / 2}
                y={y(0) + 16}
                textAnchor="middle"
                style={{ fill: "var(--mist)" }}
              >
                {say("speed_mps", span.speed_mps)}
              </text>
            ))}
          <Level y={y(0)} x1={MARGIN.left} x2={right} stroke="var(--ink)" strokeWidth="2.2" />
          {day.pv.map((mark) => (
            <Ring key={`p${mark.minute}`} cx={x(mark.minute)} cy={y(mark.value)} many={day.pv.length > 60} />
          ))}
          {day.motor.map((mark) => (
            <Ring
              key={`m${mark.minute}`}
              cx={x(mark.minute)}
              cy={y(-mark.value - (day.house_w[0] ?? 0))}
              many={day.motor.length > 60}
            />
          ))}
          <Lane top={shareTop} left={MARGIN.left} right={right} title="Read, as a share of what the sky gave">
            <Rows
              of={[
                [share(1), "100 %"],
                [share(0.5), "50 %"],
              ]}
              left={MARGIN.left}
              right={right}
            />
            {day.shares.map((mark) => (
              <Share
                key={`${mark.of ?? ""}${mark.minute}`}
                cx={x(mark.minute) + (boxes.size > 1 ? shapeOf(mark.of) * 5 - 2 : 0)}
                cy={share(Math.min(mark.value, SHARES[0]))}
                shape={shapeOf(mark.of)}
                low={mark.low ?? false}
                held={mark.throttled ?? false}
              />
            ))}
          </Lane>
          {boxes.size > 1 && (
            <g>
              {day.boxes.map((one, i) => (
                <g
                  key={one.key}
                  transform={`translate(${MARGIN.left + 262 + (i * (right - MARGIN.left - 262)) / day.boxes.length} ${shareTop - 8})`}
                >
                  <Share cx={0} cy={-3} shape={i} low={false} held={false} />
                  <text className="chart-text" x="9" y="1">
                    {one.name.length > 44 / day.boxes.length
                      ? `${one.name.slice(0, 40 / day.boxes.length)}…`
                      : one.name}
                  </text>
                </g>
              ))}
            </g>
          )}
          <Lane
            top={bankTop}
            left={MARGIN.left}
            right={right}
            title="In the bank"
            terms="line: modelled · rings: read"
          >
            <Rows
              of={[
                [soc(1) + 4, "100 %"],
                [soc(0.5), "50 %"],
              ]}
              left={MARGIN.left}
              right={right}
            />
            <path d={path(day.soc_model, soc)} className="fill-none stroke-bank stroke-[2.2]" data-soc />
            {day.soc.map((mark) => (
              <Ring
                key={`s${mark.minute}`}
                cx={x(mark.minute)}
                cy={soc(Math.min(mark.value, 1))}
                many={day.soc.length > 60}
              />
            ))}
          </Lane>
          {day.told.slice(0, 3).map((one, i) => (
            <text
              key={`${one.from_min}${one.words.text}`}
              className="chart-text font-bold"
              x={MARGIN.left + 6}
              y={MARGIN.top + 12 + i * LINE}
            >
              {told(one.words, units)}
            </text>
          ))}
        </svg>
      )}
    </div>
  );
}

const Ring = ({ cx, cy, many }: { cx: number; cy: number; many: boolean }) => (
  <circle cx={cx} cy={cy} r={many ? 1.8 : 4} className="fill-field stroke-ink stroke-[1.5]" />
);

/** A controller's share: a disc, a diamond, a square; heavier and red where it is below its sky. */
function Share(props: { cx: number; cy: number; shape: number; low: boolean; held: boolean }) {
  const { cx, cy, shape, low, held } = props;
  const paint = `${low ? "stroke-alarm stroke-2" : "stroke-ink stroke-[1.3]"} ${held ? "fill-none" : shape === 0 ? "fill-sun" : "fill-field"}`;
  if (shape === 0) return <circle cx={cx} cy={cy} r="3.6" className={paint} />;
  return (
    <rect
      x={cx - 3.4}
      y={cy - 3.4}
      width="6.8"
      height="6.8"
      transform={shape === 1 ? `rotate(45 ${cx} ${cy})` : undefined}
      className={paint}
    />
  );
}

function Lane(props: {
  top: number;
  left: number;
  right: number;
  title: string;
  terms?: string;
  children: React.ReactNode;
}) {
  const { top, left, right, title, terms, children } = props;
  return (
    <g>
      <text className="chart-label" x={left} y={top - 7} fill="var(--ink)">
        {title}
        {terms && (
          <tspan dx="10" fontWeight="400" fill="var(--muted)">
            {terms}
          </tspan>
        )}
      </text>
      <rect x={left} y={top} width={right - left} height={LANE} className="fill-field stroke-edge" />
      {children}
    </g>
  );
}
