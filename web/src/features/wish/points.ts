import type { WishFront, WishPoint } from "../../api/client";

export const MARKS: Record<WishPoint["marks"][number], string> = {
  cheapest: "cheapest that does it",
  lightest: "lightest",
  fewest: "fewest boxes",
  money: "most for the money",
  stops: "where it stops paying",
};

/** A point as it is found again on another front: by its price, and how far it goes. */
export type Chosen = Pick<WishPoint, "cost" | "stretch">;

/** The point that is shown: the one chosen or the next dearer, else the cheapest that does it, else the most. */
export function shownPoint(front: WishFront, chosen: Chosen | null): number {
  const { points } = front;
  if (chosen) {
    const same = points.findIndex((point) => point.cost === chosen.cost && point.stretch === chosen.stretch);
    const dearer = points.findIndex((point) => point.on_front && point.cost >= chosen.cost);
    if (same >= 0) return same;
    return dearer < 0 ? points.length - 1 : dearer;
  }
  const marked = (mark: WishPoint["marks"][number]) =>
    points.findIndex((point) => point.marks.includes(mark));
  const cheapest = marked("cheapest");
  if (cheapest >= 0 && points[cheapest]?.within) return cheapest;
  return Math.max(marked("money"), 0);
}
