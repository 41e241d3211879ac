import {
  keepPreviousData,
  useInfiniteQuery,
  useMutation,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { refetchAfterChange } from "./refetchAfterChange";

export type Shelf = Schemas["ShelfOut"];
export type TubLine = Schemas["TubLine"];
export type CoolingLine = Schemas["CoolingLine"];
export type NewMove = Schemas["NewMove"];
export type Movement = Schemas["MovementOut"];
export type Closing = Schemas["ClosingOut"];
export type Label = Schemas["LabelOut"];
export type ShelfPlace = "fridge" | "frozen" | "whites";

/** What cools is computed by a worker about once a minute; the shelf looks a little more often. */
const SHELF_EVERY_MS = 20_000;

export function useShelf(kitchen: string, place: ShelfPlace | null, q: string, enabled = true) {
  return useInfiniteQuery({
    queryKey: ["shelf", kitchen, place, q],
    queryFn: ({ signal, pageParam }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/shelf", {
          params: {
            path: { kitchen },
            query: {
              ...(place ? { place } : {}),
              ...(q ? { q } : {}),
              ...(pageParam ? { after: pageParam } : {}),
            },
          },
          signal,
        }),
      ),
    enabled,
    initialPageParam: "",
    getNextPageParam: (page) => page.after,
    placeholderData: keepPreviousData,
    refetchInterval: SHELF_EVERY_MS,
  });
}

export function useTub(kitchen: string, tub_id: number) {
  return useQuery({
    queryKey: ["shelf", kitchen, "tub", tub_id],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/tubs/{tub_id}", { params: { path: { kitchen, tub_id } }, signal })),
  });
}

export function useTubActions(kitchen: string) {
  const cache = useQueryClient();
  const onSuccess = () => refetchAfterChange(cache, ["shelf", kitchen]);
  const move = useMutation({
    mutationFn: ({ tub_id, ...body }: NewMove & { tub_id: number }) =>
      unwrap(
        client.POST("/api/k/{kitchen}/tubs/{tub_id}/moves", { params: { path: { kitchen, tub_id } }, body }),
      ),
    onSuccess,
  });
  const promise = useMutation({
    mutationFn: ({ tub_id, ...body }: Schemas["NewPromise"] & { tub_id: number }) =>
      unwrap(
        client.POST("/api/k/{kitchen}/tubs/{tub_id}/promises", {
          params: { path: { kitchen, tub_id } },
          body,
        }),
      ),
    onSuccess,
  });
  const unpromise = useMutation({
    mutationFn: (path: { tub_id: number; promise_id: number }) =>
      unwrap(
        client.DELETE("/api/k/{kitchen}/tubs/{tub_id}/promises/{promise_id}", {
          params: { path: { kitchen, ...path } },
        }),
      ),
    onSuccess,
  });
  return { move, promise, unpromise };
}

export function useWhites(kitchen: string) {
  return useQuery({
    queryKey: ["shelf", kitchen, "whites-ledger"],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/whites", { params: { path: { kitchen } }, signal })),
  });
}

export function useLabels(kitchen: string, tub: readonly number[]) {
  return useQuery({
    queryKey: ["shelf", kitchen, "labels", tub],
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/labels", {
          params: { path: { kitchen }, query: { tub: [...tub] } },
          signal,
        }),
      ),
    enabled: tub.length > 0,
  });
}

export function useClosing(kitchen: string) {
  return useQuery({
    queryKey: ["shelf", kitchen, "closing"],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/closing", { params: { path: { kitchen } }, signal })),
    refetchInterval: SHELF_EVERY_MS,
  });
}

export function useSignClosing(kitchen: string) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["Signing"]) =>
      unwrap(client.POST("/api/k/{kitchen}/closing", { params: { path: { kitchen } }, body })),
    onSuccess: (closing) => cache.setQueryData(["shelf", kitchen, "closing"], closing),
  });
}

export function useTrace(kitchen: string, batch_id: number, enabled: boolean) {
  return useQuery({
    queryKey: ["trace", kitchen, batch_id],
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/batches/{batch_id}/trace", {
          params: { path: { kitchen, batch_id } },
          signal,
        }),
      ),
    enabled,
  });
}

/** How a batch keeps, as it went so far. */
export function useLife(kitchen: string, batch_id: number, enabled = true) {
  return useQuery({
    enabled,
    queryKey: ["life", kitchen, batch_id],
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/batches/{batch_id}/life", {
          params: { path: { kitchen, batch_id } },
          signal,
        }),
      ),
  });
}

export function useGuests(kitchen: string, batch_id: number, enabled: boolean, told_by: number) {
  return useQuery({
    // Asked again with every mark: what was read and said is what it knows.
    queryKey: ["guests", kitchen, batch_id, told_by],
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/batches/{batch_id}/guests", {
          params: { path: { kitchen, batch_id } },
          signal,
        }),
      ),
    enabled,
    placeholderData: keepPreviousData,
  });
}

export function useSayGuests(kitchen: string, batch_id: number) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (vulnerable: boolean) =>
      unwrap(
        client.PUT("/api/k/{kitchen}/batches/{batch_id}/guests", {
          params: { path: { kitchen, batch_id } },
          body: { vulnerable },
        }),
      ),
    onSuccess: (batch) => cache.setQueryData(["batch", kitchen, batch_id], batch),
  });
}
