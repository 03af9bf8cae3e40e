import { describe, expect, it } from "vitest";
import { named, placed, valueAt, withValue } from "../src/kit/pointer";

const boat = {
  name: "a",
  loads: [
    { id: "fridge", power_w: 45 },
    { id: "kettle", power_w: 350 },
  ],
  plan: { spells: [{ starts_at: "08:00:00" }, { starts_at: "13:00:00" }] },
  site: { climate: { sun_hours: [1, 2, 3] } },
};

describe("one entry of a document", () => {
  it("is replaced without touching the rest", () => {
    const changed = withValue(boat, "/loads/1/power_w", 300);
    expect(valueAt(changed, "/loads/1/power_w")).toBe(300);
    expect(changed.loads[0]).toBe(boat.loads[0]);
    expect(changed.plan).toBe(boat.plan);
    expect(boat.loads[1]?.power_w).toBe(350);
  });

  it("is made where it was not, and read as nothing before", () => {
    expect(valueAt(boat, "/wiring/coldest_c")).toBeUndefined();
    expect(withValue(boat, "/wiring/coldest_c", -4)).toMatchObject({ wiring: { coldest_c: -4 } });
    expect(valueAt(boat, "/name/deeper")).toBeUndefined();
  });

  it("takes escaped names", () => {
    expect(valueAt({ "a/b": { "~": 1 } }, "/a~1b/~0")).toBe(1);
  });
});

describe("a pointer that stays with its entry", () => {
  it("follows its row when one above goes or comes", () => {
    const name = named(boat, "/loads/1/power_w");
    expect(placed(boat, name)).toBe("/loads/1/power_w");
    const [, kettle] = boat.loads;
    expect(placed({ ...boat, loads: [kettle] }, name)).toBe("/loads/0/power_w");
    expect(placed({ ...boat, loads: [{ id: "new" }, ...boat.loads] }, name)).toBe("/loads/2/power_w");
  });

  it("leads nowhere once its row is gone", () => {
    expect(placed({ ...boat, loads: [boat.loads[0]] }, named(boat, "/loads/1/power_w"))).toBeNull();
  });

  it("keeps to the place in a list without ids, while the list is as long", () => {
    const name = named(boat, "/plan/spells/1/starts_at");
    expect(placed(boat, name)).toBe("/plan/spells/1/starts_at");
    expect(placed({ ...boat, plan: { spells: [boat.plan.spells[1]] } }, name)).toBeNull();
    expect(placed(boat, named(boat, "/site/climate/sun_hours/2"))).toBe("/site/climate/sun_hours/2");
  });
});
