import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { LogAsked } from "../src/kit/logbook";
import { type Asked, json, refused, server } from "./stand-ins";

const { Live } = await import("../src/asking/live");
type BoatDesign = import("../src/api/client").BoatDesign;
type Records = import("../src/api/client").Records;
type Hub = InstanceType<typeof Live>;

const design = (name: string) => ({ name }) as unknown as BoatDesign;
const RANGE = "hull/range {}";
const lines = (...parts: unknown[]) =>
  new Response(parts.map((part) => `${JSON.stringify(part)}\n`).join(""), { status: 200 });

/** Answers everything that is asked, by the name of the boat. */
function all({ body }: Asked) {
  const name = (body.design as BoatDesign).name;
  const studies = body.studies as { study: string }[];
  return lines(
    { part: "checked" },
    ...(body.rail ? [{ part: "rail", answer: `rail of ${name}` }] : []),
    ...studies.map(({ study }, index) => ({ part: "study", index, answer: `${study} of ${name}` })),
    ...(body.station ? [{ part: "findings", station: body.station, findings: [`told of ${name}`] }] : []),
    ...(body.usual ? [{ part: "usual", usual: { "/hull/margin": { value: 1.2 } } }] : []),
    ...(body.counts ? [{ part: "counts", counts: { hull: 1 } }] : []),
  );
}

const records = { schema_name: "parhelion.records", schema_version: 1, records: [] } as const;
const boats = new Map<BoatDesign, { design: BoatDesign; records: Records; log: LogAsked }>();
const boatOf = (design: BoatDesign) => {
  const held = boats.get(design) ?? {
    design,
    records: { ...records, records: [] },
    log: { boatId: "b", turn: 0, outing: "" },
  };
  boats.set(design, held);
  return held;
};
const screen = (of: BoatDesign, more = {}) => ({ boat: boatOf(of), comparedWith: null, at: null, ...more });
const rested = () => vi.advanceTimersByTimeAsync(100);
let live: Hub;

beforeEach(() => {
  vi.useFakeTimers();
  live = new Live();
});
afterEach(() => {
  live.close();
  vi.useRealTimers();
});

describe("an edit", () => {
  it("makes one request for all that the screen shows", async () => {
    const asked = server(all);
    live.want(RANGE, "hull/range", {});
    live.wantTold("hull");
    live.show(screen(design("a")));
    await rested();
    expect(asked).toHaveLength(1);
    expect(asked[0]?.body).toMatchObject({
      rail: true,
      usual: true,
      counts: true,
      station: "hull",
      studies: [{ study: "hull/range", asked: {} }],
    });
    expect(live.slot("rail").answer).toBe("rail of a");
    expect(live.slot(RANGE).answer).toBe("hull/range of a");
    expect(live.slot("findings hull").answer).toEqual(["told of a"]);
    expect(live.slot("usual").answer).toEqual({ "/hull/margin": { value: 1.2 } });
    expect(live.slot("counts").answer).toEqual({ hull: 1 });
    expect(asked.map((one) => one.url)).toEqual(["/api/live"]);
  });

  it("of several in a moment asks about the last, with a turn that counts up", async () => {
    const asked = server(all);
    for (const name of ["a", "b", "c"]) live.show(screen(design(name)));
    await rested();
    live.show(screen(design("d")));
    await rested();
    expect(asked.map((one) => (one.body.design as BoatDesign).name)).toEqual(["c", "d"]);
    expect(asked.map((one) => one.body.turn)).toEqual([1, 2]);
    expect(new Set(asked.map((one) => one.body.page)).size).toBe(1);
  });

  it("ends the request that it overtakes, and keeps the old answer until the new one is in", async () => {
    const asked = server(all);
    live.show(screen(design("a")));
    await rested();
    server(() => new Promise<Response>(() => {}));
    live.show(screen(design("b")));
    await rested();
    expect(live.slot("rail")).toMatchObject({ answer: "rail of a" });
    const later = server(all);
    live.show(screen(design("c")));
    await rested();
    expect(live.slot("rail").answer).toBe("rail of c");
    expect([asked.length, later.length]).toEqual([1, 1]);
  });
});

describe("what is known already", () => {
  it("is not asked again, and what is missing is asked alone", async () => {
    const asked = server(all);
    const boat = design("a");
    live.show(screen(boat));
    await rested();
    live.show(screen(boat));
    await rested();
    expect(asked).toHaveLength(2); // a screen is a question of its own: another clock time may be asked for
    expect(asked[1]?.body).toMatchObject({ rail: true, usual: false, counts: false, studies: [] });
    live.want(RANGE, "hull/range", {});
    await rested();
    expect(asked[2]?.body).toMatchObject({ rail: false, counts: false, studies: [{ study: "hull/range" }] });
    live.want(RANGE, "hull/range", {});
    await rested();
    expect(asked).toHaveLength(3);
  });

  it("is asked while any part of the screen wants it", async () => {
    const asked = server(all);
    const [first, second] = [live.want(RANGE, "hull/range", {}), live.want(RANGE, "hull/range", {})];
    first();
    live.show(screen(design("a")));
    await rested();
    expect(asked[0]?.body.studies).toHaveLength(1);
    second();
    live.show(screen(design("b")));
    await rested();
    expect(asked[1]?.body.studies).toHaveLength(0);
  });
});

describe("what fails", () => {
  it("alone holds up nothing else, and can be tried again", async () => {
    const down = { code: "failed", message: "Down.", accepted: "" };
    server(() =>
      lines(
        { part: "rail", answer: 1 },
        { part: "failed", of: "study", index: 0, errors: [down] },
        { part: "counts", counts: {} },
      ),
    );
    live.want(RANGE, "hull/range", {});
    live.show(screen(design("a")));
    await rested();
    expect(live.slot("rail").answer).toBe(1);
    expect(live.slot(RANGE)).toMatchObject({ answer: undefined, error: { message: "Down." } });
    const asked = server(all);
    live.retry();
    await rested();
    expect(asked[0]?.body).toMatchObject({ rail: false, studies: [{ study: "hull/range" }] });
    expect(live.slot(RANGE)).toMatchObject({ answer: "hull/range of a", error: null });
  });

  it("as a whole leaves the answers from before, says so, and is asked again by itself", async () => {
    server(all);
    live.show(screen(design("a")));
    await rested();
    for (const answer of [() => json({}, 500), () => Promise.reject(new TypeError("no network"))]) {
      server(answer);
      live.show(screen(design("b")));
      await rested();
      expect(live.slot("rail")).toMatchObject({
        answer: "rail of a",
        error: { message: "The server did not answer; it is asked again." },
      });
    }
    server(all);
    await vi.advanceTimersByTimeAsync(2500);
    expect(live.slot("rail")).toMatchObject({ answer: "rail of b", error: null });
  });

  it("as a wrong question is told, and not asked for ever", async () => {
    const asked = server(() => refused("/design/hull", "No hull."));
    live.show(screen(design("a")));
    await vi.advanceTimersByTimeAsync(10_000);
    expect(asked).toHaveLength(1);
    expect(live.slot("rail").error?.message).toBe("No hull.");
  });

  it("half-way leaves what came, and asks for the rest by itself", async () => {
    server(() => lines({ part: "rail", answer: 1 }));
    live.want(RANGE, "hull/range", {});
    live.show(screen(design("a")));
    await rested();
    expect([live.slot("rail").answer, live.slot(RANGE).answer]).toEqual([1, undefined]);
    const asked = server(all);
    await vi.advanceTimersByTimeAsync(2500);
    expect(asked[0]?.body).toMatchObject({ rail: false, counts: true, studies: [{ study: "hull/range" }] });
    expect(live.slot(RANGE).answer).toBe("hull/range of a");
  });
});
