import { scaleLog } from "d3-scale";
import type { LogSeason } from "../../api/client";

const WIDTH = 250;

/** A factor on a line about 1: what was known before, dotted; what is known now, a band with its middle. */
export function FactorLine({ one }: { one: LogSeason["learned"][number] }) {
  const x = scaleLog([0.4, 2.5], [4, WIDTH - 4]).clamp(true);
  return (
    <div className="flex items-center gap-2">
      <span className="w-[128px] truncate text-[13.5px] font-semibold" title={one.label}>
        {one.label}
      </span>
      <svg
        width={WIDTH}
        height="20"
        role="img"
        aria-label={`${one.value.toFixed(2)}, ${one.low.toFixed(2)} to ${one.high.toFixed(2)}`}
      >
        <path d={`M${x(1)} 0V20`} className="stroke-ink stroke-[1.5]" />
        <path
          d={`M${x(one.before_low)} 10H${x(one.before_high)}`}
          className="stroke-muted stroke-[1.6] [stroke-dasharray:2_3]"
        />
        <rect
          x={x(one.low)}
          y="4"
          width={Math.max(x(one.high) - x(one.low), 3)}
          height="12"
          rx="2"
          className="fill-bank-soft stroke-water"
        />
        <rect
          x={x(one.value) - 4}
          y="6"
          width="8"
          height="8"
          transform={`rotate(45 ${x(one.value)} 10)`}
          className="fill-field stroke-ink stroke-[1.4]"
        />
      </svg>
      <b className="tabular">{one.value.toFixed(2)}</b>
    </div>
  );
}
