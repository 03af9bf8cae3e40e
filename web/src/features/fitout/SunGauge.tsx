import type { GaugeShown } from "../../api/client";
import { useSay } from "../../kit/preferences";

const HIGH = 158;
const WIDE = 46;
const LEFT = 62;

/** The expected band, where a lost string would read, and the reading's mark. */
export function SunGauge({ gauge }: { gauge: GaugeShown }) {
  const say = useSay();
  const y = (watts: number) =>
    HIGH - 6 - (Math.min(Math.max(watts, 0), gauge.top_w) / gauge.top_w) * (HIGH - 14);
  if (!gauge.watts)
    return <p className="m-0 py-6 text-muted">Too dark in this minute: nothing can be expected.</p>;
  const [low = 0, middle = 0, high = 0] = gauge.watts;
  const step =
    [1, 2, 5, 10, 20, 50, 100, 200, 250, 500, 1000, 2000, 5000].find((size) => gauge.top_w / size <= 5) ??
    10_000;
  const ticks: number[] = [];
  for (let w = 0; w < gauge.top_w * 0.97; w += step) ticks.push(w);
  const read = gauge.here ? gauge.read_w : null;
  const apart = (at: number) => (read != null && Math.abs(at - y(read) - 4) < 14 ? y(read) + 19 : at);
  const wrong = !gauge.proven && gauge.means !== "full_bank" && !gauge.cannot_tell;
  const beside = (watts: number, taken: number) =>
    Math.abs(y(watts) - y(taken)) < 34 ? y(taken) + 30 : y(watts) + 4;
  return (
    <svg
      width="100%"
      height={HIGH}
      viewBox={`0 0 210 ${HIGH}`}
      preserveAspectRatio="xMinYMid meet"
      role="img"
      aria-label={`Expected ${say("power_w", low)} to ${say("power_w", high)}${read == null ? "" : `, read ${say("power_w", read)}`}`}
    >
      <rect x={LEFT} y={2} width={WIDE} height={HIGH - 8} fill="var(--field)" stroke="var(--edge)" />
      {ticks.map((w) => (
        <text key={w} x={LEFT - 6} y={y(w) + 4} textAnchor="end" fontSize={12.5} fill="var(--muted)">
          {say("power_w", w)}
        </text>
      ))}
      {gauge.marks.map((mark) => (
        <g key={String(mark[0])}>
          <rect
            x={LEFT}
            y={y(Number(mark[2]))}
            width={WIDE}
            height={Math.max(y(Number(mark[1])) - y(Number(mark[2])), 3)}
            fill="none"
            stroke="var(--ink)"
            strokeDasharray="3 2"
          />
          <text x={LEFT + WIDE + 8} y={apart(y(Number(mark[1])) + 4)} fontSize={12.5} fill="var(--muted)">
            {mark[0]}
          </text>
        </g>
      ))}
      <rect
        x={LEFT}
        y={y(high)}
        width={WIDE}
        height={Math.max(y(low) - y(high), 3)}
        fill="var(--dog)"
        stroke="var(--sun-edge)"
      />
      <line x1={LEFT} x2={LEFT + WIDE} y1={y(middle)} y2={y(middle)} stroke="var(--sun-edge)" />
      <text x={LEFT + WIDE + 8} y={y(middle) - 2} fontSize={12.5} fontWeight={700} fill="var(--sun-text)">
        expected
      </text>
      <text x={LEFT + WIDE + 8} y={y(middle) + 12} fontSize={12.5} fill="var(--sun-text)">
        {say("power_w", low).replace(/\s?W$/, "")}–{say("power_w", high)}
      </text>
      {read != null && (
        <g>
          <line
            x1={LEFT - 4}
            x2={LEFT + WIDE + 4}
            y1={y(read)}
            y2={y(read)}
            stroke="var(--ink)"
            strokeWidth={2}
          />
          <path
            d={`M ${LEFT + WIDE / 2} ${y(read) - 8} l 9 8 l -9 8 l -9 -8 z`}
            fill="var(--field)"
            stroke={wrong ? "var(--alarm)" : "var(--bank)"}
            strokeWidth={2.5}
          />
          <text
            x={LEFT + WIDE + 8}
            y={beside(read, middle)}
            fontSize={13}
            fontWeight={700}
            fill={wrong ? "var(--alarm)" : "var(--ink)"}
          >
            read {say("power_w", read)}
          </text>
        </g>
      )}
    </svg>
  );
}
