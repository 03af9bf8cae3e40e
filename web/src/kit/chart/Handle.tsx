import type { ComponentProps } from "react";
import { dragX, keyStep } from "./drag";

interface Props extends Omit<ComponentProps<"g">, "onDrag"> {
  label: string;
  most: number; // and 0 at least
  now: number;
  text: string; // its value in words
  onDrag?: (px: number) => void; // where the pointer is on the chart
  onStep: (by: number) => void; // arrow keys
}

/** Something on a chart that is moved by pointer or by keys. */
export const Handle = ({ label, most, now, text, onDrag, onStep, className, ...rest }: Props) => (
  <g
    tabIndex={0}
    role="slider"
    aria-label={label}
    aria-valuemin={0}
    aria-valuemax={most}
    aria-valuenow={now}
    aria-valuetext={text}
    className={className ?? "cursor-ew-resize"}
    style={{ touchAction: "none" }}
    onPointerDown={onDrag && ((event) => dragX(event, onDrag))}
    onKeyDown={(event) => {
      const step = keyStep(event.key);
      if (!step) return;
      event.preventDefault();
      event.stopPropagation();
      onStep(step);
    }}
    {...rest}
  />
);
