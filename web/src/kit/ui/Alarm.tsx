import type { ReactNode } from "react";

/** What went wrong, told at once. */
export const Alarm = ({ children }: { children: ReactNode }) => (
  <p role="alert" className="m-0 mb-1 text-[13px] font-semibold text-alarm">
    ▲ {children}
  </p>
);
