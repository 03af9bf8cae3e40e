/** Adding, moving and removing what is on the deck. */
import type { BoatDesign, BoatState, PanelModel } from "../../api/client";
import { type Entries, fresh } from "../../kit/entries";
import { valueAt, withValue } from "../../kit/pointer";

type Obstacle = NonNullable<BoatDesign["obstacles"]>[number];
type Place = NonNullable<BoatDesign["places"]>[number];

const SNAP_M = 0.05;
const PULL_M = 0.09;
const LEAST_M = 0.3;
const snapped = (value: number) => Number((Math.round(value / SNAP_M) * SNAP_M).toFixed(3));

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

/** A hinge on a place that has none, or without it. */
export function withHinge(design: BoatDesign, entries: Entries, index: number, on: boolean): BoatDesign {
  const at = (entry: string) => `/places/${index}/${entry}`;
  const ends = ["tilt_most_deg", "tilt_least_deg"];
  const changed = ends.reduce(
    (left, entry) => withValue(left, at(entry), on ? entries.begun(at(entry)) : null),
    design,
  );
  return on ? changed : withValue(changed, at("tended"), "left");
}

/** Another shape at the same feet; what the new one needs begins as usual for it. */
export function withShape(
  design: BoatDesign,
  entries: Entries,
  index: number,
  shape: NonNullable<Obstacle["shape"]>,
): BoatDesign {
  const at = `/obstacles/${index}`;
  const thing = valueAt(design, at) as Obstacle;
  const begun = entries.begun(at, { shape }) as Obstacle;
  const clew = begun.clew && { ...begun.clew, x_m: thing.foot.x_m, y_m: thing.foot.y_m + begun.clew.y_m };
  const needs = { width_m: begun.width_m, length_m: begun.length_m, clew };
  const given = Object.entries(thing).filter(([, value]) => value != null);
  return withValue(design, at, { ...thing, ...needs, ...Object.fromEntries(given), shape });
}

/** A thing that stands, or is swung, in a state or not; one that stands in all is kept without a list. */
export function withThingIn(
  design: BoatDesign,
  index: number,
  list: "stands_in" | "swung_in",
  every: BoatState[],
  state: BoatState,
  on: boolean,
): BoatDesign {
  const at = `/obstacles/${index}/${list}`;
  const standing = list === "stands_in";
  const now = (valueAt(design, at) as BoatState[] | null | undefined) ?? (standing ? every : []);
  const next = every.filter((key) => (key === state ? on : now.includes(key)));
  return withValue(design, at, standing && next.length === every.length ? null : next);
}

const ACROSS = { port: "starboard", starboard: "port" } as const;
const across = <T extends string | undefined>(side: T): T =>
  (ACROSS[side as keyof typeof ACROSS] ?? side) as T;
const NEAR_M = 0.06; // two that stand so alike are a pair
const SET = ["tilt_deg", "tilt_least_deg", "tilt_most_deg", "tended", "stands"] as const;

/** A place off the centreline has another side. */
export const hasOtherSide = (place: Place): boolean => Math.abs(place.at?.x_m ?? 0) >= NEAR_M;

/** The place that stands over against another, on the other side of the boat. */
export function overAgainst(design: BoatDesign, place: Place): Place | undefined {
  const { at } = place;
  if (!at || !hasOtherSide(place)) return undefined;
  return (design.places ?? []).find(
    (other) =>
      other.kind === place.kind &&
      other.at &&
      Math.abs(other.at.x_m + at.x_m) < NEAR_M &&
      Math.abs(other.at.y_m - at.y_m) < NEAR_M,
  );
}

/** A name with its side changed; one that names no side says where it is. */
function named(name: string, x_m: number): string {
  const found = /\b(port|starboard)\b/i.exec(name)?.[0];
  if (!found) return `${name}, ${x_m > 0 ? "starboard" : "port"}`;
  const other = across(found.toLowerCase());
  return name.replace(found, /^[A-Z]/.test(found) ? other.charAt(0).toUpperCase() + other.slice(1) : other);
}

/** The same place on the other side, with panels as on this one, on the same controllers. */
export function withOtherSide(design: BoatDesign, id: string): BoatDesign {
  const place = (design.places ?? []).find((one) => one.id === id);
  if (!place?.at || !hasOtherSide(place) || overAgainst(design, place)) return design;
  const at = { ...place.at, x_m: -place.at.x_m };
  const other = {
    ...place,
    id: fresh("place"),
    name: named(place.name ?? "Place", at.x_m),
    at,
    faces: across(place.faces),
  };
  const panels = (design.panels ?? []).filter((group) => group.place_id === id);
  const more = panels.map((group) => ({ ...group, id: fresh("panels"), place_id: other.id }));
  return {
    ...design,
    places: [...(design.places ?? []), other],
    panels: [...(design.panels ?? []), ...more],
  };
}

/** Whether two places are tilted, hinged and stowed alike. */
export const setAlike = (place: Place, other: Place): boolean =>
  SET.every((entry) => JSON.stringify(place[entry] ?? null) === JSON.stringify(other[entry] ?? null));

/** The place over against another tilted, hinged and stowed as that one is. */
export function withBothAlike(design: BoatDesign, id: string): BoatDesign {
  const place = (design.places ?? []).find((one) => one.id === id);
  const other = place && overAgainst(design, place);
  if (!place || !other) return design;
  const set = Object.fromEntries(SET.map((entry) => [entry, place[entry]]));
  const places = (design.places ?? []).map((one) =>
    one.id === other.id ? { ...one, ...set, faces: across(place.faces) } : one,
  );
  return { ...design, places };
}
