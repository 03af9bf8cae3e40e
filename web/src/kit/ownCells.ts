/** The cells that a station puts into the rail while it is open, beside the sun-only speed and what holds her back. */
import { createContext, useContext, useEffect } from "react";
import type { RailCell, Sentence } from "../api/client";

/** The cells, and what they assume. */
export interface Own {
  cells: RailCell[];
  assumes: Sentence;
}

export const OwnCells = createContext<(own: Own | null) => void>(() => undefined);

export function useOwnCells(own: Own | null | undefined) {
  const put = useContext(OwnCells);
  useEffect(() => put(own ?? null), [put, own]);
  useEffect(() => () => put(null), [put]);
}
