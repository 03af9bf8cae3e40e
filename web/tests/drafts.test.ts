import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { json, kept, refused, server } from "./stand-ins";

const { Drafts, refusal } = await import("../src/kit/drafts");
type BoatDesign = import("../src/api/client").BoatDesign;

const boat = () =>
  ({
    hull: { waterline_length_m: 6.7 },
    loads: [
      { id: "fridge", power_w: 45 },
      { id: "kettle", power_w: 350 },
    ],
  }) as unknown as BoatDesign;
const LENGTH = "/hull/waterline_length_m";
const number = (text: string) =>
  Number.isNaN(Number(text)) ? { problem: `“${text}” is no number` } : { value: Number(text) };
const lengthOf = (design: BoatDesign) => design.hull.waterline_length_m;

/** A document with its drafts; `applied` counts the edits. */
function bench(design = boat(), variant = "v") {
  const held = { design, applied: [] as string[] };
  const drafts = new Drafts(
    variant,
    () => held.design,
    (change, key) => {
      held.design = change(held.design);
      held.applied.push(key);
    },
  );
  return { held, drafts };
}

const settled = () => vi.advanceTimersByTimeAsync(0);
const stored = () => Object.keys(kept).filter((key) => key.startsWith("parhelion.draft"));

beforeEach(() => {
  vi.useFakeTimers();
  kept.clear();
});
afterEach(() => vi.useRealTimers());

describe("a draft", () => {
  it("becomes the document after a pause, and is gone then", async () => {
    const asked = server(() => json({ valid: true }));
    const { held, drafts } = bench();
    drafts.type(drafts.name(LENGTH), "7.1", number, refusal);
    expect([drafts.text(LENGTH), lengthOf(held.design), stored()]).toEqual([
      "7.1",
      6.7,
      [`parhelion.draft.v.${LENGTH}`],
    ]);
    await vi.advanceTimersByTimeAsync(500);
    expect([drafts.text(LENGTH), lengthOf(held.design), stored()]).toEqual([null, 7.1, []]);
    expect(asked.map((one) => one.url)).toEqual(["/api/design/check"]);
    expect(lengthOf(asked[0]?.body.design as BoatDesign)).toBe(7.1);
  });

  it("is committed at once when its field goes", async () => {
    server(() => json({ valid: true }));
    const { held, drafts } = bench();
    drafts.type(LENGTH, "7.2", number, refusal);
    drafts.leave(LENGTH);
    drafts.settle(LENGTH); // the field is unmounted while the pause after a blur runs
    await settled();
    await settled();
    expect(held.applied).toEqual([LENGTH]);
    await vi.advanceTimersByTimeAsync(1000);
    expect(held.applied).toEqual([LENGTH]);
  });

  it("is what was typed last, whatever is answered about what was typed before", async () => {
    const waiting: ((reply: Response) => void)[] = [];
    server(() => new Promise((answer) => waiting.push(answer)));
    const { held, drafts } = bench();
    drafts.type(LENGTH, "7", number, refusal);
    drafts.settle(LENGTH);
    await settled();
    drafts.type(LENGTH, "8", number, refusal);
    drafts.settle(LENGTH);
    await settled();
    waiting[0]?.(json({ valid: true }));
    await settled();
    await settled();
    expect(held.applied).toEqual([]); // what it was about is no longer what is typed
    waiting[1]?.(json({ valid: true }));
    await vi.advanceTimersByTimeAsync(1000);
    expect([lengthOf(held.design), held.applied]).toEqual([8, [LENGTH]]);
  });

  it("stays with what is wrong beside it, and never enters the document", async () => {
    const asked = server(() => refused(`/design${LENGTH}`, "Too long.", { accepted: "up to 60" }));
    const { held, drafts } = bench();
    drafts.type(LENGTH, "soon", number, refusal);
    drafts.settle(LENGTH);
    await settled();
    expect([drafts.problem(LENGTH), asked.length]).toEqual(["“soon” is no number", 0]);
    drafts.type(LENGTH, "700", number, refusal);
    drafts.settle(LENGTH);
    await settled();
    await settled();
    expect([drafts.text(LENGTH), drafts.problem(LENGTH), held.applied]).toEqual([
      "700",
      "Too long. Accepted: up to 60.",
      [],
    ]);
    drafts.abandon(LENGTH);
    expect([drafts.text(LENGTH), stored()]).toEqual([null, []]);
  });

  it("waits for a server that is away, and is tried again", async () => {
    let away = true;
    server(() => {
      if (away) throw new TypeError("no network");
      return json({ valid: true });
    });
    const { held, drafts } = bench();
    drafts.type(LENGTH, "7.3", number, refusal);
    await vi.advanceTimersByTimeAsync(600);
    expect(drafts.problem(LENGTH)).toContain("did not answer");
    away = false;
    await vi.advanceTimersByTimeAsync(3000);
    expect([lengthOf(held.design), drafts.problem(LENGTH)]).toEqual([7.3, null]);
  });

  it("is tried again after a server that stumbles, and not after one that refuses", async () => {
    const asked = server(() => json({}, 500));
    const { drafts } = bench();
    drafts.type(LENGTH, "7.3", number, refusal);
    await vi.advanceTimersByTimeAsync(6000);
    expect(asked.length).toBeGreaterThan(1);
    const again = server(() => refused("/design", "No."));
    await vi.advanceTimersByTimeAsync(20_000);
    expect(again.length).toBe(1);
  });
});

describe("a draft's entry", () => {
  it("is its row's, when a row above goes while it is asked about", async () => {
    server(() => json({ valid: true }));
    const { held, drafts } = bench();
    drafts.type(drafts.name("/loads/1/power_w"), "300", number, refusal);
    held.design = { ...held.design, loads: held.design.loads?.slice(1) };
    await vi.advanceTimersByTimeAsync(600);
    expect(held.design.loads).toEqual([{ id: "kettle", power_w: 300 }]);
  });

  it("takes the draft with it when the row itself goes", async () => {
    const asked = server(() => json({ valid: true }));
    const { held, drafts } = bench();
    drafts.type(drafts.name("/loads/1/power_w"), "300", number, refusal);
    held.design = { ...held.design, loads: held.design.loads?.slice(0, 1) };
    await vi.advanceTimersByTimeAsync(600);
    expect([asked.length, held.applied, stored()]).toEqual([0, [], []]);
    expect(held.design.loads).toEqual([{ id: "fridge", power_w: 45 }]);
  });
});

describe("a reload", () => {
  it("commits a value even where no field shows it", async () => {
    server(() => json({ valid: true }));
    const before = bench();
    before.drafts.type(LENGTH, "7.4", number, refusal);
    const { held, drafts } = bench();
    drafts.recall();
    await settled();
    await settled();
    expect([lengthOf(held.design), stored()]).toEqual([7.4, []]);
  });

  it("keeps a wrong text until its field comes and says why", async () => {
    server(() => json({ valid: true }));
    bench().drafts.type(LENGTH, "soon", number, refusal);
    const { held, drafts } = bench();
    drafts.recall();
    expect([drafts.text(LENGTH), drafts.problem(LENGTH)]).toEqual(["soon", null]);
    drafts.meet(LENGTH, number, refusal);
    await settled();
    expect([drafts.problem(LENGTH), held.applied]).toEqual(["“soon” is no number", []]);
  });

  it("leaves the drafts of another variant alone, and forgets nonsense", async () => {
    server(() => json({ valid: true }));
    bench(boat(), "other").drafts.type(LENGTH, "9", number, refusal);
    kept.setItem(`parhelion.draft.v.${LENGTH}`, "{");
    const { held, drafts } = bench();
    drafts.recall();
    await settled();
    expect([drafts.text(LENGTH), held.applied]).toEqual([null, []]);
    expect(stored()).toEqual([`parhelion.draft.other.${LENGTH}`]);
  });
});
