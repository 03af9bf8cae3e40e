/** The document that a field writes to, wherever it is kept. */
import { createContext, useContext } from "react";
import type { BoatDesign, VariantOut } from "../api/client";
import type { Drafts } from "./drafts";
import type { Entries } from "./entries";

export interface DocumentHandle {
  variant: VariantOut;
  design: BoatDesign;
  apply: (change: (design: BoatDesign) => BoatDesign, key: string) => void;
  drafts: Drafts;
  entries: Entries;
}

export const DocumentContext = createContext<DocumentHandle | null>(null);

export function useDesign(): DocumentHandle {
  const handle = useContext(DocumentContext);
  if (!handle) throw new Error("useDesign outside its provider");
  return handle;
}
