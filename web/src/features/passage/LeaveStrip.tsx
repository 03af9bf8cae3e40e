import { scaleLinear } from "d3-scale";
import { useId } from "react";
import type { PassagePicture } from "../../api/client";
import { Columns } from "../../kit/chart/axes";
import { Level, Upright } from "../../kit/chart/lines";
import { useSize } from "../../kit/chart/useSize";
import { useDesign } from "../../kit/document";
import { withValue } from "../../kit/pointer";
import { useSay } from "../../kit/preferences";
import { clockText, hourText } from "../../kit/units";
import { LEFT, RIGHT } from "./ribbonFrame";
import { TROUBLE } from "./WaysView";

const HEIGHT = 92;
const TOP = 20;
const FOOT = 16;
const DARK = 0.05; // hours, less is not drawn

/** The day by half hours: what a departure then arrives with; a press leaves at that hour. */
export function LeaveStrip({ picture }: { picture: PassagePicture }) {
  const { apply } = useDesign();
  const say = useSay();
  const id = useId();
  const [box, { width }] = useSize<HTMLDivElement>();
  const x = scaleLinear([0, 24], [LEFT, Math.max(width - RIGHT, LEFT + 1)]);
  const y = scaleLinear([0, 1], [HEIGHT - FOOT, TOP]);
  const wide = Math.max(x(0.5) - x(0) - 1.5, 1);
  const leave = (hours: number) =>
    apply(
      (current) => withValue(current, "/passage/leaves_at", `${clockText(hours * 60)}:00`),
      "passage-leaves",
    );
  const ticks = (width < 480 ? [0, 6, 12, 18, 24] : [0, 3, 6, 9, 12, 15, 18, 21, 24]).map(
    (hour) => [x(hour), clockText(hour * 60)] as const,
  );
  const words =
    picture.arrives_h == null
      ? `leave ${hourText(picture.leaves_h)}: ${picture.trouble ? TROUBLE[picture.trouble] : "she does not arrive"}`
      : `leave ${hourText(picture.leaves_h)}, in at ${hourText(picture.arrives_h)}`;
  return (
    <div ref={box} className="flex-none" data-leave>
      {width > 0 && (
        <svg
          width={width}
          height={HEIGHT}
          role="group"
          aria-label="When to leave: every half hour of the day"
        >
          <defs>
            <pattern
              id={`${id}no`}
              width="6"
              height="6"
              patternUnits="userSpaceOnUse"
              patternTransform="rotate(45)"
            >
              <rect width="6" height="6" fill="var(--mist)" />
              <Upright x={0} y1="0" y2="6" stroke="var(--muted)" strokeWidth="1.2" />
            </pattern>
          </defs>
          <text className="chart-label" x={2} y={11} fill="var(--ink)">
            When to leave
            <tspan dx="10" fontWeight="400" fill="var(--muted)">
              {words}
              {width > 560 &&
                picture.arrives_h != null &&
                " · hatched: it cannot be done · dark cap: partly in the dark"}
            </tspan>
          </text>
          {picture.sunrise_h != null && picture.sunset_h != null && (
            <>
              <rect
                x={x(0)}
                y={TOP}
                width={x(picture.sunrise_h) - x(0)}
                height={HEIGHT - TOP - FOOT}
                fill="var(--night)"
              />
              <rect
                x={x(picture.sunset_h)}
                y={TOP}
                width={Math.max(x(24) - x(picture.sunset_h), 0)}
                height={HEIGHT - TOP - FOOT}
                fill="var(--night)"
              />
            </>
          )}
          {picture.departures.map((one) => {
            const share = one.arrival_soc_frac ?? (one.trouble ? 0.25 : 0.5);
            const top = y(share);
            const told = one.trouble
              ? TROUBLE[one.trouble]
              : `in at ${hourText(one.arrives_h ?? 0)}${one.arrival_soc_frac == null ? "" : ` with ${say("fraction", one.arrival_soc_frac)}`}`;
            return (
              <g key={one.leaves_h}>
                <rect
                  x={x(one.leaves_h) - wide / 2}
                  y={top}
                  width={wide}
                  height={Math.max(HEIGHT - FOOT - top, 1)}
                  className="stroke-edge stroke-[0.6]"
                  fill={one.trouble ? `url(#${id}no)` : "var(--bank-soft)"}
                  data-trouble={one.trouble ?? "none"}
                />
                {!one.trouble && one.dark_h > DARK && (
                  <rect x={x(one.leaves_h) - wide / 2} y={top} width={wide} height={4} fill="var(--ink)" />
                )}
                <rect
                  x={x(one.leaves_h) - wide / 2 - 0.7}
                  y={TOP}
                  width={wide + 1.4}
                  height={HEIGHT - TOP - FOOT}
                  fill="transparent"
                  className="cursor-pointer"
                  role="button"
                  tabIndex={-1}
                  aria-label={`Leave at ${hourText(one.leaves_h)}: ${told}`}
                  onClick={() => leave(one.leaves_h)}
                  onKeyDown={(event) => event.key === "Enter" && leave(one.leaves_h)}
                >
                  <title>{`${hourText(one.leaves_h)}: ${told}`}</title>
                </rect>
              </g>
            );
          })}
          {picture.reserve_frac != null && (
            <Level
              y={y(picture.reserve_frac)}
              x1={x(0)}
              x2={x(24)}
              className="stroke-alarm stroke-[1.4] [stroke-dasharray:3_4]"
            />
          )}
          <Level y={HEIGHT - FOOT} x1={x(0)} x2={x(24)} stroke="var(--ink)" strokeWidth="1.4" />
          <Columns
            of={ticks}
            top={HEIGHT - FOOT}
            bottom={HEIGHT - FOOT + 3}
            foot={HEIGHT - 3}
            within={width}
          />
          <Upright
            x={x(picture.leaves_h)}
            y1={TOP - 4}
            y2={HEIGHT - FOOT}
            stroke="var(--ink)"
            strokeWidth="2"
          />
          <circle cx={x(picture.leaves_h)} cy={HEIGHT - FOOT} r={5} className="fill-sun stroke-ink" />
        </svg>
      )}
    </div>
  );
}
