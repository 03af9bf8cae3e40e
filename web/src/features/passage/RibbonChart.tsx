import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import { type PointerEvent, useState } from "react";
import type { PassagePicture, Sure } from "../../api/client";
import { Rows } from "../../kit/chart/axes";
import { Level, Upright } from "../../kit/chart/lines";
import { useSize } from "../../kit/chart/useSize";
import { LETTER_PX } from "../../kit/chart/wrapped";
import { useDesign } from "../../kit/document";
import { useSay, useUnits } from "../../kit/preferences";
import { hourText, unitOf } from "../../kit/units";
import { RibbonWater } from "./RibbonWater";
import { LEFT, placeAt, pointAt, RIGHT } from "./ribbonFrame";

const WATER = { top: 58, height: 54 };
const GAP = 26;
const SPEEDS = 60;
const FOOT = 20;
const LEAST = 400;

/** The way straightened: marks and stream, both speeds, the bank with its band and the last turn. */
export function RibbonChart(props: {
  picture: PassagePicture;
  sure: Sure | null;
  chosen: string | null;
  onLeg: (leg: string) => void;
}) {
  const { picture, sure, chosen, onLeg } = props;
  const { design } = useDesign();
  const say = useSay();
  const [box, { width, height: given }] = useSize<HTMLDivElement>();
  const [at, setAt] = useState<number | null>(null);
  const height = Math.max(given, LEAST);
  const right = Math.max(width - RIGHT, LEFT + 1);
  const x = scaleLinear([0, 1], [LEFT, right]);
  const { ribbon } = picture;
  const speedTop = WATER.top + WATER.height + 2 * GAP + 12;
  const bankTop = speedTop + SPEEDS + GAP + 4;
  const most = Math.max(...ribbon.speed_mps, ...ribbon.ground_mps, 0.5);
  const v = scaleLinear([0, most * 1.08], [speedTop + SPEEDS, speedTop]);
  const s = scaleLinear([0, 1], [height - FOOT, bankTop]);
  const px = (i: number) => x(ribbon.place_frac[i] ?? 0);
  const lane = line<number>()
    .x((_, i) => px(i))
    .y((value) => v(value));
  const charge = line<number>()
    .x((_, i) => px(i))
    .y((value) => s(value));
  const [, knot] = unitOf("speed_mps", useUnits());
  const marks = scaleLinear([0, (most * 1.08) / knot], [0, 1])
    .ticks(3)
    .map((shown) => [v(shown * knot), say("speed_mps", shown * knot)] as const);
  const shares = [0, 0.5, 1].map((share) => [s(share), say("fraction", share)] as const);
  const move = (event: PointerEvent<SVGRectElement>) => {
    const bounds = event.currentTarget.getBoundingClientRect();
    setAt((event.clientX - bounds.left) / bounds.width);
  };
  const point = at === null ? null : pointAt(ribbon, at);
  const turn = picture.turn_back;
  return (
    <div ref={box} className="min-h-0 flex-1" style={{ minHeight: LEAST }} data-ribbon>
      {width > 0 && (
        <svg width={width} height={height} role="group" aria-label={spoken(picture, say)}>
          <RibbonWater
            picture={picture}
            x={x}
            top={WATER.top}
            height={WATER.height}
            legs={design.passage?.legs ?? []}
            chosen={chosen}
            onLeg={onLeg}
          />
          {nights(ribbon).map(([from, to]) => (
            <rect
              key={from}
              x={px(from)}
              y={speedTop}
              width={Math.max(px(to) - px(from), 0)}
              height={height - FOOT - speedTop}
              fill="var(--night)"
            />
          ))}
          <text className="chart-label" x={2} y={speedTop - 9} fill="var(--ink)">
            Speed
            <tspan dx="10" fontWeight="400" fill="var(--muted)">
              {width < 480
                ? "dashed: through the water"
                : "solid: over the ground · dashed: through the water"}
            </tspan>
          </text>
          <Rows of={marks} left={LEFT} right={right} />
          <path
            d={lane(ribbon.speed_mps) ?? ""}
            className="fill-none stroke-water stroke-[1.8] [stroke-dasharray:6_4]"
          />
          <path d={lane(ribbon.ground_mps) ?? ""} className="fill-none stroke-ink stroke-[2.2]" />
          <text className="chart-label" x={2} y={bankTop - 9} fill="var(--ink)">
            In the bank
            <tspan dx="10" fontWeight="400" fill="var(--muted)">
              {ribbon.soc && width < 480
                ? "dotted: a poor day"
                : ribbon.soc
                  ? `line: the middle day · dotted: a poor one${sure ? " · band: 8 of 10" : ""} · red: what brings her home`
                  : "no bank aboard: the sun drives her"}
            </tspan>
          </text>
          {ribbon.soc && (
            <>
              <Rows of={shares} left={LEFT} right={right} />
              {sure && (
                <path
                  fill="var(--bank-soft)"
                  d={
                    area<number>()
                      .x((_, i) => x(placeAt(ribbon, sure.hours[i] ?? 0)))
                      .y0((value) => s(value))
                      .y1((_, i) => s(sure.soc_high[i] ?? 0))(sure.soc_low) ?? ""
                  }
                  data-band
                />
              )}
              {ribbon.soc_poor && (
                <path
                  d={charge(ribbon.soc_poor) ?? ""}
                  className="fill-none stroke-bank stroke-[1.6] [stroke-dasharray:2_4]"
                />
              )}
              <path
                d={
                  line<number | null>()
                    .defined((value) => value !== null)
                    .x((_, i) => px(i))
                    .y((value) => s(value ?? 0))(ribbon.soc_needed) ?? ""
                }
                className="fill-none stroke-alarm stroke-[1.4]"
                data-needed
              />
              <path d={charge(ribbon.soc) ?? ""} className="fill-none stroke-bank stroke-[2.6]" data-charge />
              {picture.reserve_frac != null && (
                <>
                  <Level
                    y={s(picture.reserve_frac)}
                    x1={LEFT}
                    x2={right}
                    className="stroke-alarm stroke-[1.5] [stroke-dasharray:3_4]"
                  />
                  <text
                    className="chart-text"
                    x={LEFT + 6}
                    y={s(picture.reserve_frac) + 15}
                    style={{ fill: "var(--alarm)" }}
                  >
                    reserve {say("fraction", picture.reserve_frac)}
                  </text>
                </>
              )}
              {picture.arrival_soc_frac != null && (
                <text
                  className="chart-label"
                  x={right - 4}
                  y={s(picture.arrival_soc_frac) + (picture.arrival_soc_frac > 0.85 ? 22 : -9)}
                  textAnchor="end"
                  fill="var(--ink)"
                >
                  {say("fraction", picture.arrival_soc_frac)}
                </text>
              )}
            </>
          )}
          {turn && !turn.everywhere && (
            <g data-turn>
              <Upright
                x={x(turn.place_frac)}
                y1={WATER.top - 40}
                y2={height - FOOT}
                className="stroke-alarm stroke-[1.5] [stroke-dasharray:3_3]"
              />
              <path d={`M${x(turn.place_frac)},${WATER.top - 56}l16,6l-16,6z`} fill="var(--alarm)" />
              <Upright
                x={x(turn.place_frac)}
                y1={WATER.top - 56}
                y2={WATER.top}
                stroke="var(--alarm)"
                strokeWidth="1.6"
              />
              <text
                className="chart-label"
                x={x(turn.place_frac) + (turn.place_frac > 0.7 ? -6 : 20)}
                y={WATER.top - 45}
                textAnchor={turn.place_frac > 0.7 ? "end" : "start"}
                style={{ fill: "var(--alarm)" }}
              >
                turn back by {hourText(turn.hours)}
              </text>
            </g>
          )}
          <Level y={height - FOOT} x1={LEFT} x2={right} stroke="var(--ink)" strokeWidth="1.2" />
          {spread(picture, x).map(([place, words]) => (
            <text
              key={`${place}`}
              className="chart-text"
              x={place}
              y={height - 6}
              textAnchor={place < LEFT + 10 ? "start" : place > right - 24 ? "end" : "middle"}
            >
              {words}
            </text>
          ))}
          <rect
            x={LEFT}
            y={speedTop}
            width={right - LEFT}
            height={height - FOOT - speedTop}
            fill="transparent"
            onPointerMove={move}
            onPointerLeave={() => setAt(null)}
          />
          {point !== null && (
            <Reading
              picture={picture}
              point={point}
              x={px(point)}
              top={speedTop}
              bottom={height - FOOT}
              right={right}
            />
          )}
        </svg>
      )}
    </div>
  );

  /** Miles under the marks, where there is room for them. */
  function spread(of: PassagePicture, scale: typeof x): [number, string][] {
    const found: [number, string][] = [];
    for (const mark of of.marks.filter((one) => one.arrives_h != null)) {
      const place = scale(mark.from_frac);
      const words = say("distance_m", mark.gone_m);
      const wide = (text: string) => text.length * LETTER_PX;
      const [before, said] = found.at(-1) ?? [Number.NEGATIVE_INFINITY, ""];
      const end = mark === of.marks.at(-1); // its words end where the ribbon does
      const begun = before + wide(said) / (found.length === 1 ? 1 : 2); // the first begin where the ribbon does
      const near = place - wide(words) / (end ? 1 : 2) - begun < 6;
      if (end && near) found.pop();
      if (end || !near) found.push([place, words]);
    }
    return found;
  }
}

/** What stands under the pointer. */
function Reading(props: {
  picture: PassagePicture;
  point: number;
  x: number;
  top: number;
  bottom: number;
  right: number;
}) {
  const { picture, point, x, top, bottom, right } = props;
  const say = useSay();
  const { ribbon } = picture;
  const soc = ribbon.soc?.[point];
  const words = [
    hourText(ribbon.hours[point] ?? 0),
    say("distance_m", ribbon.gone_m[point] ?? 0),
    say("speed_mps", ribbon.ground_mps[point] ?? 0),
    say("power_w", ribbon.motor_w[point] ?? 0),
    soc == null ? null : say("fraction", soc),
  ].filter(Boolean);
  const end = x > right - 230;
  return (
    <g pointerEvents="none">
      <Upright x={x} y1={top} y2={bottom} stroke="var(--ink)" strokeWidth="1" />
      <text
        className="chart-text halo"
        x={x + (end ? -6 : 6)}
        y={top + 12}
        textAnchor={end ? "end" : "start"}
      >
        {words.join(" · ")}
      </text>
    </g>
  );
}

/** Stretches of the ribbon in the dark, from point to point. */
function nights(ribbon: PassagePicture["ribbon"]): [number, number][] {
  const found: [number, number][] = [];
  ribbon.dark.forEach((dark, i) => {
    const last = found.at(-1);
    if (dark && last && last[1] === i - 1) last[1] = i;
    else if (dark) found.push([i, i]);
  });
  return found;
}

function spoken(picture: PassagePicture, say: ReturnType<typeof useSay>): string {
  const marks = picture.marks.map((mark) =>
    mark.arrives_h == null
      ? `${mark.name} not reached`
      : `${mark.name} ${hourText(mark.arrives_h)}${mark.soc_frac == null ? "" : `, ${say("fraction", mark.soc_frac)}`}`,
  );
  return `The way, straightened: ${marks.join("; ")}`;
}
