import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { useState } from "react";
import type { MatchPicture } from "../../api/client";
import { Rows } from "../../kit/chart/axes";
import { Upright } from "../../kit/chart/lines";
import { Readable } from "../../kit/chart/Readable";
import { Readout } from "../../kit/chart/Readout";
import { useSize } from "../../kit/chart/useSize";

const MARGIN = { left: 40, right: 22, top: 10, bottom: 32 };

/** Thrust, torque and efficiency of the propeller over its advance, with the points where it works. */
export function OpenWaterChart({ picture }: { picture: MatchPicture }) {
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const [read, setRead] = useState<number | null>(null);
  const advance = picture.advance ?? [];
  const curves = [
    {
      key: "efficiency",
      label: "efficiency",
      values: picture.efficiency ?? [],
      stroke: "var(--water)",
      dash: undefined,
      at: 0.84,
      below: -6,
    },
    {
      key: "kt",
      label: "thrust, KT",
      values: picture.thrust_coefficient ?? [],
      stroke: "var(--sun-edge)",
      dash: "7 4",
      at: 0.3,
      below: 18,
    },
    {
      key: "kq",
      label: "torque, 10 KQ",
      values: picture.torque_coefficient_x10 ?? [],
      stroke: "var(--house-text)",
      dash: "2 3",
      at: 0.3,
      below: -7,
    },
  ];
  const end = advance.at(-1) ?? 1;
  const top = Math.max(...curves.flatMap((curve) => curve.values), 0.1);
  const bottom = height - MARGIN.bottom;
  const x = scaleLinear([0, end], [MARGIN.left, Math.max(width - MARGIN.right, MARGIN.left + 1)]);
  const y = scaleLinear([0, top * 1.08], [Math.max(bottom, MARGIN.top + 1), MARGIN.top]);
  const nearest = (at: number) =>
    advance.reduce((best, j, i) => (Math.abs(j - at) < Math.abs((advance[best] ?? 0) - at) ? i : best), 0);
  const at = read === null ? null : nearest(read);

  const hover = (px: number | null) => {
    const j = px === null ? -1 : x.invert(px);
    setRead(j >= 0 && j <= end ? j : null);
  };
  const step = (by: number) =>
    setRead(Math.min(Math.max((read ?? picture.plan_advance ?? 0) + (by * end) / 60, 0), end));
  const rows = y.ticks(5).map((value) => [y(value), value.toFixed(1)] as const);
  const lines =
    at === null
      ? []
      : [
          `advance ${(advance[at] ?? 0).toFixed(2)}`,
          ...curves.map((curve) => `${curve.label} ${(curve.values[at] ?? 0).toFixed(3)}`),
        ];

  return (
    <Readable
      box={box}
      width={width}
      height={height}
      label="The propeller in open water over its advance. Arrow keys read the curves."
      said={lines.join(", ")}
      onRead={hover}
      onStep={step}
    >
      <Rows of={rows} left={MARGIN.left} right={width - MARGIN.right} />
      {x.ticks(6).map((j) => (
        <text key={j} className="chart-text" x={x(j)} y={bottom + 16} textAnchor="middle">
          {j.toFixed(1)}
        </text>
      ))}
      <text className="chart-text" x={width - MARGIN.right} y={height - 2} textAnchor="end">
        advance ratio J: speed over revolutions times diameter
      </text>
      {curves.map((curve) => {
        const label = Math.floor(curve.values.length * curve.at);
        return (
          <g key={curve.key}>
            <path
              d={
                line<number>()
                  .x((_, i) => x(advance[i] ?? 0))
                  .y((v) => y(v))(curve.values) ?? ""
              }
              stroke={curve.stroke}
              strokeDasharray={curve.dash}
              data-open-water={curve.key}
              className="fill-none stroke-[2.4]"
            />
            <text
              className="chart-label halo"
              x={x(advance[label] ?? 0) + 10}
              y={y(curve.values[label] ?? 0) + curve.below}
              fill={curve.stroke}
            >
              {curve.label}
            </text>
          </g>
        );
      })}
      {picture.plan_advance != null && picture.plan_efficiency != null && (
        <Point
          x={x(picture.plan_advance)}
          y={y(picture.plan_efficiency)}
          bottom={bottom}
          label={`as planned, ${(100 * picture.plan_efficiency).toFixed(0)} %`}
          solid
        />
      )}
      {picture.full_advance != null && (
        <Point
          x={x(picture.full_advance)}
          y={y((picture.efficiency ?? [])[nearest(picture.full_advance)] ?? 0)}
          bottom={bottom}
          label="full throttle"
        />
      )}
      {at !== null && <Readout x={width - MARGIN.right - 172} y={MARGIN.top} width={168} lines={lines} />}
    </Readable>
  );
}

function Point(props: { x: number; y: number; bottom: number; label: string; solid?: boolean }) {
  const { x, y, bottom, label, solid } = props;
  return (
    <g>
      <Upright x={x} y1={y} y2={bottom} stroke="var(--ink)" strokeWidth="1" strokeDasharray="2 3" />
      <circle
        cx={x}
        cy={y}
        r="5.5"
        fill={solid ? "var(--water)" : "var(--field)"}
        className="stroke-ink stroke-[1.6]"
      />
      <text
        className="chart-text halo"
        x={x - 9}
        y={solid ? y - 9 : y + 18}
        textAnchor="end"
        style={{ fill: "var(--ink)" }}
      >
        {label}
      </text>
    </g>
  );
}
