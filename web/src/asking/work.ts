/** Long work on the server: asked for, followed, left, and found again after a reload. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { type BoatDesign, client, dataOf, type WorkKind, type WorkOf } from "../api/client";

const REST_MS = 350; // before it is asked for: nothing waits on it
const LOOK_MS = 220;
const GOING = ["waiting", "running"];

export interface Named {
  name: string;
  design: BoatDesign;
}

const at = (id: string) => ({ params: { path: { work_id: id } } });
const rest = (ms: number) => new Promise((done) => setTimeout(done, ms));

function usePaused<T>(value: T, ms: number): T {
  const [held, setHeld] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setHeld(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return held;
}

/** The result of long work once it is done; meanwhile how far it is. Equal questions share one piece of work. */
export function useWork<K extends WorkKind>(kind: K, designs: Named[], enabled = true) {
  const asked = JSON.stringify(designs);
  const paused = usePaused(asked, REST_MS);
  const [progress, setProgress] = useState(0);
  const going = useRef<(() => void) | null>(null);
  const found = useQuery({
    queryKey: ["work", kind, paused],
    queryFn: async ({ signal }): Promise<NonNullable<WorkOf<K>["result"]>> => {
      setProgress(0);
      const body = { kind, designs: JSON.parse(paused) as Named[] };
      let work = await dataOf(client.POST("/api/work", { body }));
      const { id, ticket } = work;
      const leave = () => {
        if (ticket) void client.POST("/api/work/{work_id}/leave", { ...at(id), body: { ticket } });
      };
      going.current = leave;
      while (GOING.includes(work.status)) {
        setProgress(work.progress);
        await rest(LOOK_MS);
        if (signal.aborted) {
          leave();
          throw new Error("Another question took its place.");
        }
        work = await dataOf(client.GET("/api/work/{work_id}", at(id)));
      }
      going.current = null;
      if (work.status === "cancelled") throw new Error("It was stopped.");
      if (work.status !== "done" || work.result == null)
        throw new Error(work.problem || "The program was started anew meanwhile.");
      return work.result as NonNullable<WorkOf<K>["result"]>;
    },
    enabled: enabled && asked === paused, // not what was there before it could be asked
    placeholderData: keepPreviousData,
    gcTime: 60_000,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  return {
    data: found.data,
    busy: found.isFetching,
    stale: asked !== paused || found.isPlaceholderData || found.isFetching,
    progress,
    error: found.isFetching ? null : found.error,
    retry: () => void found.refetch(),
    stop: () => going.current?.(),
  };
}
