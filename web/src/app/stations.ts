/** The stations that work, with their place in the order of the work (their number key). */
export const STATIONS = [
  { key: "hull", label: "Hull", digit: "1" },
  { key: "bank", label: "Bank", digit: "2" },
  { key: "array", label: "Array", digit: "3" },
  { key: "strings", label: "Strings", digit: "4" },
  { key: "day", label: "Day", digit: "5" },
] as const;
/** Asks the Day for an hour back (-1) or forward (1). */
export const HOUR_EVENT = "parhelion:hour";
export type Station = (typeof STATIONS)[number]["key"];
