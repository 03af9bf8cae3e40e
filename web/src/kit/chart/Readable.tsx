import type { ReactNode, RefObject } from "react";
import { keyStep } from "./drag";

interface Props {
  box: RefObject<HTMLDivElement | null>;
  width: number; // of the box; 0 before it is known
  height: number;
  label: string;
  said?: string; // what is read, for those who do not see it
  stale?: boolean;
  onRead: (x: number | null) => void; // where the pointer is, or that it left
  onStep: (by: number) => void; // arrow keys
  children: ReactNode;
}

/** A chart that fills its place and is read by pointer or by keys. */
export function Readable({ box, width, height, label, said, stale, onRead, onStep, children }: Props) {
  return (
    <div ref={box} className={`h-full min-h-0 transition-opacity duration-150 ${stale ? "opacity-75" : ""}`}>
      {width > 0 && (
        <svg
          width={width}
          height={height}
          role="group"
          aria-label={label}
          tabIndex={0}
          onPointerMove={(event) => onRead(event.clientX - event.currentTarget.getBoundingClientRect().left)}
          onPointerLeave={() => onRead(null)}
          onBlur={() => onRead(null)}
          onKeyDown={(event) => {
            const step = keyStep(event.key);
            if (!step) return;
            event.preventDefault();
            onStep(step);
          }}
        >
          {children}
        </svg>
      )}
      <p className="sr-only" aria-live="polite">
        {said}
      </p>
    </div>
  );
}
