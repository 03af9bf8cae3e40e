import { useQuery } from "@tanstack/react-query";
import { client, dataOf } from "../api/client";

/** The hull types with their usual numbers. */
export function useHullTypes() {
  return useQuery({
    queryKey: ["hull-types"],
    queryFn: () => dataOf(client.GET("/api/design/hull-types")),
    staleTime: Number.POSITIVE_INFINITY,
  });
}
