import type { PointerEvent } from "react";

/** Follows the pointer from a press until it is let go. */
export function follow(
  event: PointerEvent<Element>,
  move: (event: globalThis.PointerEvent) => void,
  done?: () => void,
): void {
  const target = event.currentTarget;
  target.setPointerCapture(event.pointerId);
  const stop = () => {
    target.removeEventListener("pointermove", move as EventListener);
    target.removeEventListener("pointerup", stop);
    target.removeEventListener("pointercancel", stop);
    done?.();
  };
  target.addEventListener("pointermove", move as EventListener);
  target.addEventListener("pointerup", stop);
  target.addEventListener("pointercancel", stop);
  event.preventDefault();
  event.stopPropagation();
}

/** Follows a drag on a chart: calls back with x inside the chart's element until the pointer is let go. */
export function dragX(event: PointerEvent<Element>, move: (x: number) => void): void {
  const surface = (event.currentTarget as SVGElement).ownerSVGElement ?? event.currentTarget;
  const left = surface.getBoundingClientRect().left;
  follow(event, (e) => move(e.clientX - left));
}

/** What an arrow key means for a slider: -1, 1, or nothing; with Page keys as larger steps. */
export function keyStep(key: string): number {
  switch (key) {
    case "ArrowRight":
    case "ArrowUp":
      return 1;
    case "ArrowLeft":
    case "ArrowDown":
      return -1;
    case "PageUp":
      return 6;
    case "PageDown":
      return -6;
    default:
      return 0;
  }
}
