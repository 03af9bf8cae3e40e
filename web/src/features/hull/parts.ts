/** Adding and removing the parts of a design that the Hull's bench handles. */
import type { BoatDesign, Drive } from "../../api/client";
import { withValue } from "../../kit/pointer";

const fresh = (what: string) => `${what}-${crypto.randomUUID().slice(0, 8)}`;

const PROPELLER = { diameter_m: 0.28, pitch_m: 0.2, blades: 3 };

export const withPropeller = (design: BoatDesign, drive: number): BoatDesign =>
  withValue(design, `/drives/${drive}/propeller`, PROPELLER);

export const withoutPropeller = (design: BoatDesign, drive: number): BoatDesign =>
  withValue(design, `/drives/${drive}/propeller`, null);

export const withMotor = (design: BoatDesign, drive: number): BoatDesign =>
  withValue(design, `/drives/${drive}/motor`, { kv_rpm_per_v: 60 });

export const withoutMotor = (design: BoatDesign, drive: number): BoatDesign =>
  withValue(design, `/drives/${drive}/motor`, null);

export function withDrive(design: BoatDesign): BoatDesign {
  const drive = { id: fresh("drive"), name: "Second motor", rated_power_w: 1000, idle_power_w: 10 } as Drive;
  return { ...design, drives: [...design.drives, drive] };
}

export function withoutDrive(design: BoatDesign, id: string): BoatDesign {
  return { ...design, drives: design.drives.filter((drive) => drive.id !== id) };
}

/** What a label's number means; a number that the new meaning needs starts at a usual one. */
export function withRating(design: BoatDesign, index: number, rating: Drive["rating"]): BoatDesign {
  const drives = design.drives.map((drive, i) =>
    i === index
      ? {
          ...drive,
          rating,
          static_thrust_n: rating === "thrust" ? (drive.static_thrust_n ?? 240) : drive.static_thrust_n,
          rated_power_w: rating === "thrust" ? drive.rated_power_w : (drive.rated_power_w ?? 1000),
        }
      : drive,
  );
  return { ...design, drives };
}

export function withTow(design: BoatDesign): BoatDesign {
  const tow = {
    id: fresh("tow"),
    name: "Dinghy",
    type: "inflatable",
    waterline_length_m: 2.4,
    beam_m: 1.1,
    displacement_kg: 60,
    count: 1,
  } as const;
  return { ...design, tows: [...(design.tows ?? []), tow] };
}

export function withPush(design: BoatDesign, kind: "pedals" | "paddle" | "oars" | "sail"): BoatDesign {
  const push = {
    id: fresh(kind),
    kind,
    power_w: 75,
    hours_per_day: kind === "sail" ? 4 : 1,
    from_clock: "10:00:00",
  };
  return { ...design, pushes: [...(design.pushes ?? []), push] };
}

export function without(design: BoatDesign, list: "tows" | "pushes", id: string): BoatDesign {
  return { ...design, [list]: (design[list] ?? []).filter((item) => item.id !== id) };
}
