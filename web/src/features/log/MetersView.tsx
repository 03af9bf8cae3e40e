import type { LogMeters } from "../../api/client";
import { useStudy } from "../../asking/live";
import { Waiting } from "../../kit/chart/Waiting";
import { useSay } from "../../kit/preferences";
import { Heading } from "../../kit/ui/Page";
import { Told } from "../../kit/ui/Told";
import { View } from "../../kit/ui/View";

const SIZE = 150;

/** Two meters of one quantity, and the shunt against the balance. */
export function MetersView() {
  const { data, stale, error, retry } = useStudy("log/meters");
  if (!data) return <Waiting error={error} retry={retry} what="The meters" />;
  return (
    <>
      <Heading title="Meters compared" in="two sources of one quantity, and the shunt against the balance" />
      <View label="Meters compared" stale={stale}>
        <p className="m-0 mb-3 max-w-[76ch]" data-balance>
          <Told sentence={data.words} />
        </p>
        {data.pairs.length === 0 && (
          <p className="max-w-[66ch] text-muted">
            No quantity was read by two meters in this outing. Note the same watts, volts or charge from a
            second display now and then: a dozen pairs tell its gain and what it adds.
          </p>
        )}
        <div className="grid grid-cols-[repeat(auto-fill,minmax(260px,1fr))] gap-5">
          {data.pairs.map((pair) => (
            <Pair key={`${pair.quantity} ${pair.a} ${pair.b} ${pair.samples}`} pair={pair} />
          ))}
        </div>
      </View>
    </>
  );
}

function Pair({ pair }: { pair: LogMeters["pairs"][number] }) {
  const say = useSay();
  const xs = pair.points.map(([x]) => x ?? 0);
  const ys = pair.points.map(([, y]) => y ?? 0);
  const [low, high] = [Math.min(...xs, ...ys), Math.max(...xs, ...ys)];
  const place = (value: number) => (high > low ? ((value - low) / (high - low)) * (SIZE - 16) + 8 : SIZE / 2);
  return (
    <section aria-label={`${pair.label}: ${pair.a} and ${pair.b}`}>
      <h2 className="m-0 text-[14px] font-bold">{pair.label}</h2>
      <svg width={SIZE} height={SIZE} role="img" aria-label={`${pair.b} over ${pair.a}`}>
        <rect width={SIZE} height={SIZE} className="fill-field stroke-edge" />
        <path d={`M8 ${SIZE - 8}L${SIZE - 8} 8`} className="stroke-muted [stroke-dasharray:4_3]" />
        {pair.points.map(([x, y], i) => (
          <circle
            key={i}
            cx={place(x ?? 0)}
            cy={SIZE - place(y ?? 0)}
            r="2.6"
            className="fill-none stroke-water stroke-[1.4]"
          />
        ))}
      </svg>
      <p className="m-0 text-[13.5px]">
        <Told sentence={pair.words} />
      </p>
      <p className="m-0 text-[13px] text-muted">
        {pair.samples} pairs
        {pair.lag_s != null && `, ${pair.b} ${say("ratio", Math.round(pair.lag_s))} s later`}
      </p>
    </section>
  );
}
