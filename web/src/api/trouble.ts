import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { FamilyName } from "../contract/words";
import { client, type Schemas, unwrap } from "./client";
import { refetchAfterChange } from "./refetchAfterChange";

export type Seen = Schemas["Seen"];
export type Trouble = Schemas["TroubleOut"];
export type Question = Trouble["questions"][number];
export type Said = Record<string, number>;

/** The sauce that something is wrong with: a batch, a tub of it, a formula, or one of which only the family is known. */
export interface About {
  batch_id?: number;
  tub_id?: number;
  formula_id?: number;
  family?: FamilyName;
}

/** While a batch cooks, what its curve tells of it is asked for again so often. */
const TROUBLE_EVERY_MS = 20_000;

/** What can be seen in a sauce; in any, where none is named. */
export function useSeen(kitchen: string, about: About) {
  return useQuery({
    queryKey: ["trouble", kitchen, "seen", about],
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/troubles", {
          params: { path: { kitchen }, query: about },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
  });
}

export function useTrouble(
  kitchen: string,
  about: About | null,
  fault: string | null,
  said: Said,
  have_g: number | null,
) {
  return useQuery({
    queryKey: ["trouble", kitchen, about, fault, said, have_g],
    queryFn: ({ signal }) =>
      unwrap(
        client.POST("/api/k/{kitchen}/trouble", {
          params: { path: { kitchen } },
          body: { ...about, fault: fault ?? "", said, have_g },
          signal,
        }),
      ),
    enabled: about !== null && fault !== null,
    // One sauce's answer never stands for another's.
    placeholderData: (before) => (before?.fault === fault ? before : undefined),
    refetchInterval: TROUBLE_EVERY_MS,
  });
}

export function useTroubleActions(kitchen: string) {
  const cache = useQueryClient();
  const afresh = async () => {
    await refetchAfterChange(cache, ["batch", kitchen]);
    await refetchAfterChange(cache, ["shelf", kitchen]);
    await refetchAfterChange(cache, ["trouble", kitchen]);
  };
  const take = useMutation({
    mutationFn: (body: Schemas["Taking"]) =>
      unwrap(client.POST("/api/k/{kitchen}/trouble/take", { params: { path: { kitchen } }, body })),
    onSuccess: afresh,
  });
  const takeBack = useMutation({
    mutationFn: (path: { batch_id: number; mark_id: string }) =>
      unwrap(
        client.POST("/api/k/{kitchen}/batches/{batch_id}/remedies/{mark_id}/take-back", {
          params: { path: { kitchen, ...path } },
        }),
      ),
    onSuccess: afresh,
  });
  const nextTime = useMutation({
    mutationFn: ({ formula_id, ...body }: Schemas["NextTime"] & { formula_id: number }) =>
      unwrap(
        client.POST("/api/k/{kitchen}/formulas/{formula_id}/next-time", {
          params: { path: { kitchen, formula_id } },
          body,
        }),
      ),
    onSuccess: async () => {
      await refetchAfterChange(cache, ["formula", kitchen]);
      await refetchAfterChange(cache, ["book", kitchen]);
      await refetchAfterChange(cache, ["batch", kitchen]);
    },
  });
  const reminded = useMutation({
    mutationFn: (path: { formula_id: number; reminder_id: number }) =>
      unwrap(
        client.POST("/api/k/{kitchen}/formulas/{formula_id}/reminders/{reminder_id}/done", {
          params: { path: { kitchen, ...path } },
        }),
      ),
    onSuccess: async () => {
      await refetchAfterChange(cache, ["formula", kitchen]);
      await refetchAfterChange(cache, ["batch", kitchen]);
    },
  });
  return { take, takeBack, nextTime, reminded };
}
