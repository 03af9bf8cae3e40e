import { scaleLinear } from "d3-scale";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { DayPicture, HullPicture, LogPicture, PassagePicture, WishFront } from "../src/api/client";
import { degreesOf, placeAt as siteAt } from "../src/app/WorldMap";
import { clockAt, indexOf, minutesOf, motorBars, stacked, steps } from "../src/features/day/dayAxis";
import { asked, clockOf, dayOf } from "../src/features/fitout/minute";
import { sunNames } from "../src/features/hull/CrossingMarks";
import { momentOf } from "../src/features/log/moment";
import { between, withinReach } from "../src/features/passage/chartFrame";
import { hourPoint, placeAt, pointAt } from "../src/features/passage/ribbonFrame";
import { shownPoint } from "../src/features/wish/points";
import { keyStep } from "../src/kit/chart/drag";
import { frameOf, type Spot, spotAt } from "../src/kit/chart/plane";
import { spread } from "../src/kit/chart/spread";
import { wrapped } from "../src/kit/chart/wrapped";
import { goesOn } from "../src/kit/logbook";

/** Numbers that look thrown, the same every time. */
function* thrown(seed: number) {
  let state = seed;
  for (;;) {
    state = (state * 1103515245 + 12345) % 2147483648;
    yield state / 2147483648;
  }
}

describe("labels", () => {
  it("are pushed apart, keep their order, and stay inside while there is room", () => {
    const chance = thrown(7);
    const next = () => chance.next().value ?? 0;
    for (let trial = 0; trial < 60; trial++) {
      const items = Array.from({ length: 1 + Math.floor(next() * 9) }, (_, n) => ({
        item: n,
        at: 20 + 260 * next(),
      }));
      const placed = spread(items, 17, 10, 290);
      const places = placed.map((label) => label.y);
      expect(placed.map((label) => label.at)).toEqual(items.map((one) => one.at).sort((a, b) => a - b));
      places.forEach((y, i) => {
        expect(y).toBeGreaterThanOrEqual(10 - 1e-9);
        expect(y).toBeLessThanOrEqual(290 + 1e-9);
        if (i > 0) expect(y - (places[i - 1] ?? 0)).toBeGreaterThanOrEqual(17 - 1e-9);
      });
    }
    const [alone] = spread([{ item: "a", at: 100 }], 17, 0, 300);
    expect(alone?.y).toBe(100); // where it points to, when nothing is near
  });

  it("of a box break at their spaces, and are cut only where no line is left", () => {
    expect(wrapped("House", 14, 2)).toEqual(["House"]);
    expect(wrapped("Port rail controller", 14, 2)).toEqual(["Port rail", "controller"]);
    expect(wrapped("Dock or shore rack ashore of all", 12, 2)).toEqual(["Dock or", "shore rack …"]);
    expect(wrapped("Unbreakablename", 8, 2)).toEqual(["Unbreak…"]);
    expect(wrapped("  two  words ", 20, 2)).toEqual(["two  words"]);
  });

  it("of sun lines never lie on each other, however near the lines are", () => {
    const y = (watts: number) => 300 - watts;
    const chance = thrown(3);
    for (let trial = 0; trial < 40; trial++) {
      const lines = ["a", "b", "c", "d"].map((key) => ({ key, power_w: 90 * (chance.next().value ?? 0) }));
      const stands = [...sunNames(lines as unknown as HullPicture["lines"], y, 290).values()].sort(
        (a, b) => a - b,
      );
      stands.slice(1).forEach((at, i) => {
        expect(at - (stands[i] ?? 0)).toBeGreaterThanOrEqual(17);
      });
      expect(stands.at(-1)).toBeLessThanOrEqual(290); // over the speeds at the foot
    }
  });
});

describe("the day's axis", () => {
  const clock = Array.from({ length: 144 }, (_, step) => (400 + 10 * step) % 1440);
  const picture = {
    clock_min: clock,
    groups: [{ power_w: [1, 2, 3] }, { power_w: [10, 20, 30] }],
    others: [{ power_w: [100, 100, 100] }],
    house_w: clock.map(() => 5),
    motor_w: clock.map((_, step) => (step === 2 ? 50 : 100)),
    motoring: [{ start: 1, end: 2.5 }],
  } as unknown as DayPicture;

  it("reads back the clock it was asked for, past midnight too", () => {
    for (const at of ["06:40", "12:05", "23:59", "00:00", "06:30"]) {
      const index = indexOf(picture, minutesOf(at));
      expect(index).toBeGreaterThanOrEqual(0);
      expect(index).toBeLessThan(144);
      expect(clockAt(picture, index)).toBeCloseTo(minutesOf(at), 6);
    }
  });

  it("stacks each source over the ones before it", () => {
    expect(stacked(picture)).toEqual([
      [1, 2, 3],
      [11, 22, 33],
      [111, 122, 133],
    ]);
  });

  it("hangs the motor under the house for as long as it runs, its watts those while it runs", () => {
    const x = scaleLinear([0, 144], [0, 144]);
    const y = scaleLinear([0, 1], [0, -1]);
    const bars = motorBars(picture, x, y).split("Z").filter(Boolean);
    expect(bars).toEqual(["M1,5H2.4V105H1", "M2,5H2.9V105H2"]); // half a step at twice its mean
    expect(steps([2], [1], x, y)).toBe("M0,2L1,2L1,1L0,1Z");
  });

  it("knows the keys of a slider", () => {
    const keys = ["ArrowUp", "ArrowLeft", "PageUp", "PageDown", "a"];
    expect(keys.map(keyStep)).toEqual([1, -1, 6, -6, 0]);
  });
});

describe("a passage's pictures", () => {
  const ribbon = {
    hours: [0, 1, 2, 4, 5],
    place_frac: [0, 0.25, 0.25, 0.75, 1],
  } as unknown as PassagePicture["ribbon"];

  it("find the place of an hour, at rest and after the end", () => {
    expect([0, 0.5, 1.5, 3, 5, 9].map((hour) => placeAt(ribbon, hour))).toEqual([0, 0.125, 0.25, 0.5, 1, 1]);
    expect([0.2, 0.3, 2].map((place) => pointAt(ribbon, place))).toEqual([1, 3, 4]);
    expect([0, 1.2, 9].map((hour) => hourPoint(ribbon, hour))).toEqual([0, 2, 4]);
  });

  it("hold all spots of a route, north up, and read them back", () => {
    const spots: Spot[] = [
      [0, 0],
      [900, 2400],
      [-1500, 300],
    ];
    const frame = frameOf(spots, 400, 300, 20);
    for (const spot of spots) {
      const [x, y] = spotAt(frame, spot);
      expect(x).toBeGreaterThanOrEqual(20 - 1e-9);
      expect(x).toBeLessThanOrEqual(420 + 1e-9);
      expect(y).toBeGreaterThanOrEqual(20 - 1e-9);
      expect(y).toBeLessThanOrEqual(320 + 1e-9);
      frame.back(x, y).forEach((metres, i) => {
        expect(metres).toBeCloseTo(spot[i] ?? 0, 6);
      });
    }
    expect(spotAt(frame, [0, 100])[1]).toBeLessThan(spotAt(frame, [0, 0])[1]);
    expect(between([0, 0], [0, -500])).toEqual([500, 180]);
    expect(between([0, 0], [-300, 300])).toEqual([424, 315]);
    expect(between([0, 0], [-1, 4000])).toEqual([4000, 0]); // never 360
  });
});

describe("what lies within reach", () => {
  it("is every place from which here, there and in add up to it", () => {
    const [here, end]: [Spot, Spot] = [
      [3000, 1000],
      [-1000, 4000],
    ];
    const frame = frameOf([here, end], 400, 400, 20);
    const path = withinReach(frame, here, end, 9000) ?? "";
    const spots = [...path.matchAll(/(-?[\d.]+),(-?[\d.]+)/g)].map(([, x, y]) =>
      frame.back(Number(x), Number(y)),
    );
    expect(spots.length).toBeGreaterThan(30);
    for (const [east, north] of spots) {
      const whole = Math.hypot(east - here[0], north - here[1]) + Math.hypot(east - end[0], north - end[1]);
      expect(whole / 9000).toBeCloseTo(1, 2);
    }
    expect(withinReach(frame, here, end, 4999)).toBeNull(); // not even the straight way in
    expect(withinReach(frame, here, here, 0)).toBeNull();
  });
});

describe("a place by hand", () => {
  it("is named by where it is, to a tenth of a degree", () => {
    expect(siteAt(-36.849, 174.763)).toEqual({
      name: "36.8° S, 174.8° E",
      latitude_deg: -36.8,
      longitude_deg: 174.8,
      altitude_m: 0,
    }); // its water is left to the core
    expect(siteAt(42.36, -71.06).name).toBe("42.4° N, 71.1° W");
  });

  it("is read with a point or a comma, and refused beyond the poles", () => {
    expect([degreesOf("47,5", 90), degreesOf(" -12.25 ", 90), degreesOf("−3", 90)]).toEqual([
      47.5, -12.25, -3,
    ]);
    for (const text of ["", "north", "90.1", "-91", "1e999"]) expect(degreesOf(text, 90)).toBeNull();
    expect(degreesOf("-180", 180)).toBe(-180);
  });
});

describe("a moment", () => {
  beforeEach(() => {
    vi.useFakeTimers();
    vi.setSystemTime(new Date("2027-06-13T09:30:00Z"));
  });
  afterEach(() => {
    vi.useRealTimers();
  });
  const day = { starts_at: "2027-06-12T22:00:00Z" } as LogPicture["day"]; // two hours ahead of Greenwich

  it("typed is of the open outing's day; without a clock it is now; what is none is told", () => {
    expect(momentOf("", day)).toBe("2027-06-13T09:30:00.000Z");
    for (const typed of ["14:05", "1405", "14.05", " 14:05 "])
      expect(momentOf(typed, day)).toBe("2027-06-13T12:05:00.000Z");
    for (const typed of ["24:00", "14:60", "noon", "7"]) expect(momentOf(typed, day)).toBeNull();
  });

  it("belongs to the open outing while that may still be going on", () => {
    const outing = (began_at: string, ended_at: string | null) =>
      ({ began_at, ended_at }) as unknown as Parameters<typeof goesOn>[0];
    const now = "2027-06-13T09:30:00Z";
    expect(goesOn(outing("2027-06-13T08:00:00Z", null), now)).toBe(true);
    expect(goesOn(outing("2027-06-10T08:00:00Z", null), now)).toBe(false); // nobody ended it
    expect(goesOn(outing("2027-06-13T08:00:00Z", "2027-06-13T09:00:00Z"), now)).toBe(false);
    expect(goesOn(outing("2027-06-13T10:00:00Z", null), now)).toBe(false); // not yet
  });

  it("of the first sun asks only what differs from the usual", () => {
    const usual = { at: null, shadow: null, heading_deg: null, air_c: null, wiped: null };
    expect(asked(usual)).toEqual({});
    expect(asked({ ...usual, heading_deg: 0, wiped: false })).toEqual({ heading_deg: 0, wiped: false });
    expect([clockOf("2027-06-13T14:05:00+02:00"), dayOf("2027-06-13T14:05:00+02:00")]).toEqual([
      "14:05",
      "2027-06-13",
    ]);
  });
});

describe("the wish's slider", () => {
  const point = (cost: number, more = {}) => ({
    cost,
    stretch: cost / 100,
    marks: [],
    on_front: true,
    within: false,
    ...more,
  });
  const front = (...points: object[]) => ({ points }) as unknown as WishFront;

  it("begins at the cheapest that does it, else at the most for the money", () => {
    const does = point(300, { marks: ["cheapest"], within: true });
    expect(shownPoint(front(point(100), does, point(500)), null)).toBe(1);
    const none = point(300, { marks: ["cheapest"], within: false });
    expect(shownPoint(front(point(100), none, point(500, { marks: ["money"] })), null)).toBe(2);
    expect(shownPoint(front(point(100)), null)).toBe(0);
  });

  it("stays with the boat that was chosen when the front is made anew, or goes to the next dearer", () => {
    const chosen = { cost: 300, stretch: 3 };
    expect(shownPoint(front(point(100), point(300), point(500)), chosen)).toBe(1);
    expect(shownPoint(front(point(100), point(350, { on_front: false }), point(500)), chosen)).toBe(2);
    expect(shownPoint(front(point(100), point(200)), chosen)).toBe(1);
  });
});
