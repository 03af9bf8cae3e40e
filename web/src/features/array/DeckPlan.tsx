import { type KeyboardEvent, type PointerEvent, useId, useState } from "react";
import type { ArrayPicture } from "../../api/client";
import { useDesign } from "../../app/design";
import { useUnits } from "../../app/preferences";
import { follow } from "../../shared/chart/drag";
import { spread } from "../../shared/chart/spread";
import { shown } from "../../shared/units";
import { cornersPath, type DeckPanel, type Plan, pathOf, shadowOf, toScreen, within } from "./deckGeometry";
import { placeMoved, sparMoved } from "./parts";

const KEEPS_ALL = 0.995;
const LABEL_ROW = 16;
const ROOM_FOR_TEXT = 21; // screen units, before a panel carries its number
const MOVES: Record<string, [number, number]> = {
  ArrowLeft: [-0.1, 0],
  ArrowRight: [0.1, 0],
  ArrowUp: [0, 0.1],
  ArrowDown: [0, -0.1],
};

interface Props {
  picture: ArrayPicture;
  plan: Plan;
  bearing: number;
  up: number;
  chosen: string | null;
  onChoose: (id: string) => void;
  onSee: (groupId: string, number: number) => void;
}

type Kind = "place" | "spar";

interface Drag {
  id: string;
  x: number;
  y: number;
}

/** The boat from above: hulls, places, panels with their cells, spars and the shadows they throw now. */
export function DeckPlan({ picture, plan, bearing, up, chosen, onChoose, onSee }: Props) {
  const { apply } = useDesign();
  const units = useUnits();
  const id = useId();
  const [drag, setDrag] = useState<Drag | null>(null);
  const best = Math.max(...picture.panels.map((panel) => panel.yield_h), 0.01);
  const shift = (what: string) =>
    drag?.id === what ? `translate(${drag.x.toFixed(1)} ${drag.y.toFixed(1)})` : undefined;

  function grab(event: PointerEvent<SVGElement>, what: string, kind: Kind) {
    const from = { x: event.clientX, y: event.clientY };
    let by = { x: 0, y: 0 };
    onChoose(what);
    follow(
      event,
      (e) => {
        by = { x: e.clientX - from.x, y: e.clientY - from.y };
        setDrag({ id: what, ...by });
      },
      () => {
        setDrag(null);
        if (Math.hypot(by.x, by.y) > 2) moved(what, kind, by.x / plan.scale, -by.y / plan.scale);
      },
    );
  }

  function moved(what: string, kind: Kind, x_m: number, y_m: number) {
    const change = kind === "place" ? placeMoved : sparMoved;
    apply((current) => change(current, what, x_m, y_m), `move-${what}`);
  }

  function keys(event: KeyboardEvent, what: string, kind: Kind) {
    if (event.key === "Enter" || event.key === " ") onChoose(what);
    else if (MOVES[event.key]) moved(what, kind, ...(MOVES[event.key] as [number, number]));
    else return;
    event.preventDefault();
  }

  /** What makes a place or a spar a handle: dragged, or moved with the arrow keys. */
  const handle = (item: { id: string; name: string }, kind: Kind) => ({
    transform: shift(item.id),
    role: "button",
    tabIndex: 0,
    "aria-label": `${item.name}; arrow keys move it`,
    "aria-pressed": chosen === item.id,
    className: "cursor-grab",
    style: { touchAction: "none" },
    onPointerDown: (event: PointerEvent<SVGElement>) => grab(event, item.id, kind),
    onKeyDown: (event: KeyboardEvent) => keys(event, item.id, kind),
  });

  /** A spar where it is being dragged to, so that its shadow follows. */
  const sparNow = (spar: ArrayPicture["spars"][number]) => {
    if (drag?.id !== spar.id) return spar;
    const [x, y] = [drag.x / plan.scale, -drag.y / plan.scale];
    const by = (point: typeof spar.foot) => ({ ...point, x_m: point.x_m + x, y_m: point.y_m + y });
    return { ...spar, foot: by(spar.foot), tip: by(spar.tip) };
  };

  const edge = Math.max(
    ...picture.outlines.flat().map((spot) => toScreen(plan, spot.x_m, spot.y_m).x),
    ...picture.panels.flatMap((panel) => panel.corners).map((spot) => toScreen(plan, spot.x_m, spot.y_m).x),
  );
  const aside = Math.min(edge + 12, plan.middle.x + plan.radius * 0.62);
  const labels = spread(
    picture.spars.map((item) => ({ item, at: toScreen(plan, item.foot.x_m, item.foot.y_m).y })),
    LABEL_ROW,
    plan.middle.y - plan.radius,
    plan.middle.y + plan.radius,
  );

  return (
    <g>
      {picture.outlines.map((outline, index) => (
        <path
          key={`hull-${index === 0 ? "first" : "second"}`}
          d={pathOf(outline.map((spot) => toScreen(plan, spot.x_m, spot.y_m)))}
          fill="var(--field)"
          stroke="var(--ink)"
          strokeWidth="1.6"
        />
      ))}
      {picture.places.map((place) => (
        <g key={place.id} {...handle(place, "place")} data-deck-place={place.id}>
          {place.corners.length > 0 && (
            <path
              d={cornersPath(plan, place.corners)}
              fill="var(--mist)"
              fillOpacity="0.6"
              stroke={chosen === place.id ? "var(--water-text)" : "var(--muted)"}
              strokeWidth={chosen === place.id ? 2.4 : 1}
              strokeDasharray={chosen === place.id ? undefined : "4 3"}
            />
          )}
          {picture.panels
            .filter((panel) => panel.place_id === place.id)
            .map((panel) => (
              <OnePanel
                key={`${panel.group_id}/${panel.number}`}
                panel={panel}
                plan={plan}
                best={best}
                onSee={() => onSee(panel.group_id, panel.number)}
              />
            ))}
        </g>
      ))}
      {up > 0 &&
        picture.panels.map((panel) => {
          const key = `${panel.group_id}-${panel.number}`;
          const clip = `${id}${key}`;
          const lines = picture.spars
            .map((spar) => ({ spar, at: shadowOf(plan, panel, sparNow(spar), bearing, up) }))
            .filter((line) => line.at !== null);
          if (lines.length === 0) return null;
          return (
            <g key={key} pointerEvents="none">
              <clipPath id={clip}>
                <path d={cornersPath(plan, panel.corners)} />
              </clipPath>
              <g clipPath={`url(#${clip})`}>
                {lines.map(({ spar, at }) => (
                  <line
                    key={spar.id}
                    data-shadow={spar.id}
                    x1={at?.from.x}
                    y1={at?.from.y}
                    x2={at?.to.x}
                    y2={at?.to.y}
                    stroke="var(--ink)"
                    strokeOpacity="0.5"
                    strokeWidth={at?.width}
                  />
                ))}
              </g>
            </g>
          );
        })}
      {picture.spars.map((spar) => {
        const foot = toScreen(plan, spar.foot.x_m, spar.foot.y_m);
        const tip = toScreen(plan, spar.tip.x_m, spar.tip.y_m);
        const long = Math.hypot(tip.x - foot.x, tip.y - foot.y) > 8;
        return (
          <g key={spar.id} {...handle(spar, "spar")} data-deck-spar={spar.id}>
            {long && (
              <line
                x1={foot.x}
                y1={foot.y}
                x2={tip.x}
                y2={tip.y}
                stroke="var(--ink)"
                strokeWidth={Math.max(2 * spar.radius_m * plan.scale, 2)}
                strokeLinecap="round"
              />
            )}
            <circle cx={foot.x} cy={foot.y} r="12" fill="transparent" />
            <circle
              cx={foot.x}
              cy={foot.y}
              r={Math.max(spar.radius_m * plan.scale, 4)}
              fill="var(--ink)"
              stroke={chosen === spar.id ? "var(--sun)" : "var(--mist)"}
              strokeWidth={chosen === spar.id ? 3 : 1}
            />
          </g>
        );
      })}
      {picture.panels.map((panel) => (
        <Yield key={`${panel.group_id}/${panel.number}`} panel={panel} plan={plan} />
      ))}
      {labels.map(({ item: spar, at, y }) => {
        const foot = toScreen(plan, spar.foot.x_m, spar.foot.y_m);
        return (
          <g key={spar.id} transform={shift(spar.id)} pointerEvents="none">
            <line x1={foot.x} y1={at} x2={aside - 4} y2={y} stroke="var(--muted)" strokeWidth="0.8" />
            <text
              x={aside}
              y={y + 4}
              fontSize="12.5"
              fill="var(--ink)"
              stroke="var(--mist)"
              strokeWidth="3"
              paintOrder="stroke"
            >
              {spar.name}, {shown({ quantity: "length_m", value: spar.tip.z_m, signed: false }, units)}
            </text>
          </g>
        );
      })}
    </g>
  );
}

function OnePanel({
  panel,
  plan,
  best,
  onSee,
}: {
  panel: DeckPanel;
  plan: Plan;
  best: number;
  onSee: () => void;
}) {
  const { columns, rows, corners } = panel;
  const lines: string[] = [];
  for (let i = 1; i < columns; i++) {
    const [a, b] = [within(plan, corners, i / columns, 0), within(plan, corners, i / columns, 1)];
    lines.push(`M${a.x.toFixed(1)} ${a.y.toFixed(1)}L${b.x.toFixed(1)} ${b.y.toFixed(1)}`);
  }
  for (let j = 1; j < rows; j++) {
    const [a, b] = [within(plan, corners, 0, j / rows), within(plan, corners, 1, j / rows)];
    lines.push(`M${a.x.toFixed(1)} ${a.y.toFixed(1)}L${b.x.toFixed(1)} ${b.y.toFixed(1)}`);
  }
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the list and the sky's own choice do the same by keyboard
    <g onDoubleClick={onSee} data-panel={`${panel.group_id}/${panel.number}`}>
      <path d={cornersPath(plan, corners)} fill="var(--field)" />
      <path
        d={cornersPath(plan, corners)}
        fill="var(--sun)"
        fillOpacity={0.25 + 0.75 * (panel.yield_h / best) ** 2}
        stroke="var(--ink)"
        strokeWidth="1.2"
      />
      {panel.cells.map((kept, index) => {
        if (kept >= KEEPS_ALL) return null;
        const [row, column] = [Math.floor(index / columns), index % columns];
        const cell = [
          within(plan, corners, column / columns, row / rows),
          within(plan, corners, (column + 1) / columns, row / rows),
          within(plan, corners, (column + 1) / columns, (row + 1) / rows),
          within(plan, corners, column / columns, (row + 1) / rows),
        ];
        return (
          <path
            key={index}
            d={pathOf(cell)}
            fill="var(--ink)"
            fillOpacity={Math.min((1 - kept) * 2.2, 0.8)}
          />
        );
      })}
      <path d={lines.join("")} stroke="var(--field)" strokeWidth="0.6" strokeOpacity="0.55" fill="none" />
    </g>
  );
}

/** What a panel gives, where it has room for the number. */
function Yield({ panel, plan }: { panel: DeckPanel; plan: Plan }) {
  const at = (across: number, along: number) => within(plan, panel.corners, across, along);
  const [left, right, low, high] = [at(0, 0.5), at(1, 0.5), at(0.5, 0), at(0.5, 1)];
  const wide = Math.hypot(right.x - left.x, right.y - left.y);
  const long = Math.hypot(high.x - low.x, high.y - low.y);
  if (wide < ROOM_FOR_TEXT || long < 16) return null;
  const middle = at(0.5, 0.5);
  return (
    <text
      x={middle.x}
      y={middle.y + 5}
      fontSize={wide < 30 ? 12 : 14}
      fontWeight="700"
      textAnchor="middle"
      fill="var(--on-sun)"
      stroke="var(--sun)"
      strokeWidth="3"
      paintOrder="stroke"
      pointerEvents="none"
    >
      {panel.yield_h.toFixed(1)}
    </text>
  );
}
