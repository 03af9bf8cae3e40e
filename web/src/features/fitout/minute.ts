/** The minute that readings are expected in: kept for this tab, asked of the server. */
import { useState } from "react";
import type { FitoutPicture } from "../../api/client";

export interface Minute {
  at: string | null; // by the boat's clock, or with its offset; null: that of the last reading, or noon of the plan's day
  shadow: FitoutPicture["minute"]["shadow"] | null;
  heading_deg: number | null;
  air_c: number | null;
  wiped: boolean | null;
}

const USUAL: Minute = { at: null, shadow: null, heading_deg: null, air_c: null, wiped: null };
const key = (boat: string) => `parhelion.minute.${boat}`;

function held(boat: string): Minute {
  try {
    return { ...USUAL, ...JSON.parse(sessionStorage.getItem(key(boat)) ?? "{}") };
  } catch {
    return USUAL;
  }
}

export function useMinute(boat: string): [Minute, (minute: Minute) => void] {
  const [minute, setMinute] = useState(() => held(boat));
  const put = (next: Minute) => {
    sessionStorage.setItem(key(boat), JSON.stringify(next));
    setMinute(next);
  };
  return [minute, put];
}

/** What is asked of the picture: only what differs from the usual. */
export const asked = (minute: Minute) => ({
  ...(minute.at === null ? {} : { at: minute.at }),
  ...(minute.heading_deg === null ? {} : { heading_deg: minute.heading_deg }),
  ...(minute.air_c === null ? {} : { air_c: minute.air_c }),
  ...(minute.shadow === null ? {} : { shadow: minute.shadow }),
  ...(minute.wiped === null ? {} : { wiped: minute.wiped }),
});

/** The sky and the panels of the minute, as a reading keeps them. */
export const seenIn = (minute: FitoutPicture["minute"]) => ({
  shadow: minute.shadow,
  heading_deg: minute.heading_deg,
  air_c: minute.air_given ? minute.air_c : null,
  wiped: minute.wiped,
});

/** The clock and the day of a moment, as the boat's clock shows them. */
export const clockOf = (at: string) => at.slice(11, 16);
export const dayOf = (at: string) => at.slice(0, 10);
