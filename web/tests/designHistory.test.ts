import { beforeEach, describe, expect, it } from "vitest";
import type { BoatDesign } from "../src/api/client";
import { type History, isOurs, opened, recalled, reduce, remember } from "../src/app/designHistory";
import { keepUnsaved } from "../src/app/unsaved";
import { kept } from "./stand-ins";

const design = (power_w: number, ...ids: string[]) =>
  ({
    name: "a",
    loads: [{ id: "x", power_w }, ...ids.map((id) => ({ id, power_w: 1 }))],
  }) as unknown as BoatDesign;
const to = (next: BoatDesign, key: string, at: number) =>
  ({ kind: "apply", change: () => next, key, at }) as const;
const saved = (revision: number, held: BoatDesign) =>
  ({ kind: "saved", revision, text: JSON.stringify(held) }) as const;
const watts = (state: { present: BoatDesign }) => state.present.loads?.[0]?.power_w;

describe("undo", () => {
  it("joins touches of one entry that follow closely, and no others", () => {
    let state = opened(design(1), 7);
    state = reduce(state, to(design(2), "/loads/0/power_w", 1000));
    state = reduce(state, to(design(3), "/loads/0/power_w", 1900));
    expect(state.past).toHaveLength(1);
    state = reduce(state, to(design(4), "/loads/0/power_w", 9000));
    state = reduce(state, to(design(5), "/plan/speed_mps", 9100));
    expect(state.past).toHaveLength(3);
    state = reduce(state, { kind: "undo" });
    expect(watts(state)).toBe(4);
    state = reduce(reduce(state, { kind: "undo" }), { kind: "undo" });
    expect(watts(state)).toBe(1);
    expect(reduce(state, { kind: "undo" })).toBe(state);
  });

  it("makes an entry more or less a step of its own, however fast", () => {
    let state = opened(design(1), 7);
    state = reduce(state, to(design(1, "y"), "loads", 100));
    state = reduce(state, to(design(1, "y", "z"), "loads", 150));
    expect(state.past).toHaveLength(2);
  });

  it("leads forward again until something else is done", () => {
    let state = reduce(opened(design(1), 7), to(design(2), "a", 0));
    state = reduce(state, { kind: "undo" });
    expect(watts(reduce(state, { kind: "redo" }))).toBe(2);
    state = reduce(state, to(design(9), "b", 5000));
    expect(state.future).toEqual([]);
    expect(reduce(state, { kind: "redo" })).toBe(state);
  });

  it("takes no step where nothing changed, and keeps eighty", () => {
    let state = opened(design(1), 7);
    expect(reduce(state, to(design(1), "a", 0))).toBe(state);
    for (let n = 2; n < 120; n += 1) state = reduce(state, to(design(n), `k${n}`, n));
    expect(state.past).toHaveLength(80);
  });
});

describe("saving", () => {
  beforeEach(() => kept.clear());

  it("knows what the server holds, and builds on a newer one when told to keep mine", () => {
    let state = reduce(opened(design(1), 7), to(design(2), "a", 0));
    state = reduce(state, { kind: "saved", revision: 8, text: JSON.stringify(design(2)) });
    expect([state.revision, state.saved]).toEqual([8, JSON.stringify(design(2))]);
    expect(reduce(state, { kind: "rebase", revision: 12 })).toMatchObject({
      revision: 12,
      present: design(2),
    });
    const theirs = reduce(state, { kind: "theirs", revision: 12, design: design(5) });
    expect(watts(theirs)).toBe(5);
    expect(watts(reduce(theirs, { kind: "undo" }))).toBe(2);
  });

  it("is remembered over a reload, and waits to be asked about where another window saved meanwhile", () => {
    const state = reduce(opened(design(1), 7), to(design(2), "a", 0));
    remember("v", state);
    expect(recalled("v", 7, design(1))?.past).toHaveLength(1);
    const asked = recalled("v", 8, design(5));
    expect([asked?.revision, watts(asked as History)]).toEqual([7, 2]); // its save is refused as the older one
    expect(recalled("other", 7, design(1))).toBeNull();
  });

  it("takes another window's save where nothing here was unsaved, and undo leads back", () => {
    remember("v", reduce(reduce(opened(design(1), 7), to(design(2), "a", 0)), saved(8, design(2))));
    const found = recalled("v", 9, design(5)) as History;
    expect([found.revision, watts(found), watts(reduce(found, { kind: "undo" }))]).toEqual([9, 5, 2]);
  });

  it("knows its own save whose reply was never heard, and keeps the edit after it and all undo", () => {
    let state = reduce(opened(design(1), 7), to(design(2), "a", 0));
    state = reduce(state, { kind: "sending", text: JSON.stringify(design(2)) });
    remember("v", reduce(state, to(design(3), "b", 5000)));
    const found = recalled("v", 8, design(2)) as History;
    expect([found.revision, watts(found), found.past.length]).toEqual([8, 3, 2]);
    expect(found.saved).toBe(JSON.stringify(design(2)));
  });

  it("knows any of several saves whose replies were never heard", () => {
    let state = reduce(opened(design(1), 7), { kind: "sending", text: JSON.stringify(design(2)) });
    state = reduce(state, { kind: "sending", text: JSON.stringify(design(3)) });
    expect([isOurs(state.sent, design(2)), isOurs(state.sent, design(9))]).toEqual([true, false]);
    expect(reduce(state, saved(8, design(3))).sent).toEqual([]);
  });

  it("is remembered too where the page saved as it went", () => {
    remember("v", reduce(opened(design(1), 7), to(design(2), "a", 0)));
    const found = recalled("v", 8, design(2));
    expect([found?.revision, found?.saved]).toEqual([8, JSON.stringify(design(2))]);
    expect(found?.past).toHaveLength(1);
  });

  it("takes up what a closed tab left unsaved, once", () => {
    keepUnsaved("v", { revision: 7, design: design(4), sent: [], at: 1 });
    kept.removeItem("parhelion.tab");
    const found = recalled("v", 7, design(1)) as History;
    expect([found.revision, watts(found), watts(reduce(found, { kind: "undo" }))]).toEqual([7, 4, 1]);
    expect(recalled("v", 7, design(1))).toBeNull();
  });

  it("saves what replaces another's state, or brings one back, as a state of its own", () => {
    const state = reduce(opened(design(1), 7), to(design(2), "a", 0));
    expect(reduce(state, { kind: "rebase", revision: 9 }).apart).toBe(true);
    const back = reduce(state, { kind: "restored", design: design(1) });
    expect([back.apart, watts(back), watts(reduce(back, { kind: "undo" }))]).toEqual([true, 1, 2]);
    expect(reduce(back, saved(8, design(1))).apart).toBe(false);
  });

  it("ignores a storage that holds nonsense", () => {
    kept.setItem("parhelion.history.v", "{");
    expect(recalled("v", 7, design(1))).toBeNull();
  });
});
