// @vitest-environment jsdom
/** What is told to the server one after the other, and long work that is asked for, followed, left and found again. */
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, render } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { BoatDesign, OneRecord } from "../src/api/client";
import { later } from "./bare";
import { json, kept, refused, server } from "./stand-ins";

const { RecordsProvider, withWaiting } = await import("../src/app/records");
const { useRecords } = await import("../src/kit/records");
const { useWork } = await import("../src/asking/work");

const note = (id: string, text = "") => ({ kind: "tick", id, note: text }) as unknown as OneRecord;
const records = (list: OneRecord[]) => ({
  schema_name: "parhelion.records" as const,
  schema_version: 1 as const,
  records: list,
});

beforeEach(() => {
  vi.useFakeTimers();
  kept.clear();
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

describe("records", () => {
  let held: ReturnType<typeof useRecords>;
  function Inside() {
    held = useRecords();
    return null;
  }
  const opened = () =>
    render(
      <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
        <RecordsProvider boatId="b">
          <Inside />
        </RecordsProvider>
      </QueryClientProvider>,
    );
  const ids = () => (held.records.records ?? []).map((one) => one.id);

  /** Keeps records, where it is not away; what it refuses is named. */
  function keeping(first: OneRecord[] = []) {
    const at = { list: first, away: false, refuses: "" };
    const asked = server(({ url, body }) => {
      if (at.away) throw new TypeError("fetch failed");
      const record = body as unknown as OneRecord | null;
      if (record?.id && record.id === at.refuses) return refused("/note", "That is too long.");
      if (record?.id) at.list = [...at.list.filter((one) => one.id !== record.id), record];
      else if (url.split("/").length > 5) at.list = at.list.filter((one) => one.id !== url.split("/").at(-1));
      return json(record?.id ? record : records(at.list));
    });
    return { at, asked };
  }

  it("are shown at once and told in their order, one at a time", async () => {
    const { at, asked } = keeping([note("a")]);
    opened();
    await later(50);
    expect(ids()).toEqual(["a"]);
    await act(() => {
      held.note(note("b"));
      held.note(note("c"));
      held.note(note("b", "again"));
    });
    expect(ids()).toEqual(["a", "b", "c"]);
    await later(100);
    expect([at.list.map((one) => one.id), held.waiting]).toEqual([["a", "c", "b"], 0]);
    expect(asked.slice(1).map(({ body }) => body.id)).toEqual(["b", "c", "b"]);
    await act(() => held.withdraw("a"));
    await later(100);
    expect([ids(), at.list.some((one) => one.id === "a")]).toEqual([["b", "c"], false]);
  });

  it("wait in the browser while the server is away, over a reload, and are told when it is back", async () => {
    const { at } = keeping([note("a")]);
    const page = opened();
    await later(50);
    at.away = true;
    await act(() => held.note(note("b")));
    await later(5000);
    expect([ids(), held.waiting]).toEqual([["a", "b"], 1]);
    page.unmount();
    opened(); // the page is loaded anew
    at.away = false;
    await later(3000);
    expect([ids(), held.waiting, at.list.map((one) => one.id)]).toEqual([["a", "b"], 0, ["a", "b"]]);
    expect(Object.keys(kept).filter((key) => key.startsWith("parhelion.records"))).toEqual([]);
  });

  it("that are refused are told, and do not hold up those behind them", async () => {
    const { at } = keeping();
    at.refuses = "long";
    opened();
    await later(50);
    await act(() => {
      held.note(note("long"));
      held.note(note("short"));
    });
    await later(200);
    expect([at.list.map((one) => one.id), held.waiting]).toEqual([["short"], 0]);
  });

  it("laid over each other are those of the last word", () => {
    const list = [note("a"), note("b")];
    const over = (waiting: Parameters<typeof withWaiting>[1]) => withWaiting(records(list), waiting).records;
    expect(over([])).toBe(list);
    expect(over([{ put: note("b", "new") }, { drop: "a" }, { put: note("c") }])).toEqual([
      note("b", "new"),
      note("c"),
    ]);
    expect(over([{ drop: "gone" }])).toEqual(list);
    expect(over([{ put: note("d") }, { drop: "d" }])).toEqual(list);
  });
});

describe("long work", () => {
  let found: ReturnType<typeof useWork<"season">>;
  const boat = (name: string) => [{ name, design: { name } as unknown as BoatDesign }];
  const queries = () => new QueryClient();
  function Inside({ of, enabled }: { of: string; enabled?: boolean }) {
    found = useWork("season", boat(of), enabled);
    return null;
  }
  const shown = (client: QueryClient, of: string, enabled = true) => (
    <QueryClientProvider client={client}>
      <Inside of={of} enabled={enabled} />
    </QueryClientProvider>
  );

  /** A worker that takes some looks for each piece. */
  function working(looks = 3) {
    const at = { status: "done", problem: "", left: [] as string[] };
    const pieces = new Map<string, number>();
    const asked = server(({ url, body }) => {
      const name = (body as { designs?: { name: string }[] } | null)?.designs?.[0]?.name;
      if (url === "/api/work" && name) {
        pieces.set(name, 0);
        return json({ id: name, ticket: `t-${name}`, kind: "season", status: "waiting", progress: 0 });
      }
      const id = url.split("/")[3] ?? "";
      if (url.endsWith("/leave")) {
        at.left.push(id);
        return json({});
      }
      const seen = (pieces.get(id) ?? 0) + 1;
      pieces.set(id, seen);
      const done = seen >= looks;
      const status = done ? at.status : "running";
      return json({
        id,
        kind: "season",
        status,
        progress: seen / looks,
        problem: at.problem,
        result: done ? { of: id } : null,
      });
    });
    return { at, asked };
  }

  it("is asked for after a rest, followed, and answered; an equal question is not asked again", async () => {
    const { asked } = working();
    const client = queries();
    const page = render(shown(client, "a"));
    await later(100);
    expect([found.data, found.busy]).toEqual([undefined, true]);
    await later(300);
    expect(found.progress).toBeGreaterThan(0);
    await later(800);
    expect([found.data, found.busy, found.stale, found.error]).toEqual([{ of: "a" }, false, false, null]);
    const before = asked.length;
    page.rerender(shown(client, "a"));
    await later(2000);
    expect(asked.length).toBe(before);
  });

  it("keeps the old answer, marked, while a new question is worked at, and leaves what nobody waits for", async () => {
    const { at } = working(6);
    const client = queries();
    const page = render(shown(client, "a"));
    await later(2500);
    expect(found.data).toEqual({ of: "a" });
    page.rerender(shown(client, "b"));
    await later(900);
    expect([found.data, found.stale]).toEqual([{ of: "a" }, true]);
    page.rerender(shown(client, "c"));
    await later(3000);
    expect([found.data, found.stale, at.left]).toEqual([{ of: "c" }, false, ["b"]]);
  });

  it("that failed says why, is tried again, and can be stopped", async () => {
    const { at } = working();
    Object.assign(at, { status: "failed", problem: "A boat that sinks has no season." });
    render(shown(queries(), "a"));
    await later(1500);
    expect([found.error?.message, found.busy]).toEqual(["A boat that sinks has no season.", false]);
    Object.assign(at, { status: "interrupted", problem: "" });
    await act(() => found.retry());
    await later(1500);
    expect(found.error?.message).toBe("The program was started anew meanwhile.");
    at.status = "cancelled";
    await act(() => found.retry());
    await later(300);
    await act(() => found.stop());
    await later(1500);
    expect([found.error?.message, at.left]).toEqual(["It was stopped.", ["a"]]);
  });

  it("that is not wanted yet is not asked for", async () => {
    const { asked } = working();
    const client = queries();
    const page = render(shown(client, "a", false));
    await later(2000);
    expect([asked.length, found.busy]).toEqual([0, false]);
    page.rerender(shown(client, "a", true));
    await later(1500);
    expect(found.data).toEqual({ of: "a" });
  });
});
