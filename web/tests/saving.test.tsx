// @vitest-environment jsdom
/** Saving: on a pause, in order, again after a failure, never over another window's, and nothing lost on leaving. */
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, render } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import schema from "../../docs/boat-design.schema.json";
import type { BoatDesign, VariantOut } from "../src/api/client";
import { later } from "./bare";
import { type Asked, json, kept, refused, server } from "./stand-ins";

const { DesignProvider, useSaving } = await import("../src/app/saving");
const { useDesign } = await import("../src/kit/document");
const { Entries } = await import("../src/kit/entries");

const entries = new Entries(schema as unknown as ConstructorParameters<typeof Entries>[0]);
const boat = (name: string, more = {}) => ({ name, loads: [], ...more }) as unknown as BoatDesign;
const variantOf = (design: BoatDesign, revision = 1) =>
  ({ id: "v", boat_id: "b", name: "as designed", revision, design }) as unknown as VariantOut;

type Doc = ReturnType<typeof useDesign>;
type Saving = ReturnType<typeof useSaving>;
let doc: Doc;
let saving: Saving;

function Inside() {
  doc = useDesign();
  saving = useSaving();
  return null;
}

function opened(design = boat("a"), revision = 1) {
  return render(
    <QueryClientProvider client={new QueryClient()}>
      <DesignProvider variant={variantOf(design, revision)} entries={entries}>
        <Inside />
      </DesignProvider>
    </QueryClientProvider>,
  );
}

const named = (name: string, key = name) => act(() => doc.apply((now) => ({ ...now, name }), key));
const puts = (asked: Asked[]) =>
  asked
    .filter((one) => one.url === "/api/variants/v")
    .map(({ body }) => [(body.design as BoatDesign).name, body.revision, body.apart]);

/** A server that keeps what it is given, as the true one does: a save from an older state is a conflict. */
function keeping(first = boat("a")) {
  const held = { design: first, revision: 1 };
  const asked = server(({ body }) => {
    if (body.revision !== held.revision)
      return json({ current: { ...variantOf(held.design, held.revision) }, difference: [] }, 409);
    held.design = body.design as BoatDesign;
    held.revision += 1;
    return json(variantOf(held.design, held.revision));
  });
  return { held, asked };
}

beforeEach(() => {
  vi.useFakeTimers();
  kept.clear();
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

describe("an edit", () => {
  it("is saved after a pause, several as one, each from the state the one before it left", async () => {
    const { asked, held } = keeping();
    opened();
    expect(saving.saveState).toBe("saved");
    await named("b");
    expect(saving.saveState).toBe("saving");
    await later(300);
    await named("c");
    expect(puts(asked)).toEqual([]);
    await later(800);
    expect([puts(asked), saving.saveState, held.design.name]).toEqual([[["c", 1, false]], "saved", "c"]);
    await named("d");
    await later(800);
    expect(puts(asked).at(-1)).toEqual(["d", 2, false]);
  });

  it("made while a save is on its way follows it, and neither is lost", async () => {
    let answer: (reply: Response) => void = () => {};
    const asked = server(
      () =>
        new Promise<Response>((done) => {
          answer = done;
        }),
    );
    opened();
    await named("b");
    await later(800);
    await named("c");
    await later(3000);
    expect(puts(asked)).toEqual([["b", 1, false]]); // one at a time
    await act(async () => answer(json(variantOf(boat("b"), 2))));
    await later(1600);
    expect(puts(asked)).toEqual([
      ["b", 1, false],
      ["c", 2, false],
    ]);
    await act(async () => answer(json(variantOf(boat("c"), 3))));
    await later(10);
    expect(saving.saveState).toBe("saved");
  });

  it("is undone and done again, and what is undone is saved as well", async () => {
    const { held } = keeping();
    opened();
    await named("b");
    await later(800);
    await act(() => saving.undo());
    await later(800);
    expect([doc.design.name, held.design.name, saving.canUndo, saving.canRedo]).toEqual([
      "a",
      "a",
      false,
      true,
    ]);
    await act(() => saving.redo());
    await later(800);
    expect([held.design.name, saving.canRedo]).toEqual(["b", false]);
  });
});

describe("a server that fails", () => {
  it("is asked again after growing pauses, says why, and at once when the net is back", async () => {
    let well = false;
    const asked = server(() =>
      well
        ? json(variantOf(boat("b"), 2))
        : json({ errors: [{ code: "full", message: "The disk is full.", field: "" }] }, 507),
    );
    opened();
    await named("b");
    await later(800);
    expect([saving.saveState, saving.pause, saving.fault?.message]).toEqual([
      "failed",
      "2 s",
      "The disk is full.",
    ]);
    await later(2000 + 750);
    expect([puts(asked).length, saving.pause]).toEqual([2, "4 s"]);
    await later(4000 + 750);
    expect([puts(asked).length, saving.pause]).toEqual([3, "8 s"]);
    expect(doc.design.name).toBe("b");
    well = true;
    await act(() => window.dispatchEvent(new Event("online")));
    await later(750);
    expect([puts(asked).length, saving.saveState, saving.pause, saving.fault]).toEqual([
      4,
      "saved",
      "",
      null,
    ]);
  });

  it("that does not answer at all is no other: nothing is lost and it is tried again", async () => {
    let away = true;
    const asked = server(() => {
      if (away) throw new TypeError("fetch failed");
      return json(variantOf(boat("b"), 2));
    });
    opened();
    await named("b");
    await later(800);
    expect([saving.saveState, saving.fault]).toEqual(["failed", null]);
    away = false;
    await later(2800);
    expect([puts(asked).length, saving.saveState]).toEqual([2, "saved"]);
  });

  it("that refuses is not asked the same again; the next edit is", async () => {
    const asked = server(({ body }) =>
      (body.design as BoatDesign).name === "b"
        ? refused("/design/name", "No.")
        : json(variantOf(boat("c"), 2)),
    );
    vi.spyOn(console, "warn").mockImplementation(() => {});
    opened();
    await named("b");
    await later(60_000);
    expect([puts(asked).length, saving.saveState]).toEqual([1, "refused"]);
    await named("c");
    await later(800);
    expect([puts(asked).length, saving.saveState]).toEqual([2, "saved"]);
  });

  it("says that the boat is gone, and lets go of it where the person does", async () => {
    server(() => json({ errors: [{ code: "missing", message: "There is no such boat.", field: "" }] }, 404));
    opened();
    await named("b");
    await later(800);
    expect([saving.saveState, doc.design.name]).toEqual(["gone", "b"]);
    await act(() => saving.letGo());
    await later(10);
    expect(saving.saveState).toBe("saved");
  });
});

describe("another window", () => {
  it("is never overwritten: mine waits until the person chooses, and then goes over theirs as a state of its own", async () => {
    const { held, asked } = keeping();
    opened();
    Object.assign(held, { design: boat("theirs"), revision: 5 });
    await named("mine");
    await later(800);
    expect([saving.saveState, saving.conflict?.current.design.name, held.design.name]).toEqual([
      "conflict",
      "theirs",
      "theirs",
    ]);
    await named("mine still");
    await later(60_000);
    expect(puts(asked).length).toBe(1);
    await act(() => saving.keepMine());
    await later(800);
    expect([puts(asked).at(-1), held.design.name, saving.saveState]).toEqual([
      ["mine still", 5, true],
      "mine still",
      "saved",
    ]);
  });

  it("is taken where the person takes it, and mine is one undo away", async () => {
    const { held } = keeping();
    opened();
    Object.assign(held, { design: boat("theirs"), revision: 5 });
    await named("mine");
    await later(800);
    await act(() => saving.takeTheirs());
    await later(800);
    expect([doc.design.name, saving.saveState, saving.conflict, held.revision]).toEqual([
      "theirs",
      "saved",
      null,
      5,
    ]);
    await act(() => saving.undo());
    await later(800);
    expect([doc.design.name, held.design.name, held.revision]).toEqual(["mine", "mine", 6]);
  });

  it("is no other where it is my own save whose reply was never heard", async () => {
    const held = { design: boat("a"), revision: 1 };
    let heard = false;
    const asked = server(({ body }) => {
      if (body.revision !== held.revision)
        return json({ current: variantOf(held.design, held.revision), difference: [] }, 409);
      Object.assign(held, { design: body.design, revision: held.revision + 1 });
      if (!heard) throw new TypeError("fetch failed"); // it arrived, and the answer did not
      return json(variantOf(held.design, held.revision));
    });
    opened();
    await named("b");
    await later(800);
    expect([saving.saveState, held.design.name]).toEqual(["failed", "b"]);
    heard = true;
    await later(2800);
    expect([saving.saveState, saving.conflict, puts(asked).length, held.revision]).toEqual([
      "saved",
      null,
      2,
      2,
    ]);
    await named("c");
    await later(800);
    expect(puts(asked).at(-1)).toEqual(["c", 2, false]);
  });
});

describe("leaving", () => {
  it("within the pause saves what is not saved yet, and asks before the page goes", async () => {
    const { asked, held } = keeping();
    const page = opened();
    const goes = () => {
      const event = new Event("beforeunload", { cancelable: true });
      window.dispatchEvent(event);
      return event.defaultPrevented;
    };
    expect(goes()).toBe(false);
    await named("b");
    expect(goes()).toBe(true);
    page.unmount();
    await later(10);
    expect([puts(asked), held.design.name]).toEqual([[["b", 1, false]], "b"]);
    expect(goes()).toBe(false);
  });

  it("by a closed tab leaves the edit in the browser's store: the next tab has it, and saves it", async () => {
    const { held } = keeping();
    const page = opened();
    const answering = vi.spyOn(globalThis, "fetch").mockRejectedValue(new TypeError("fetch failed"));
    await named("typed last");
    page.unmount();
    await later(10);
    answering.mockRestore();
    expect(held.design.name).toBe("a");
    kept.removeItem("parhelion.tab"); // another tab: its session is its own
    for (const key of Object.keys(kept)) if (key.startsWith("parhelion.history")) kept.removeItem(key);
    opened(held.design, held.revision);
    expect(doc.design.name).toBe("typed last");
    await later(800);
    expect([held.design.name, saving.saveState]).toEqual(["typed last", "saved"]);
    await act(() => saving.undo());
    expect(doc.design.name).toBe("a");
  });
});
