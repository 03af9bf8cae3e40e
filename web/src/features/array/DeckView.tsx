import { type PointerEvent, useEffect, useState } from "react";
import type { ArrayPicture } from "../../api/client";
import { follow } from "../../kit/chart/drag";
import { Handle } from "../../kit/chart/Handle";
import { useSize } from "../../kit/chart/useSize";
import { useDesign } from "../../kit/document";
import { HOUR_EVENT } from "../../kit/hour";
import { withValue } from "../../kit/pointer";
import { DeckPlan } from "./DeckPlan";
import { DeckReadout } from "./DeckReadout";
import { planOf, type Spot, sunAt } from "./deckGeometry";
import { SunArc } from "./SunArc";

const ARC_HEIGHT = 74;
const READOUT_HEIGHT = 32;
const NARROW = 560; // of the picture, where the readout takes two lines
const STEPS_AN_HOUR = 6;
const POINTS = ["N", "", "", "E", "", "", "S", "", "", "W", "", ""];
const RAD = Math.PI / 180;

interface Props {
  picture: ArrayPicture;
  chosen: string | null;
  onChoose: (id: string) => void;
  onSee: (groupId: string, number: number) => void;
}

/** The boat in plan on its compass ring, its panels cell by cell, and shadows as the sun goes round. */
export function DeckView({ picture, chosen, onChoose, onSee }: Props) {
  const [box, { width, height }] = useSize<HTMLDivElement>();
  const { design, apply } = useDesign();
  const [moment, setMoment] = useState<number | null>(null);
  const index = Math.min(moment ?? picture.noon_index, picture.sun.length - 1);
  const heading = design.plan.heading_deg ?? null;
  const shownHeading = heading ?? 0;
  const sun = sunAt(picture.sun, index);
  const bearing = (sun.azimuth_deg - shownHeading + 360) % 360;
  const up = sun.elevation_deg > 0;

  useEffect(() => {
    const move = (event: Event) => {
      const by = (event as CustomEvent<number>).detail * STEPS_AN_HOUR;
      setMoment((old) => Math.min(Math.max((old ?? picture.noon_index) + by, 0), picture.sun.length - 1));
    };
    window.addEventListener(HOUR_EVENT, move);
    return () => window.removeEventListener(HOUR_EVENT, move);
  }, [picture.noon_index, picture.sun.length]);

  const readout = READOUT_HEIGHT * (width < NARROW ? 2 : 1);
  const ringHeight = Math.max(height - ARC_HEIGHT - readout, 240);
  const radius = Math.max(Math.min(width / 2 - 34, ringHeight / 2 - 26), 90);
  const middle = { x: width / 2, y: ringHeight / 2 + 2 };
  const plan = planOf(picture, middle, radius * 0.9);
  const onRing = (degrees: number, out = 0): Spot => ({
    x: middle.x + Math.sin(degrees * RAD) * (radius + out),
    y: middle.y - Math.cos(degrees * RAD) * (radius + out),
  });
  const setHeading = (degrees: number | null) =>
    apply((current) => withValue(current, "/plan/heading_deg", degrees), "heading");

  function turn(event: PointerEvent<SVGElement>) {
    const surface = (event.currentTarget as SVGGraphicsElement).ownerSVGElement;
    if (!surface) return;
    const bounds = surface.getBoundingClientRect();
    const angle = (e: { clientX: number; clientY: number }) =>
      Math.atan2(e.clientX - bounds.left - middle.x, middle.y - (e.clientY - bounds.top)) / RAD;
    const from = angle(event);
    follow(event, (e) =>
      setHeading(Math.round((((shownHeading - (angle(e) - from)) % 360) + 360) % 360) % 360),
    );
  }

  const sunSpot = onRing(bearing);
  return (
    <div ref={box} className="relative min-h-[420px] flex-1 max-[720px]:min-h-[500px]">
      {width > 0 && (
        <div className="absolute inset-0">
          <svg width={width} height={ringHeight} role="group" aria-label="The deck in plan, bow up" data-deck>
            <text className="chart-text" x="0" y="16">
              <tspan x="0">on the panels: kWh</tspan>
              <tspan x="0" dy="15">
                per kW, this day
              </tspan>
            </text>
            <circle cx={middle.x} cy={middle.y} r={radius} className="fill-none stroke-edge stroke-[1.4]" />
            <Handle
              label="Heading"
              most={359}
              now={Math.round(shownHeading)}
              text={heading === null ? "any heading" : `${Math.round(heading)} degrees`}
              className="cursor-grab"
              onPointerDown={turn}
              onStep={(by) => setHeading((Math.round(shownHeading) + by * 5 + 360) % 360)}
            >
              <circle
                cx={middle.x}
                cy={middle.y}
                r={radius}
                stroke="transparent"
                className="fill-none stroke-26"
              />
              {POINTS.map((point, i) => {
                const at = i * 30 - shownHeading;
                const [a, b, t] = [
                  onRing(at, -5),
                  onRing(at, 5),
                  onRing(at, Math.cos(at * RAD) > 0.9 ? -18 : 17),
                ];
                return (
                  <g key={`${i * 30}`}>
                    <line x1={a.x} y1={a.y} x2={b.x} y2={b.y} stroke="var(--muted)" />
                    {point && (
                      <text
                        x={t.x}
                        y={t.y + 5}
                        textAnchor="middle"
                        fill={heading === null ? "var(--muted)" : "var(--ink)"}
                        className="font-bold text-[14px]"
                      >
                        {point}
                      </text>
                    )}
                  </g>
                );
              })}
            </Handle>
            <path
              d={`M${middle.x} ${middle.y - radius - 6}l-7 -13h14z`}
              fill="var(--ink)"
              pointerEvents="none"
            />
            <text x={middle.x + 14} y={middle.y - radius - 8} className="fill-ink font-bold text-[13.5px]">
              {heading === null ? "any heading" : `heading ${String(Math.round(heading)).padStart(3, "0")}°`}
            </text>
            <DeckPlan
              picture={picture}
              plan={plan}
              bearing={bearing}
              up={sun.elevation_deg}
              chosen={chosen}
              onChoose={onChoose}
              onSee={onSee}
            />
            {up && (
              <g pointerEvents="none" data-sun={Math.round(bearing)}>
                <circle cx={sunSpot.x} cy={sunSpot.y} r="9" className="fill-sun stroke-ink stroke-[1.4]" />
                {[-7, 7].map((by) => {
                  const dog = onRing(bearing + by);
                  return <circle key={by} cx={dog.x} cy={dog.y} r="3" fill="var(--sun)" />;
                })}
              </g>
            )}
          </svg>
          <SunArc picture={picture} index={index} width={width} height={ARC_HEIGHT} onMove={setMoment} />
          <DeckReadout
            picture={picture}
            index={index}
            up={sun.elevation_deg}
            heading={heading}
            onMove={setMoment}
            onHeading={setHeading}
          />
        </div>
      )}
    </div>
  );
}
