/** What is the same for every boat: read once. */
import { useQuery } from "@tanstack/react-query";
import { client, dataOf } from "../api/client";
import { Entries } from "../kit/entries";

const LISTS = {
  places: () => dataOf(client.GET("/api/design/places")),
  "load-presets": () => dataOf(client.GET("/api/design/load-presets")),
  "controller-models": () => dataOf(client.GET("/api/strings/controller-models")),
  "panel-models": () => dataOf(client.GET("/api/array/panel-models")),
  known: async () => new Entries(await dataOf(client.GET("/api/design/known"))),
  outing: async () => new Entries(await dataOf(client.GET("/api/design/outing"))),
  entries: async () => new Entries(await dataOf(client.GET("/api/design/schema"))),
};
type Lists = { [K in keyof typeof LISTS]: Awaited<ReturnType<(typeof LISTS)[K]>> };

export const useList = <K extends keyof Lists>(name: K) =>
  useQuery<Lists[K]>({
    queryKey: [name],
    queryFn: LISTS[name] as () => Promise<Lists[K]>,
    staleTime: Number.POSITIVE_INFINITY,
  });
