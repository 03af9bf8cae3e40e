/** The plane that a way is drawn on, and the way between its metres and the picture's places. */

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

/** A length on the plane, as long as it is drawn. */
export const pixelsOf = (frame: Frame, metres: number) => frame.scale * metres;

export const spotAt = (frame: Frame, [east, north]: Spot): Spot => [
  frame.x0 + frame.scale * east,
  frame.y0 - frame.scale * north,
];
