import { describe, expect, it } from "vitest";
import demo from "../../demo/fulmar.json";
import launch from "../../demo/whimbrel.json";
import schema from "../../docs/boat-design.schema.json";
import type { ArrayPicture, BoatDesign } from "../src/api/client";
import { withGroup, withoutPanels, withoutPlace, withPlaceOf } from "../src/boat/panels";
import {
  type DeckPanel,
  type DeckThing,
  halfAt,
  type Plan,
  planOf,
  shadowsOn,
  sunAt,
  toScreen,
  within,
} from "../src/features/array/deckGeometry";
import {
  hasOtherSide,
  overAgainst,
  placeMoved,
  placeSized,
  setAlike,
  thingMoved,
  withBothAlike,
  withCount,
  withHinge,
  withOtherSide,
  withShape,
  withThingIn,
} from "../src/features/array/parts";
import { againByGroups, withPanelMoved } from "../src/features/strings/board";
import { Entries } from "../src/kit/entries";

const entries = new Entries(schema as unknown as ConstructorParameters<typeof Entries>[0]);
const fulmar = demo as unknown as BoatDesign;
const corner = (x_m: number, y_m: number, z_m: number) => ({ x_m, y_m, z_m });
const plan: Plan = { middle: { x: 200, y: 200 }, radius: 150, scale: 50, at: { x: 0, y: 0 } };

/** A flat panel one metre square, its middle on the boat's, so high. */
const flat = (z: number, number = 1) =>
  ({
    group_id: "g",
    number,
    corners: [corner(-0.5, -0.5, z), corner(0.5, -0.5, z), corner(0.5, 0.5, z), corner(-0.5, 0.5, z)],
  }) as unknown as DeckPanel;
const mast = (x: number, y: number, top: number) =>
  ({
    id: "mast",
    shape: "spar",
    foot: corner(x, y, 0),
    tip: corner(x, y, top),
    radius_m: 0.05,
    faces: [],
  }) as unknown as DeckThing;

describe("the deck's plan", () => {
  it("shows all of the boat inside its ring, bow up and starboard to the right", () => {
    const picture = {
      outlines: [[corner(-1, -3, 0), corner(1, -3, 0), corner(0, 4, 0)]],
      panels: [flat(1)],
      places: [],
      things: [{ ...mast(0, 0, 9), stands: true }],
      length_m: 7,
    } as unknown as ArrayPicture;
    const made = planOf(picture, { x: 100, y: 100 }, 90);
    for (const point of picture.outlines.flat()) {
      const spot = toScreen(made, point.x_m, point.y_m);
      expect(Math.hypot(spot.x - 100, spot.y - 100)).toBeLessThanOrEqual(90);
    }
    expect(toScreen(made, 0, 4).y).toBeLessThan(toScreen(made, 0, -3).y);
    expect(toScreen(made, 1, 0).x).toBeGreaterThan(toScreen(made, -1, 0).x);
    expect(halfAt(picture, -3)).toBe(1);
    const middle = within(made, flat(1).corners, 0.5, 0.5);
    expect(middle.x).toBeCloseTo(toScreen(made, 0, 0).x);
  });

  it("turns the sun the short way round north", () => {
    const track = [
      { azimuth_deg: 350, elevation_deg: 10 },
      { azimuth_deg: 10, elevation_deg: 20 },
    ];
    expect(sunAt(track, 0.5)).toEqual({ azimuth_deg: 0, elevation_deg: 15 });
    expect(sunAt(track, 9)).toEqual({ azimuth_deg: 10, elevation_deg: 20 });
    expect(sunAt(track, -3)).toEqual({ azimuth_deg: 350, elevation_deg: 10 });
  });
});

describe("a shadow", () => {
  it("of a mast's top falls its height over the panel divided by the sun's tangent away from the sun", () => {
    for (const [bearing, up] of [
      [90, 45],
      [180, 30],
      [315, 60],
    ] as const) {
      const [found] = shadowsOn(plan, flat(1), [mast(0.2, -0.1, 3)], [], { bearing, up });
      const [, tip] = found?.spots ?? [];
      const away = 2 / Math.tan((up * Math.PI) / 180);
      const east = 0.2 - away * Math.sin((bearing * Math.PI) / 180);
      const north = -0.1 - away * Math.cos((bearing * Math.PI) / 180);
      expect(tip?.x).toBeCloseTo(toScreen(plan, east, north).x, 6);
      expect(tip?.y).toBeCloseTo(toScreen(plan, east, north).y, 6);
      expect(found?.width).toBeCloseTo(0.1 * plan.scale);
    }
  });

  it("is thrown only by what stands over the panel, and only while the sun is up", () => {
    const sun = { bearing: 90, up: 45 };
    expect(shadowsOn(plan, flat(4), [mast(0, 0, 3)], [], sun)).toEqual([]);
    expect(shadowsOn(plan, flat(1), [mast(0, 0, 3)], [], { bearing: 90, up: 0 })).toEqual([]);
    const [low, level, high] = [flat(1), flat(1, 2), flat(2, 3)];
    const thrown = shadowsOn(plan, low, [], [low, level, high], sun);
    expect(thrown.map((one) => one.key)).toEqual(["g/3"]); // of its own height none
  });
});

describe("on the deck", () => {
  const place = fulmar.places?.[0];
  const id = place?.id ?? "";
  const at = place?.at;
  const placed = (design: BoatDesign) => design.places?.[0];

  it("a place is pulled to the centreline and to the boat's side, else it goes by five centimetres", () => {
    const wide = place?.width_m ?? 0;
    const x = (to: number, half?: number) =>
      placed(placeMoved(fulmar, id, to - (at?.x_m ?? 0), 0, half === undefined ? undefined : () => half))?.at
        ?.x_m;
    expect(x(0.07)).toBe(0);
    expect(x(0.33)).toBe(0.35);
    expect(x(3 - wide / 2 + 0.05, 3)).toBeCloseTo(3 - wide / 2, 3);
    expect(x(-3 - wide / 2 - 0.05, 3)).toBeCloseTo(-3 - wide / 2, 3);
    expect(placeMoved(fulmar, "gone", 1, 1).places).toEqual(fulmar.places);
  });

  it("a place grown keeps its aft port corner, and stays large enough to be taken hold of", () => {
    const corners = (design: BoatDesign) => {
      const one = placed(design);
      return [
        (one?.at?.x_m ?? 0) - (one?.width_m ?? 0) / 2,
        (one?.at?.y_m ?? 0) - (one?.length_m ?? 0) / 2,
      ].map((value) => Number(value.toFixed(3)));
    };
    const larger = placeSized(fulmar, id, 0.4, -0.2);
    expect(placed(larger)?.width_m).toBeCloseTo((place?.width_m ?? 0) + 0.4);
    expect(corners(larger)).toEqual(corners(fulmar));
    expect(placed(placeSized(fulmar, id, -99, -99))).toMatchObject({ width_m: 0.3, length_m: 0.3 });
  });

  it("a thing moved takes its top and its clew with it", () => {
    const sail = { ...mast(1, 1, 8), name: "Sail", clew: corner(1, -2, 1.5) };
    const boat = { ...fulmar, obstacles: [sail] } as unknown as BoatDesign;
    const moved = thingMoved(boat, "mast", 0.52, -0.26).obstacles?.[0];
    expect(moved).toMatchObject({
      foot: corner(1.5, 0.75, 0),
      tip: corner(1.5, 0.75, 8),
      clew: corner(1.5, -2.25, 1.5),
    });
  });

  it("a thing that stands in all states is kept without a list, and back again", () => {
    const boat = { ...fulmar, obstacles: [{ ...mast(0, 0, 8), name: "Mast" }] } as unknown as BoatDesign;
    const every = ["under_way", "anchor", "dock"] as unknown as Parameters<typeof withThingIn>[3];
    const [first] = every;
    const without = withThingIn(boat, 0, "stands_in", every, first as never, false);
    expect(without.obstacles?.[0]?.stands_in).toEqual(["anchor", "dock"]);
    const again = withThingIn(without, 0, "stands_in", every, first as never, true);
    expect(again.obstacles?.[0]?.stands_in).toBeNull();
    const swung = withThingIn(boat, 0, "swung_in", every, first as never, true);
    expect(swung.obstacles?.[0]?.swung_in).toEqual(["under_way"]);
  });

  it("another shape keeps the feet and what was given, and gets what it needs", () => {
    const boat = { ...fulmar, obstacles: [{ ...mast(0.4, 0.6, 8), name: "Mast" }] } as unknown as BoatDesign;
    const box = withShape(boat, entries, 0, "box").obstacles?.[0];
    expect(box?.foot).toEqual(corner(0.4, 0.6, 0));
    expect(box?.width_m).toBeGreaterThan(0);
    expect(box?.length_m).toBeGreaterThan(0);
    const sail = withShape(boat, entries, 0, "sail").obstacles?.[0];
    expect(sail?.clew?.x_m).toBe(0.4);
  });

  it("a hinge comes with both its ends and goes with its tending", () => {
    const hinged = withHinge(fulmar, entries, 0, true);
    expect(placed(hinged)?.tilt_most_deg).toBeGreaterThan(placed(hinged)?.tilt_least_deg ?? 0);
    const tended = { ...hinged, places: hinged.places?.map((one) => ({ ...one, tended: "often" })) };
    const fixed = placed(withHinge(tended as unknown as BoatDesign, entries, 0, false));
    expect(fixed).toMatchObject({ tilt_most_deg: null, tended: "left" });
  });
});

describe("panels and their controllers", () => {
  const feeds = (design: BoatDesign) => new Set((design.panels ?? []).map((group) => group.controller_id));
  const boxes = (design: BoatDesign) => (design.controllers ?? []).map((box) => box.id);

  it("a new place comes with a panel and a controller of its own, and goes with them", () => {
    const more = withPlaceOf(fulmar, entries);
    expect(more.places).toHaveLength((fulmar.places?.length ?? 0) + 1);
    const added = more.panels?.at(-1);
    expect(added?.place_id).toBe(more.places?.at(-1)?.id);
    expect(boxes(more).filter((id) => !boxes(fulmar).includes(id))).toEqual([added?.controller_id]);
    const less = withoutPlace(more, entries, added?.place_id ?? "");
    expect(less.places).toEqual(fulmar.places);
    expect(boxes(less)).toEqual(boxes(fulmar));
    expect(less.panels).toEqual(fulmar.panels);
  });

  it("a second kind on a place shares its controller, which stays while one of them feeds it", () => {
    const first = fulmar.panels?.[0];
    const two = withGroup(fulmar, entries, first?.place_id ?? "");
    const added = two.panels?.at(-1);
    expect(added?.controller_id).toBe(first?.controller_id);
    const one = withoutPanels(two, entries, added?.id ?? "");
    expect(one.places).toEqual(fulmar.places);
    expect(feeds(one)).toEqual(feeds(fulmar));
  });

  it("panels that were alone on their place take it with them", () => {
    const alone = withPlaceOf(fulmar, entries);
    const gone = withoutPanels(alone, entries, alone.panels?.at(-1)?.id ?? "");
    expect(gone.places?.map((place) => place.id)).toEqual(fulmar.places?.map((place) => place.id));
  });

  it("more panels are laid anew", () => {
    const many = withCount(fulmar, 0, 7, true).panels?.[0];
    expect(many).toMatchObject({ count: 7, turned: true, columns: null });
  });
});

describe("the board of strings", () => {
  const panel = (number: number) => ({ group_id: "g", number }) as never;
  const board = {
    strings: [
      { id: "g/1", controller_id: "a", panels: [panel(0), panel(1)] },
      { id: "mine", controller_id: "a", panels: [panel(2)] },
    ],
    loose: [panel(3)],
  } as never;
  const wired = (design: BoatDesign) =>
    (design.strings ?? []).map((string) => [
      string.controller_id,
      (string.panels ?? []).map((one) => one.number),
    ]);

  it("moves a panel between strings, to a new one, or off; every panel stays in one place", () => {
    const to = (goal: Parameters<typeof withPanelMoved>[3], which = 1) =>
      withPanelMoved(fulmar, board, panel(which), goal);
    expect(wired(to({ kind: "string", id: "mine" }))).toEqual([
      ["a", [0]],
      ["a", [2, 1]],
    ]);
    expect(wired(to({ kind: "box", id: "b" }))).toEqual([
      ["a", [0]],
      ["a", [2]],
      ["b", [1]],
    ]);
    expect(wired(to({ kind: "loose" }, 2))).toEqual([["a", [0, 1]]]); // an empty string goes
    expect(wired(to({ kind: "string", id: "g/1" }))).toEqual([
      ["a", [0, 1]],
      ["a", [2]],
    ]);
  });

  it("gives strings that went by groups ids of their own, and keeps those that had one", () => {
    const [first, second] =
      withPanelMoved(fulmar, board, panel(3), { kind: "string", id: "mine" }).strings ?? [];
    expect(first?.id).not.toContain("/");
    expect(second?.id).toBe("mine");
    expect(againByGroups({ ...fulmar, strings: [first as never] }).strings).toEqual([]);
  });
});

describe("two sides", () => {
  const whimbrel = launch as unknown as BoatDesign;
  const wing = {
    id: "w",
    name: "Port wing",
    kind: "wing",
    at: corner(-0.9, 0.4, 0.8),
    tilt_deg: 20,
    faces: "port",
  };
  const panels = [
    { id: "a", place_id: "w", controller_id: "c", nameplate_w: 100, count: 2 },
    { id: "b", place_id: "w", controller_id: "c", nameplate_w: 50, count: 1 },
    { id: "z", place_id: "roof", controller_id: "c", nameplate_w: 300, count: 4 },
  ];
  const boat = (more = {}) =>
    ({
      places: [
        { ...wing, ...more },
        { id: "roof", name: "Roof", at: corner(0, 0, 2) },
      ],
      panels,
    }) as unknown as BoatDesign;

  it("one wing has its like on the other, with the same panels on the same controllers", () => {
    const both = withOtherSide(boat(), "w");
    const other = both.places?.at(-1);
    expect(other).toMatchObject({ name: "Starboard wing", kind: "wing", tilt_deg: 20, faces: "starboard" });
    expect(other?.at).toEqual(corner(0.9, 0.4, 0.8));
    const own = (both.panels ?? []).filter((group) => group.place_id === other?.id);
    expect(own.map(({ controller_id, nameplate_w, count }) => [controller_id, nameplate_w, count])).toEqual([
      ["c", 100, 2],
      ["c", 50, 1],
    ]);
    const ids = [...(both.places ?? []), ...(both.panels ?? [])].map((part) => part.id);
    expect(new Set(ids).size).toBe(ids.length);
    expect(both.places?.slice(0, 2)).toEqual(boat().places); // what was there stays as it was
    expect(withOtherSide(both, "w")).toBe(both); // it has one already
  });

  it("names say the side, and a place on the centreline has none", () => {
    const named = (name: string, at = wing.at) => withOtherSide(boat({ name, at }), "w").places?.at(-1)?.name;
    expect(named("port rail")).toBe("starboard rail");
    expect(named("Rail, Starboard", corner(0.9, 0.4, 0.8))).toBe("Rail, Port");
    expect(named("Rail")).toBe("Rail, starboard");
    expect(named("Sporty rail", corner(0.9, 0.4, 0.8))).toBe("Sporty rail, port");
    const roof = boat().places?.[1];
    expect(roof && [hasOtherSide(roof), overAgainst(boat(), roof)]).toEqual([false, undefined]);
    expect(withOtherSide(boat(), "roof")).toEqual(boat());
  });

  it("a pair is set alike: tilt, hinge and how each stands, its face to its own side", () => {
    const both = withOtherSide(boat(), "w");
    const [place, , other] = both.places ?? [];
    if (!place || !other) throw new Error("no pair");
    expect([overAgainst(both, place)?.id, overAgainst(both, other)?.id, setAlike(place, other)]).toEqual([
      other.id,
      "w",
      true,
    ]);
    const stands = { dock: { how: "folded", tilt_deg: null } };
    const tilted = {
      ...both,
      places: [{ ...place, tilt_deg: 45, tilt_most_deg: 80, stands }, ...(both.places?.slice(1) ?? [])],
    } as BoatDesign;
    expect(setAlike(tilted.places?.[0] as typeof place, other)).toBe(false);
    const alike = withBothAlike(tilted, "w");
    expect(alike.places?.at(-1)).toMatchObject({
      tilt_deg: 45,
      tilt_most_deg: 80,
      stands,
      faces: "starboard",
      name: "Starboard wing",
    });
    expect(alike.places?.at(-1)?.at).toEqual(other.at);
    expect(withBothAlike(alike, "roof")).toBe(alike);
  });

  it("the demo boat's wings are a pair", () => {
    const [port, starboard] = ["port-wing", "starboard-wing"].map((id) =>
      whimbrel.places?.find((one) => one.id === id),
    );
    expect(port && overAgainst(whimbrel, port)?.id).toBe(starboard?.id);
  });
});
