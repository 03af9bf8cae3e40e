/** Long work on the server: asked for, followed, ended, and found again after a reload. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { type BoatDesign, client, dataOf, type RunKind, type RunOut } from "../api/client";
import { REST_MS, usePaused } from "./live";

const LOOK_MS = 220;
const GOING = ["waiting", "running"];

export interface Named {
  name: string;
  design: BoatDesign;
}

const at = (id: string) => ({ params: { path: { run_id: id } } });
const rest = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** The answer of a run once it is done; meanwhile how far it is. Equal questions share one run. */
export function useRun(kind: RunKind, designs: Named[], enabled = true) {
  const paused = usePaused(JSON.stringify(designs), REST_MS);
  const [progress, setProgress] = useState(0);
  const going = useRef<string | null>(null);
  const stop = (id: string) => void client.POST("/api/runs/{run_id}/cancel", at(id));
  const found = useQuery({
    queryKey: ["run", kind, paused],
    queryFn: async ({ signal }): Promise<RunOut> => {
      setProgress(0);
      const body = { kind, designs: JSON.parse(paused) as Named[] };
      let run = await dataOf(client.POST("/api/runs", { body }));
      going.current = run.id;
      while (GOING.includes(run.status)) {
        setProgress(run.progress);
        await rest(LOOK_MS);
        if (signal.aborted) {
          stop(run.id);
          throw new Error("Another question took its place.");
        }
        run = await dataOf(client.GET("/api/runs/{run_id}", at(run.id)));
      }
      going.current = null;
      if (run.status === "cancelled") throw new Error("It was stopped.");
      if (run.status !== "done") throw new Error(run.problem || "The program was started anew meanwhile.");
      return run;
    },
    enabled,
    placeholderData: keepPreviousData,
    gcTime: 60_000,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  return {
    data: found.data,
    busy: found.isFetching,
    stale: found.isPlaceholderData || found.isFetching,
    progress,
    error: found.isFetching ? null : found.error,
    retry: () => void found.refetch(),
    stop: () => {
      if (going.current) stop(going.current);
    },
  };
}
