import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import type { StageName } from "../contract/words";
import { base64 } from "./base64";
import { client, type Schemas, unwrap } from "./client";
import { newId } from "./newId";
import * as store from "./photoStore";
import { Problem } from "./problem";
import { shrunk } from "./shrunk";

export type Photo = Schemas["PhotoOut"];

export const addressOfPhoto = (kitchen: string, id: string) => `/api/k/${kitchen}/photos/${id}/image`;

const keyOf = (kitchen: string, batch_id: number) => ["batch", kitchen, batch_id, "photos"];

/** The photographs of a batch; fetched again whenever something happens to it. */
export function usePhotos(kitchen: string, batch_id: number) {
  return useQuery({
    queryKey: keyOf(kitchen, batch_id),
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/batches/{batch_id}/photos", {
          params: { path: { kitchen, batch_id } },
          signal,
        }),
      ),
  });
}

/** Names, removes and puts back photographs of a batch. */
export function usePhotoActions(kitchen: string, batch_id: number) {
  const cache = useQueryClient();
  const keep = { onSuccess: (data: unknown) => cache.setQueryData(keyOf(kitchen, batch_id), data) };
  const write = useMutation({
    mutationFn: ({ id, note }: { id: string; note: string }) =>
      unwrap(
        client.PATCH("/api/k/{kitchen}/photos/{photo_id}", {
          params: { path: { kitchen, photo_id: id } },
          body: { note },
        }),
      ),
    ...keep,
  });
  const remove = useMutation({
    mutationFn: (id: string) =>
      unwrap(
        client.DELETE("/api/k/{kitchen}/photos/{photo_id}", { params: { path: { kitchen, photo_id: id } } }),
      ),
    ...keep,
  });
  const putBack = useMutation({
    mutationFn: (id: string) =>
      unwrap(
        client.POST("/api/k/{kitchen}/photos/{photo_id}/back", {
          params: { path: { kitchen, photo_id: id } },
        }),
      ),
    ...keep,
  });
  return { write, remove, putBack };
}

/** So often a photograph that could not be sent is tried again. */
const AGAIN_MS = 10_000;

/**
 * Takes photographs and sends them, one after the other. One that cannot be sent stays on this device, also when the
 * page is left, and goes out when somebody opens the batch again with a connection.
 */
export function usePhotoOutbox(kitchen: string, person: string, batch_id: number) {
  const cache = useQueryClient();
  const place = store.placeOf(kitchen, person, batch_id);
  const queryKey = ["waiting-photographs", place];
  const waiting = useQuery({
    queryKey,
    queryFn: () => store.waiting(place),
    networkMode: "always",
    staleTime: Number.POSITIVE_INFINITY,
  });
  const send = useMutation({
    networkMode: "always",
    scope: { id: place },
    mutationFn: async () => {
      for (const { picture, ...photo } of await store.waiting(place)) {
        const content = base64(new Uint8Array(await picture.arrayBuffer()));
        const sent = await unwrap(
          client.POST("/api/k/{kitchen}/batches/{batch_id}/photos", {
            params: { path: { kitchen, batch_id } },
            body: { ...photo, note: "", content },
          }),
        );
        cache.setQueryData(keyOf(kitchen, batch_id), sent);
        await store.forget(place, photo.id);
      }
    },
    onSettled: () => cache.invalidateQueries({ queryKey }),
  });
  const take = useMutation({
    networkMode: "always",
    mutationFn: async ({ stage, file }: { stage: StageName; file: File }) => {
      const picture = new Blob([(await shrunk(file)) as Uint8Array<ArrayBuffer>], { type: "image/jpeg" });
      await store.keep(place, { id: newId(), stage, at: new Date().toISOString(), picture });
      await cache.invalidateQueries({ queryKey });
    },
    onSuccess: () => send.mutate(),
  });
  const drop = useMutation({
    networkMode: "always",
    mutationFn: async () => {
      const [first] = await store.waiting(place);
      if (first) await store.forget(place, first.id);
    },
    onSuccess: () => {
      send.reset();
      void cache.invalidateQueries({ queryKey });
    },
  });
  const count = waiting.data?.length ?? 0;
  const { mutate, isPending } = send;
  // What the server refuses is not sent again by itself.
  const refused = send.error instanceof Problem && !send.error.away ? send.error : null;
  useEffect(() => {
    if (!count || isPending || refused) return;
    const timer = setTimeout(() => mutate(), send.isIdle ? 0 : AGAIN_MS);
    return () => clearTimeout(timer);
  }, [count, isPending, refused, mutate, send.isIdle]);
  return { take, send, drop, count, refused };
}
