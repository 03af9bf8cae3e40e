/** Keeps the logbook of a boat on the server: what is noted is held in this browser until it is there. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useCallback, useMemo, useRef, useState } from "react";
import { client, dataOf, type LogOuting, type LogReading } from "../api/client";
import { goesOn, LogbookContext, type LogbookHandle, newOuting } from "../kit/logbook";
import { newId } from "../kit/records";
import { useSendQueue } from "./sendQueue";

type Change =
  | { readings: LogReading[] }
  | { outing: LogOuting }
  | { withdraw: string } // an outing
  | { drop: string }; // a reading

export function LogbookProvider({ boatId, children }: { boatId: string; children: ReactNode }) {
  const queries = useQueryClient();
  const [outing, open] = useState("");
  const path = useMemo(() => ({ params: { path: { boat_id: boatId } } }), [boatId]);
  const asked = useMemo(
    () => ({
      queryKey: ["logbook", boatId],
      queryFn: () => dataOf(client.GET("/api/boats/{boat_id}/logbook", path)),
      staleTime: Number.POSITIVE_INFINITY,
    }),
    [boatId, path],
  );
  const stored = useQuery(asked);
  const send = useCallback(
    (one: Change) => {
      const keyed = (key: string) => ({ params: { path: { boat_id: boatId, key } } });
      if ("readings" in one)
        return dataOf(
          client.PUT("/api/boats/{boat_id}/logbook/readings", { ...path, body: { readings: one.readings } }),
        );
      if ("outing" in one)
        return dataOf(
          client.PUT("/api/boats/{boat_id}/logbook/outings", { ...path, body: { outing: one.outing } }),
        );
      if ("withdraw" in one)
        return dataOf(client.DELETE("/api/boats/{boat_id}/logbook/outings/{key}", keyed(one.withdraw)));
      return dataOf(client.DELETE("/api/boats/{boat_id}/logbook/readings/{key}", keyed(one.drop)));
    },
    [boatId, path],
  );
  const { waiting, problem, tell } = useSendQueue<Change>({
    key: `parhelion.logbook.${boatId}`,
    ready: () => queries.ensureQueryData(asked),
    send,
    sent: (_, reply) => {
      if (reply) queries.setQueryData(["logbook", boatId], reply);
    },
    matters: (one) => !("drop" in one || "withdraw" in one),
  });
  const turn = stored.data?.turn ?? 0;
  const changes = useRef<Record<string, Partial<LogOuting>>>({}); // by outing, until they are shown
  const begun = useRef<LogOuting | null>(lastBegun(waiting)); // here, and perhaps not shown yet
  const handle = useMemo<LogbookHandle>(
    () => ({
      boatId,
      turn,
      outing,
      open,
      noteReadings: (readings) => tell({ readings }),
      noteOuting: (one) => {
        begun.current = one;
        tell({ outing: one });
      },
      outingAt: (shown, at) => {
        if (shown && goesOn(shown, at)) return shown.id;
        const last = begun.current;
        if (last && last.id !== shown?.id && goesOn(last, at)) return last.id;
        const made = newOuting(newId(), at);
        begun.current = made;
        tell({ outing: made });
        return made.id;
      },
      changeOuting: (one, change) => {
        const held = { ...notShown(one, changes.current[one.id]), ...change };
        changes.current[one.id] = held;
        if (begun.current?.id === one.id) begun.current = { ...begun.current, ...held };
        tell({ outing: { ...one, ...held } });
      },
      asChanged: (one) => ({ ...one, ...notShown(one, changes.current[one.id]) }),
      withdrawOuting: (id) => {
        if (begun.current?.id === id) begun.current = null;
        tell({ withdraw: id });
      },
      dropReading: (id) => tell({ drop: id }),
      reload: () => void queries.invalidateQueries({ queryKey: ["logbook", boatId] }),
      waiting: waiting.length,
      problem,
    }),
    [boatId, turn, outing, tell, queries, waiting.length, problem],
  );
  return <LogbookContext.Provider value={handle}>{children}</LogbookContext.Provider>;
}

/** The outing that was noted last and that the server has not got yet. */
function lastBegun(waiting: Change[]): LogOuting | null {
  const told = waiting.flatMap((one) => ("outing" in one ? [one.outing] : []));
  return told.at(-1) ?? null;
}

/** Of the changes of an outing, those that it does not show. */
function notShown(outing: LogOuting, changes: Partial<LogOuting> = {}): Partial<LogOuting> {
  const same = (name: string) =>
    JSON.stringify(outing[name as keyof LogOuting]) === JSON.stringify(changes[name as keyof LogOuting]);
  return Object.fromEntries(Object.entries(changes).filter(([name]) => !same(name)));
}
