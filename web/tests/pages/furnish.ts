/** What a page without a window lacks; imported before anything of the application. */
import "../bare";
import { vi } from "vitest";

export interface OnServer {
  url: string;
  boats: { name: string; variant: string }[];
}
export const server = JSON.parse(import.meta.env.VITE_PAGES ?? '{"url": "", "boats": []}') as OnServer;

const SIZE = { width: 760, height: 540 };

class Sized {
  constructor(private readonly tell: (entries: { contentRect: typeof SIZE }[]) => void) {}
  observe() {
    this.tell([{ contentRect: SIZE }]);
  }
  unobserve() {}
  disconnect() {}
}

const away: string[] = [];

/** Addresses with this in them are not answered, until they are again; all of them by "/". */
export function goAway(part: string): () => void {
  away.push(part);
  return () => away.splice(0);
}

/** What a page without a window lacks, and addresses of the server's own. */
function furnish() {
  vi.stubGlobal("ResizeObserver", Sized);
  vi.stubGlobal("matchMedia", () => ({ matches: false, addEventListener() {}, removeEventListener() {} }));
  const Plain = globalThis.Request;
  const whole = (from: RequestInfo | URL) => (typeof from === "string" ? new URL(from, server.url) : from);
  vi.stubGlobal(
    "Request",
    class extends Plain {
      constructor(from: RequestInfo | URL, options?: RequestInit) {
        super(whole(from), options);
      }
    },
  );
  const ask = globalThis.fetch;
  /** A file of the page's own kind, which the request does not know. */
  const words = (file: Blob) =>
    new Promise<string>((done) => {
      const reader = new FileReader();
      reader.onload = () => done(String(reader.result));
      reader.readAsText(file);
    });
  vi.stubGlobal("fetch", async (from: RequestInfo | URL, { signal, ...options }: RequestInit = {}) => {
    if (options.body instanceof File) options.body = await words(options.body);
    const address = typeof from === "string" ? from : "url" in from ? from.url : from.href;
    if (away.some((part) => address.includes(part))) throw new TypeError("fetch failed");
    const given = new Promise<never>((_, refuse) => {
      signal?.addEventListener("abort", () => refuse(new DOMException("left", "AbortError")));
    });
    return Promise.race([ask(whole(from), options), given]);
  });
}
furnish();
