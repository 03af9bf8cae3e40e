/** What was read on the water: outings and readings, wherever they are kept. */
import { createContext, useContext } from "react";
import type { LogOuting, LogReading } from "../api/client";

/** Which logbook the screen is about: whose, after which change, and the outing that is open. */
export interface LogAsked {
  boatId: string;
  turn: number;
  outing: string; // "": the newest
}

export interface LogbookHandle extends LogAsked {
  open: (outing: string) => void;
  noteReadings: (readings: LogReading[]) => void;
  noteOuting: (outing: LogOuting) => void;
  /** A change of an outing that is shown; what was changed just before it and is not shown yet stays. */
  changeOuting: (outing: LogOuting, change: Partial<LogOuting>) => void;
  /** An outing that is shown, with what was changed since. */
  asChanged: (outing: LogOuting) => LogOuting;
  withdrawOuting: (id: string) => void;
  dropReading: (id: string) => void;
  reload: () => void;
  waiting: number; // changes that the server has not got yet
  problem: string | null;
}

export const LogbookContext = createContext<LogbookHandle | null>(null);

export function useLogbook(): LogbookHandle {
  const handle = useContext(LogbookContext);
  if (!handle) throw new Error("useLogbook outside its provider");
  return handle;
}
