/** The frame that the passage's pictures share, and places along it. */
import type { PassagePicture } from "../../api/client";

export const LEFT = 62;
export const RIGHT = 16;

/** Where an hour lies along the ribbon, from 0 to 1. */
export function placeAt(ribbon: PassagePicture["ribbon"], hours: number): number {
  const found = ribbon.hours.findIndex((hour) => hour >= hours);
  if (found < 0) return 1;
  const [after, before] = [ribbon.hours[found] ?? 0, ribbon.hours[found - 1] ?? 0];
  const [there, here] = [ribbon.place_frac[found] ?? 1, ribbon.place_frac[found - 1] ?? 0];
  if (found === 0 || after === before) return there;
  return here + ((hours - before) / (after - before)) * (there - here);
}

/** The point of the ribbon next to a place. */
export function pointAt(ribbon: PassagePicture["ribbon"], place: number): number {
  const found = ribbon.place_frac.findIndex((at) => at >= place);
  return found < 0 ? ribbon.place_frac.length - 1 : found;
}

/** The point of the ribbon next to an hour. */
export function hourPoint(ribbon: PassagePicture["ribbon"], hours: number): number {
  const found = ribbon.hours.findIndex((hour) => hour >= hours);
  return found < 0 ? ribbon.hours.length - 1 : found;
}
