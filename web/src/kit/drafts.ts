/**
 * What is typed and not yet in the document. It belongs to its entry, not to the field that shows it: it is
 * committed when the field goes, kept over a reload or a closed tab, and tried again when the server was away.
 */
import { type BoatDesign, client, dataOf, Refused } from "../api/client";
import { named, placed, withValue } from "./pointer";

const PAUSE_MS = 450;
const BLUR_MS = 220; // long enough for the click that took the focus to land before a message moves the page
const AGAIN_MS = 2500;

export type Reading = { value: unknown } | { problem: string };

interface Entry {
  text: string;
  read: (text: string) => Reading;
  tell: (refused: Refused, pointer: string, text: string) => string;
  problem: string | null;
  turn: number;
  timer: ReturnType<typeof setTimeout> | null;
  asking?: boolean;
}

type Apply = (change: (design: BoatDesign) => BoatDesign, key: string) => void;

const PREFIX = "parhelion.draft";

export class Drafts {
  private entries = new Map<string, Entry>();
  private listeners = new Set<() => void>();

  constructor(
    private readonly variantId: string,
    private readonly document: () => BoatDesign,
    private readonly apply: Apply,
  ) {}

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** An entry is typed that may still become part of the design by itself. */
  waiting = (): boolean => [...this.entries.values()].some((entry) => entry.timer !== null || entry.asking);

  name = (pointer: string) => named(this.document(), pointer);
  text = (name: string): string | null => this.entries.get(name)?.text ?? null;
  problem = (name: string): string | null => this.entries.get(name)?.problem ?? null;

  /** What a reload found typed: values are committed, and texts wait for their field to say what is wrong. */
  recall() {
    for (const key of Object.keys(localStorage)) {
      if (!key.startsWith(`${PREFIX}.${this.variantId}.`)) continue;
      const name = key.slice(`${PREFIX}.${this.variantId}.`.length);
      try {
        const { text, value } = JSON.parse(localStorage.getItem(key) ?? "") as {
          text: string;
          value?: unknown;
        };
        const read = () => (value === undefined ? { problem: "" } : { value });
        this.entries.set(name, { text, read, tell: refusal, problem: null, turn: 0, timer: null });
        if (value !== undefined) void this.commit(name);
      } catch {
        localStorage.removeItem(key);
      }
    }
  }

  /** A field shows the entry: from here on it is read and told as the field does. */
  meet(name: string, read: Entry["read"], tell: Entry["tell"]) {
    const entry = this.entries.get(name);
    if (!entry) return;
    Object.assign(entry, { read, tell });
    if (entry.timer === null) void this.commit(name);
  }

  type(name: string, text: string, read: Entry["read"], tell: Entry["tell"]) {
    const held = this.entries.get(name);
    if (held?.timer) clearTimeout(held.timer);
    const entry: Entry = {
      text,
      read,
      tell,
      problem: held?.problem ?? null,
      turn: (held?.turn ?? 0) + 1,
      timer: null,
    };
    this.entries.set(name, entry);
    this.keep(name, entry);
    entry.timer = setTimeout(() => void this.commit(name), PAUSE_MS);
    this.changed();
  }

  settle = (name: string) => {
    if (this.entries.has(name)) void this.commit(name);
  };

  leave(name: string) {
    const entry = this.entries.get(name);
    if (!entry) return;
    if (entry.timer) clearTimeout(entry.timer);
    entry.timer = setTimeout(() => void this.commit(name), BLUR_MS);
  }

  abandon(name: string) {
    const entry = this.entries.get(name);
    if (entry?.timer) clearTimeout(entry.timer);
    if (entry) this.drop(name);
  }

  private changed() {
    for (const listener of this.listeners) listener();
  }

  private drop(name: string) {
    this.entries.delete(name);
    localStorage.removeItem(`${PREFIX}.${this.variantId}.${name}`);
    this.changed();
  }

  private keep(name: string, entry: Entry) {
    const found = entry.read(entry.text);
    const value = "value" in found ? found.value : undefined;
    const held = JSON.stringify({ text: entry.text, value });
    try {
      localStorage.setItem(`${PREFIX}.${this.variantId}.${name}`, held);
    } catch {
      // The storage is full or shut: a reload then loses what is not committed yet.
    }
  }

  private async commit(name: string) {
    const entry = this.entries.get(name);
    if (!entry) return;
    if (entry.timer) clearTimeout(entry.timer);
    entry.timer = null;
    const turn = ++entry.turn;
    const say = (problem: string) => {
      if (this.entries.get(name) !== entry || entry.turn !== turn) return;
      entry.problem = problem || null;
      this.changed();
    };
    const found = entry.read(entry.text);
    if ("problem" in found) return say(found.problem);
    const pointer = placed(this.document(), name);
    if (pointer === null) return this.drop(name);
    const write = (design: BoatDesign) => {
      const at = placed(design, name);
      return at === null ? design : withValue(design, at, found.value);
    };
    entry.asking = true;
    try {
      await dataOf(client.POST("/api/design/check", { body: { design: write(this.document()) } }));
    } catch (error) {
      if (error instanceof Refused && error.status < 500) return say(entry.tell(error, pointer, entry.text));
      say("The server did not answer; your entry is kept here and tried again.");
      if (this.entries.get(name) === entry && entry.turn === turn)
        entry.timer = setTimeout(() => void this.commit(name), AGAIN_MS);
      return;
    } finally {
      entry.asking = false;
      this.changed();
    }
    if (this.entries.get(name) !== entry || entry.turn !== turn) return;
    this.apply(write, pointer);
    this.drop(name);
  }
}

/** A refusal in words: what is wrong, and what would be accepted. */
export function refusal(refused: Refused, pointer: string): string {
  const about = refused.problems.find((item) => item.field === `/design${pointer}`) ?? refused.problems[0];
  return `${about?.message ?? "This is not accepted."}${about?.accepted ? ` Accepted: ${about.accepted}.` : ""}`;
}
