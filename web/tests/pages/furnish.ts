/** What a page without a window lacks; imported before anything of the application. */
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

/** What a page without a window lacks, and addresses of the server's own. */
function furnish() {
  vi.stubGlobal("ResizeObserver", Sized);
  vi.stubGlobal("matchMedia", () => ({ matches: false, addEventListener() {}, removeEventListener() {} }));
  Element.prototype.scrollIntoView = () => {};
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
  vi.stubGlobal("fetch", (from: RequestInfo | URL, { signal, ...options }: RequestInit = {}) => {
    const given = new Promise<never>((_, refuse) => {
      signal?.addEventListener("abort", () => refuse(new DOMException("left", "AbortError")));
    });
    return Promise.race([ask(whole(from), options), given]);
  });
}
furnish();
