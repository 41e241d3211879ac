import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useSyncExternalStore } from "react";
import { client, type Schemas, told } from "./client";

export type Live = Schemas["LiveOut"];
export type PanLive = Schemas["PanLive"];
export type OvenLive = Schemas["OvenLive"];
export type Alarm = Schemas["AlarmOut"];
export type Pours = Schemas["PoursOut"];
export type Remedy = Schemas["RemedyOut"];
export type Urgent = Schemas["Urgent"];

const LEAST_MS = 500;
/** How often a screen asks by itself: while the stream is open only for what passes with time. */
const LIVE_MS = 2000;
const URGENT_MS = 4000;

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
  readings?: number;
  stove?: number;
  resync?: number;
}

/** Listens to a kitchen and fetches anew what has changed; readings at most twice a second. */
export function useKitchenEvents(kitchen: string | undefined): void {
  const cache = useQueryClient();
  useEffect(() => {
    if (!kitchen) return;
    const source = new EventSource(`/api/k/${kitchen}/events`);
    let timer: ReturnType<typeof setTimeout> | undefined;
    const anew = (...queryKey: unknown[]) => void cache.invalidateQueries({ queryKey });
    const readings = () => {
      timer ??= setTimeout(() => {
        timer = undefined;
        anew("live", kitchen);
      }, LEAST_MS);
    };
    source.addEventListener("changed", (event: MessageEvent<string>) => {
      const heard = JSON.parse(event.data) as Heard;
      if (heard.readings !== undefined) return readings();
      if (heard.resync !== undefined) for (const place of ["batch", "live"]) anew(place, kitchen);
      if (heard.batch !== undefined) {
        anew("batch", kitchen, heard.batch);
        anew("live", kitchen, heard.batch);
      }
      anew("stove", kitchen);
      anew("urgent", kitchen);
    });
    source.onopen = () => setOpen(true);
    source.onerror = () => setOpen(false);
    return () => {
      clearTimeout(timer);
      source.close();
      setOpen(false);
    };
  }, [kitchen, cache]);
}

export function useLive(kitchen: string, batch_id: number, enabled: boolean, every = true) {
  return useQuery({
    queryKey: ["live", kitchen, batch_id],
    queryFn: ({ signal }) =>
      told(
        client.GET("/api/k/{kitchen}/batches/{batch_id}/live", {
          params: { path: { kitchen, batch_id } },
          signal,
        }),
      ),
    refetchInterval: every ? LIVE_MS : false,
    retry: false,
    enabled,
  });
}

export function usePours(kitchen: string, batch_id: number, ladle_g: number) {
  return useQuery({
    queryKey: ["pours", kitchen, batch_id, ladle_g],
    queryFn: ({ signal }) =>
      told(
        client.GET("/api/k/{kitchen}/batches/{batch_id}/pours", {
          params: { path: { kitchen, batch_id }, query: { ladle_g } },
          signal,
        }),
      ),
    placeholderData: (before) => before,
  });
}

export function useRemedies(kitchen: string, batch_id: number, enabled: boolean) {
  return useQuery({
    queryKey: ["remedies", kitchen, batch_id],
    queryFn: ({ signal }) =>
      told(
        client.GET("/api/k/{kitchen}/batches/{batch_id}/remedies", {
          params: { path: { kitchen, batch_id } },
          signal,
        }),
      ),
    staleTime: Number.POSITIVE_INFINITY,
    enabled,
  });
}

export function useUrgent(kitchen: string) {
  return useQuery({
    queryKey: ["urgent", kitchen],
    queryFn: ({ signal }) =>
      told(client.GET("/api/k/{kitchen}/urgent", { params: { path: { kitchen } }, signal })),
    refetchInterval: URGENT_MS,
    retry: false,
  });
}

export function useSetUp(kitchen: string, batch_id: number) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["SetUp"]) =>
      told(
        client.PUT("/api/k/{kitchen}/batches/{batch_id}/setup", {
          params: { path: { kitchen, batch_id } },
          body,
        }),
      ),
    onSuccess: (batch) => {
      cache.setQueryData(["batch", kitchen, batch_id], batch);
      return cache.invalidateQueries({ queryKey: ["live", kitchen, batch_id] });
    },
  });
}
