import { scaleLinear } from "d3-scale";
import type { WishFront, WishPoint } from "../../api/client";
import { Columns, Rows } from "../../kit/chart/axes";
import { Level, Upright } from "../../kit/chart/lines";
import { useSize } from "../../kit/chart/useSize";
import { Wide } from "../../kit/chart/Wide";
import { useSay, useUnits } from "../../kit/preferences";
import { shown } from "../../kit/units";

const QUARTERS = [0.25, 0.5, 0.75, 1];
const HEIGHT = 196;
const MARGIN = { left: 70, right: 36, top: 16, bottom: 24 };

export type Axis = "far" | "surely";

interface Props {
  front: WishFront;
  at: number;
  axis: Axis;
  onChoose: (index: number) => void;
}

/** Cost against how far, or how surely: each mark a whole boat, the step line what the money buys. */
export function FrontChart({ front, at, axis, onChoose }: Props) {
  const say = useSay();
  const units = useUnits();
  const [box, { width }] = useSize<HTMLDivElement>();
  const { points } = front;
  const most = Math.max(...points.map((point) => point.cost), front.coins, 1);
  const surely = axis === "surely";
  const height = (point: WishPoint) => (surely ? point.surely_frac : point.stretch);
  const told = (point: WishPoint) =>
    surely ? `${say("fraction", point.surely_frac)} of days` : shown(point.reach, units);
  const wanted = surely ? front.surely_frac : 1;
  const top = Math.max(...points.map(height), 1);
  const x = scaleLinear([0, most], [MARGIN.left, Math.max(width - MARGIN.right, MARGIN.left + 1)]);
  const y = scaleLinear([0, top * 1.06], [HEIGHT - MARGIN.bottom, MARGIN.top]);
  const line = points
    .filter((point) => point.on_front)
    .filter((point, k, all) => all.slice(0, k).every((cheaper) => height(cheaper) < height(point)));
  const steps = line
    .map((point, k) => {
      const before = line[k - 1];
      return `${before ? `H${x(point.cost)}V` : `M${x(point.cost)} `}${y(height(point))}`;
    })
    .join("");
  const here = points[at];
  return (
    <Wide
      box={box}
      width={width}
      height={HEIGHT}
      label={`Cost against how ${axis}: ${line.map((p) => `${say("money", p.cost)} ${told(p)}`).join(", ")}`}
    >
      <Rows
        of={
          surely
            ? QUARTERS.map((share) => [y(share), say("fraction", share)] as const)
            : front.ticks.map((tick) => [y(tick.stretch), shown(tick.reach, units)] as const)
        }
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
        y={y(wanted)}
        x1={MARGIN.left}
        x2={width - MARGIN.right}
        stroke="var(--water)"
        strokeWidth="2"
        strokeDasharray="7 4"
      />
      <text className="chart-text fill-ink font-bold" x={MARGIN.left + 6} y={y(wanted) - 5}>
        wished {surely ? `${say("fraction", wanted)} of days` : front.whole && shown(front.whole, units)}
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
          <circle cx={x(point.cost)} cy={y(height(point))} r="12" fill="transparent" />
          {point.on_front ? (
            <circle
              cx={x(point.cost)}
              cy={y(height(point))}
              r={k === at ? 7.5 : 5}
              fill={k === at ? "var(--sun)" : point.does ? "var(--water)" : "var(--mist)"}
              stroke="var(--ink)"
              strokeWidth="1.4"
              opacity={point.within ? 1 : 0.6}
            />
          ) : (
            <rect
              x={x(point.cost) - 5}
              y={y(height(point)) - 5}
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
          y={Math.max(y(height(here)) - 9, 12)}
          textAnchor={x(here.cost) > 150 ? "end" : "start"}
        >
          {told(here)}
        </text>
      )}
    </Wide>
  );
}
