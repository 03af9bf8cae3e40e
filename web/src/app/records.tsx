/** Keeps the records of a boat: shown at once, held in this browser until the server has them. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useMemo } from "react";
import { client, dataOf, type OneRecord, type Records } from "../api/client";
import { Currency } from "../kit/preferences";
import { RecordsContext, type RecordsHandle } from "../kit/records";
import { useSendQueue } from "./sendQueue";

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
  const { waiting, problem, tell } = useSendQueue<Waiting>({
    key: `parhelion.records.${boatId}`,
    ready: () => queries.ensureQueryData(asked), // a later reply to that would hide what is sent
    send: (one) =>
      "put" in one
        ? dataOf(client.PUT("/api/boats/{boat_id}/records", { ...path, body: one.put }))
        : dataOf(
            client.DELETE("/api/boats/{boat_id}/records/{key}", {
              params: { path: { boat_id: boatId, key: one.drop } },
            }),
          ),
    sent: (one) =>
      queries.setQueryData<Records>(["records", boatId], (old) => withWaiting(old ?? none, [one])),
    matters: (one) => !("drop" in one), // what is gone is gone
  });
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
