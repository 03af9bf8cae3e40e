/** From the boat frame (x to starboard, y forward, z up) to the picture, and where shadows fall in it. */
import type { ArrayPicture } from "../../api/client";

export type Corner = ArrayPicture["places"][number]["corners"][number];
export type DeckPanel = ArrayPicture["panels"][number];
export type DeckSpar = ArrayPicture["spars"][number];
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
    ...picture.spars.map((spar) => spar.foot),
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

/** The part of a spar that stands above a panel's plane. */
function above(corners: Corner[], spar: DeckSpar): [Corner, Corner] | null {
  const height = (point: Corner) => {
    const [a, b, , d] = corners as [Corner, Corner, Corner, Corner];
    const n = [
      (b.y_m - a.y_m) * (d.z_m - a.z_m) - (b.z_m - a.z_m) * (d.y_m - a.y_m),
      (b.z_m - a.z_m) * (d.x_m - a.x_m) - (b.x_m - a.x_m) * (d.z_m - a.z_m),
      (b.x_m - a.x_m) * (d.y_m - a.y_m) - (b.y_m - a.y_m) * (d.x_m - a.x_m),
    ] as const;
    return n[0] * (point.x_m - a.x_m) + n[1] * (point.y_m - a.y_m) + n[2] * (point.z_m - a.z_m);
  };
  const [low, high] = [height(spar.foot), height(spar.tip)];
  if (low <= 0 && high <= 0) return null;
  if (low >= 0 && high >= 0) return [spar.foot, spar.tip];
  const share = low / (low - high);
  const cut = {
    x_m: spar.foot.x_m + (spar.tip.x_m - spar.foot.x_m) * share,
    y_m: spar.foot.y_m + (spar.tip.y_m - spar.foot.y_m) * share,
    z_m: spar.foot.z_m + (spar.tip.z_m - spar.foot.z_m) * share,
  };
  return low > 0 ? [spar.foot, cut] : [cut, spar.tip];
}

/** The shadow of a spar on a panel, as a line on the screen and its width; null where there is none. */
export function shadowOf(
  plan: Plan,
  panel: DeckPanel,
  spar: DeckSpar,
  bearing_deg: number,
  height_deg: number,
) {
  const part = height_deg > 0.5 ? above(panel.corners, spar) : null;
  if (!part) return null;
  const from = thrown(panel.corners, part[0], bearing_deg, height_deg);
  const to = thrown(panel.corners, part[1], bearing_deg, height_deg);
  if (!from || !to) return null;
  return {
    from: toScreen(plan, from.x, from.y),
    to: toScreen(plan, to.x, to.y),
    width: Math.max(2 * spar.radius_m * plan.scale, 1.2),
  };
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
