/** Adding, moving and removing what is on the deck. */
import type { BoatDesign } from "../../api/client";
import { fresh, newPanels, withPlaceOf } from "../../app/panels";
import { withValue } from "../../shared/pointer";

const SNAP_M = 0.05;
const snapped = (value: number) => Number((Math.round(value / SNAP_M) * SNAP_M).toFixed(3));

export const KINDS = [
  ["canopy", "Canopy"],
  ["bimini", "Bimini"],
  ["arch", "Stern arch"],
  ["cabin_top", "Cabin top"],
  ["deck", "Deck"],
  ["rail", "Rail panels"],
  ["wing", "Hinged wing"],
  ["loose", "Loose panel"],
  ["shore", "Dock or shore rack"],
] as const;
export const SIDES = [
  ["starboard", "to starboard"],
  ["port", "to port"],
  ["bow", "to the bow"],
  ["stern", "to the stern"],
] as const;
export const AIR = [
  ["open", "air behind"],
  ["on_surface", "lying on it"],
] as const;

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
      : [...(design.controllers ?? []), { id: controller, name: "Controller", efficiency: 0.96 }],
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

export function withPosition(design: BoatDesign, index: number): BoatDesign {
  return withValue(design, `/places/${index}/at`, { x_m: 0, y_m: 0, z_m: 1 });
}

export function placeMoved(design: BoatDesign, id: string, x_m: number, y_m: number): BoatDesign {
  const places = (design.places ?? []).map((place) =>
    place.id === id && place.at
      ? { ...place, at: { ...place.at, x_m: snapped(place.at.x_m + x_m), y_m: snapped(place.at.y_m + y_m) } }
      : place,
  );
  return { ...design, places };
}

export function withSpar(design: BoatDesign): BoatDesign {
  const spar = {
    id: fresh("spar"),
    name: `Pole ${(design.obstacles ?? []).length + 1}`,
    foot: { x_m: 0, y_m: 0.5, z_m: 0.5 },
    tip: { x_m: 0, y_m: 0.5, z_m: 3 },
    radius_m: 0.02,
  };
  return { ...design, obstacles: [...(design.obstacles ?? []), spar] };
}

export function withoutSpar(design: BoatDesign, id: string): BoatDesign {
  return { ...design, obstacles: (design.obstacles ?? []).filter((spar) => spar.id !== id) };
}

export function sparMoved(design: BoatDesign, id: string, x_m: number, y_m: number): BoatDesign {
  const obstacles = (design.obstacles ?? []).map((spar) => {
    if (spar.id !== id) return spar;
    const [x, y] = [snapped(spar.foot.x_m + x_m), snapped(spar.foot.y_m + y_m)];
    const [dx, dy] = [x - spar.foot.x_m, y - spar.foot.y_m];
    const tip = {
      ...spar.tip,
      x_m: Number((spar.tip.x_m + dx).toFixed(3)),
      y_m: Number((spar.tip.y_m + dy).toFixed(3)),
    };
    return { ...spar, foot: { ...spar.foot, x_m: x, y_m: y }, tip };
  });
  return { ...design, obstacles };
}
