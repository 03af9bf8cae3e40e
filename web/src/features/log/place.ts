/** Where she is as a reading is noted, by the device's own receiver, where a person has asked for that. */
import { useState } from "react";

const KEY = "parhelion.place";
const WAIT_MS = 4000;
const OLD_MS = 60_000;

export interface Place {
  latitude_deg: number;
  longitude_deg: number;
}

/** This device's place; null where it has none to tell in time. */
export function placeNow(): Promise<Place | null> {
  return new Promise((tell) => {
    if (!("geolocation" in navigator)) return tell(null);
    navigator.geolocation.getCurrentPosition(
      ({ coords }) => tell({ latitude_deg: coords.latitude, longitude_deg: coords.longitude }),
      () => tell(null),
      { maximumAge: OLD_MS, timeout: WAIT_MS },
    );
  });
}

export function usePlaceToo(): [boolean, (on: boolean) => void] {
  const [on, setOn] = useState(() => localStorage.getItem(KEY) === "on");
  return [
    on,
    (next) => {
      localStorage.setItem(KEY, next ? "on" : "off");
      setOn(next);
    },
  ];
}
