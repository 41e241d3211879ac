import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { components, operations } from "../contract/schema";
import { client, unwrap } from "./client";
import { refetchAfterChange } from "./refetchAfterChange";

type Schemas = components["schemas"];
export type BatchRecord = Schemas["BatchRecord"];
export type LogLine = Schemas["LogLine"];
export type LogAsked = NonNullable<operations["log_routes_read_log"]["parameters"]["query"]>;
export type LaidBatch = Schemas["LaidBatch"];
export type Comparison = Schemas["Comparison"];
export type Difference = Schemas["Difference"];
export type MonthOut = Schemas["MonthOut"];
export type HobMonth = Schemas["HobMonth"];
export type LearnedSauce = Schemas["LearnedSauceOut"];

/** The batches that are looked for. */
export function useLog(kitchen: string, asked: LogAsked, enabled = true) {
  return useQuery({
    queryKey: ["log", kitchen, asked],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/log", { params: { path: { kitchen }, query: asked }, signal })),
    enabled,
    placeholderData: keepPreviousData,
  });
}

/** By whom batches were made here, and on what. */
export function useLogChoices(kitchen: string) {
  return useQuery({
    queryKey: ["log-choices", kitchen],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/log/choices", { params: { path: { kitchen } }, signal })),
  });
}

/** The views of the log that this person kept under a name. */
export function useViews(kitchen: string) {
  const cache = useQueryClient();
  const queryKey = ["log-views", kitchen];
  const all = useQuery({
    queryKey,
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/log/views", { params: { path: { kitchen } }, signal })),
  });
  const onSuccess = (data: Schemas["ViewOut"][]) => cache.setQueryData(queryKey, data);
  const keep = useMutation({
    mutationFn: (body: Schemas["NewView"]) =>
      unwrap(client.POST("/api/k/{kitchen}/log/views", { params: { path: { kitchen } }, body })),
    onSuccess,
  });
  const forget = useMutation({
    mutationFn: (view_id: number) =>
      unwrap(
        client.DELETE("/api/k/{kitchen}/log/views/{view_id}", { params: { path: { kitchen, view_id } } }),
      ),
    onSuccess,
  });
  return { all, keep, forget };
}

/** Batches to be laid over one another. */
export function useOverlay(kitchen: string, ids: readonly number[]) {
  return useQuery({
    queryKey: ["overlay", kitchen, ids],
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/log/overlay", {
          params: { path: { kitchen }, query: { batches: ids.join(",") } },
          signal,
        }),
      ),
    enabled: ids.length > 0,
    placeholderData: keepPreviousData,
  });
}

/** Why one batch came out other than another. */
export function useWhyOther(kitchen: string, a: number, b: number) {
  return useQuery({
    queryKey: ["why-other", kitchen, a, b],
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/log/compare", {
          params: { path: { kitchen }, query: { a, b } },
          signal,
        }),
      ),
    enabled: a !== b,
  });
}

/** The last twelve months at a glance. */
export function useMonths(kitchen: string) {
  return useQuery({
    queryKey: ["months", kitchen],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/log/months", { params: { path: { kitchen } }, signal })),
  });
}

/** What came of each version of a formula. */
export function useOutcomes(kitchen: string, formula_id: number | null) {
  return useQuery({
    queryKey: ["outcomes", kitchen, formula_id],
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/formulas/{formula_id}/outcomes", {
          params: { path: { kitchen, formula_id: formula_id ?? 0 } },
          signal,
        }),
      ),
    enabled: formula_id !== null,
  });
}

/** The next version of a formula, from what its batches taught; null where they taught too little. */
export function useProposed(kitchen: string, formula_id: number) {
  return useQuery({
    queryKey: ["proposed-version", kitchen, formula_id],
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/formulas/{formula_id}/proposed", {
          params: { path: { kitchen, formula_id } },
          signal,
        }),
      ),
  });
}

/** What this kitchen's batches taught it of its sauces. */
export function useLearned(kitchen: string) {
  return useQuery({
    queryKey: ["learned", kitchen],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/learned", { params: { path: { kitchen } }, signal })),
  });
}

/** Go by what was learned of a sauce, or by what is computed; everything computed changes with it. */
export function useLearnedUse(kitchen: string) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["LearnedUse"]) =>
      unwrap(client.PUT("/api/k/{kitchen}/learned", { params: { path: { kitchen } }, body })),
    onSuccess: () => refetchAfterChange(cache),
  });
}

/** Say that nothing is to be learned of a closed batch, or that it is to be learned from after all. */
export function useOdd(kitchen: string, batch_id: number) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["OddOrNot"]) =>
      unwrap(
        client.POST("/api/k/{kitchen}/batches/{batch_id}/odd", {
          params: { path: { kitchen, batch_id } },
          body,
        }),
      ),
    onSuccess: () => refetchAfterChange(cache),
  });
}

/** The record of one batch, as an inspector gets it. */
export function useBatchRecord(kitchen: string, batch_id: number) {
  return useQuery({
    queryKey: ["record", kitchen, batch_id],
    queryFn: async ({ signal }) => {
      const record = await unwrap(
        client.GET("/api/k/{kitchen}/batches/{batch_id}/record", {
          params: { path: { kitchen, batch_id } },
          signal,
        }),
      );
      const [batch] = record.batches;
      if (!batch) throw new Error("This batch has no record.");
      return batch;
    },
  });
}
