/** What is changed and not yet saved, in the browser's own store: a closed tab or a power cut loses none of it. */
import type { BoatDesign } from "../api/client";

export interface Unsaved {
  revision: number; // the saved state it was made from
  design: BoatDesign;
  sent: string[]; // saves whose replies were not heard yet
  at: number;
}

const PREFIX = "parhelion.unsaved";

/** A name of this tab, the same over a reload. */
function tab(): string {
  const held = sessionStorage.getItem("parhelion.tab");
  if (held) return held;
  const made = Math.random().toString(36).slice(2);
  sessionStorage.setItem("parhelion.tab", made);
  return made;
}

const keyOf = (variantId: string) => `${PREFIX}.${variantId}.${tab()}`;

/** Keep what is unsaved, or forget it where all is saved. */
export function keepUnsaved(variantId: string, unsaved: Unsaved | null): void {
  try {
    if (unsaved) localStorage.setItem(keyOf(variantId), JSON.stringify(unsaved));
    else localStorage.removeItem(keyOf(variantId));
  } catch {
    // The storage is full or shut: saving to the server goes on, and the page asks before it is left.
  }
}

/** What another tab left unsaved, the latest of it; it is this tab's from here on. */
export function adopted(variantId: string): Unsaved | null {
  try {
    const keys = Object.keys(localStorage).filter((key) => key.startsWith(`${PREFIX}.${variantId}.`));
    const found = keys.map((key) => ({
      key,
      left: JSON.parse(localStorage.getItem(key) ?? "null") as Unsaved,
    }));
    const latest = found.sort((a, b) => b.left.at - a.left.at)[0];
    if (!latest) return null;
    if (latest.key !== keyOf(variantId)) localStorage.removeItem(latest.key);
    return latest.left;
  } catch {
    return null;
  }
}

/** Two documents say the same, whatever the order of their entries, and with nothing said for nothing. */
export function same(one: unknown, other: unknown): boolean {
  return plain(one) === plain(other);
}

const plain = (value: unknown): string =>
  JSON.stringify(value, (_, item) =>
    item && typeof item === "object" && !Array.isArray(item)
      ? Object.fromEntries(
          Object.entries(item)
            .filter(([, held]) => held !== null)
            .sort(([a], [b]) => (a < b ? -1 : 1)),
        )
      : item,
  );
