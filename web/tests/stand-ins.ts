/** The browser's parts that the bench's logic uses, as small stand-ins. */
import { vi } from "vitest";

export interface Asked {
  url: string;
  body: Record<string, unknown>;
  signal?: AbortSignal | null;
}

type Answer = (asked: Asked) => Response | Promise<Response>;

/** One for all files: what was imported for one of them is there for the next. */
interface State {
  held: Map<string, string>;
  answering: Answer;
  asked: Asked[];
}
const found = globalThis as { standIns?: State };
found.standIns ??= { held: new Map(), answering: () => new Response(null, { status: 404 }), asked: [] };
const state = found.standIns;
const { held } = state;

/** Storage of the tab and of the browser. Its keys are its own properties, as a browser's are. */
export const kept = {
  getItem: (key: string) => held.get(key) ?? null,
  setItem(key: string, text: string) {
    held.set(key, text);
    (kept as Record<string, unknown>)[key] = text;
  },
  removeItem(key: string) {
    held.delete(key);
    delete (kept as Record<string, unknown>)[key];
  },
  clear() {
    for (const key of [...held.keys()]) kept.removeItem(key);
  },
};
vi.stubGlobal("sessionStorage", kept);
vi.stubGlobal("localStorage", kept);

/** Addresses of the page's own server are written without its name. */
class OwnRequest extends Request {
  constructor(input: RequestInfo | URL, options?: RequestInit) {
    super(typeof input === "string" ? new URL(input, "http://bench.test") : input, options);
  }
}
vi.stubGlobal("Request", OwnRequest);
vi.stubGlobal("fetch", async (from: Request | string, options?: RequestInit) => {
  const whole = typeof from === "string" ? new OwnRequest(from, options) : from;
  const text = await whole.clone().text();
  const one = { url: new URL(whole.url).pathname, body: JSON.parse(text || "null"), signal: options?.signal };
  state.asked.push(one);
  return state.answering(one);
});

/** A server: what it was asked, and what it answers. */
export function server(answer: Answer): Asked[] {
  state.answering = answer;
  state.asked = [];
  return state.asked;
}

export const json = (body: unknown, status = 200) =>
  new Response(JSON.stringify(body), { status, headers: { "Content-Type": "application/json" } });

export const refused = (field: string, message: string, more = {}) =>
  json({ errors: [{ code: "x", field, message, accepted: "", ...more }] }, 422);
