import type { KeyboardEvent } from "react";
import type { DayPicture, Spell } from "../../api/client";
import { dragX, keyStep } from "../../kit/chart/drag";
import { READOUT_LINE, Readout } from "../../kit/chart/Readout";
import { useSay, useUnits } from "../../kit/preferences";
import { SunMark } from "../../kit/ui/Mark";
import { clockText, shown } from "../../kit/units";
import { clockAt, indexOf, LANE_GAP, LANE_HEIGHT, MARGIN, minutesOf, type Scale, STEPS } from "./dayAxis";

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
        const nudge = (edge: SpellEdge["edge"], from: number) => (event: KeyboardEvent) => {
          const step = keyStep(event.key);
          if (!step) return;
          event.preventDefault();
          onEdge({ spell: index, edge }, (from + step * 10 + 1440) % 1440);
        };
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
                    const by = Math.round(((x.invert(px) - x.invert(from)) * 10) / 10) * 10;
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
                <rect
                  x="-5"
                  y="-9"
                  width="10"
                  height="26"
                  rx="4"
                  fill="var(--field)"
                  stroke="var(--water-text)"
                  strokeWidth="2"
                  className="cursor-ew-resize"
                  style={{ touchAction: "none" }}
                  tabIndex={0}
                  role="slider"
                  aria-label={`${name} ${edge === "starts_at" ? "starts" : "ends"}`}
                  aria-valuemin={0}
                  aria-valuemax={1439}
                  aria-valuenow={clock}
                  aria-valuetext={clockText(clock)}
                  onKeyDown={nudge(edge, clock)}
                  onPointerDown={(event) =>
                    dragX(event, (px) =>
                      onEdge(
                        { spell: index, edge },
                        (Math.round(
                          clockAt(picture, Math.min(Math.max(x.invert(px), 0), STEPS - 0.01)) / 10,
                        ) *
                          10) %
                          1440,
                      ),
                    )
                  }
                />
              </g>
            ))}
          </g>
        );
      })}
    </g>
  );
}

/** The moment the day is read at: a sun to drag, and what it sees. */
export function Cursor({
  picture,
  x,
  at,
  step,
  total,
  onCursor,
  height,
  right,
}: {
  picture: DayPicture;
  x: Scale;
  at: number;
  step: number;
  total: number[];
  onCursor: (index: number) => void;
  height: number;
  right: number;
}) {
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
  const left = x(at) + 184 > right ? Math.max(x(at) - 178, MARGIN.left + 4) : x(at) + 10;
  const boxTop = height - MARGIN.bottom - LANE_HEIGHT - LANE_GAP - lines.length * READOUT_LINE - 22;
  return (
    <g>
      <line
        x1={x(at)}
        x2={x(at)}
        y1={MARGIN.top - 8}
        y2={height - MARGIN.bottom}
        stroke="var(--ink)"
        strokeWidth="1.3"
        pointerEvents="none"
      />
      <Readout x={left} y={boxTop} width={168} lines={lines} />
      <g
        transform={`translate(${x(at)} ${MARGIN.top - 16})`}
        tabIndex={0}
        role="slider"
        aria-label="Time of day"
        aria-valuemin={0}
        aria-valuemax={STEPS}
        aria-valuenow={Math.round(at)}
        aria-valuetext={lines.join(", ")}
        className="cursor-ew-resize"
        style={{ touchAction: "none" }}
        onPointerDown={(event) =>
          dragX(event, (px) => onCursor(Math.min(Math.max(x.invert(px), 0), STEPS - 0.01)))
        }
        onKeyDown={(event) => {
          const by = keyStep(event.key);
          if (!by) return;
          event.preventDefault();
          onCursor(Math.min(Math.max(at + by, 0), STEPS - 0.01));
        }}
      >
        <rect x="-24" y="-15" width="48" height="30" fill="transparent" />
        <SunMark x={0} y={0} r={8} />
      </g>
    </g>
  );
}
