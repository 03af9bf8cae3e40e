import type { PointerEvent } from "react";
import type { FitoutPicture } from "../../api/client";
import { useSize } from "../../kit/chart/useSize";
import { clockText } from "../../kit/units";
import { dayOf, type Minute } from "./minute";

const HIGH = 72;
const FLOOR = 52;

/** The sun's height through the day, the hours that are good for this test, and the minute; drag it. */
export function SunStrip(props: {
  minute: FitoutPicture["minute"];
  onMinute: (part: Partial<Minute>) => void;
}) {
  const { minute, onMinute } = props;
  const [box, { width }] = useSize<HTMLDivElement>();
  const { arc, good_from_h: from, good_to_h: to } = minute;
  const [first, last] = [arc[0]?.hour ?? 0, arc[arc.length - 1]?.hour ?? 24];
  const most = Math.max(...arc.map((point) => point.elevation_deg), 5);
  const x = (hour: number) => 8 + ((hour - first) / Math.max(last - first, 0.1)) * Math.max(width - 16, 1);
  const y = (deg: number) => FLOOR - (Math.max(deg, 0) / most) * (FLOOR - 12);
  const line = arc.map((point) => `${x(point.hour)},${y(point.elevation_deg)}`).join(" ");
  const good = arc.filter((point) => from != null && to != null && point.hour >= from && point.hour <= to);
  const put = (hour: number) => {
    const held = Math.min(Math.max(hour, first), last);
    onMinute({ at: `${dayOf(minute.at)}T${clockText(Math.min(Math.round(held * 12) * 5, 1435))}` });
  };
  const at = (event: PointerEvent<HTMLDivElement>) =>
    first +
    ((event.clientX - event.currentTarget.getBoundingClientRect().left - 8) / Math.max(width - 16, 1)) *
      (last - first);
  const hours: number[] = [];
  for (let hour = Math.ceil(first / 2) * 2; hour <= last; hour += 2) hours.push(hour);
  const here = Math.min(Math.max(minute.hour, first), last);
  return (
    <div
      ref={box}
      className="mt-1 flex-none cursor-ew-resize touch-none"
      role="slider"
      tabIndex={0}
      aria-label="The minute"
      aria-valuemin={Math.round(first * 60)}
      aria-valuemax={Math.round(last * 60)}
      aria-valuenow={Math.round(minute.hour * 60)}
      aria-valuetext={clockText(minute.hour * 60)}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        put(at(event));
      }}
      onPointerMove={(event) => event.buttons === 1 && put(at(event))}
      onKeyDown={(event) => {
        const by = { ArrowLeft: -0.25, ArrowRight: 0.25, ArrowDown: -1, ArrowUp: 1 }[event.key];
        if (!by) return;
        event.preventDefault();
        put(minute.hour + by);
      }}
    >
      {width > 0 && (
        <svg width={width} height={HIGH} aria-hidden="true">
          {good.length > 1 && (
            <polygon
              points={`${x(good[0]?.hour ?? 0)},${FLOOR} ${good.map((point) => `${x(point.hour)},${y(point.elevation_deg)}`).join(" ")} ${x(good[good.length - 1]?.hour ?? 0)},${FLOOR}`}
              fill="var(--dog-far)"
            />
          )}
          <polyline points={line} fill="none" stroke="var(--sun-edge)" strokeWidth={2} />
          <line x1={0} x2={width} y1={FLOOR} y2={FLOOR} stroke="var(--ink)" strokeWidth={1.5} />
          {from != null && to != null && (
            <text
              x={(x(from) + x(to)) / 2}
              y={FLOOR - 6}
              textAnchor="middle"
              fontSize={12.5}
              fill="var(--sun-text)"
              className="on-dog"
            >
              good light for this, {clockText(from * 60)} to {clockText(to * 60)}
            </text>
          )}
          {hours.map((hour) => (
            <text
              key={hour}
              x={x(hour)}
              y={FLOOR + 16}
              textAnchor="middle"
              fontSize={12.5}
              fill="var(--muted)"
            >
              {clockText(hour * 60).slice(0, 2)}
            </text>
          ))}
          <circle
            cx={x(here)}
            cy={y(Math.max(minute.elevation_deg, 0))}
            r={8}
            fill="var(--sun)"
            stroke="var(--ink)"
            strokeWidth={1.5}
          />
        </svg>
      )}
    </div>
  );
}
