import { type KeyboardEvent, type PointerEvent, useId, useState } from "react";
import type { ArrayPicture } from "../../api/client";
import { follow } from "../../kit/chart/drag";
import { useDesign } from "../../kit/document";
import { ThingLabels, ThingMark } from "./DeckThings";
import {
  cornersPath,
  type DeckPanel,
  type DeckThing,
  halfAt,
  type Plan,
  pathOf,
  type Spot,
  shadowsOn,
  toScreen,
  within,
} from "./deckGeometry";
import { placeMoved, placeSized, thingMoved } from "./parts";

const KEEPS_ALL = 0.995;
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

type Kind = "place" | "thing";

interface Drag {
  id: string;
  x: number;
  y: number;
}

/** The boat from above: hulls, places, panels with their cells, spars and the shadows they throw now. */
export function DeckPlan({ picture, plan, bearing, up, chosen, onChoose, onSee }: Props) {
  const { apply } = useDesign();
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
    apply(
      (current) =>
        kind === "place"
          ? placeMoved(current, what, x_m, y_m, (y) => halfAt(picture, y))
          : thingMoved(current, what, x_m, y_m),
      `move-${what}`,
    );
  }

  function keys(event: KeyboardEvent, what: string, kind: Kind) {
    if (event.key === "Enter" || event.key === " ") onChoose(what);
    else if (MOVES[event.key]) moved(what, kind, ...(MOVES[event.key] as [number, number]));
    else return;
    event.preventDefault();
  }

  /** What makes a place or a thing a handle: dragged, or moved with the arrow keys. */
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

  /** A thing or a panel where it is being dragged to, so that its shadow follows. */
  const byDrag = <P extends { x_m: number; y_m: number }>(point: P): P =>
    drag ? { ...point, x_m: point.x_m + drag.x / plan.scale, y_m: point.y_m - drag.y / plan.scale } : point;
  const things = picture.things
    .filter((thing) => thing.stands)
    .map(
      (thing): DeckThing =>
        drag?.id === thing.id
          ? {
              ...thing,
              foot: byDrag(thing.foot),
              tip: byDrag(thing.tip),
              faces: thing.faces.map((face) => face.map(byDrag)),
            }
          : thing,
    );
  const panels = picture.panels.map((panel) =>
    drag?.id === panel.place_id ? { ...panel, corners: panel.corners.map(byDrag) } : panel,
  );

  const sized = picture.places.find(
    (place) => place.id === chosen && place.corners.length > 0 && place.tilt_deg < 1,
  );

  return (
    <g>
      {picture.outlines.map((outline, index) => (
        <path
          key={`hull-${index === 0 ? "first" : "second"}`}
          d={pathOf(outline.map((spot) => toScreen(plan, spot.x_m, spot.y_m)))}
          className="fill-field stroke-ink stroke-[1.6]"
        />
      ))}
      {picture.places.map((place) => (
        <g key={place.id} {...handle(place, "place")} data-deck-place={place.id}>
          {place.corners.length > 0 && (
            <path
              d={cornersPath(plan, place.corners)}
              stroke={chosen === place.id ? "var(--water-text)" : "var(--muted)"}
              strokeWidth={chosen === place.id ? 2.4 : 1}
              strokeDasharray={chosen === place.id ? undefined : "4 3"}
              className="fill-mist [fill-opacity:0.6]"
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
        panels.map((panel) => {
          const key = `${panel.group_id}-${panel.number}`;
          const clip = `${id}${key}`;
          const shadows = shadowsOn(plan, panel, things, panels, { bearing, up });
          if (shadows.length === 0) return null;
          return (
            <g key={key} pointerEvents="none">
              <clipPath id={clip}>
                <path d={cornersPath(plan, panel.corners)} />
              </clipPath>
              <g clipPath={`url(#${clip})`} opacity="0.5">
                {shadows.map(({ key: own, thing, spots, width }) => (
                  <path
                    key={own}
                    data-shadow={thing ?? own}
                    d={width === null ? pathOf(spots) : pathOf(spots).replace(/Z$/, "")}
                    fill={width === null ? "var(--ink)" : "none"}
                    stroke={width === null ? undefined : "var(--ink)"}
                    strokeWidth={width ?? undefined}
                  />
                ))}
              </g>
            </g>
          );
        })}
      {sized && (
        <SizeHandle
          place={sized}
          plan={plan}
          onSize={(x_m, y_m) =>
            apply((current) => placeSized(current, sized.id, x_m, y_m), `size-${sized.id}`)
          }
        />
      )}
      {picture.things.map((thing) => (
        <g key={thing.id} {...handle(thing, "thing")} data-deck-thing={thing.id}>
          <ThingMark thing={thing} plan={plan} chosen={chosen === thing.id} />
        </g>
      ))}
      {picture.panels.map((panel) => (
        <Yield key={`${panel.group_id}/${panel.number}`} panel={panel} plan={plan} />
      ))}
      <ThingLabels picture={picture} plan={plan} shift={shift} />
    </g>
  );
}

/** The corner of the chosen place, which is dragged to size it. */
function SizeHandle(props: {
  place: ArrayPicture["places"][number];
  plan: Plan;
  onSize: (x_m: number, y_m: number) => void;
}) {
  const { place, plan, onSize } = props;
  const [by, setBy] = useState<Spot | null>(null);
  const [aft, , fore] = place.corners;
  if (!aft || !fore) return null;
  const [low, high] = [toScreen(plan, aft.x_m, aft.y_m), toScreen(plan, fore.x_m, fore.y_m)];
  const at = { x: high.x + (by?.x ?? 0), y: high.y + (by?.y ?? 0) };
  function grab(event: PointerEvent<SVGElement>) {
    const from = { x: event.clientX, y: event.clientY };
    let moved = { x: 0, y: 0 };
    follow(
      event,
      (e) => {
        moved = { x: e.clientX - from.x, y: e.clientY - from.y };
        setBy(moved);
      },
      () => {
        setBy(null);
        if (Math.hypot(moved.x, moved.y) > 2) onSize(moved.x / plan.scale, -moved.y / plan.scale);
      },
    );
  }
  return (
    <g data-size={place.id}>
      {by && (
        <rect
          x={Math.min(low.x, at.x)}
          y={Math.min(low.y, at.y)}
          width={Math.abs(at.x - low.x)}
          height={Math.abs(at.y - low.y)}
          pointerEvents="none"
          className="fill-none stroke-water-text stroke-2 [stroke-dasharray:5_4]"
        />
      )}
      <g className="cursor-nesw-resize" style={{ touchAction: "none" }} onPointerDown={grab}>
        <title>Drag to size {place.name}</title>
        <circle cx={at.x} cy={at.y} r="12" fill="transparent" />
        <rect
          x={at.x - 5}
          y={at.y - 5}
          width="10"
          height="10"
          className="fill-field stroke-water-text stroke-2"
        />
      </g>
    </g>
  );
}

function OnePanel(props: { panel: DeckPanel; plan: Plan; best: number; onSee: () => void }) {
  const { panel, plan, best, onSee } = props;
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
        fillOpacity={0.25 + 0.75 * (panel.yield_h / best) ** 2}
        className="fill-sun stroke-ink stroke-[1.2]"
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
      textAnchor="middle"
      paintOrder="stroke"
      pointerEvents="none"
      className="fill-on-sun stroke-sun stroke-3 font-bold"
    >
      {panel.yield_h.toFixed(1)}
    </text>
  );
}
