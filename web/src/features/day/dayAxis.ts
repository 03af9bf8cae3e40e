import type { ScaleLinear } from "d3-scale";
import type { DayPicture } from "../../api/client";

/** The day picture's frame, and the way between clock times and places on its axis. */
export const MARGIN = { left: 58, right: 14, top: 34, bottom: 26 };
export const LANE_HEIGHT = 96;
export const LANE_GAP = 30;

export type Scale = ScaleLinear<number, number>;

/** How many steps the day has, and how long one is [min]. */
export function frameOf({ clock_min }: Pick<DayPicture, "clock_min">): { steps: number; minutes: number } {
  const [first = 0, second = 0] = clock_min;
  return { steps: clock_min.length, minutes: (second - first + 1440) % 1440 || 1 };
}

/** The local clock at a place on the axis. */
export function clockAt(picture: DayPicture, index: number): number {
  const { steps, minutes } = frameOf(picture);
  const step = Math.min(Math.max(Math.floor(index), 0), steps - 1);
  return ((picture.clock_min[step] ?? 0) + (index - step) * minutes) % 1440;
}

export function minutesOf(clock: string): number {
  const [hours = 0, minutes = 0] = clock.split(":").map(Number);
  return hours * 60 + minutes;
}

/** Where a local clock time stands on the axis. */
export function indexOf(picture: DayPicture, clockMin: number): number {
  const first = picture.clock_min[0] ?? 0;
  return ((clockMin - first + 1440) % 1440) / frameOf(picture).minutes;
}

/** Harvest by panel group, other sources on top of it: running sums, each over the one before. */
export function stacked(picture: DayPicture): number[][] {
  const sums: number[][] = [];
  for (const layer of [...picture.groups, ...picture.others]) {
    const below = sums.at(-1);
    sums.push(layer.power_w.map((w, i) => w + (below?.[i] ?? 0)));
  }
  return sums;
}

/** A stepped band hanging from the waterline. */
export function steps(outer: number[], inner: number[], x: Scale, y: Scale): string {
  const there = outer.flatMap((w, i) => [`${x(i)},${y(-w)}`, `${x(i + 1)},${y(-w)}`]);
  const back = inner.flatMap((w, i) => [`${x(i)},${y(-w)}`, `${x(i + 1)},${y(-w)}`]).reverse();
  return `M${there.join("L")}L${back.join("L")}Z`;
}

/** The motor under the house: bars as long as the motor runs, not as the steps that hold them. */
export function motorBars(picture: DayPicture, x: Scale, y: Scale): string {
  const bars: string[] = [];
  for (const { start, end } of picture.motoring) {
    for (let step = Math.floor(start); step < end; step++) {
      const [from, to] = [Math.max(step, start), Math.min(step + 1, end)];
      const top = picture.house_w[step] ?? 0;
      const watts = (picture.motor_w[step] ?? 0) / Math.max(to - from, 1e-6);
      if (watts > 0) bars.push(`M${x(from)},${y(-top)}H${x(to) + 0.4}V${y(-top - watts)}H${x(from)}Z`);
    }
  }
  return bars.join("");
}
