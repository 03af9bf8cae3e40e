import { scaleLinear } from "d3-scale";
import { curveBasisClosed, line } from "d3-shape";
import { type MouseEvent, type PointerEvent, useCallback, useEffect, useRef, useState } from "react";
import type { PassagePicture } from "../../api/client";
import { type Frame, frameOf, type Spot, spotAt } from "../../kit/chart/plane";
import { useSize } from "../../kit/chart/useSize";
import { NorthUp, Water } from "../../kit/chart/Water";
import { useDesign } from "../../kit/document";
import { HOUR_EVENT } from "../../kit/hour";
import { withValue } from "../../kit/pointer";
import { useSay, useUnits } from "../../kit/preferences";
import { hourText, unitOf } from "../../kit/units";
import { between, withinReach } from "./chartFrame";
import { landPath, useLandAbout } from "./coarseLand";
import { KeptOffOnChart } from "./KeptOff";
import { hourPoint } from "./ribbonFrame";

type Sheet = NonNullable<PassagePicture["sheet"]>;

const LEGS = "/passage/legs";
const EDGE = 44;
const FOOT = 84;

/** The same way on the plane, north up: marks to drag, the boat at the hour of the slider. */
export function ChartView({
  picture,
  chosen,
  onLeg,
}: {
  picture: PassagePicture;
  chosen: string | null;
  onLeg: (leg: string) => void;
}) {
  const { design, apply, entries } = useDesign();
  const say = useSay();
  const [, mile] = unitOf("distance_m", useUnits());
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const [hour, setHour] = useState<number | null>(null);
  const [dragged, setDragged] = useState<{ index: number; at: Spot } | null>(null);
  const legs = design.passage?.legs ?? [];
  const { ribbon } = picture;
  const first = ribbon.hours[0] ?? 0;
  const last = ribbon.hours.at(-1) ?? first;
  const at = Math.min(Math.max(hour ?? picture.turn_back?.hours ?? first, first), last);
  const point = hourPoint(ribbon, at);
  const out = picture.marks.filter((mark) => !mark.homeward);
  const spots: Spot[] = out.map((mark, k) =>
    dragged?.index === k ? dragged.at : [mark.east_m, mark.north_m],
  );
  const held = useRef<Frame | null>(null);
  const fresh = frameOf(
    [...spots, ...picture.keep_off.map((one): Spot => [one.east_m, one.north_m]), [0, 0]],
    Math.max(width - 2 * EDGE, 50),
    Math.max(height - FOOT - 2 * EDGE, 50),
    EDGE,
  );
  if (!dragged) held.current = fresh;
  const frame = held.current ?? fresh;
  const boat = spotAt(frame, [ribbon.east_m[point] ?? 0, ribbon.north_m[point] ?? 0]);
  const step = useCallback(
    (by: number) => setHour((old) => Math.min(Math.max((old ?? first) + by, first), last)),
    [first, last],
  );
  useEffect(() => {
    const move = (event: Event) => step((event as CustomEvent<number>).detail);
    window.addEventListener(HOUR_EVENT, move);
    return () => window.removeEventListener(HOUR_EVENT, move);
  }, [step]);

  const drag = (index: number) => (event: PointerEvent<SVGGElement>) => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const bounds = (event.currentTarget.ownerSVGElement as SVGSVGElement).getBoundingClientRect();
    setDragged({ index, at: frame.back(event.clientX - bounds.left, event.clientY - bounds.top) });
  };
  const drop = (index: number) => {
    if (!dragged) return;
    const before = spots[index - 1];
    const after = spots[index + 1];
    const [length, course] = between(before ?? [0, 0], dragged.at);
    if (length > 10)
      apply((current) => {
        let next = withValue(current, `/passage/legs/${index - 1}/distance_m`, length);
        next = withValue(next, `/passage/legs/${index - 1}/course_deg`, course);
        if (after) {
          const [onward, heading] = between(dragged.at, after);
          next = withValue(next, `/passage/legs/${index}/distance_m`, onward);
          next = withValue(next, `/passage/legs/${index}/course_deg`, heading);
        }
        return next;
      }, `drag-mark-${index}`);
    setDragged(null);
  };
  const start = [picture.begins_latitude_deg, picture.begins_longitude_deg] as const;
  const land = useLandAbout(!picture.sheet, ...start);
  /** A mark where the water is pressed twice: one more leg, to there. */
  const lay = (event: MouseEvent<SVGSVGElement>) => {
    if ((event.target as Element).closest("[data-spot]") || picture.done_m > 0) return;
    const bounds = event.currentTarget.getBoundingClientRect();
    const there = frame.back(event.clientX - bounds.left, event.clientY - bounds.top);
    const [distance_m, course_deg] = between(spots.at(-1) ?? [0, 0], there);
    if (distance_m <= 10 || !entries.hasRoom(design, LEGS)) return;
    apply((current) => entries.withNew(current, LEGS, { distance_m, course_deg }), "lay-mark");
  };
  const bar = scaleLinear([0, mile], [0, frame.scale * mile]);
  const miles = [1, 2, 5, 10, 20, 50].find((n) => bar(n * mile) > 60) ?? 100;
  const soc = ribbon.soc?.[point];
  const need = ribbon.soc_needed[point];
  const reach = ribbon.reach_m[point];
  const tall = Math.max(height - FOOT, 260);
  const here: Spot = [ribbon.east_m[point] ?? 0, ribbon.north_m[point] ?? 0];
  const inside =
    reach == null ? null : withinReach(frame, here, [picture.in_east_m, picture.in_north_m], reach);
  return (
    <div ref={box} className="flex min-h-[320px] flex-1 flex-col" data-chart>
      {width > 0 && (
        <>
          <svg
            width={width}
            height={tall}
            onDoubleClick={lay}
            role="group"
            aria-label={`The way on the plane, north up, ${picture.marks.length} marks; no chart to steer by`}
          >
            <Water width={width} />
            {picture.sheet && <Shores sheet={picture.sheet} frame={frame} width={width} />}
            {land && (
              <path
                data-shores="coarse"
                d={landPath(land, start, frame, [width, tall])}
                className="fill-[var(--chart-land)] stroke-muted stroke-[1]"
              />
            )}
            <Net frame={frame} width={width} height={tall} mile={mile * miles} />
            <g>
              <NorthUp />
              <path d={`M54,26v6h${bar(miles * mile)}v-6`} className="fill-none stroke-ink stroke-[1.6]" />
              <text className="chart-text" x={60} y={24}>
                {say("distance_m", miles * mile)}
              </text>
            </g>
            {inside && (
              <g data-reach-line>
                <path
                  d={`M0,0H${width}V${tall}H0Z${inside}`}
                  fillRule="evenodd"
                  className="fill-ink [fill-opacity:0.12]"
                />
                <path d={inside} className="fill-none stroke-sun-edge stroke-[1.6] [stroke-dasharray:6_4]" />
              </g>
            )}
            <KeptOffOnChart items={picture.keep_off} frame={frame} />
            <path
              d={`M${spots.map((spot) => spotAt(frame, spot).join(",")).join("L")}`}
              className="fill-none stroke-ink stroke-[2]"
            />
            {picture.legs
              .filter((leg) => !leg.homeward && leg.stream_mps != null)
              .map((leg) => {
                const k = picture.legs.indexOf(leg);
                const [x0, y0] = spotAt(frame, spots[k] ?? [0, 0]);
                const [x1, y1] = spotAt(frame, spots[k + 1] ?? [0, 0]);
                const turned = leg.course_deg + ((leg.stream_mps ?? 0) < 0 ? 180 : 0);
                return (
                  <g
                    key={leg.name}
                    transform={`translate(${(x0 + x1) / 2 + 14},${(y0 + y1) / 2 + 14}) rotate(${turned})`}
                  >
                    <path d="M0,11V-9m-5,7l5,-9l5,9" className="fill-none stroke-water stroke-[1.8]" />
                  </g>
                );
              })}
            {out.map((mark, k) => {
              const [x, y] = spotAt(frame, spots[k] ?? [0, 0]);
              const leg = k > 0 ? legs[k - 1] : undefined;
              const grip = leg && picture.done_m === 0;
              return (
                <g
                  key={`${mark.name} ${mark.gone_m}`}
                  className={grip ? "cursor-grab touch-none" : ""}
                  data-spot={k}
                  onPointerDown={(event) => {
                    if (!leg || !grip) return;
                    event.currentTarget.setPointerCapture(event.pointerId);
                    onLeg(leg.id);
                  }}
                  onPointerMove={grip ? drag(k) : undefined}
                  onPointerUp={() => drop(k)}
                >
                  <circle cx={x} cy={y} r={16} fill="transparent" />
                  <rect
                    x={x - 6}
                    y={y - 6}
                    width={12}
                    height={12}
                    rx={3}
                    className={`fill-field stroke-water ${leg && chosen === leg.id ? "stroke-[4]" : "stroke-[2.4]"}`}
                  />
                  <text
                    className="chart-label halo"
                    x={x > width - 120 ? x - 12 : x + 12}
                    y={y - 8}
                    textAnchor={x > width - 120 ? "end" : "start"}
                    fill="var(--ink)"
                  >
                    {mark.name}
                  </text>
                  <text
                    className="chart-text halo"
                    x={x > width - 120 ? x - 12 : x + 12}
                    y={y + 8}
                    textAnchor={x > width - 120 ? "end" : "start"}
                  >
                    {mark.arrives_h == null ? "not reached" : hourText(mark.arrives_h)}
                  </text>
                </g>
              );
            })}
            <g transform={`translate(${boat[0]},${boat[1]})`} data-boat-at>
              <circle r={11} className="fill-none stroke-sun-edge stroke-[1.2]" />
              <circle r={6} className="fill-sun stroke-ink stroke-[1.4]" />
            </g>
            <text className="chart-text" x={width - 10} y={tall - 10} textAnchor="end">
              {picture.sheet
                ? "shores are invented, no depths"
                : land
                  ? "coarse shores, no depths"
                  : "no shores, no depths"}
              : no chart to steer by
            </text>
          </svg>
          <div className="grid gap-1 pt-2">
            <input
              type="range"
              className="m-0 w-full accent-[var(--water)]"
              aria-label="Hour of the passage"
              aria-valuetext={hourText(at)}
              min={first}
              max={last}
              step={1 / 12}
              value={at}
              onChange={(event) => setHour(Number(event.target.value))}
            />
            <p className="m-0 text-[14px]" data-at-hour>
              <b className="tabular">{hourText(at)}</b> · {say("distance_m", ribbon.gone_m[point] ?? 0)} gone
              {soc != null && (
                <>
                  {" "}
                  · <b>{say("fraction", soc)}</b> in the bank
                </>
              )}
              {need != null && ` · ${say("fraction", need)} brings her home from here on a poor day`}
            </p>
            {reach != null && (
              <p className="m-0 text-[13px] text-muted" data-reach>
                {reach > 0
                  ? `${say("distance_m", reach)} more in all and she is in by ${hourText(picture.in_by_h)}, above the reserve`
                  : "From here no straight way is in by then above the reserve"}
                : a poor day, no stream, the wind ahead
                {inside ? "; the dashed line is how far that goes" : ""}.
              </p>
            )}
          </div>
        </>
      )}
    </div>
  );
}

const shore = line<Spot>().curve(curveBasisClosed);

/** Invented shores: the ground, and what lies in it. */
function Shores({ sheet, frame, width }: { sheet: Sheet; frame: Frame; width: number }) {
  const wet = "fill-[var(--chart-water)] stroke-water stroke-[1.2]";
  const dry = "fill-[var(--chart-land)] stroke-muted stroke-[1]";
  const drawn = (spots: number[][]) =>
    shore(spots.map(([east = 0, north = 0]) => spotAt(frame, [east, north]))) ?? "";
  const land = sheet.ground === "land";
  return (
    <g data-shores={sheet.name}>
      <rect width={width} height="100%" rx="6" className={land ? dry : wet} />
      {sheet.areas.map((area) => (
        <path key={`${area[0]}`} d={drawn(area)} className={land ? wet : dry} />
      ))}
      {land &&
        sheet.areas.map((area) => (
          <path key={`in ${area[0]}`} d={drawn(area)} className="fill-[var(--chart-water)]" />
        ))}
      {sheet.islets.map((islet) => (
        <path key={`${islet[0]}`} d={drawn(islet)} className={dry} />
      ))}
    </g>
  );
}

/** A quiet net of miles. */
function Net({ frame, width, height, mile }: { frame: Frame; width: number; height: number; mile: number }) {
  const gap = frame.scale * mile;
  const [x0, y0] = spotAt(frame, [0, 0]);
  const across = Array.from({ length: Math.ceil(width / gap) + 1 }, (_, k) => (x0 % gap) + k * gap);
  const down = Array.from({ length: Math.ceil(height / gap) + 1 }, (_, k) => (y0 % gap) + k * gap);
  return (
    <path
      d={[...across.map((x) => `M${x},0V${height}`), ...down.map((y) => `M0,${y}H${width}`)].join("")}
      className="fill-none stroke-hairline stroke-[0.7]"
    />
  );
}
