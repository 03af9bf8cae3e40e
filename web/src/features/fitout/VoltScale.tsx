import { useId } from "react";
import type { ItemShown } from "../../api/client";
import { useSize } from "../../kit/chart/useSize";
import { useSay } from "../../kit/preferences";

const HIGH = 88;
const TOP = 26;
const DEEP = 26;
const EDGE = 8;

const NAMED: Partial<Record<string, string>> = {
  no_volts: "open plug",
  one_panel_missing_in_series: "a panel short",
  unit_missing: "a unit short",
  as_expected: "expected",
};

/** Where the readings of a step lie among what they may mean. */
export function VoltScale({ items }: { items: ItemShown[] }) {
  const [box, { width }] = useSize<HTMLDivElement>();
  const say = useSay();
  const swapped = useId();
  const zones = items[0]?.zones ?? [];
  const limit = items[0]?.limit_v ?? null;
  const read = items.flatMap((item) => (item.reading == null ? [] : [{ ...item, reading: item.reading }]));
  const sound = zones.find((zone) => zone.means === "as_expected");
  const ends = [...zones.flatMap((zone) => [zone.from_v, zone.to_v]), ...read.map((item) => item.reading)];
  if (limit != null && sound && limit < sound.to_v * 2) ends.push(limit);
  const [low, high] = [Math.min(...ends) * 1.06, Math.max(...ends) * 1.08];
  const x = (volts: number) => EDGE + ((volts - low) / (high - low)) * (width - 2 * EDGE);
  const step = [1, 2, 5, 10, 20, 50, 100, 200].find((size) => (high - low) / size <= 12) ?? 500;
  const ticks: number[] = [];
  for (let v = Math.ceil(low / step) * step; v <= high; v += step) ticks.push(v);
  const words = zones.map(
    (zone) => `${say("voltage_v", zone.from_v)} to ${say("voltage_v", zone.to_v)}: ${zone.label}`,
  );
  return (
    <div ref={box} className="mt-1">
      {width > 0 && (
        <svg width={width} height={HIGH} role="img" aria-label={`What volts would mean. ${words.join("; ")}`}>
          <defs>
            <pattern
              id={swapped}
              width="7"
              height="7"
              patternUnits="userSpaceOnUse"
              patternTransform="rotate(45)"
            >
              <line x1="0" y1="0" x2="0" y2="7" stroke="var(--alarm)" strokeWidth="1" opacity="0.45" />
            </pattern>
          </defs>
          <rect
            x={EDGE}
            y={TOP}
            width={width - 2 * EDGE}
            height={DEEP}
            fill="var(--field)"
            stroke="var(--edge)"
          />
          {low < 0 && <rect x={EDGE} y={TOP} width={x(0) - EDGE} height={DEEP} fill={`url(#${swapped})`} />}
          {low < 0 && (
            <text x={(EDGE + x(0)) / 2} y={TOP + 17} className="scale-word" fill="var(--alarm)">
              plus and minus swapped
            </text>
          )}
          {zones.map((zone) => (
            <rect
              key={`${zone.from_v}`}
              x={x(zone.from_v)}
              y={TOP}
              width={Math.max(x(zone.to_v) - x(zone.from_v), 2)}
              height={DEEP}
              fill={zone.means === "as_expected" ? "var(--dog)" : "none"}
              stroke={
                zone.means === "as_expected"
                  ? "var(--sun-edge)"
                  : zone.means === "reversed"
                    ? "var(--alarm)"
                    : "var(--ink)"
              }
              strokeDasharray={zone.means === "as_expected" || zone.means === "reversed" ? undefined : "3 2"}
            />
          ))}
          {low < 0 && (
            <line x1={x(0)} x2={x(0)} y1={TOP - 4} y2={TOP + DEEP + 4} stroke="var(--ink)" strokeWidth={2} />
          )}
          {limit != null && limit <= high && (
            <g>
              <line
                x1={x(limit)}
                x2={x(limit)}
                y1={TOP - 4}
                y2={TOP + DEEP + 4}
                stroke="var(--alarm)"
                strokeWidth={2}
              />
              <text x={x(limit)} y={TOP - 7} className="scale-word" fill="var(--alarm)">
                limit
              </text>
            </g>
          )}
          {read.map((item, index) => (
            <g key={item.key} fill={item.wrong ? "var(--alarm)" : "var(--ink)"}>
              <rect x={x(item.reading) - 1.5} y={TOP - 4} width={3} height={DEEP + 8} />
              <text
                x={Math.min(Math.max(x(item.reading), 44), width - 44)}
                y={TOP - 8 - (index % 2) * 10}
                className="scale-word font-bold"
              >
                {item.name.replace("String ", "")} {say("voltage_v", item.reading)}
              </text>
            </g>
          ))}
          {zones.flatMap((zone) =>
            NAMED[zone.means] && zone.to_v > 0 ? (
              <text
                key={`name ${zone.from_v}`}
                x={x((Math.max(zone.from_v, 0) + zone.to_v) / 2)}
                y={TOP + DEEP + 29}
                className="scale-word"
                fill="var(--muted)"
              >
                {NAMED[zone.means]}
              </text>
            ) : (
              []
            ),
          )}
          {ticks.map((v) => (
            <text key={v} x={x(v)} y={TOP + DEEP + 15} className="scale-word" fill="var(--muted)">
              {v}
            </text>
          ))}
        </svg>
      )}
    </div>
  );
}
