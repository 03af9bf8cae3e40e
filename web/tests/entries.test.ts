import { describe, expect, it } from "vitest";
import demo from "../../demo/fulmar.json";
import schema from "../../docs/boat-design.schema.json";
import type { BoatDesign } from "../src/api/client";
import { Entries } from "../src/kit/entries";

const entries = new Entries(schema as unknown as ConstructorParameters<typeof Entries>[0]);
const fulmar = demo as unknown as BoatDesign; // two banks, two converters

describe("an entry", () => {
  it("is drawn from what the design says of it", () => {
    expect(entries.at("/banks/0/unit_v")).toMatchObject({
      label: "Volts of one unit",
      draws: "number",
      quantity: "voltage_v",
      nullable: false,
    });
    expect(entries.at("/hull/margin")).toMatchObject({ unit: "×", step: 0.05, nullable: true });
    expect(entries.at("/plan/spells/0/starts_at").draws).toBe("clock");
    expect(entries.at("/plan/date").draws).toBe("date");
    expect(entries.at("/wiring/bundled").draws).toBe("check");
    expect(entries.at("/places/3/stands/dock/how").draws).toBe("choice");
    expect(entries.at("/site/climate/sun_hours/3")).toMatchObject({
      draws: "number",
      quantity: "duration_h",
    });
    expect(entries.at("/panels/0/model").mayBeEmpty).toBe(true);
    expect(entries.at("/name").mayBeEmpty).toBe(false);
    expect(() => entries.at("/hull/colour")).toThrow("/hull/colour");
  });

  it("of a list says whether it has room for one more", () => {
    const full = (list: string, most: number) =>
      [most - 1, most].map((count) => {
        const boat = { ...fulmar, [list]: Array.from({ length: count }, (_, k) => ({ id: `${k}` })) };
        return entries.hasRoom(boat as unknown as BoatDesign, `/${list}`);
      });
    const bounds = schema.properties as unknown as Record<string, { maxItems?: number }>;
    for (const list of ["drives", "banks", "loads", "sources"])
      expect(full(list, bounds[list]?.maxItems ?? 0)).toEqual([true, false]);
    expect(entries.hasRoom({ ...fulmar, passage: null } as BoatDesign, "/passage/winds")).toBe(true);
  });

  it("is named with the part it is of", () => {
    expect(entries.named("/loads/0/power_w")).toBe("Load 1, watts");
    expect(entries.named("/panels/1/nameplate_w")).toBe("Panels 2, nameplate, each");
    expect(entries.named("/plan/spells/1/speed_mps")).toBe("Spell 2, speed");
    expect(entries.named("/plan/speed_mps")).toBe("Speed");
  });

  it("of a part that names another offers the parts there are", () => {
    expect(entries.at("/controllers/0/bank_id", fulmar)).toMatchObject({
      draws: "choice",
      nullable: true,
      empty: "the first",
      options: (fulmar.banks ?? []).map((bank) => [bank.id, bank.name]),
    });
    expect(entries.options("/plan/state").map(([state]) => state)).toContain("anchored");
  });
});

describe("a new part", () => {
  it("begins whole, with an id and a name of its own", () => {
    const twice = entries.withNew(entries.withNew(fulmar, "/loads"), "/loads");
    const [first, second] = (twice.loads ?? []).slice(-2);
    expect(first).toMatchObject({ power_w: 20, hours_per_day: 4, essential: false, bank_id: null });
    expect(first?.id).not.toBe(second?.id);
    expect(first?.name).not.toBe(second?.name);
    expect(twice.loads).toHaveLength((fulmar.loads ?? []).length + 2);
  });

  it("of a kind begins as that kind does", () => {
    const source = entries.withNew(fulmar, "/sources", { kind: "pedals" }).sources?.at(-1);
    expect(source).toMatchObject({ kind: "pedals", hours_per_day: 1, from_clock: "10:00:00" });
    const box = entries.withNew(fulmar, "/obstacles", { shape: "box" }).obstacles?.at(-1);
    expect(box).toMatchObject({ shape: "box", width_m: 0.5, clew: null, radius_m: 0.03 });
    expect(entries.begun("/places/0/at")).toEqual({ x_m: 0, y_m: 0, z_m: 1 });
    expect(entries.begun("/places/0/tilt_most_deg")).toBe(60);
    expect(entries.begun("/loading", { boat_kg: 640 })).toMatchObject({ boat_kg: 640, crew_kg: 0 });
  });
});

describe("a part that goes", () => {
  const [traction, house] = fulmar.banks ?? [];

  it("takes what cannot be without it along, and frees the rest", () => {
    const left = entries.without(fulmar, "/banks", house?.id ?? "");
    expect(left.banks?.map((bank) => bank.id)).toEqual([traction?.id]);
    expect(left.links).toEqual([]);
    expect(left.loads?.filter((load) => load.bank_id === house?.id)).toEqual([]);
    expect(left.loads).toHaveLength((fulmar.loads ?? []).length);
    expect(fulmar.banks).toHaveLength(2);
  });

  it("goes with its panels and their strings", () => {
    const group = fulmar.panels?.[0];
    const other = fulmar.panels?.[1];
    const strings = [
      { id: "a", controller_id: group?.controller_id, panels: [{ group_id: group?.id, number: 0 }] },
      {
        id: "b",
        controller_id: group?.controller_id,
        panels: [
          { group_id: group?.id, number: 1 },
          { group_id: other?.id, number: 0 },
        ],
      },
    ];
    const wired = { ...fulmar, strings } as BoatDesign;
    const left = entries.without(wired, "/places", group?.place_id ?? "");
    expect(left.panels?.some((item) => item.place_id === group?.place_id)).toBe(false);
    expect(left.strings?.map((string) => string.id)).toEqual(
      other?.place_id === group?.place_id ? [] : ["b"],
    );
    expect(left.strings?.flatMap((string) => string.panels).some((p) => p.group_id === group?.id)).toBe(
      false,
    );
    expect(left.hull).toEqual(fulmar.hull);
  });
});
