/** The world as a globe: dragged or turned by keys, clicked where her water is. */
import { geoDistance, geoGraticule10, geoOrthographic, geoPath } from "d3-geo";
import { type KeyboardEvent, type PointerEvent, useEffect, useMemo, useRef, useState } from "react";
import { feature } from "topojson-client";

type Pair = readonly [number, number]; // latitude and longitude, or across and down

const SIZE = 196; // px
const RADIUS = SIZE / 2 - 2;
const PER_PIXEL = 90 / RADIUS; // degrees turned by a drag, at the middle
const KEY_DEG = 10;
const MOVED_PX = 4; // less is a click
const IN_SIGHT_RAD = 1.2; // of the middle: farther round the globe turns to show the place

type Land = ReturnType<typeof feature>;

async function landOfTheGlobe(): Promise<Land> {
  const file = await import("world-atlas/land-110m.json");
  const world = file.default as unknown as Parameters<typeof feature>[0];
  return feature(world, world.objects.land as Parameters<typeof feature>[1]);
}

const within = (latitude: number) => Math.max(-90, Math.min(90, latitude));
const around = (longitude: number) => longitude - 360 * Math.round(longitude / 360);

function useLand(): Land | null {
  const [land, setLand] = useState<Land | null>(null);
  useEffect(() => {
    let here = true;
    landOfTheGlobe().then(
      (found) => here && setLand(found),
      () => undefined, // without shores the places can still be typed
    );
    return () => {
      here = false;
    };
  }, []);
  return land;
}

/** The middle of what is seen; it follows a place that is typed beyond the edge. */
function useMiddle(at: Pair) {
  const [middle, setMiddle] = useState<Pair>(at);
  const [latitude, longitude] = at;
  useEffect(() => {
    setMiddle((now) => {
      const away = geoDistance([now[1], now[0]], [longitude, latitude]);
      return away > IN_SIGHT_RAD ? [latitude, longitude] : now;
    });
  }, [latitude, longitude]);
  return [middle, setMiddle] as const;
}

export function Globe({ at, onPick }: { at: Pair; onPick: (latitude: number, longitude: number) => void }) {
  const land = useLand();
  const [middle, setMiddle] = useMiddle(at);
  const held = useRef<{ from: Pair; middle: Pair; moved: boolean } | null>(null);
  const [latitude, longitude] = middle;
  const globe = useMemo(
    () =>
      geoOrthographic()
        .rotate([-longitude, -latitude])
        .scale(RADIUS)
        .translate([SIZE / 2, SIZE / 2])
        .clipAngle(90),
    [latitude, longitude],
  );
  const path = geoPath(globe);
  const seen = geoDistance([longitude, latitude], [at[1], at[0]]) < Math.PI / 2;
  const spot = seen ? globe([at[1], at[0]]) : null;

  function down(event: PointerEvent<HTMLButtonElement>) {
    event.currentTarget.setPointerCapture(event.pointerId);
    held.current = { from: [event.clientX, event.clientY], middle, moved: false };
  }
  function move(event: PointerEvent<HTMLButtonElement>) {
    const grip = held.current;
    if (!grip) return;
    const [x, y] = [event.clientX - grip.from[0], event.clientY - grip.from[1]];
    if (!grip.moved && Math.hypot(x, y) < MOVED_PX) return;
    grip.moved = true;
    setMiddle([within(grip.middle[0] + y * PER_PIXEL), around(grip.middle[1] - x * PER_PIXEL)]);
  }
  function up(event: PointerEvent<HTMLButtonElement>) {
    const grip = held.current;
    held.current = null;
    if (!grip || grip.moved) return;
    const box = event.currentTarget.getBoundingClientRect();
    const [x, y] = [event.clientX - box.left, event.clientY - box.top];
    if (Math.hypot(x - SIZE / 2, y - SIZE / 2) > RADIUS) return;
    const found = globe.invert?.([x, y]);
    if (found) onPick(found[1], found[0]);
  }
  function key(event: KeyboardEvent) {
    const steps: Record<string, Pair> = {
      ArrowUp: [KEY_DEG, 0],
      ArrowDown: [-KEY_DEG, 0],
      ArrowLeft: [0, -KEY_DEG],
      ArrowRight: [0, KEY_DEG],
    };
    const step = steps[event.key];
    if (step) setMiddle([within(latitude + step[0]), around(longitude + step[1])]);
    else if (event.key === "Enter") onPick(latitude, longitude);
    else return;
    event.preventDefault();
  }

  return (
    <button
      type="button"
      aria-label="The globe: click where her water is. Arrow keys turn it, Enter takes its middle."
      className="mx-auto block cursor-grab touch-none rounded-full border-0 bg-transparent p-0 active:cursor-grabbing"
      style={{ width: SIZE, height: SIZE }}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={() => {
        held.current = null;
      }}
      onKeyDown={key}
    >
      <svg width={SIZE} height={SIZE} aria-hidden="true">
        <circle cx={SIZE / 2} cy={SIZE / 2} r={RADIUS} className="fill-water-soft stroke-water" />
        {land && <path d={path(land) ?? ""} className="fill-[var(--chart-land)] stroke-muted stroke-[0.6]" />}
        <path d={path(geoGraticule10()) ?? ""} className="fill-none stroke-hairline stroke-[0.6]" />
        {spot && <circle cx={spot[0]} cy={spot[1]} r="5" className="fill-sun stroke-ink stroke-[1.4]" />}
      </svg>
    </button>
  );
}
