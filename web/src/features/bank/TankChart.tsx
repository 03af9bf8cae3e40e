import { type KeyboardEvent, type PointerEvent, useId, useState } from "react";
import type { BankPicture, Tank } from "../../api/client";
import { keyStep } from "../../kit/chart/drag";
import { Level, Upright } from "../../kit/chart/lines";
import { Readout } from "../../kit/chart/Readout";
import { spread } from "../../kit/chart/spread";
import { useSize } from "../../kit/chart/useSize";
import { useSay } from "../../kit/preferences";

const HEIGHT = 276;
const TOP = 26;
const BOTTOM = 22;
const INSIDE = HEIGHT - TOP - BOTTOM;
const BESIDE_FROM = 560; // narrower, two tanks stand one under the other
const NEAR_MARK = 0.06; // of the charge: the half mark gives way to a mark this near
const FILLS: Record<string, string> = {
  motor: "var(--water)",
  essential: "var(--house)",
  other: "var(--house)",
};

type Take = BankPicture["takes"][number];

/** Each bank as a tank: usable window, reserve and level; beside it what a day takes, on the same scale. */
export function TankChart({ picture }: { picture: BankPicture }) {
  const [box, { width }] = useSize<HTMLDivElement>();
  const beside = width >= BESIDE_FROM;
  const share = beside ? width / Math.max(picture.tanks.length, 1) : width;
  return (
    <div ref={box} className={beside ? "flex" : "flex flex-col gap-3"} style={{ minHeight: HEIGHT }}>
      {width > 0 &&
        picture.tanks.map((tank) => (
          <OneTank
            key={tank.id}
            tank={tank}
            takes={picture.takes.filter((take) => take.bank_id === tank.id)}
            level={picture.start_charge_frac}
            width={share}
          />
        ))}
    </div>
  );
}

function OneTank({ tank, takes, level, width }: { tank: Tank; takes: Take[]; level: number; width: number }) {
  const id = useId();
  const [read, setRead] = useState<number | null>(null);
  const say = useSay();
  const wide = width > 520;
  const left = wide ? 66 : 48;
  const body = wide ? 168 : 92;
  const right = left + body;
  const y = (charge: number) => TOP + (1 - charge) * INSIDE;
  const marks = tank.marks.filter(
    (mark) =>
      mark.soc_frac !== null &&
      (mark.label !== "half" ||
        !tank.marks.some(
          (other) =>
            other !== mark &&
            other.soc_frac !== null &&
            Math.abs(other.soc_frac - (mark.soc_frac ?? 0)) < NEAR_MARK,
        )),
  );
  const column = right + (wide ? 118 : 74);
  let filled = 0;
  const parts = [...takes]
    .sort((a, b) => b.energy_wh - a.energy_wh)
    .map((take) => {
      const from = filled;
      filled += (take.energy_wh / Math.max(tank.held_wh, 1)) * INSIDE;
      return { take, from, to: filled };
    });
  const scale = filled > INSIDE ? INSIDE / filled : 1;
  const labels = spread(
    parts.map((part) => ({ item: part.take, at: TOP + ((part.from + part.to) / 2) * scale + 4 })),
    wide ? 17 : 30,
    TOP + 10,
    HEIGHT - BOTTOM,
  );
  const summary = `${tank.name}: ${say("energy_wh", tank.working_wh)} from full to the reserve of ${say("fraction", tank.reserve_frac)}; ${takes
    .map((take) => `${take.name} ${say("energy_wh", take.energy_wh)}`)
    .join(", ")}`;

  const reading =
    read === null
      ? null
      : tank.gauge.reduce((a, b) => (Math.abs(b.soc_frac - read) < Math.abs(a.soc_frac - read) ? b : a));
  const lines = reading
    ? [
        `${say("fraction", reading.soc_frac)}: ${say("voltage_v", reading.volts)} at rest`,
        reading.above_reserve_wh >= 0
          ? `${say("energy_wh", reading.above_reserve_wh)} above the reserve`
          : `${say("energy_wh", -reading.above_reserve_wh)} below the reserve`,
      ]
    : [];
  function hover(event: PointerEvent<SVGElement>) {
    const box = event.currentTarget.getBoundingClientRect();
    const charge = 1 - (event.clientY - box.top - TOP) / INSIDE;
    const inside = event.clientX - box.left < right + 60 && charge >= 0 && charge <= 1;
    setRead(inside ? charge : null);
  }
  function keys(event: KeyboardEvent) {
    const step = keyStep(event.key);
    if (!step) return;
    event.preventDefault();
    setRead(Math.min(Math.max((read ?? level) + step * 0.025, 0), 1));
  }

  return (
    <svg
      width={width}
      height={HEIGHT}
      role="group"
      aria-label={`${summary}. Arrow keys read the volts.`}
      data-tank={tank.id}
      tabIndex={0}
      onPointerMove={hover}
      onPointerLeave={() => setRead(null)}
      onKeyDown={keys}
      onBlur={() => setRead(null)}
    >
      <defs>
        <pattern
          id={`${id}hatch`}
          width="7"
          height="7"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <Upright x={0} y1="0" y2="7" stroke="var(--muted)" strokeWidth="1.3" />
        </pattern>
        <clipPath id={`${id}inside`}>
          <path d={vessel(left, right)} />
        </clipPath>
      </defs>
      <text x={left} y="14" fontSize="13.5" fontWeight="700" fill="var(--ink)">
        {tank.name}
        <tspan fontWeight="400" fill="var(--muted)" fontSize="12.5">
          {`  ${tank.chemistry}`}
        </tspan>
      </text>
      <g clipPath={`url(#${id}inside)`}>
        <rect x={left} y={TOP} width={body} height={INSIDE} fill="var(--field)" />
        <rect
          x={left}
          y={y(level)}
          width={body}
          height={Math.max(y(0) - y(level), 0)}
          fill="var(--bank-soft)"
          data-level
        />
        <rect
          x={left}
          y={y(tank.reserve_frac)}
          width={body}
          height={y(0) - y(tank.reserve_frac)}
          data-reserve
          className="fill-dog-far [fill-opacity:0.75]"
        />
        <rect
          x={left}
          y={y(tank.cut_out_frac)}
          width={body}
          height={y(0) - y(tank.cut_out_frac)}
          fill="var(--field)"
        />
        <rect
          x={left}
          y={y(tank.cut_out_frac)}
          width={body}
          height={y(0) - y(tank.cut_out_frac)}
          fill={`url(#${id}hatch)`}
        />
        <path d={wave(left, right, y(level))} fill="none" stroke="var(--bank)" strokeWidth="2.4" />
      </g>
      <path d={vessel(left, right)} fill="none" stroke="var(--ink)" strokeWidth="2.2" />
      <Level
        y={y(tank.reserve_frac)}
        x1={left}
        x2={right}
        className="stroke-alarm stroke-[1.6] [stroke-dasharray:5_3]"
      />
      {[1, tank.reserve_frac, tank.cut_out_frac].map((charge) => (
        <text key={charge} className="chart-text" x={left - 6} y={y(charge) + 4} textAnchor="end">
          {say("fraction", charge)}
        </text>
      ))}
      <text
        className="chart-text"
        x={(left + right) / 2}
        y={y(tank.reserve_frac) - 34}
        textAnchor="middle"
        style={{ fill: "var(--ink)" }}
      >
        <tspan fontSize={wide ? 21 : 16} fontWeight="700">
          {say("energy_wh", tank.working_wh)}
        </tspan>
        <tspan x={(left + right) / 2} dy="17">
          {wide ? "above the reserve" : "above reserve"}
        </tspan>
      </text>
      {y(tank.cut_out_frac) - y(tank.reserve_frac) > 20 && (
        <text
          className="chart-text"
          x={(left + right) / 2}
          y={(y(tank.reserve_frac) + y(tank.cut_out_frac)) / 2 + 4}
          textAnchor="middle"
          style={{ fill: "var(--ink)" }}
        >
          {wide ? `reserve ${say("energy_wh", tank.usable_wh - tank.working_wh)}` : "reserve"}
        </text>
      )}
      {tank.blind_from_frac != null && tank.blind_to_frac != null && (
        <g>
          <path
            d={`M${right + 3} ${y(tank.blind_to_frac)}h5V${y(tank.blind_from_frac)}h-5`}
            className="fill-none stroke-alarm stroke-[1.6]"
          />
          <text
            className="chart-text"
            transform={`translate(${right + 20} ${y((tank.blind_from_frac + tank.blind_to_frac) / 2)}) rotate(-90)`}
            textAnchor="middle"
            style={{ fill: "var(--alarm)" }}
          >
            volts blind
          </text>
        </g>
      )}
      {marks.map((mark) => (
        <g key={mark.label}>
          <Level y={y(mark.soc_frac ?? 0)} x1={right - 7} x2={right} stroke="var(--ink)" strokeWidth="1.6" />
          <text
            className="chart-text"
            x={right + 28}
            y={y(mark.soc_frac ?? 0) + 4}
            style={{ fill: "var(--ink)", fontWeight: 650 }}
            data-mark={mark.label}
          >
            {say("voltage_v", mark.volts)}
            {wide && (
              <tspan fontWeight="400" fill="var(--muted)">
                {` ${mark.label === "usable end" ? "end" : mark.label}`}
              </tspan>
            )}
          </text>
        </g>
      ))}
      <text className="chart-text" x={left - 30} y={HEIGHT - 4}>
        cuts out at {say("voltage_v", tank.cut_out_v)} under load
      </text>
      {parts.map((part) => (
        <rect
          key={part.take.id}
          x={column}
          y={TOP + part.from * scale}
          width={wide ? 40 : 22}
          height={Math.max((part.to - part.from) * scale - 1, 1.5)}
          fill={FILLS[part.take.kind]}
          data-take={part.take.id}
          className="stroke-ink stroke-[0.8]"
        />
      ))}
      {parts.length > 0 && (
        <text className="chart-text" x={column} y="14">
          a day takes{scale < 1 && (wide ? ", more than it holds" : " more")}
        </text>
      )}
      {labels.map(({ item, y: at, at: from }) => (
        <g key={item.id}>
          <path
            d={`M${column + (wide ? 40 : 22)} ${from - 4}l6 ${at - from}h3`}
            className="fill-none stroke-muted stroke-[0.9]"
          />
          <text className="chart-text" x={column + (wide ? 53 : 34)} y={at} style={{ fill: "var(--ink)" }}>
            {wide || item.name.length < 14 ? item.name : `${item.name.slice(0, 12)}…`}
            <tspan
              fontWeight="650"
              x={wide ? undefined : column + 34}
              dy={wide ? undefined : 14}
              dx={wide ? 5 : undefined}
            >
              {say("energy_wh", item.energy_wh)}
            </tspan>
            {wide && item.kind === "essential" && <tspan fill="var(--muted)"> essential</tspan>}
          </text>
        </g>
      ))}
      {reading && (
        <g pointerEvents="none">
          <Level y={y(reading.soc_frac)} x1={left} x2={right} stroke="var(--ink)" strokeWidth="1.4" />
          <Readout
            x={Math.max(Math.min(right + 8, width - 206), 0)}
            y={Math.min(Math.max(y(reading.soc_frac) - 56, 0), HEIGHT - 54)}
            width={204}
            lines={lines}
          />
        </g>
      )}
      <title>{lines.join(", ") || summary}</title>
    </svg>
  );
}

function vessel(left: number, right: number): string {
  const bottom = TOP + INSIDE;
  return `M${left} ${TOP}V${bottom - 14}Q${left} ${bottom} ${left + 14} ${bottom}H${right - 14}Q${right} ${bottom} ${right} ${bottom - 14}V${TOP}Z`;
}

function wave(left: number, right: number, y: number): string {
  const steps = Math.max(Math.round((right - left) / 24), 2);
  const step = (right - left) / steps;
  const dips = Array.from({ length: steps }, () => `q${step / 4} -4 ${step / 2} 0t${step / 2} 0`);
  return `M${left} ${y}${dips.join("")}`;
}
