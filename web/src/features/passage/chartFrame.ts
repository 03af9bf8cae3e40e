/** The plane that a passage is drawn on, and the way between its metres and the picture's places. */

export type Spot = readonly [number, number]; // east and north of the start [m]

export interface Frame {
  scale: number; // pixels a metre
  back: (x: number, y: number) => Spot;
  x0: number;
  y0: number;
}

/** A frame in which all spots stand, north up, as large as there is room. */
export function frameOf(spots: Spot[], width: number, height: number, edge: number): Frame {
  const easts = spots.map((spot) => spot[0]);
  const norths = spots.map((spot) => spot[1]);
  const [west, east] = [Math.min(...easts), Math.max(...easts)];
  const [south, north] = [Math.min(...norths), Math.max(...norths)];
  const scale = Math.min(width / Math.max(east - west, 200), height / Math.max(north - south, 200));
  const x0 = edge + (width - scale * (east - west)) / 2 - scale * west;
  const y0 = edge + (height - scale * (north - south)) / 2 + scale * north;
  return { scale, x0, y0, back: (x, y) => [(x - x0) / scale, (y0 - y) / scale] };
}

export const spotAt = (frame: Frame, [east, north]: Spot): Spot => [
  frame.x0 + frame.scale * east,
  frame.y0 - frame.scale * north,
];

/** Length [m] and course [deg] from one dragged spot to another, as the picture shows them. */
export function between([e0, n0]: Spot, [e1, n1]: Spot): [number, number] {
  const length = Math.hypot(e1 - e0, n1 - n0);
  const course = (Math.atan2(e1 - e0, n1 - n0) * 180) / Math.PI;
  return [Math.round(length), Math.round((course + 360) % 360) % 360];
}
