/** Moments of readings: now, or a clock time of the day that is open. */
import type { LogPicture, LogReading } from "../../api/client";

const CLOCK = /^([01]?\d|2[0-3])[:.]?([0-5]\d)$/;
const MINUTE_MS = 60_000;

/** The moment of a clock time on the open outing's day; this one without any; null where it is none. */
export function momentOf(clock: string, day: LogPicture["day"]): string | null {
  if (clock.trim() === "") return new Date().toISOString();
  const found = CLOCK.exec(clock.trim());
  if (!found) return null;
  const minutes = 60 * Number(found[1]) + Number(found[2]);
  const start = day ? Date.parse(day.starts_at) : new Date().setHours(0, 0, 0, 0);
  return new Date(start + minutes * MINUTE_MS).toISOString();
}

/** A reading by hand that says nothing yet. */
export const newReading = (id: string, at: string, outing: string | null): LogReading => ({
  id,
  at,
  outing_id: outing,
  source: "hand",
  note: "",
  left_out: false,
});

export const nowClock = () => new Date().toTimeString().slice(0, 5);
