/** Live computation: the design is posted whole on a short pause; the old answer stays until the new one is in. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { type BoatDesign, client, dataOf, type SizingAsk } from "../api/client";
import type { SpeedUnit } from "../shared/units";

const PAUSE_MS = 70;
const SECOND_MS = 330; // for the rail, where the picture is heavy too
export const REST_MS = 350; // before what takes longer than a glance is asked for: nothing waits on it
const FINE_DEG = 3; // between the entries of a sky table that is no draft's

const PAGE = crypto.randomUUID().slice(0, 8);
let asked = 0;

interface Asking {
  signal: AbortSignal;
  headers: Record<string, string>;
}

/** The server computes only the newest question of a kind that waits; what can rest goes one at a time. */
function turn(name: string, signal: AbortSignal, pause: number): Asking {
  asked += 1;
  return { signal, headers: { "X-Turn": `${PAGE} ${name} ${asked} ${pause < REST_MS ? "now" : "rest"}` } };
}

export function usePaused<T>(value: T, ms: number): T {
  const [held, setHeld] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setHeld(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return held;
}

function useComputed<T>(
  name: string,
  design: BoatDesign,
  extra: unknown,
  compute: (d: BoatDesign, asking: Asking) => Promise<T>,
  pause = PAUSE_MS,
  enabled = true,
) {
  const paused = usePaused(design, pause);
  const found = useQuery({
    queryKey: [name, paused, extra],
    queryFn: ({ signal }) => compute(paused, turn(name, signal, pause)),
    enabled,
    placeholderData: keepPreviousData,
    gcTime: 60_000,
    staleTime: Number.POSITIVE_INFINITY,
    retry: 2,
  });
  const stale = found.isPlaceholderData || paused !== design;
  return { data: found.data, stale, error: found.error, retry: () => void found.refetch() };
}

/** The rail. Beside the deck it lets the deck go first: both want the same processor, and the eye is on the deck. */
export function useAnswers(
  design: BoatDesign,
  comparedWith: BoatDesign | null,
  at: string | null,
  second: boolean,
) {
  return useComputed(
    "answers",
    design,
    [comparedWith, at],
    async (design, asking) => {
      const body = { design, compared_with: comparedWith, at };
      return (await dataOf(client.POST("/api/answers", { body, ...asking }))).answers;
    },
    second ? SECOND_MS : PAUSE_MS,
  );
}

export function useHullPicture(design: BoatDesign) {
  return useComputed("hull", design, null, async (design, asking) => {
    return (await dataOf(client.POST("/api/hull/picture", { body: { design }, ...asking }))).picture;
  });
}

export function useRangePicture(design: BoatDesign) {
  return useComputed("range", design, null, async (design, asking) => {
    return (await dataOf(client.POST("/api/hull/range", { body: { design }, ...asking }))).picture;
  });
}

export function useMatchPicture(design: BoatDesign) {
  return useComputed("match", design, null, async (design, asking) => {
    return (await dataOf(client.POST("/api/hull/match", { body: { design }, ...asking }))).picture;
  });
}

export function useHelmCard(design: BoatDesign, unit: SpeedUnit) {
  return useComputed("helm", design, unit, async (design, asking) => {
    const body = { design, unit };
    return (await dataOf(client.POST("/api/hull/helm-card", { body, ...asking }))).card;
  });
}

export function useBankPicture(design: BoatDesign, ask: SizingAsk) {
  return useComputed("bank", design, ask, async (design, asking) => {
    return (await dataOf(client.POST("/api/bank/picture", { body: { design, ask }, ...asking }))).picture;
  });
}

/** The deck in the sun, the sky seen from one panel of a group: a draft at once, and the whole after a rest where
 * the draft was coarser. */
export function useArrayPicture(design: BoatDesign, groupId: string | null, number: number) {
  const ask = (draft: boolean) => async (design: BoatDesign, asking: Asking) => {
    const body = { design, group_id: groupId, number, draft };
    return (await dataOf(client.POST("/api/array/picture", { body, ...asking }))).picture;
  };
  const drafted = useComputed("array-draft", design, [groupId, number], ask(true));
  const coarse = (drafted.data?.step_deg ?? 0) > FINE_DEG;
  const whole = useComputed("array", design, [groupId, number], ask(false), REST_MS, coarse);
  return coarse && whole.data && !whole.stale ? { ...drafted, data: whole.data } : drafted;
}

/** What the array tells; it takes longer than its picture. */
export function useArrayAdvice(design: BoatDesign) {
  return useComputed(
    "array-advice",
    design,
    null,
    async (design, asking) => {
      return (await dataOf(client.POST("/api/array/advice", { body: { design }, ...asking }))).advice;
    },
    REST_MS,
  );
}

export function useTiltAdvice(design: BoatDesign) {
  return useComputed(
    "tilt",
    design,
    null,
    async (design, asking) => {
      return (await dataOf(client.POST("/api/array/tilt", { body: { design }, ...asking }))).advice;
    },
    REST_MS,
  );
}

/** What the array costs the boat; null without panels. */
export function useBurden(design: BoatDesign) {
  return useComputed(
    "burden",
    design,
    null,
    async (design, asking) => {
      const found = await dataOf(client.POST("/api/array/burden", { body: { design }, ...asking }));
      return found.burden ?? null;
    },
    REST_MS,
  );
}

export function useThroughYear(design: BoatDesign) {
  return useComputed(
    "year",
    design,
    null,
    async (design, asking) => {
      return (await dataOf(client.POST("/api/array/year", { body: { design }, ...asking }))).year;
    },
    REST_MS,
  );
}

export function useNextPanels(design: BoatDesign) {
  return useComputed(
    "next",
    design,
    null,
    async (design, asking) => {
      return (await dataOf(client.POST("/api/array/next", { body: { design }, ...asking }))).panels;
    },
    REST_MS,
  );
}

/** A legal wiring at once, while the proposals are weighed. */
export function useFirstWiring(design: BoatDesign, asked: boolean) {
  return useQuery({
    queryKey: ["first-wiring", design],
    queryFn: async ({ signal }) => {
      const asking = turn("first-wiring", signal, PAUSE_MS);
      return (await dataOf(client.POST("/api/strings/first", { body: { design }, ...asking }))).choices;
    },
    enabled: asked,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
  });
}

/** What every controller passes and clips in a year. */
export function useBoxesYear(design: BoatDesign) {
  return useComputed(
    "boxes-year",
    design,
    null,
    async (design, asking) => {
      return (await dataOf(client.POST("/api/strings/year", { body: { design }, ...asking }))).year;
    },
    REST_MS,
  );
}

export function useStringsPicture(design: BoatDesign) {
  return useComputed("strings", design, null, async (design, asking) => {
    return (await dataOf(client.POST("/api/strings/picture", { body: { design }, ...asking }))).picture;
  });
}

/** How many open warnings each station has, for the course line. */
export function useWarnings(design: BoatDesign) {
  return useComputed(
    "warnings",
    design,
    null,
    async (design, asking) => {
      return (await dataOf(client.POST("/api/warnings", { body: { design }, ...asking }))).warnings;
    },
    REST_MS,
  );
}

/** Ways to spend the day's energy side by side, and what every step is worth. */
export function usePace(design: BoatDesign) {
  return useComputed(
    "pace",
    design,
    null,
    (design, asking) => dataOf(client.POST("/api/day/pace", { body: { design }, ...asking })),
    REST_MS,
  );
}

/** The plan's trip day by day; null without a bank. */
export function useDaysAhead(design: BoatDesign) {
  return useComputed(
    "ahead",
    design,
    null,
    async (design, asking) => {
      const found = await dataOf(client.POST("/api/day/ahead", { body: { design }, ...asking }));
      return found.ahead ?? null;
    },
    REST_MS,
  );
}

export function useDayPicture(design: BoatDesign) {
  return useComputed("day", design, null, async (design, asking) => {
    return (await dataOf(client.POST("/api/day/picture", { body: { design }, ...asking }))).picture;
  });
}
