/** Keeps the records of a boat: shown at once, held in this browser until the server has them. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { client, dataOf, type OneRecord, type Records, Refused } from "../api/client";
import { Currency } from "../kit/preferences";
import { RecordsContext, type RecordsHandle } from "../kit/records";

const FIRST_PAUSE_MS = 800;
const LONGEST_PAUSE_MS = 20_000;

/** Something to tell the server: a record, or the id of one that is taken back. */
export type Waiting = { put: OneRecord } | { drop: string };

/** Records with what is still on its way laid over them. */
export function withWaiting(records: Records, waiting: Waiting[]): Records {
  if (waiting.length === 0) return records;
  let list = records.records ?? [];
  for (const one of waiting) {
    const id = "put" in one ? one.put.id : one.drop;
    const at = list.findIndex((record) => record.id === id);
    if ("drop" in one) list = list.filter((record) => record.id !== id);
    else if (at >= 0) list = list.map((record, i) => (i === at ? one.put : record));
    else list = [...list, one.put];
  }
  return { ...records, records: list };
}

const key = (boat: string) => `parhelion.records.${boat}`;

function heldBack(boat: string): Waiting[] {
  try {
    return JSON.parse(localStorage.getItem(key(boat)) ?? "[]") as Waiting[];
  } catch {
    return [];
  }
}

const none: Records = { schema_name: "parhelion.records", schema_version: 1, records: [] };

export function RecordsProvider({ boatId, children }: { boatId: string; children: ReactNode }) {
  const queries = useQueryClient();
  const path = useMemo(() => ({ params: { path: { boat_id: boatId } } }), [boatId]);
  const asked = useMemo(
    () => ({
      queryKey: ["records", boatId],
      queryFn: () => dataOf(client.GET("/api/boats/{boat_id}/records", path)) as Promise<Records>,
      staleTime: Number.POSITIVE_INFINITY,
    }),
    [boatId, path],
  );
  const stored = useQuery(asked);
  const [waiting, setWaiting] = useState<Waiting[]>(() => heldBack(boatId));
  const [problem, setProblem] = useState<string | null>(null);
  const queue = useRef(waiting);
  const going = useRef(false);
  const pause = useRef(FIRST_PAUSE_MS);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);

  const hold = useCallback(
    (next: Waiting[]) => {
      queue.current = next;
      if (next.length > 0) localStorage.setItem(key(boatId), JSON.stringify(next));
      else localStorage.removeItem(key(boatId));
      setWaiting(next);
    },
    [boatId],
  );

  const send = useCallback(async () => {
    if (going.current) return;
    going.current = true;
    const later = () => {
      going.current = false;
      timer.current = setTimeout(() => void send(), pause.current);
      pause.current = Math.min(pause.current + pause.current, LONGEST_PAUSE_MS);
    };
    try {
      await queries.ensureQueryData(asked); // what was there before: a later reply to that would hide what is sent
    } catch {
      return later();
    }
    while (queue.current[0]) {
      const one = queue.current[0];
      try {
        if ("put" in one)
          await dataOf(client.PUT("/api/boats/{boat_id}/records", { ...path, body: one.put }));
        else
          await dataOf(
            client.DELETE("/api/boats/{boat_id}/records/{key}", {
              params: { path: { boat_id: boatId, key: one.drop } },
            }),
          );
        setProblem(null);
      } catch (error) {
        const refused = error instanceof Refused && error.status < 500;
        if (!refused) return later();
        if (!("drop" in one)) setProblem(error.message); // what is gone is gone
      }
      pause.current = FIRST_PAUSE_MS;
      queries.setQueryData<Records>(["records", boatId], (old) => withWaiting(old ?? none, [one]));
      hold(queue.current.slice(1));
    }
    going.current = false;
  }, [asked, boatId, hold, path, queries]);

  useEffect(() => {
    if (queue.current.length > 0) void send();
    return () => {
      if (timer.current) clearTimeout(timer.current);
    };
  }, [send]);

  const tell = useCallback(
    (one: Waiting) => {
      hold([...queue.current, one]);
      void send();
    },
    [hold, send],
  );

  const records = useMemo(() => withWaiting(stored.data ?? none, waiting), [stored.data, waiting]);
  const handle = useMemo<RecordsHandle>(
    () => ({
      records,
      note: (record) => tell({ put: record }),
      withdraw: (id) => tell({ drop: id }),
      reload: () => void queries.invalidateQueries({ queryKey: ["records", boatId] }),
      waiting: waiting.length,
      problem,
    }),
    [records, tell, queries, boatId, waiting.length, problem],
  );
  const money = records.records?.filter((record) => record.kind === "money").at(-1);
  return (
    <RecordsContext.Provider value={handle}>
      <Currency.Provider value={money?.currency || "coins"}>{children}</Currency.Provider>
    </RecordsContext.Provider>
  );
}
