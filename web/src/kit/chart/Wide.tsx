import type { ReactNode, RefObject } from "react";

interface Props {
  box: RefObject<HTMLDivElement | null>;
  width: number; // of the box, by `useSize`; 0 before it is known
  height: number;
  label: string; // what it shows, for those who do not see it
  children: ReactNode;
}

/** A picture as wide as its place. */
export function Wide({ box, width, height, label, children }: Props) {
  return (
    <div ref={box} className="w-full">
      {width > 0 && (
        <svg width={width} height={height} role="img" aria-label={label}>
          {children}
        </svg>
      )}
    </div>
  );
}
