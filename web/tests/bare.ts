/** A page without a window: what it lacks, and time that goes by in it. */
import { configure } from "@testing-library/dom";
import { act } from "react";
import { vi } from "vitest";

class Still {
  observe() {}
  unobserve() {}
  disconnect() {}
}
vi.stubGlobal("ResizeObserver", Still);
Element.prototype.scrollIntoView = () => {};
Element.prototype.setPointerCapture = () => {};
Element.prototype.releasePointerCapture = () => {};
Element.prototype.hasPointerCapture = () => false;
configure({ asyncUtilTimeout: 60_000 }); // a machine that runs every test at once is slow

/** Faked time goes by, a little at a time: what a page does about one thing comes before the next. */
export async function later(ms: number) {
  for (let gone = 0; gone < ms; gone += 50) await act(() => vi.advanceTimersByTimeAsync(50));
}
