import { Collapsible } from "radix-ui";
import type { ReactNode } from "react";

/** A heading of the bench that folds, saying in one line what is inside while it is shut. */
export function Fold(props: {
  title: string;
  summary: string;
  open: boolean;
  onOpen: (open: boolean) => void;
  children: ReactNode;
}) {
  const { title, summary, open, onOpen, children } = props;
  return (
    <Collapsible.Root open={open} onOpenChange={onOpen} className="border-t border-hairline">
      <h2 className="m-0">
        <Collapsible.Trigger className="flex w-full cursor-pointer items-baseline gap-2 border-0 bg-transparent px-0 py-[7px] text-left text-ink">
          <span aria-hidden="true" className="w-3 text-[12.5px] text-muted">
            {open ? "▾" : "▸"}
          </span>
          <span className="text-[13.5px] font-bold">{title}</span>
          {!open && (
            <span className="min-w-0 flex-1 truncate text-right text-[13px] text-muted">{summary}</span>
          )}
        </Collapsible.Trigger>
      </h2>
      <Collapsible.Content className="pb-2 pl-1">{children}</Collapsible.Content>
    </Collapsible.Root>
  );
}
