/**
 * What the screen shows of the design: one request for all of it, answered part by part. The old answer stays
 * until the new one is in.
 */
import {
  createContext,
  type ReactNode,
  useContext,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  useSyncExternalStore,
} from "react";
import {
  type Answers,
  type BoatDesign,
  type Finding,
  type LivePart,
  type Records,
  Refused,
  refusalIn,
  type Studies,
  type Usual,
} from "../api/client";
import { useDesign } from "../kit/document";
import { type LogAsked, useLogbook } from "../kit/logbook";
import { useRecords } from "../kit/records";

const PAUSE_MS = 40;
const AGAIN_MS = 2000; // after the server did not answer
const MOST_PAST = 60;
const LIVE = "/api/live";
const RAIL = "rail";
const COUNTS = "counts";
const USUAL = "usual";
const told = (station: string) => `findings ${station}`;

/** An answer, with the document it is about. */
interface Slot {
  about: Screen | Boat | null;
  answer: unknown;
  error: Error | null;
}

/** The design as it stands, and what was noted and read of the boat. */
interface Boat {
  design: BoatDesign;
  records: Records;
  log: LogAsked;
}

interface Screen {
  boat: Boat;
  comparedWith: BoatDesign | null;
  at: string | null;
}

interface Wanted {
  study: string;
  asked: Record<string, unknown>;
  by: number; // how many parts of the screen want it
}

const EMPTY: Slot = { about: null, answer: undefined, error: null };

/** Asks for what is wanted and not yet known, and keeps what came. */
export class Live {
  private screen: Screen | null = null;
  private wanted = new Map<string, Wanted>();
  private stations = new Map<string, number>();
  private slots = new Map<string, Slot>();
  private listeners = new Set<() => void>();
  private timer: ReturnType<typeof setTimeout> | null = null;
  private going: AbortController | null = null;
  private past: string[] = []; // studies that nobody wants any more, the latest last
  private turn = 0;
  private readonly page = crypto.randomUUID().slice(0, 8);

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  slot = (key: string): Slot => this.slots.get(key) ?? EMPTY;

  /** The screen shows this now. */
  show(screen: Screen) {
    this.screen = screen;
    this.plan(PAUSE_MS);
  }

  /** A part of the screen wants a study, until it says otherwise. */
  want(key: string, study: string, asked: Record<string, unknown>): () => void {
    const held = this.wanted.get(key) ?? { study, asked, by: 0 };
    this.wanted.set(key, { ...held, by: held.by + 1 });
    this.plan(0);
    return () => {
      const left = this.wanted.get(key);
      if (left && left.by > 1) this.wanted.set(key, { ...left, by: left.by - 1 });
      else {
        this.wanted.delete(key);
        this.forget(key);
      }
    };
  }

  /** What was left long ago is let go: a question of every second would fill the browser. */
  private forget(key: string) {
    this.past = [...this.past.filter((one) => one !== key), key];
    const oldest = this.past.length > MOST_PAST ? this.past.shift() : undefined;
    if (oldest && !this.wanted.has(oldest)) this.slots.delete(oldest);
  }

  /** A part of the screen wants what a station tells. */
  wantTold(station: string): () => void {
    this.stations.set(station, (this.stations.get(station) ?? 0) + 1);
    this.plan(0);
    return () => {
      const left = (this.stations.get(station) ?? 1) - 1;
      if (left > 0) this.stations.set(station, left);
      else this.stations.delete(station);
    };
  }

  /** Asks again for what failed. */
  retry = () => {
    for (const [key, slot] of this.slots) if (slot.error) this.slots.set(key, { ...slot, about: null });
    this.plan(0);
  };

  close() {
    if (this.timer) clearTimeout(this.timer);
    this.going?.abort();
  }

  private plan(ms: number) {
    if (this.timer) clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.ask(), ms);
  }

  private put(key: string, slot: Slot) {
    this.slots.set(key, slot);
    for (const listener of this.listeners) listener();
  }

  private async ask() {
    const screen = this.screen;
    if (!screen) return;
    const open = (key: string, about: Slot["about"]) => this.slot(key).about !== about;
    const studies = [...this.wanted].filter(([key]) => open(key, screen.boat));
    const station = [...this.stations.keys()].find((name) => open(told(name), screen.boat));
    const rail = open(RAIL, screen);
    const counts = open(COUNTS, screen.boat);
    const usual = open(USUAL, screen.boat);
    if (!rail && !counts && !usual && !station && studies.length === 0) return;
    this.going?.abort();
    this.going = new AbortController();
    const { signal } = this.going;
    this.turn += 1;
    const keys = studies.map(([key]) => key);
    const place = (part: LivePart): string | null => {
      const of = part.part === "failed" ? part.of : part.part;
      if (of === "study") return keys[("index" in part ? part.index : null) ?? 0] ?? null;
      if (of === "findings") return told(station ?? "");
      return of === RAIL || of === COUNTS || of === USUAL ? of : null;
    };
    const about = (key: string) => (key === RAIL ? screen : screen.boat);
    const body = {
      page: this.page,
      turn: this.turn,
      design: screen.boat.design,
      records: screen.boat.records,
      boat_id: screen.boat.log.boatId,
      log_turn: screen.boat.log.turn,
      outing: screen.boat.log.outing,
      rail,
      compared_with: screen.comparedWith,
      at: screen.at,
      station: station ?? null,
      studies: studies.map(([, { study, asked }]) => ({ study, asked })),
      usual,
      counts,
    };
    const shared = { [RAIL]: rail, [USUAL]: usual, [COUNTS]: counts };
    const left = new Set([
      ...keys,
      ...Object.keys(shared).filter((key) => shared[key as keyof typeof shared]),
    ]);
    if (station) left.add(told(station));
    const fail = (error: Error) => {
      for (const key of left) this.put(key, { ...this.slot(key), error });
    };
    try {
      for await (const part of parts(JSON.stringify(body), signal)) {
        const key = place(part);
        if (key === null) continue;
        left.delete(key);
        if (part.part === "failed")
          this.put(key, { about: about(key), answer: undefined, error: new Refused(part.errors, 422) });
        else this.put(key, { about: about(key), answer: answerOf(part), error: null });
      }
      if (left.size > 0) this.plan(AGAIN_MS); // it ended before all was said
    } catch (error) {
      if (signal.aborted) return;
      if (error instanceof Refused && error.status < 500) {
        for (const key of left) this.put(key, { ...this.slot(key), about: about(key), error });
        return;
      }
      fail(new Error("The server did not answer; it is asked again."));
      this.plan(AGAIN_MS);
    }
  }
}

function answerOf(part: LivePart): unknown {
  if (part.part === "findings") return part.findings;
  if (part.part === "counts") return part.counts;
  if (part.part === "usual") return part.usual;
  return "answer" in part ? part.answer : undefined;
}

/** The lines of a reply, as they come. */
async function* parts(body: string, signal: AbortSignal): AsyncGenerator<LivePart> {
  const headers = { "Content-Type": "application/json" };
  const reply = await fetch(LIVE, { method: "POST", body, headers, signal });
  if (!reply.ok) throw await refusalIn(reply);
  const reader = reply.body?.pipeThrough(new TextDecoderStream()).getReader();
  let held = "";
  while (reader) {
    const { done, value } = await reader.read();
    if (done) return;
    const lines = (held + value).split("\n");
    held = lines.pop() ?? "";
    for (const line of lines) yield JSON.parse(line) as LivePart;
  }
}

const LiveContext = createContext<Live | null>(null);

/** Keeps asking about the design on the screen. */
export function LiveProvider(props: {
  comparedWith: BoatDesign | null;
  at: string | null;
  children: ReactNode;
}) {
  const { comparedWith, at, children } = props;
  const { design } = useDesign();
  const { records } = useRecords();
  const { boatId, turn, outing } = useLogbook();
  const boat = useMemo(
    () => ({ design, records, log: { boatId, turn, outing } }),
    [design, records, boatId, turn, outing],
  );
  const [live] = useState(() => new Live());
  useEffect(() => () => live.close(), [live]);
  useLayoutEffect(() => live.show({ boat, comparedWith, at }), [live, boat, comparedWith, at]);
  return <LiveContext.Provider value={live}>{children}</LiveContext.Provider>;
}

export interface Found<T> {
  data: T | undefined;
  stale: boolean;
  error: Error | null;
  retry: () => void;
}

function useSlot(key: string): [Live, Slot] {
  const live = useContext(LiveContext);
  if (!live) throw new Error("useSlot outside its provider");
  return [live, useSyncExternalStore(live.subscribe, () => live.slot(key))];
}

function useFound<T>(live: Live, slot: Slot): Found<T> {
  const { design } = useDesign();
  const { records } = useRecords();
  const { turn, outing } = useLogbook();
  const shown = useRef<unknown>(undefined); // of another question, until this one is answered
  const about = slot.about && "comparedWith" in slot.about ? slot.about.boat : slot.about;
  if (slot.answer !== undefined || slot.about) shown.current = slot.answer;
  return {
    data: shown.current as T | undefined,
    stale:
      about?.design !== design ||
      about.records !== records ||
      about.log.turn !== turn ||
      about.log.outing !== outing,
    error: slot.error,
    retry: live.retry,
  };
}

/** What the server computes at one of its addresses, about the design on the screen. */
export function useStudy<S extends keyof Studies>(
  study: S,
  asked: Studies[S]["asked"] = {} as Studies[S]["asked"],
  enabled = true,
): Found<Studies[S]["answer"]> {
  const words = JSON.stringify(asked);
  const key = `${study} ${words}`;
  const [live, slot] = useSlot(key);
  useEffect(
    () => (enabled ? live.want(key, study, JSON.parse(words)) : undefined),
    [live, key, study, words, enabled],
  );
  return useFound(live, slot);
}

/** What a station tells of the design on the screen. */
export function useFindings(station: string): Found<Finding[]> {
  const [live, slot] = useSlot(told(station));
  useEffect(() => live.wantTold(station), [live, station]);
  return useFound(live, slot);
}

export function useRail(): Found<Answers> {
  return useFound(...useSlot(RAIL));
}

/** Open warnings of every station. */
export function useCounts(): Record<string, number> {
  const [, slot] = useSlot(COUNTS);
  return (slot.answer ?? {}) as Record<string, number>;
}

/** What the design's empty entries mean, by their pointers. */
export function useUsual(): Record<string, Usual> {
  const [, slot] = useSlot(USUAL);
  return (slot.answer ?? {}) as Record<string, Usual>;
}
