/** Adding and removing the parts of a design that the Day's bench handles. */
import type { BoatDesign } from "../../api/client";

const fresh = (what: string) => `${what}-${crypto.randomUUID().slice(0, 8)}`;

export function withPanels(design: BoatDesign): BoatDesign {
  const [place, controller] = [fresh("place"), fresh("controller")];
  return {
    ...design,
    places: [
      ...(design.places ?? []),
      {
        id: place,
        name: `Place ${(design.places ?? []).length + 1}`,
        tilt_deg: 0,
        faces: "starboard",
        ventilation: "open",
      },
    ],
    controllers: [...(design.controllers ?? []), { id: controller, name: "Controller", efficiency: 0.96 }],
    panels: [
      ...(design.panels ?? []),
      {
        id: fresh("panels"),
        place_id: place,
        controller_id: controller,
        nameplate_w: 200,
        count: 1,
        power_coefficient_per_k: -0.0035,
        salt_loss_frac: 0.03,
        mismatch_loss_frac: 0.02,
        wiring_loss_frac: 0.03,
      },
    ],
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
