/** What was done and measured on the real boat, wherever it is kept. */
import { createContext, useContext } from "react";
import type { OneRecord, Records } from "../api/client";

export interface RecordsHandle {
  records: Records;
  note: (record: OneRecord) => void;
  withdraw: (id: string) => void;
  reload: () => void;
  waiting: number; // not yet acknowledged by the server
  problem: string | null; // why the server refused the last one
}

export const RecordsContext = createContext<RecordsHandle | null>(null);

export function useRecords(): RecordsHandle {
  const handle = useContext(RecordsContext);
  if (!handle) throw new Error("useRecords outside its provider");
  return handle;
}

export const newId = () => crypto.randomUUID();
