/** Adding, moving and removing what is on the deck. */
import type { BoatDesign, BoatState, PanelModel } from "../../api/client";
import { fresh, newController, newPanels, withPlaceOf } from "../../boat/panels";
import { STATES } from "../../boat/words";
import { withValue } from "../../kit/pointer";

type Obstacle = NonNullable<BoatDesign["obstacles"]>[number];
type Skyline = NonNullable<BoatDesign["site"]["skyline"]>[number];

const SNAP_M = 0.05;
const PULL_M = 0.09;
const LEAST_M = 0.3;
const snapped = (value: number) => Number((Math.round(value / SNAP_M) * SNAP_M).toFixed(3));

/** A place amidships with one panel on it, to be dragged where it belongs. */
export const withPlace = (design: BoatDesign) =>
  withPlaceOf(design, { at: { x_m: 0, y_m: 0, z_m: 1 }, width_m: 1.2, length_m: 1.6 });

/** Without a place, its panels and the controllers that only they used. */
export function withoutPlace(design: BoatDesign, id: string): BoatDesign {
  const gone = new Set((design.panels ?? []).filter((g) => g.place_id === id).map((g) => g.controller_id));
  const panels = (design.panels ?? []).filter((group) => group.place_id !== id);
  for (const group of panels) gone.delete(group.controller_id);
  return {
    ...design,
    panels,
    places: (design.places ?? []).filter((place) => place.id !== id),
    controllers: (design.controllers ?? []).filter((item) => !gone.has(item.id)),
  };
}

/** A second kind of panel on a place, or its first. */
export function withGroup(design: BoatDesign, placeId: string): BoatDesign {
  const own = (design.panels ?? []).find((group) => group.place_id === placeId);
  const controller = own?.controller_id ?? (design.controllers ?? [])[0]?.id ?? fresh("controller");
  const known = (design.controllers ?? []).some((item) => item.id === controller);
  return {
    ...design,
    controllers: known
      ? design.controllers
      : [...(design.controllers ?? []), newController("Controller", controller)],
    panels: [...(design.panels ?? []), newPanels(placeId, controller)],
  };
}

/** As many panels as the place takes, one way or the other. */
export function withCount(design: BoatDesign, index: number, count: number, turned: boolean): BoatDesign {
  const panels = (design.panels ?? []).map((group, i) =>
    i === index ? { ...group, count, turned, columns: null } : group,
  );
  return { ...design, panels };
}

/** The panels of a group by another datasheet; how many, and how they lie, stay. */
export function withModel(design: BoatDesign, index: number, model: PanelModel): BoatDesign {
  const panels = (design.panels ?? []).map((group, i) => (i === index ? { ...group, ...model } : group));
  return { ...design, panels };
}

/** A hinge on a place that has none, or without it. */
export function withHinge(design: BoatDesign, index: number, on: boolean): BoatDesign {
  const changed = withValue(design, `/places/${index}/tilt_most_deg`, on ? 60 : null);
  const free = withValue(changed, `/places/${index}/tilt_least_deg`, on ? 0 : null);
  return on ? free : withValue(free, `/places/${index}/tended`, "left");
}

export function withPosition(design: BoatDesign, index: number): BoatDesign {
  return withValue(design, `/places/${index}/at`, { x_m: 0, y_m: 0, z_m: 1 });
}

/** Another place for a place, a few centimetres of pull to where an edge meets a line that holds it. */
export function placeMoved(
  design: BoatDesign,
  id: string,
  x_m: number,
  y_m: number,
  halfAt?: (y: number) => number,
): BoatDesign {
  const places = (design.places ?? []).map((place) => {
    if (place.id !== id || !place.at) return place;
    const y = snapped(place.at.y_m + y_m);
    const x = place.at.x_m + x_m;
    return { ...place, at: { ...place.at, x_m: pulled(x, place.width_m ?? 0, halfAt?.(y)), y_m: y } };
  });
  return { ...design, places };
}

/** A larger or smaller place, its aft port corner where it was. */
export function placeSized(design: BoatDesign, id: string, x_m: number, y_m: number): BoatDesign {
  const places = (design.places ?? []).map((place) => {
    if (place.id !== id || !place.at) return place;
    const width = Math.max(snapped((place.width_m ?? LEAST_M) + x_m), LEAST_M);
    const length = Math.max(snapped((place.length_m ?? LEAST_M) + y_m), LEAST_M);
    const middle = (was: number, from: number | null | undefined, to: number) =>
      Number((was + (to - (from ?? LEAST_M)) / 2).toFixed(3));
    return {
      ...place,
      width_m: width,
      length_m: length,
      at: {
        ...place.at,
        x_m: middle(place.at.x_m, place.width_m, width),
        y_m: middle(place.at.y_m, place.length_m, length),
      },
    };
  });
  return { ...design, places };
}

/** The nearest of the centreline, an edge on the boat's side, or a step of five centimetres. */
function pulled(x: number, width: number, half: number | undefined): number {
  const lines = [0];
  if (half) for (const by of [-width / 2, width / 2]) lines.push(half + by, -(half + by));
  const near = lines.find((line) => Math.abs(line - x) < PULL_M);
  return near === undefined ? snapped(x) : Number(near.toFixed(3));
}

/** A mast, a cabin or a sail to be dragged where it stands. */
export function withThing(design: BoatDesign, shape: Obstacle["shape"] = "spar"): BoatDesign {
  const number = (design.obstacles ?? []).length + 1;
  const at = { x_m: 0, y_m: 0.5, z_m: 0.5 };
  const shared = { id: fresh("thing"), shape, foot: at, radius_m: 0.02, swung_deg: 0, swung_in: [] };
  const shaped = {
    spar: { name: `Pole ${number}`, tip: { ...at, z_m: 3 } },
    box: { name: `Box ${number}`, tip: { ...at, z_m: 1.5 }, width_m: 0.5, length_m: 0.5 },
    sail: { name: `Sail ${number}`, tip: { ...at, z_m: 6 }, clew: { ...at, y_m: -2, z_m: 1 } },
  }[shape ?? "spar"];
  return { ...design, obstacles: [...(design.obstacles ?? []), { ...shared, ...shaped }] };
}

/** Another shape at the same feet; what the new one needs gets a usual size. */
export function withShape(design: BoatDesign, index: number, shape: string): BoatDesign {
  const obstacles = (design.obstacles ?? []).map((thing, i) => {
    if (i !== index) return thing;
    const clew = thing.clew ?? { ...thing.foot, y_m: thing.foot.y_m - 2, z_m: thing.foot.z_m + 0.3 };
    return {
      ...thing,
      shape: shape as Obstacle["shape"],
      ...(shape === "box" && { width_m: thing.width_m ?? 0.5, length_m: thing.length_m ?? 0.5 }),
      ...(shape === "sail" && { clew }),
    };
  });
  return { ...design, obstacles };
}

export function withoutThing(design: BoatDesign, id: string): BoatDesign {
  return { ...design, obstacles: (design.obstacles ?? []).filter((thing) => thing.id !== id) };
}

/** Whether a thing stands in a state; one that stands in all is kept without a list. */
/** A thing that stands, or is swung, in a state or not. */
export function withThingIn(
  design: BoatDesign,
  index: number,
  list: "stands_in" | "swung_in",
  state: BoatState,
  on: boolean,
): BoatDesign {
  const every = STATES.map(([key]) => key);
  const obstacles = (design.obstacles ?? []).map((thing, i) => {
    if (i !== index) return thing;
    const now = thing[list] ?? (list === "stands_in" ? every : []);
    const next = every.filter((key) => (key === state ? on : now.includes(key)));
    if (list === "swung_in") return { ...thing, swung_in: next };
    return { ...thing, stands_in: next.length === STATES.length ? null : next };
  });
  return { ...design, obstacles };
}

export function thingMoved(design: BoatDesign, id: string, x_m: number, y_m: number): BoatDesign {
  const obstacles = (design.obstacles ?? []).map((thing) => {
    if (thing.id !== id) return thing;
    const [x, y] = [snapped(thing.foot.x_m + x_m), snapped(thing.foot.y_m + y_m)];
    const [dx, dy] = [x - thing.foot.x_m, y - thing.foot.y_m];
    const by = <P extends { x_m: number; y_m: number }>(point: P): P => ({
      ...point,
      x_m: Number((point.x_m + dx).toFixed(3)),
      y_m: Number((point.y_m + dy).toFixed(3)),
    });
    return {
      ...thing,
      foot: { ...thing.foot, x_m: x, y_m: y },
      tip: by(thing.tip),
      clew: thing.clew && by(thing.clew),
    };
  });
  return { ...design, obstacles };
}

export function withSkyline(design: BoatDesign): BoatDesign {
  const part: Skyline = {
    id: fresh("skyline"),
    name: "Trees",
    from_deg: 240,
    to_deg: 300,
    height_m: 12,
    distance_m: 40,
  };
  return withValue(design, "/site/skyline", [...(design.site.skyline ?? []), part]);
}

export function withoutSkyline(design: BoatDesign, id: string): BoatDesign {
  return withValue(
    design,
    "/site/skyline",
    (design.site.skyline ?? []).filter((part) => part.id !== id),
  );
}

/** Without one kind of panels; their place and controller stay. */
export function withoutGroup(design: BoatDesign, id: string): BoatDesign {
  return { ...design, panels: (design.panels ?? []).filter((group) => group.id !== id) };
}
