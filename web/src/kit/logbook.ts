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
  /** The outing that a reading of a moment belongs to: the one shown, the last begun here, or one begun now. */
  outingAt: (shown: LogOuting | null, at: string) => string;
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

const LONGEST_MS = 172_800_000; // two days: of an outing that nobody has ended

/** Whether an outing may still be going on at a moment. */
export function goesOn({ began_at, ended_at }: LogOuting, at: string): boolean {
  const since = Date.parse(at) - Date.parse(began_at);
  return ended_at == null
    ? since >= 0 && since < LONGEST_MS
    : Date.parse(at) <= Date.parse(ended_at) && since >= 0;
}

/** An outing that begins; the server fills in what is usual. */
export const newOuting = (id: string, began_at: string) => ({ id, name: "Outing", began_at }) as LogOuting;
