import { Level, Upright } from "./lines";
import { LETTER_PX } from "./wrapped";

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

/** Lines up a chart, with their words at its foot; words that would pass its right end, `within`, end there. */
export const Columns = (props: { of: Tick[]; top: number; bottom: number; foot: number; within?: number }) =>
  props.of.map(([x, words]) => {
    const passes = props.within !== undefined && x + (words.length * LETTER_PX) / 2 > props.within;
    return (
      <g key={`${x} ${words}`}>
        <Upright x={x} y1={props.top} y2={props.bottom} stroke="var(--hairline)" strokeWidth="0.8" />
        <text
          className="chart-text"
          x={passes ? props.within : x}
          y={props.foot}
          textAnchor={passes ? "end" : "middle"}
        >
          {words}
        </text>
      </g>
    );
  });
