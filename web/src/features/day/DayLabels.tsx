import type { DayPicture } from "../../api/client";
import { MARGIN, type Scale } from "./dayAxis";

/** Where a label stands freest inside the harvest: the highest floor around it, away from the cursor. */
function clearest(total: number[], cursor: number): number {
  const floor = (at: number) => Math.min(...total.slice(Math.max(at - 7, 0), at + 8));
  const score = (at: number) => (Math.abs(at - cursor) < 11 ? -1 : floor(at));
  return total.reduce((best, _, at) => (score(at) > score(best) ? at : best), 0);
}

/** The words on the day picture, each where it stands freest. */
export function Labels(props: {
  cursor: number;
  picture: DayPicture;
  x: Scale;
  y: Scale;
  total: number[];
  wasted: boolean;
  right: number;
}) {
  const { picture, x, y, total, wasted, right, cursor } = props;
  const first = picture.motoring[0];
  const wasteAt = picture.thrown_away_w.reduce(
    (best, w, i) => (w > (picture.thrown_away_w[best] ?? 0) ? i : best),
    0,
  );
  const others = total.map((_, i) => picture.others.reduce((sum, other) => sum + (other.power_w[i] ?? 0), 0));
  const brought = Math.max(0, ...others);
  const broughtAt = others.indexOf(brought);
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
        <text className="chart-label" x={x(label)} y={y(0) - 10} textAnchor="middle" fill="var(--on-sun)">
          {picture.groups.length > 1 ? `${main.name} and ${picture.groups.length - 1} more` : main.name}
        </text>
      )}
      {roomy && picture.others.length > 0 && brought > 20 && (
        <text
          className="chart-label fill-ink"
          x={Math.max(x(broughtAt), x(0) + 6)}
          y={y(total[broughtAt] ?? 0) - 8}
          {...halo}
        >
          {picture.others.map((other) => other.name.toLowerCase()).join(", ")}
        </text>
      )}
      {roomy && Math.max(...picture.clear_w) > 0 && (
        <text
          className="chart-label fill-sun-text"
          x={right - 4}
          y={MARGIN.top + 12}
          textAnchor="end"
          {...halo}
        >
          dashed: clear sky would give
        </text>
      )}
      {wasted && (
        <text className="chart-label fill-ink" x={x(wasteAt)} y={y(0) - 28} textAnchor="middle" {...halo}>
          thrown away
        </text>
      )}
      {picture.house_w.some((w) => w > 0) && (
        <text
          className="chart-label fill-house-text"
          x={x(1.5)}
          y={y(-Math.max(...picture.house_w.slice(0, 14))) + 15}
          {...halo}
        >
          house
        </text>
      )}
      {first && x(first.end) - x(first.start) > 84 && picture.motor_w.some((w) => w > 0) && (
        <text
          className="chart-label fill-on-water"
          x={(x(first.start) + x(first.end)) / 2}
          y={y(-(picture.motor_w[Math.floor((first.start + first.end) / 2)] ?? 0) / 2) + 5}
          textAnchor="middle"
        >
          propulsion
        </text>
      )}
    </g>
  );
}
