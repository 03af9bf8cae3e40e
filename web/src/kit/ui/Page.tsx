import type { ReactNode } from "react";

/** What a picture shows, and in which terms. */
export const Heading = ({ title, in: terms }: { title: string; in?: ReactNode }) => (
  <h1 className="m-0 mb-1 text-[16px] font-bold">
    {title} {terms && <span className="ml-3 text-[14px] font-normal text-muted">{terms}</span>}
  </h1>
);

/** What a person sets, at the left: a landmark of its own, so that who hears the page finds it. */
export const Bench = ({ of, children }: { of: string; children?: ReactNode }) => (
  <section className="bench border-r border-hairline px-5 py-3" aria-label={of}>
    {children}
  </section>
);

/** The picture of a station, in the middle. */
export const Picture = ({ scrolls, children }: { scrolls?: boolean; children: ReactNode }) => (
  <main
    className={`picture flex min-h-0 min-w-0 flex-col px-4 pt-3 pb-1 ${scrolls ? "overflow-y-auto max-[720px]:overflow-visible" : ""}`}
  >
    {children}
  </main>
);

/** What was computed of the design before the last edit is dimmed. */
export const Dimmed = ({ stale, children }: { stale: boolean; children: ReactNode }) => (
  <div
    className={`flex min-h-0 flex-1 flex-col transition-opacity duration-150 ${stale ? "opacity-75" : ""}`}
  >
    {children}
  </div>
);
