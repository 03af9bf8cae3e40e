/** Adding and removing panels with the place they sit on and the controller they feed. */
import type { BoatDesign } from "../api/client";

type Place = NonNullable<BoatDesign["places"]>[number];
type Controller = NonNullable<BoatDesign["controllers"]>[number];
type PanelGroup = NonNullable<BoatDesign["panels"]>[number];

export const fresh = (what: string) => `${what}-${crypto.randomUUID().slice(0, 8)}`;

export const newPanels = (place_id: string, controller_id: string): PanelGroup => ({
  id: fresh("panels"),
  place_id,
  controller_id,
  nameplate_w: 200,
  count: 1,
  power_coefficient_per_k: -0.0035,
  salt_loss_frac: 0.03,
  mismatch_loss_frac: 0.02,
  wiring_loss_frac: 0.03,
  turned: false,
  cells_across: 6,
  cells_along: 12,
  half_cut: false,
  model: "",
  build: "glass",
  belongs: "both",
  derate_frac: 1,
  covered: false,
  bifaciality_frac: 0,
  leaf_tilts_deg: [],
  series: 1,
});

export const newController = (name: string, id = fresh("controller")): Controller => ({
  id,
  name,
  efficiency: 0.96,
  count: 1,
  headroom_v: 2,
  kind: "mppt",
  own_power_w: 0,
  inputs: 1,
});

const SET = { how: "set", tilt_deg: 0 } as const;
export const AS_SET: Place["stands"] = {
  under_way: SET,
  sailing: SET,
  anchored: SET,
  dock: SET,
  trailer: SET,
};

/** One more place with a panel on it and a controller of its own. */
export function withPlaceOf(design: BoatDesign, where: Partial<Place> = {}): BoatDesign {
  const name = `Place ${(design.places ?? []).length + 1}`;
  const place: Place = {
    id: fresh("place"),
    name,
    kind: "deck",
    tilt_deg: 0,
    faces: "starboard",
    ventilation: "open",
    tended: "left",
    stands: AS_SET,
    under: "water",
    clear_m: 0,
    fastening: "bolts",
    ...where,
  };
  const controller = newController(`${name} controller`);
  return {
    ...design,
    places: [...(design.places ?? []), place],
    controllers: [...(design.controllers ?? []), controller],
    panels: [...(design.panels ?? []), newPanels(place.id, controller.id)],
  };
}

/** Without a panel group, and without the place and controller that only it used. */
export function withoutPanels(design: BoatDesign, id: string): BoatDesign {
  const panels = (design.panels ?? []).filter((group) => group.id !== id);
  const places = new Set(panels.map((group) => group.place_id));
  const controllers = new Set(panels.map((group) => group.controller_id));
  const gone = (design.panels ?? []).find((group) => group.id === id);
  return {
    ...design,
    panels,
    places: (design.places ?? []).filter((item) => item.id !== gone?.place_id || places.has(item.id)),
    controllers: (design.controllers ?? []).filter(
      (item) => item.id !== gone?.controller_id || controllers.has(item.id),
    ),
  };
}
