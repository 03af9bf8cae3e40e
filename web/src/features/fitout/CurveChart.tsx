import type { PanelTestShown } from "../../api/client";
import { useSize } from "../../kit/chart/useSize";

const [LEFT, RIGHT, TOP, BOTTOM] = [44, 16, 14, 34];

/** Amps over volts: measured points, the curve through them, the label's in the same light. */
export function CurveChart({ test }: { test: PanelTestShown }) {
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const every = [...test.curve, ...test.label_curve, ...test.points] as number[][];
  const most = (index: 0 | 1) => Math.max(...every.map((point) => point[index] ?? 0), 1) * 1.06;
  const [volts, amps] = [most(0), most(1)];
  const x = (v: number) => LEFT + (v / volts) * (width - LEFT - RIGHT);
  const y = (a: number) => height - BOTTOM - (a / amps) * (height - TOP - BOTTOM);
  const line = (points: number[][]) => points.map(([v = 0, a = 0]) => `${x(v)},${y(a)}`).join(" ");
  const ticks = (top: number) => {
    const step = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100, 200].find((size) => top / size <= 8) ?? 500;
    const found: number[] = [];
    for (let value = 0; value <= top; value += step) found.push(Number(value.toFixed(2)));
    return found;
  };
  const said = test.points.map(([v, a]) => `${v} V ${a} A`).join(", ");
  return (
    <div ref={box} className="h-full min-h-[220px]">
      {width > 0 && height > 60 && (
        <svg
          width={width}
          height={height}
          role="img"
          aria-label={`Amps over volts. Measured: ${said || "nothing yet"}`}
        >
          {ticks(volts).map((v) => (
            <g key={`v${v}`}>
              <line x1={x(v)} x2={x(v)} y1={TOP} y2={height - BOTTOM} stroke="var(--hairline)" />
              <text x={x(v)} y={height - BOTTOM + 16} textAnchor="middle" fontSize={12.5} fill="var(--muted)">
                {v}
              </text>
            </g>
          ))}
          {ticks(amps).map((a) => (
            <g key={`a${a}`}>
              <line x1={LEFT} x2={width - RIGHT} y1={y(a)} y2={y(a)} stroke="var(--hairline)" />
              <text x={LEFT - 6} y={y(a) + 4} textAnchor="end" fontSize={12.5} fill="var(--muted)">
                {a}
              </text>
            </g>
          ))}
          <text x={width - RIGHT} y={height - 4} textAnchor="end" fontSize={12.5} fill="var(--muted)">
            volts
          </text>
          <text x={6} y={TOP - 2} fontSize={12.5} fill="var(--muted)">
            amps
          </text>
          <polyline
            points={line(test.label_curve)}
            fill="none"
            stroke="var(--muted)"
            strokeWidth={1.6}
            strokeDasharray="6 4"
          />
          <polyline points={line(test.curve)} fill="none" stroke="var(--sun-edge)" strokeWidth={2.4} />
          {test.best_v != null && test.best_a != null && (
            <g>
              <rect
                x={x(0)}
                y={y(test.best_a)}
                width={x(test.best_v) - x(0)}
                height={y(0) - y(test.best_a)}
                fill="var(--dog-far)"
                opacity={0.55}
              />
              <circle cx={x(test.best_v)} cy={y(test.best_a)} r={6} fill="var(--sun)" stroke="var(--ink)" />
            </g>
          )}
          {test.points.map(([v = 0, a = 0], index) => (
            <circle
              key={`${v}/${a}/${index}`}
              cx={x(v)}
              cy={y(a)}
              r={4}
              fill={test.off.includes(index) ? "var(--alarm)" : "var(--field)"}
              stroke="var(--ink)"
              strokeWidth={1.5}
            />
          ))}
          {test.label_curve.length > 0 && (
            <text
              x={x((test.label_curve[60] ?? [0, 0])[0] ?? 0)}
              y={y((test.label_curve[20] ?? [0, 0])[1] ?? 0) - 8}
              textAnchor="end"
              fontSize={12.5}
              fill="var(--muted)"
            >
              its label, in this light
            </text>
          )}
        </svg>
      )}
    </div>
  );
}
