import { useState } from "react";

/** Folded headings of a bench, one open at a time. */
export function useFolds<Name extends string>(first: Name | null = null) {
  const [open, setOpen] = useState<Name | null>(first);
  return (name: Name) => ({
    open: open === name,
    onOpen: (on: boolean) => setOpen(on ? name : null),
  });
}
