import type { ComponentProps, ReactNode } from "react";

interface Props extends ComponentProps<"div"> {
  label: string;
  stale?: boolean; // an older answer: dimmed until the new one is in
  busy?: boolean; // a part of it is
}

/** A view of a station that scrolls in its place. */
export const View = ({ label, stale, busy, className = "", ...props }: Props) => (
  <div
    className={`min-h-0 flex-1 overflow-y-auto transition-opacity ${className} ${stale ? "opacity-75" : ""}`}
    tabIndex={0}
    role="region"
    aria-label={label}
    aria-busy={stale ?? busy}
    {...props}
  />
);

/** The headings of a table's columns. */
export const Head = ({ of, quiet }: { of: readonly ReactNode[]; quiet?: ReactNode }) => (
  <thead>
    <tr>
      {of.map((words, i) => (
        <th key={i}>{words}</th>
      ))}
      {quiet && (
        <th>
          <span className="sr-only">{quiet}</span>
        </th>
      )}
    </tr>
  </thead>
);
