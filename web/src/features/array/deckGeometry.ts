/** From the boat frame (x to starboard, y forward, z up) to the picture, and where shadows fall in it. */
import type { ArrayPicture } from "../../api/client";

export type Corner = ArrayPicture["places"][number]["corners"][number];
export type DeckPanel = ArrayPicture["panels"][number];
export type DeckThing = ArrayPicture["things"][number];
export type Sun = ArrayPicture["sun"][number];
export interface Spot {
  x: number;
  y: number;
}

/** The scale and origin of a plan that shows everything inside a ring. */
export interface Plan {
  middle: Spot; // of the ring, on the screen
  radius: number;
  scale: number; // screen units a metre
  at: Spot; // boat point at the ring's middle
}

export const toScreen = (plan: Plan, x_m: number, y_m: number): Spot => ({
  x: plan.middle.x + (x_m - plan.at.x) * plan.scale,
  y: plan.middle.y - (y_m - plan.at.y) * plan.scale,
});

/** Fits the boat and all that stands on it into a ring. */
export function planOf(picture: ArrayPicture, middle: Spot, radius: number): Plan {
  const points = [
    ...picture.outlines.flat(),
    ...picture.panels.flatMap((panel) => panel.corners),
    ...picture.places.flatMap((place) => place.corners),
    ...picture.things.filter((thing) => thing.stands).map((thing) => thing.foot),
  ];
  const xs = points.map((point) => point.x_m);
  const ys = points.map((point) => point.y_m);
  const at = {
    x: (Math.min(...xs) + Math.max(...xs)) / 2,
    y: (Math.min(...ys) + Math.max(...ys)) / 2,
  };
  const reach = Math.max(...points.map((point) => Math.hypot(point.x_m - at.x, point.y_m - at.y)), 1);
  return { middle, radius, scale: (radius * 0.94) / reach, at };
}

export const pathOf = (spots: Spot[]) =>
  `M${spots.map((spot) => `${spot.x.toFixed(1)} ${spot.y.toFixed(1)}`).join("L")}Z`;

export const cornersPath = (plan: Plan, corners: Corner[]) =>
  pathOf(corners.map((corner) => toScreen(plan, corner.x_m, corner.y_m)));

/** A point of a panel by its shares along both sides. */
export function within(plan: Plan, corners: Corner[], across: number, along: number): Spot {
  const [a, b, , d] = corners as [Corner, Corner, Corner, Corner];
  return toScreen(
    plan,
    a.x_m + (b.x_m - a.x_m) * across + (d.x_m - a.x_m) * along,
    a.y_m + (b.y_m - a.y_m) * across + (d.y_m - a.y_m) * along,
  );
}

const RAD = Math.PI / 180;

/** Where a point of a spar throws its shadow on a panel's plane, in plan [m]; null where it throws none. */
function thrown(corners: Corner[], point: Corner, bearing_deg: number, height_deg: number): Spot | null {
  const [a, b, , d] = corners as [Corner, Corner, Corner, Corner];
  const u = [b.x_m - a.x_m, b.y_m - a.y_m, b.z_m - a.z_m] as const;
  const v = [d.x_m - a.x_m, d.y_m - a.y_m, d.z_m - a.z_m] as const;
  const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]] as const;
  const flat = Math.cos(height_deg * RAD);
  const s = [
    Math.sin(bearing_deg * RAD) * flat,
    Math.cos(bearing_deg * RAD) * flat,
    Math.sin(height_deg * RAD),
  ] as const;
  const into = n[0] * s[0] + n[1] * s[1] + n[2] * s[2];
  if (into <= 1e-9) return null;
  const away = n[0] * (point.x_m - a.x_m) + n[1] * (point.y_m - a.y_m) + n[2] * (point.z_m - a.z_m);
  const far = away / into;
  return { x: point.x_m - s[0] * far, y: point.y_m - s[1] * far };
}

/** How far a point lies over a panel's plane, times a constant of the panel. */
function over(corners: Corner[], point: Corner): number {
  const [a, b, , d] = corners as [Corner, Corner, Corner, Corner];
  const n = [
    (b.y_m - a.y_m) * (d.z_m - a.z_m) - (b.z_m - a.z_m) * (d.y_m - a.y_m),
    (b.z_m - a.z_m) * (d.x_m - a.x_m) - (b.x_m - a.x_m) * (d.z_m - a.z_m),
    (b.x_m - a.x_m) * (d.y_m - a.y_m) - (b.y_m - a.y_m) * (d.x_m - a.x_m),
  ] as const;
  return n[0] * (point.x_m - a.x_m) + n[1] * (point.y_m - a.y_m) + n[2] * (point.z_m - a.z_m);
}

const between = (from: Corner, to: Corner, share: number): Corner => ({
  x_m: from.x_m + (to.x_m - from.x_m) * share,
  y_m: from.y_m + (to.y_m - from.y_m) * share,
  z_m: from.z_m + (to.z_m - from.z_m) * share,
});

/** The part of a line or an outline that lies over a panel's plane. */
function above(corners: Corner[], points: Corner[], closed: boolean): Corner[] {
  const heights = points.map((point) => over(corners, point));
  const kept: Corner[] = [];
  points.forEach((point, i) => {
    const here = heights[i] as number;
    if (here > 0) kept.push(point);
    const k = (i + 1) % points.length;
    if (k === 0 && !closed) return;
    const next = heights[k] as number;
    if (here > 0 !== next > 0) kept.push(between(point, points[k] as Corner, here / (here - next)));
  });
  return kept;
}

/** The shadow of points on a panel's plane, on the screen; null where none of them stands over it. */
function shadow(
  plan: Plan,
  panel: DeckPanel,
  points: Corner[],
  closed: boolean,
  sun: { bearing: number; up: number },
): Spot[] | null {
  if (sun.up <= 0.5) return null;
  const part = above(panel.corners, points, closed);
  if (part.length < 2) return null;
  const spots = part.map((point) => thrown(panel.corners, point, sun.bearing, sun.up));
  return spots.some((spot) => spot === null) ? null : spots.map((s) => toScreen(plan, s?.x ?? 0, s?.y ?? 0));
}

export interface Shadow {
  key: string;
  thing: string | null;
  spots: Spot[];
  width: number | null; // of a line; null: an area
}

/** The shadows of what stands, and of panels that rise over their neighbours, on one panel. */
export function shadowsOn(
  plan: Plan,
  panel: DeckPanel,
  things: DeckThing[],
  panels: DeckPanel[],
  sun: { bearing: number; up: number },
): Shadow[] {
  const found: Shadow[] = [];
  for (const thing of things) {
    const outlines = thing.shape === "spar" ? [[thing.foot, thing.tip]] : thing.faces;
    outlines.forEach((points, face) => {
      const spots = shadow(plan, panel, points, thing.shape !== "spar", sun);
      const width = thing.shape === "spar" ? Math.max(2 * thing.radius_m * plan.scale, 1.2) : null;
      if (spots) found.push({ key: `${thing.id}/${face}`, thing: thing.id, spots, width });
    });
  }
  const most = Math.max(...panel.corners.map((corner) => corner.z_m));
  for (const other of panels) {
    if (other === panel || other.corners.every((corner) => corner.z_m < most + 0.02)) continue;
    const spots = shadow(plan, panel, other.corners, true, sun);
    const key = `${other.group_id}/${other.number}`;
    if (spots) found.push({ key, thing: null, spots, width: null });
  }
  return found;
}

/** Half the boat's breadth at a place along her, from her outline [m]. */
export function halfAt(picture: ArrayPicture, y_m: number): number {
  const spots = picture.outlines.flat();
  const near = spots.filter((spot) => Math.abs(spot.y_m - y_m) < picture.length_m / 20);
  return Math.max(...near.map((spot) => Math.abs(spot.x_m)), 0);
}

/** The sun at a fractional step. */
export function sunAt(track: Sun[], index: number): Sun {
  const low = Math.min(Math.max(Math.floor(index), 0), track.length - 2);
  const share = Math.min(Math.max(index - low, 0), 1);
  const [a, b] = [track[low] as Sun, track[low + 1] as Sun];
  const turn = ((b.azimuth_deg - a.azimuth_deg + 540) % 360) - 180;
  return {
    azimuth_deg: (a.azimuth_deg + turn * share + 360) % 360,
    elevation_deg: a.elevation_deg + (b.elevation_deg - a.elevation_deg) * share,
  };
}
