import type { StringsPicture } from "../../api/client";
import { Level } from "../../kit/chart/lines";
import { spread } from "../../kit/chart/spread";
import { useSize } from "../../kit/chart/useSize";

type Rungs = StringsPicture["rungs"][number];

const LEFT = 52;
const FOOT = 46;
const HEAD = 18;
const LABEL = 16;

interface Props {
  picture: StringsPicture;
  chosen: string | null;
  onChoose: (id: string) => void;
}

/** Every string as rungs of volts in the window of its controller, over the bank it must reach. */
export function Ladder({ picture, chosen, onChoose }: Props) {
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const { rungs, banks } = picture;
  if (rungs.length === 0)
    return (
      <p className="m-auto max-w-[44ch] text-center text-muted">
        No panels to wire yet. Place some at the Array; their strings stand here.
      </p>
    );
  const most = Math.max(...rungs.map((rung) => Math.max(rung.cold_v, rung.limit_v ?? 0)), 20) * 1.08;
  const ground = height - FOOT;
  const y = (volts: number) => ground - (volts / most) * (ground - HEAD);
  const step = [5, 10, 20, 25, 50, 100, 200].find((size) => most / size <= 8) ?? 500;
  const grid = Array.from({ length: Math.floor(most / step) + 1 }, (_, i) => i * step);
  const wide = (width - LEFT) / rungs.length;
  return (
    <div ref={box} className="relative min-h-[380px] flex-1">
      {width > 0 && (
        <svg
          className="absolute"
          width={width}
          height={height}
          role="group"
          aria-label="Voltage ladder"
          data-ladder
        >
          {grid.map((volts) => (
            <g key={volts}>
              <Level y={y(volts)} x1={LEFT} x2={width} stroke="var(--hairline)" />
              <text className="chart-text" x={LEFT - 8} y={y(volts) + 4} textAnchor="end">
                {volts} V
              </text>
            </g>
          ))}
          {banks.map((bank) => (
            <g key={bank.id}>
              <rect
                x={LEFT}
                width={width - LEFT}
                y={y(bank.absorption_v)}
                height={Math.max(y(bank.cut_out_v) - y(bank.absorption_v), 2)}
                className="fill-bank-soft [fill-opacity:0.8]"
              />
              <Level y={y(bank.float_v)} x1={LEFT} x2={width} stroke="var(--bank)" strokeDasharray="2 3" />
              <text
                x={width - 6}
                y={y(bank.cut_out_v) + 14}
                textAnchor="end"
                className="fill-bank font-bold text-[12.5px]"
              >
                {bank.name} {bank.cut_out_v.toFixed(0)} to {bank.absorption_v.toFixed(1)} V, float{" "}
                {bank.float_v.toFixed(1)}
              </text>
            </g>
          ))}
          {rungs.map((rung, i) => (
            <OneLadder
              key={rung.key}
              rung={rung}
              left={LEFT + i * wide}
              wide={wide}
              y={y}
              ground={ground}
              top={HEAD}
              chosen={rung.key === chosen}
              onChoose={() => onChoose(rung.key)}
            />
          ))}
        </svg>
      )}
    </div>
  );
}

interface OneProps {
  rung: Rungs;
  left: number;
  wide: number;
  y: (volts: number) => number;
  ground: number;
  top: number;
  chosen: boolean;
  onChoose: () => void;
}

function OneLadder({ rung, left, wide, y, ground, top, chosen, onChoose }: OneProps) {
  const width = Math.min(wide * 0.72, 170);
  const x = left + (wide - width) / 2;
  const low = rung.needs_v ?? 0;
  const shut = rung.limit_v != null && rung.limit_v < low; // no window: the labels change sides
  const marks = [
    { key: "cold", words: `cold, open ${rung.cold_v.toFixed(0)} V`, volts: rung.cold_v, alarm: rung.over },
    { key: "noon", words: `noon ${rung.noon_v.toFixed(0)}`, volts: rung.noon_v, alarm: false },
    { key: "hot", words: `hot ${rung.hot_v.toFixed(0)}`, volts: rung.hot_v, alarm: rung.low },
  ];
  const labels = spread(
    marks.map((item) => ({ item, at: y(item.volts) - 5 })),
    LABEL,
    top,
    ground - 4,
  );
  const words = `${rung.name}: ${marks.map((mark) => mark.words).join(", ")}${rung.limit_v ? `, limit ${rung.limit_v} V` : ", limit not known"}`;
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={words}
      aria-pressed={chosen}
      className="cursor-pointer"
      data-rungs={rung.key}
      onClick={onChoose}
      onKeyDown={(event) => event.key === "Enter" && onChoose()}
    >
      <rect
        x={x}
        y={y(rung.limit_v ?? rung.cold_v)}
        width={width}
        height={Math.max(y(low) - y(rung.limit_v ?? rung.cold_v), 0)}
        stroke={chosen ? "var(--water-text)" : "none"}
        strokeDasharray={rung.limit_v ? undefined : "5 4"}
        className="fill-water-soft stroke-2 [fill-opacity:0.55]"
      />
      {rung.limit_v != null && (
        <>
          <Level y={y(rung.limit_v)} x1={x - 6} x2={x + width + 6} stroke="var(--alarm)" strokeWidth="2.4" />
          <text
            x={x + width}
            y={y(rung.limit_v) + (shut ? 15 : -6)}
            textAnchor="end"
            className="fill-alarm text-[12.5px]"
          >
            limit {rung.limit_v} V
          </text>
        </>
      )}
      {rung.needs_v != null && (
        <>
          <Level
            y={y(rung.needs_v)}
            x1={x - 6}
            x2={x + width + 6}
            className="stroke-bank stroke-2 [stroke-dasharray:6_4]"
          />
          <text
            x={x + width}
            y={y(rung.needs_v) + (rung.low || shut ? -6 : 14)}
            textAnchor="end"
            className="fill-bank text-[12.5px]"
          >
            needs {rung.needs_v.toFixed(1)}
          </text>
        </>
      )}
      {marks.map((mark) => (
        <Level
          y={y(mark.volts)}
          key={mark.key}
          x1={x + 8}
          x2={x + width - 8}
          stroke={mark.alarm ? "var(--alarm)" : mark.key === "cold" ? "var(--ink)" : "var(--sun-edge)"}
          strokeWidth="4"
        />
      ))}
      {labels.map(({ item, y: at }) => (
        <text
          key={item.key}
          x={x + 10}
          y={at}
          fontWeight={item.alarm ? 700 : 400}
          fill={item.alarm ? "var(--alarm)" : "var(--ink)"}
          paintOrder="stroke"
          className="stroke-mist stroke-3 text-[12.5px]"
        >
          {item.alarm ? "▲ " : ""}
          {item.words}
        </text>
      ))}
      <text
        x={left + wide / 2}
        y={ground + 19}
        textAnchor="middle"
        className="fill-ink font-bold text-[13.5px]"
      >
        {rung.name}
      </text>
      <text className="chart-text" x={left + wide / 2} y={ground + 36} textAnchor="middle">
        {rung.series > 1
          ? `${rung.strings === 1 ? "one string" : `${rung.strings} strings`} of ${rung.series}`
          : rung.strings === 1
            ? "one panel"
            : `${rung.strings} side by side`}
      </text>
    </g>
  );
}
