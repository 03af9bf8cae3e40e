import type { DayPicture, Spell } from "../../api/client";
import { dragX } from "../../kit/chart/drag";
import { Handle } from "../../kit/chart/Handle";
import { Upright } from "../../kit/chart/lines";
import { READOUT_LINE, Readout } from "../../kit/chart/Readout";
import { useSay, useUnits } from "../../kit/preferences";
import { SunMark } from "../../kit/ui/Mark";
import { clockText, shown } from "../../kit/units";
import { clockAt, frameOf, indexOf, LANE_GAP, LANE_HEIGHT, MARGIN, minutesOf, type Scale } from "./dayAxis";

const SNAP_MIN = 10; // what a dragged hour snaps to

export interface SpellEdge {
  spell: number;
  edge: "starts_at" | "ends_at";
}

export interface SpellHandlers {
  onEdge: (edge: SpellEdge, clockMin: number) => void;
  onMove: (spell: number, byMin: number) => void;
}

/** The motoring hours as handles on the waterline. */
export function Spells({
  picture,
  spells,
  x,
  y,
  onEdge,
  onMove,
}: SpellHandlers & { picture: DayPicture; spells: Spell[] } & { x: Scale; y: Scale }) {
  const top = y(0);
  return (
    <g>
      {spells.map((spell, index) => {
        const start = minutesOf(spell.starts_at);
        const end = minutesOf(spell.ends_at);
        const [a, b] = [indexOf(picture, start), indexOf(picture, end)];
        const name = `Motoring spell ${index + 1}`;
        return (
          <g key={`${index}-${spells.length}`}>
            {b > a && (
              <rect
                x={x(a)}
                y={top + 3}
                width={x(b) - x(a)}
                height="24"
                fill="transparent"
                className="cursor-grab"
                style={{ touchAction: "none" }}
                onPointerDown={(event) => {
                  let from =
                    event.clientX - (event.currentTarget.ownerSVGElement?.getBoundingClientRect().left ?? 0);
                  dragX(event, (px) => {
                    const moved = (x.invert(px) - x.invert(from)) * frameOf(picture).minutes;
                    const by = Math.round(moved / SNAP_MIN) * SNAP_MIN;
                    if (by === 0) return;
                    onMove(index, by);
                    from = px;
                  });
                }}
              />
            )}
            {(
              [
                ["starts_at", a, start],
                ["ends_at", b, end],
              ] as const
            ).map(([edge, at, clock]) => (
              <g key={edge} transform={`translate(${x(at)} ${top})`}>
                <Handle
                  label={`${name} ${edge === "starts_at" ? "starts" : "ends"}`}
                  most={1439}
                  now={clock}
                  text={clockText(clock)}
                  onDrag={(px) => {
                    const at = Math.min(Math.max(x.invert(px), 0), frameOf(picture).steps - 0.01);
                    const snapped = Math.round(clockAt(picture, at) / SNAP_MIN) * SNAP_MIN;
                    onEdge({ spell: index, edge }, snapped % 1440);
                  }}
                  onStep={(by) => onEdge({ spell: index, edge }, (clock + by * SNAP_MIN + 1440) % 1440)}
                >
                  <rect
                    x="-5"
                    y="-9"
                    width="10"
                    height="26"
                    rx="4"
                    className="fill-field stroke-water-text stroke-2"
                  />
                </Handle>
              </g>
            ))}
          </g>
        );
      })}
    </g>
  );
}

/** The moment the day is read at: a sun to drag, and what it sees. */
export function Cursor(props: {
  picture: DayPicture;
  x: Scale;
  at: number;
  step: number;
  total: number[];
  onCursor: (index: number) => void;
  height: number;
  right: number;
}) {
  const { picture, x, at, step, total, onCursor, height, right } = props;
  const say = useSay();
  const units = useUnits();
  const clock = clockText(clockAt(picture, at));
  const out = (picture.house_w[step] ?? 0) + (picture.motor_w[step] ?? 0);
  const soc = picture.soc?.[step + 1];
  const before = picture.soc?.[step] ?? 0;
  const power = (value: number) => shown({ quantity: "power_w", value, signed: false }, units);
  const elevation = picture.elevation_deg[step] ?? 0;
  const sunText = elevation > 0 ? `sun ${Math.round(elevation)}° up` : "sun down";
  const lines = [`${clock} · ${sunText}`, `in ${power(total[step] ?? 0)}   out ${power(out)}`];
  if (soc !== undefined) {
    const trend = Math.abs(soc - before) < 1e-5 ? "steady" : soc > before ? "filling" : "emptying";
    lines.push(`bank ${say("fraction", soc)}, ${trend}`);
  }
  const whole = frameOf(picture).steps;
  const inside = (index: number) => Math.min(Math.max(index, 0), whole - 0.01);
  const left = x(at) + 184 > right ? Math.max(x(at) - 178, MARGIN.left + 4) : x(at) + 10;
  const boxTop = height - MARGIN.bottom - LANE_HEIGHT - LANE_GAP - lines.length * READOUT_LINE - 22;
  return (
    <g>
      <Upright
        x={x(at)}
        y1={MARGIN.top - 8}
        y2={height - MARGIN.bottom}
        pointerEvents="none"
        className="stroke-ink stroke-[1.3]"
      />
      <Readout x={left} y={boxTop} width={168} lines={lines} />
      <Handle
        transform={`translate(${x(at)} ${MARGIN.top - 16})`}
        label="Time of day"
        most={whole}
        now={Math.round(at)}
        text={lines.join(", ")}
        onDrag={(px) => onCursor(inside(x.invert(px)))}
        onStep={(by) => onCursor(inside(at + by))}
      >
        <rect x="-24" y="-15" width="48" height="30" fill="transparent" />
        <SunMark x={0} y={0} r={8} />
      </Handle>
    </g>
  );
}
