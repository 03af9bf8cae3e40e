import type { ComponentProps, ReactNode } from "react";

interface Props extends Omit<ComponentProps<"button">, "children" | "title"> {
  chosen: boolean;
  title: ReactNode;
  right: ReactNode;
  below: ReactNode;
}

/** One of several in a bench, to look at. */
export const Pick = ({ chosen, title, right, below, ...rest }: Props) => (
  <button
    type="button"
    className={`mb-1 block w-full cursor-pointer rounded-[6px] border bg-transparent px-2 py-1 text-left text-ink ${chosen ? "border-ink bg-field" : "border-transparent"}`}
    aria-pressed={chosen}
    {...rest}
  >
    <span className="flex justify-between gap-2">
      <b className="truncate">{title}</b>
      <span className="tabular whitespace-nowrap">{right}</span>
    </span>
    {below}
  </button>
);
