import type { ClimateYear } from "../../api/client";
import { useStudy } from "../../asking/live";
import { Level } from "../../kit/chart/lines";
import { Told } from "../../kit/ui/Told";
import { MONTHS } from "../../kit/units";

const [WIDTH, HEIGHT, LEFT, FOOT] = [264, 104, 22, 16];

/** The year of the place: full-sun hours of its days, from the poor to the good, under those of a clear sky. */
export function ClimateStrip() {
  const { data, error } = useStudy("year/climate");
  if (error) return <p className="m-0 text-[13px] text-alarm">▲ {error.message}</p>;
  if (!data) return <p className="m-0 text-[13px] text-muted">Reading the sky …</p>;
  return (
    <figure className="m-0 mb-2" data-climate-strip>
      <Strip year={data} />
      <figcaption className="text-[13px] text-muted">
        Full-sun hours a day: line the mean, bars 8 of 10 days, dashes a clear sky of usual haze: the clearest
        days pass it. <Told sentence={data.rests_on} />
      </figcaption>
    </figure>
  );
}

function Strip({ year }: { year: ClimateYear }) {
  const top = Math.max(...year.months.map((m) => m.clear_h), 1) * 1.05;
  const wide = (WIDTH - LEFT) / 12;
  const x = (i: number) => LEFT + (i + 0.5) * wide;
  const y = (h: number) => HEIGHT - FOOT - (h / top) * (HEIGHT - FOOT - 6);
  const told = year.months
    .map(
      (m) =>
        `${MONTHS[m.month - 1]} ${m.sun_h.toFixed(1)}, from ${m.poor_h.toFixed(1)} to ${m.good_h.toFixed(1)}`,
    )
    .join("; ");
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      width="100%"
      role="img"
      aria-label={`Full-sun hours a day: ${told}`}
    >
      {[0, Math.round(top / 1.05)].map((h) => (
        <text className="chart-text" key={h} x={LEFT - 5} y={y(h) + 4} textAnchor="end">
          {h}
        </text>
      ))}
      {year.months.map((m, i) => (
        <g key={m.month}>
          <rect
            x={x(i) - wide * 0.32}
            y={y(m.good_h)}
            width={wide * 0.64}
            height={Math.max(y(m.poor_h) - y(m.good_h), 0)}
            className="fill-dog-far stroke-sun-edge stroke-[0.8]"
          />
          <text className="chart-text" x={x(i)} y={HEIGHT - 3} textAnchor="middle">
            {MONTHS[m.month - 1]?.slice(0, 1)}
          </text>
        </g>
      ))}
      <polyline
        points={year.months.map((m, i) => `${x(i)},${y(m.clear_h)}`).join(" ")}
        className="fill-none stroke-sun-edge [stroke-dasharray:4_3]"
      />
      <polyline
        points={year.months.map((m, i) => `${x(i)},${y(m.sun_h)}`).join(" ")}
        className="fill-none stroke-ink stroke-2"
      />
      <Level y={y(0)} x1={LEFT} x2={WIDTH} stroke="var(--ink)" />
    </svg>
  );
}
