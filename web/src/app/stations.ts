/** The stations that work, with their place in the order of the work (their number key). */
export const STATIONS = [
  { key: "hull", label: "Hull", digit: "1" },
  { key: "day", label: "Day", digit: "5" },
] as const;
export type Station = (typeof STATIONS)[number]["key"];
