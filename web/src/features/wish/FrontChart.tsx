import { scaleLinear } from "d3-scale";
import type { WishFront } from "../../api/client";
import { Columns, Rows } from "../../kit/chart/axes";
import { Level, Upright } from "../../kit/chart/lines";
import { useSize } from "../../kit/chart/useSize";
import { Wide } from "../../kit/chart/Wide";
import { useSay, useUnits } from "../../kit/preferences";
import { shown } from "../../kit/units";

const HEIGHT = 196;
const MARGIN = { left: 70, right: 36, top: 16, bottom: 24 };

interface Props {
  front: WishFront;
  at: number;
  onChoose: (index: number) => void;
}

/** Cost against how far: each mark a whole boat, the step line what the money buys. */
export function FrontChart({ front, at, onChoose }: Props) {
  const say = useSay();
  const units = useUnits();
  const [box, { width }] = useSize<HTMLDivElement>();
  const { points } = front;
  const most = Math.max(...points.map((point) => point.cost), front.coins, 1);
  const far = Math.max(...points.map((point) => point.stretch), 1);
  const x = scaleLinear([0, most], [MARGIN.left, Math.max(width - MARGIN.right, MARGIN.left + 1)]);
  const y = scaleLinear([0, far * 1.06], [HEIGHT - MARGIN.bottom, MARGIN.top]);
  const line = points.filter((point) => point.on_front);
  const steps = line
    .map((point, k) => {
      const before = line[k - 1];
      return `${before ? `H${x(point.cost)}V` : `M${x(point.cost)} `}${y(point.stretch)}`;
    })
    .join("");
  const here = points[at];
  return (
    <Wide
      box={box}
      width={width}
      height={HEIGHT}
      label={`Cost against how far: ${line.map((p) => `${say("money", p.cost)} ${shown(p.reach, units)}`).join(", ")}`}
    >
      <Rows
        of={front.ticks.map((tick) => [y(tick.stretch), shown(tick.reach, units)] as const)}
        left={MARGIN.left}
        right={width - MARGIN.right}
      />
      <Columns
        of={x.ticks(width > 480 ? 5 : 2).map((coins) => [x(coins), say("money", coins)] as const)}
        top={MARGIN.top}
        bottom={HEIGHT - MARGIN.bottom}
        foot={HEIGHT - 6}
      />
      <Level
        y={y(1)}
        x1={MARGIN.left}
        x2={width - MARGIN.right}
        stroke="var(--water)"
        strokeWidth="2"
        strokeDasharray="7 4"
      />
      <text className="chart-text fill-ink font-bold" x={MARGIN.left + 6} y={y(1) - 5}>
        wished {front.whole && shown(front.whole, units)}
      </text>
      <Upright
        x={x(front.coins)}
        y1={MARGIN.top}
        y2={HEIGHT - MARGIN.bottom}
        stroke="var(--ink)"
        strokeWidth="1.4"
        strokeDasharray="2 3"
      />
      <text
        className="chart-text fill-ink"
        x={x(front.coins) - 5}
        y={HEIGHT - MARGIN.bottom - 6}
        textAnchor="end"
      >
        your money
      </text>
      {steps && <path d={`${steps}H${x(most)}`} fill="none" stroke="var(--water)" strokeWidth="2" />}
      {points.map((point, k) => (
        <g
          key={`${point.cost}/${point.stretch}`}
          data-point={k}
          className="cursor-pointer"
          onPointerDown={() => onChoose(k)}
        >
          <circle cx={x(point.cost)} cy={y(point.stretch)} r="12" fill="transparent" />
          {point.on_front ? (
            <circle
              cx={x(point.cost)}
              cy={y(point.stretch)}
              r={k === at ? 7.5 : 5}
              fill={k === at ? "var(--sun)" : point.does ? "var(--water)" : "var(--mist)"}
              stroke="var(--ink)"
              strokeWidth="1.4"
              opacity={point.within ? 1 : 0.6}
            />
          ) : (
            <rect
              x={x(point.cost) - 5}
              y={y(point.stretch) - 5}
              width="10"
              height="10"
              fill={k === at ? "var(--sun)" : "var(--mist)"}
              stroke="var(--ink)"
              strokeWidth="1.4"
            />
          )}
        </g>
      ))}
      {here && (
        <text
          className="chart-text fill-ink font-bold"
          x={x(here.cost) - 10}
          y={Math.max(y(here.stretch) - 9, 12)}
          textAnchor={x(here.cost) > 150 ? "end" : "start"}
        >
          {shown(here.reach, units)}
        </text>
      )}
    </Wide>
  );
}
