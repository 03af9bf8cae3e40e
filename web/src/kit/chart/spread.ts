/** Where labels stand: pushed apart so that none covers another, kept inside the picture. */

export interface Placed<T> {
  item: T;
  at: number; // where it points to
  y: number; // where its text stands
}

export function spread<T>(
  items: { item: T; at: number }[],
  gap: number,
  top: number,
  bottom: number,
): Placed<T>[] {
  const placed = [...items].sort((a, b) => a.at - b.at).map((entry) => ({ ...entry, y: entry.at }));
  for (let i = 0; i < placed.length; i++) {
    const before = placed[i - 1];
    const here = placed[i];
    if (here) here.y = Math.max(here.y, before ? before.y + gap : top);
  }
  for (let i = placed.length - 1; i >= 0; i--) {
    const after = placed[i + 1];
    const here = placed[i];
    if (here) here.y = Math.min(here.y, after ? after.y - gap : bottom);
  }
  return placed;
}
