/** Asks whatever shows a day for an hour back (-1) or forward (1). */
export const HOUR_EVENT = "parhelion:hour";
