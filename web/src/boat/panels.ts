/** Adding and removing panels with the place they sit on and the controller they feed. */
import type { BoatDesign } from "../api/client";
import type { Entries } from "../kit/entries";

/** One more place with a panel on it and a controller of its own. */
export function withPlaceOf(design: BoatDesign, entries: Entries): BoatDesign {
  const placed = entries.withNew(design, "/places");
  const place = placed.places?.at(-1);
  const joined = entries.withNew(placed, "/controllers", { name: `${place?.name} controller` });
  const controller_id = joined.controllers?.at(-1)?.id;
  return entries.withNew(joined, "/panels", { place_id: place?.id, controller_id });
}

/** A second kind of panel on a place, or its first. */
export function withGroup(design: BoatDesign, entries: Entries, place_id: string): BoatDesign {
  const own = (design.panels ?? []).find((group) => group.place_id === place_id);
  const known = own?.controller_id ?? design.controllers?.[0]?.id;
  const joined = known ? design : entries.withNew(design, "/controllers");
  const controller_id = known ?? joined.controllers?.[0]?.id;
  return entries.withNew(joined, "/panels", { place_id, controller_id });
}

/** Without a place and its panels. */
export const withoutPlace = (design: BoatDesign, entries: Entries, id: string): BoatDesign =>
  withoutIdle(design, entries.without(design, "/places", id), entries);

/** Without a panel group, and without the place that only it used. */
export function withoutPanels(design: BoatDesign, entries: Entries, id: string): BoatDesign {
  const gone = (design.panels ?? []).find((group) => group.id === id);
  const left = entries.without(design, "/panels", id);
  const shared = (left.panels ?? []).some((group) => group.place_id === gone?.place_id);
  const alone = shared || !gone ? left : entries.without(left, "/places", gone.place_id);
  return withoutIdle(design, alone, entries);
}

/** Without the controllers that lost all their panels. */
function withoutIdle(before: BoatDesign, after: BoatDesign, entries: Entries): BoatDesign {
  const fed = (design: BoatDesign) => new Set((design.panels ?? []).map((group) => group.controller_id));
  const still = fed(after);
  return [...fed(before)]
    .filter((id) => !still.has(id))
    .reduce((left, id) => entries.without(left, "/controllers", id), after);
}
