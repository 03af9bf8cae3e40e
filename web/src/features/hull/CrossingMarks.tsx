import { scaleLinear } from "d3-scale";
import type { HullPicture } from "../../api/client";
import { Level, Upright } from "../../kit/chart/lines";
import { SunMark } from "../../kit/ui/Mark";
import { shown, type Units } from "../../kit/units";

const NAME = 17; // px: a line of text
export const MARGIN = { left: 62, right: 18, top: 14, bottom: 34 };

type Scale = (value: number) => number;

/** Where the planned speed stands: on the drawn curve while it is ahead of the picture, else as computed. */
export function marker(picture: HullPicture, planSpeed: number): { speed: number; power: number } {
  const beyondDrive = planSpeed >= picture.rated_speed_mps;
  if (beyondDrive) return { speed: picture.rated_speed_mps, power: picture.rated_power_w };
  const next = Math.max(
    picture.speed_mps.findIndex((speed) => speed >= planSpeed),
    1,
  );
  const curve = scaleLinear(
    [picture.speed_mps[next - 1] ?? 0, picture.speed_mps[next] ?? 1],
    [picture.power_w[next - 1] ?? 0, picture.power_w[next] ?? 1],
  );
  return { speed: planSpeed, power: curve(planSpeed) };
}

export function FormulaLabel(props: {
  points: { speed: number; formula: number; high: number }[];
  x: Scale;
  y: Scale;
  top: number;
  taken: number | null; // where another name stands at the right
}) {
  const { points, x, y, top, taken } = props;
  const inside = points.filter((p) => y(p.formula) > top + 26 && p.formula > p.high * 1.25);
  const at = inside[Math.floor(inside.length * 0.62)];
  if (!at) return <FormulaAtTheEnd points={points} x={x} y={y} taken={taken} />;
  return (
    <text className="chart-text" x={x(at.speed) - 10} y={y(at.formula) - 8} textAnchor="end">
      {x(at.speed) - MARGIN.left > 250 ? "speed/length formula, the cautious bound" : "formula"}
    </text>
  );
}

/** Where the sun lines' names stand: above their lines, below them where the name above leaves no room; none
 *  under `foot`. */
export function sunNames(lines: HullPicture["lines"], y: Scale, foot: number): Map<string, number> {
  const found = new Map<string, number>();
  let last = Number.NEGATIVE_INFINITY;
  for (const item of [...lines].sort((a, b) => y(a.power_w) - y(b.power_w))) {
    const line = y(item.power_w);
    const [above, below] = [line - 7, line + 16];
    last = above >= last + NAME ? above : Math.max(below, last + NAME);
    found.set(item.key, last);
  }
  let room = foot;
  for (const [key, stands] of [...found].reverse()) {
    found.set(key, Math.min(stands, room));
    room = Math.min(stands, room) - NAME;
  }
  return found;
}

/** The curve by the hull's form, before the runs: named where it stands clear of the curve. */
export function FormLabel(props: {
  points: { speed: number; form: number; power: number }[];
  x: Scale;
  y: Scale;
}) {
  const { points, x, y } = props;
  const at = points[Math.floor(points.length * 0.9)];
  if (!at || Math.abs(y(at.form) - y(at.power)) < 12) return null;
  return (
    <text
      className="chart-text halo"
      x={x(at.speed) - 8}
      y={y(at.form) + (at.form > at.power ? -8 : 16)}
      textAnchor="end"
      style={{ fill: "var(--water-text)" }}
    >
      by form alone
    </text>
  );
}

export function SunLine(props: {
  item: { key: string };
  cross: { x: number; y: number };
  bottom: number;
  label: string;
  stands: number; // where its name is written
  watts: string;
}) {
  const { item, cross, bottom, label, stands, watts } = props;
  const room = cross.x - MARGIN.left > 190;
  return (
    <g data-sun-line={item.key}>
      <Level y={cross.y} x1={MARGIN.left} x2={cross.x} stroke="var(--sun-edge)" strokeWidth="3.4" />
      <Level y={cross.y} x1={MARGIN.left} x2={cross.x} stroke="var(--sun)" strokeWidth="2.2" />
      <Upright
        x={cross.x}
        y1={cross.y}
        y2={bottom}
        className="stroke-sun-edge stroke-[1.2] [stroke-dasharray:3_4]"
      />
      <SunMark x={cross.x} y={cross.y} r={6.5} />
      <text className="chart-label halo fill-sun-text" x={MARGIN.left + 8} y={stands}>
        {label}
        {room && <tspan fontWeight="400">{`  ${watts}`}</tspan>}
      </text>
    </g>
  );
}

/** The sun-only speeds, standing on the axis below their crossings, kept apart from each other. */
export function Pills(props: { lines: HullPicture["lines"]; x: Scale; bottom: number; units: Units }) {
  const { lines, x, bottom, units } = props;
  const sorted = [...lines].sort((a, b) => a.speed_mps - b.speed_mps);
  let last = MARGIN.left - 30;
  return (
    <>
      {sorted.map((item) => {
        const at = Math.max(x(item.speed_mps), last + 60);
        last = at;
        return (
          <g key={item.key} transform={`translate(${at} ${bottom - 16})`}>
            <rect
              x="-27"
              y="-11"
              width="54"
              height="21"
              rx="10.5"
              className="fill-field stroke-sun-edge stroke-[1.4]"
            />
            <text textAnchor="middle" y="4.5" fontSize="13" fontWeight="700" fill="var(--ink)">
              {shown({ quantity: "speed_mps", value: item.speed_mps, signed: false }, units)}
            </text>
          </g>
        );
      })}
    </>
  );
}

/** Where the formula runs along the curve, its name stands at its fast end. */
function FormulaAtTheEnd(props: {
  points: { speed: number; formula: number; high: number }[];
  x: Scale;
  y: Scale;
  taken: number | null;
}) {
  const { points, x, y, taken } = props;
  const end = points.at(-2);
  if (!end) return null;
  const under = end.formula < end.high;
  const stands = y(end.formula) + (under ? 26 : -8);
  const free = taken === null || Math.abs(stands - taken) >= NAME;
  return (
    <text className="chart-text" x={x(end.speed)} y={free ? stands : (taken ?? 0) + NAME} textAnchor="end">
      formula
    </text>
  );
}
