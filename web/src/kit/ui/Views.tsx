import { Tabs } from "radix-ui";
import { type ReactNode, useEffect, useRef } from "react";
import { useSearch } from "../search";

/** The views of a station's picture, one at a time; which one stands in the address. */
export function Views<Key extends string>(props: {
  label: string;
  views: readonly (readonly [Key, string])[];
  children: (view: Key) => ReactNode;
}) {
  const { label, views, children } = props;
  const [search, setSearch] = useSearch();
  const first = views[0]?.[0] as Key;
  const asked = search.get("view") as Key | null;
  const view = views.some(([key]) => key === asked) ? (asked as Key) : first;
  const latest = useRef<string>(view);
  useEffect(() => {
    latest.current = view;
  }, [view]);
  return (
    <Tabs.Root
      value={view}
      className="flex min-h-0 flex-1 flex-col"
      onValueChange={(next) => {
        if (next === latest.current) return; // asked twice: by the press, and by the focus that it brings
        latest.current = next;
        setSearch((search) => {
          if (next === first) search.delete("view");
          else search.set("view", next);
        });
      }}
    >
      <Tabs.List
        aria-label={label}
        className="no-print mb-1 flex max-w-full flex-none gap-1.5 overflow-x-auto -mx-1 p-1"
      >
        {views.map(([key, text]) => (
          <Tabs.Trigger key={key} value={key} className="view-tab">
            {text}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      <Tabs.Content value={view} className="flex min-h-0 flex-1 flex-col outline-none" data-view={view}>
        {children(view)}
      </Tabs.Content>
    </Tabs.Root>
  );
}
