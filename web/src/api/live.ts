import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useSyncExternalStore } from "react";
import { client, type Schemas, unwrap } from "./client";
import { refetchAfterChange } from "./refetchAfterChange";

export type Live = Schemas["LiveOut"];
export type PanLive = Schemas["Live"];
export type OvenLive = Schemas["LiveOven"];
export type Alarm = Schemas["AlarmOut"];
export type Pours = Schemas["PoursOut"];
export type Urgent = Schemas["Urgent"];
export type CoolingPlan = Schemas["Cooling"];
export type CoolingUsual = Schemas["CoolingUsual"];
export type CoolingWanted = Schemas["CoolingWanted"];

/** How often a screen asks by itself when it does not hear of changes as they happen. */
const DEAF_MS = 2000;
const URGENT_AT_MOST = 6;

let open = false;
const listeners = new Set<() => void>();

function setOpen(now: boolean): void {
  open = now;
  for (const listener of listeners) listener();
}

/** Whether this screen hears of changes as they happen. */
export function useHearing(): boolean {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => open,
  );
}

interface Heard {
  batch?: number;
  stove?: number;
  shelf?: number;
  day?: number;
  resync?: number;
}

type State = { urgent: Urgent } | { batch: number; age_s: number; live: Live };

/** The most urgent first, then those whose seconds run out first. */
export function byUrgency(one: Urgent, other: Urgent): number {
  const left = (row: Urgent) => row.seconds ?? Number.POSITIVE_INFINITY;
  return other.urgency - one.urgency || left(one) - left(other) || one.id - other.id;
}

/** The strip with a batch as it stands now in its place. */
export function withUrgent(rows: readonly Urgent[], now: Urgent): Urgent[] {
  return [...rows.filter((row) => row.id !== now.id), now].sort(byUrgency).slice(0, URGENT_AT_MOST);
}

/**
 * Listens to a kitchen, and to one batch of it in full: what was marked is fetched again, where a batch stands is
 * received.
 */
export function useKitchenEvents(kitchen: string | undefined, batch?: number): void {
  const cache = useQueryClient();
  useEffect(() => {
    if (!kitchen) return;
    const source = new EventSource(`/api/k/${kitchen}/events${batch ? `?batch=${batch}` : ""}`);
    const again = (...queryKey: unknown[]) => void refetchAfterChange(cache, queryKey);
    source.addEventListener("changed", (event: MessageEvent<string>) => {
      const heard = JSON.parse(event.data) as Heard;
      if (heard.resync !== undefined) for (const place of ["batch", "live"]) again(place, kitchen);
      if (heard.batch !== undefined) again("batch", kitchen, heard.batch);
      if (heard.day !== undefined || heard.batch !== undefined || heard.resync !== undefined)
        again("day", kitchen);
      again("shelf", kitchen);
      // Where things went changes with tubs, not with every mark.
      if (heard.shelf !== undefined || heard.resync !== undefined) again("trace", kitchen);
      again("stove", kitchen);
      again("urgent", kitchen);
    });
    source.addEventListener("state", (event: MessageEvent<string>) => {
      const state = JSON.parse(event.data) as State;
      if ("live" in state)
        cache.setQueryData(["live", kitchen, state.batch], { ...state.live, age_s: state.age_s });
      else
        cache.setQueryData<Urgent[]>(["urgent", kitchen], (rows) => rows && withUrgent(rows, state.urgent));
    });
    source.onopen = () => setOpen(true);
    source.onerror = () => setOpen(false);
    return () => {
      source.close();
      setOpen(false);
    };
  }, [kitchen, batch, cache]);
}

/** How often a page asks that does not listen to its batch in full. */
export const NOW_AND_THEN_MS = 3000;

/** Where a batch stands, as a worker last computed it; asked again every `often_ms` where nobody listens to it. */
export function useLive(
  kitchen: string,
  batch_id: number,
  enabled: boolean,
  every = true,
  often_ms: number | null = null,
) {
  const hearing = useHearing();
  return useQuery({
    queryKey: ["live", kitchen, batch_id],
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/batches/{batch_id}/live", {
          params: { path: { kitchen, batch_id } },
          signal,
        }),
      ),
    refetchInterval: every && !hearing ? DEAF_MS : (often_ms ?? false),
    retry: false,
    enabled,
  });
}

export function usePours(kitchen: string, batch_id: number, ladle_g: number) {
  return useQuery({
    queryKey: ["pours", kitchen, batch_id, ladle_g],
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/batches/{batch_id}/pours", {
          params: { path: { kitchen, batch_id }, query: { ladle_g } },
          signal,
        }),
      ),
    placeholderData: (before) => before,
  });
}

/** What a batch is baked in and how long that takes; asked again when its cups change. */
export function useOven(kitchen: string, batch_id: number, cups: Schemas["BatchOut"]["cups"]) {
  return useQuery({
    queryKey: ["oven", kitchen, batch_id, cups],
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/batches/{batch_id}/oven", {
          params: { path: { kitchen, batch_id } },
          signal,
        }),
      ),
    placeholderData: (before) => before,
    enabled: cups !== null,
  });
}

/** How this kitchen would cool a batch, judged. */
/** How this kitchen would cool a batch; asked again as soon as it was `read` once more. */
export function useUsualCooling(kitchen: string, batch_id: number, read: number, enabled: boolean) {
  return useQuery({
    queryKey: ["usual-cooling", kitchen, batch_id, read],
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/batches/{batch_id}/cooling", {
          params: { path: { kitchen, batch_id } },
          signal,
        }),
      ),
    enabled,
  });
}

/** What would become of a batch cooled so; writes nothing. */
export function usePlanCooling(kitchen: string, batch_id: number) {
  return useMutation({
    mutationFn: (body: CoolingWanted) =>
      unwrap(
        client.POST("/api/k/{kitchen}/batches/{batch_id}/cooling", {
          params: { path: { kitchen, batch_id } },
          body,
        }),
      ),
  });
}

/** The same, asked as often as words of it change or it was `read` once more; the one before stays meanwhile. */
export function useCoolingPlan(
  kitchen: string,
  batch_id: number,
  read: number,
  wanted: CoolingWanted | undefined,
  usual: CoolingUsual | undefined,
) {
  return useQuery({
    queryKey: ["cooling-plan", kitchen, batch_id, read, wanted],
    queryFn: ({ signal }) =>
      unwrap(
        client.POST("/api/k/{kitchen}/batches/{batch_id}/cooling", {
          params: { path: { kitchen, batch_id } },
          body: wanted as CoolingWanted,
          signal,
        }),
      ),
    enabled: wanted !== undefined,
    initialData: usual && usual.wanted === wanted ? usual.plan : undefined,
    staleTime: NOW_AND_THEN_MS,
    placeholderData: keepPreviousData,
  });
}

export function useChooseCooling(kitchen: string, batch_id: number) {
  const cache = useQueryClient();
  return useMutation({
    // Words touched quickly one after the other arrive in that order.
    scope: { id: `cooling ${kitchen} ${batch_id}` },
    mutationFn: (body: CoolingWanted) =>
      unwrap(
        client.PUT("/api/k/{kitchen}/batches/{batch_id}/cooling", {
          params: { path: { kitchen, batch_id } },
          body,
        }),
      ),
    onSuccess: (batch) => {
      cache.setQueryData(["batch", kitchen, batch_id], batch);
      return refetchAfterChange(cache, ["live", kitchen, batch_id]);
    },
  });
}

export function useUrgent(kitchen: string) {
  const hearing = useHearing();
  return useQuery({
    queryKey: ["urgent", kitchen],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/urgent", { params: { path: { kitchen } }, signal })),
    refetchInterval: hearing ? false : DEAF_MS,
    retry: false,
  });
}

export function useSetUp(kitchen: string, batch_id: number) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["EquipmentWanted"]) =>
      unwrap(
        client.PUT("/api/k/{kitchen}/batches/{batch_id}/setup", {
          params: { path: { kitchen, batch_id } },
          body,
        }),
      ),
    onSuccess: (batch) => {
      cache.setQueryData(["batch", kitchen, batch_id], batch);
      return refetchAfterChange(cache, ["live", kitchen, batch_id]);
    },
  });
}
