/** What was done and measured on the real boat, wherever it is kept. */
import { createContext, useContext } from "react";
import type { OneRecord, RecordOf, Records } from "../api/client";

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

/** The last record of a kind that fits, as it stands in this window. */
export function useNoted<K extends OneRecord["kind"]>(
  kind: K,
  fits: (record: RecordOf<K>) => boolean,
): RecordOf<K> | undefined {
  const { records } = useRecords();
  return records.records?.findLast(
    (record): record is RecordOf<K> => record.kind === kind && fits(record as RecordOf<K>),
  );
}
