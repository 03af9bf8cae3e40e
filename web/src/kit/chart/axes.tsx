import { Level, Upright } from "./lines";

type Tick = readonly [number, string]; // where, and its words

/** Lines across a chart, with their words at its left. */
export const Rows = ({ of, left, right }: { of: Tick[]; left: number; right: number }) =>
  of.map(([y, words]) => (
    <g key={`${y} ${words}`}>
      <Level y={y} x1={left} x2={right} stroke="var(--hairline)" strokeWidth="0.8" />
      <text className="chart-text" x={left - 7} y={y + 4} textAnchor="end">
        {words}
      </text>
    </g>
  ));

/** Lines up a chart, with their words at its foot. */
export const Columns = ({
  of,
  top,
  bottom,
  foot,
}: {
  of: Tick[];
  top: number;
  bottom: number;
  foot: number;
}) =>
  of.map(([x, words]) => (
    <g key={`${x} ${words}`}>
      <Upright x={x} y1={top} y2={bottom} stroke="var(--hairline)" strokeWidth="0.8" />
      <text className="chart-text" x={x} y={foot} textAnchor="middle">
        {words}
      </text>
    </g>
  ));
