import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { StageName } from "../contract/words";
import { base64 } from "./base64";
import { client, type Schemas, unwrap } from "./client";
import { newId } from "./newId";
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

/** A photograph on its way: made smaller once, so that sending it again sends the same. */
export interface SentPhoto {
  id: string;
  stage: StageName;
  at: string;
  file: File;
}

/** A photograph taken now. */
export const photoNow = (stage: StageName, file: File): SentPhoto => ({
  id: newId(),
  stage,
  at: new Date().toISOString(),
  file,
});

/** Adds, names, removes and puts back photographs of a batch. */
export function usePhotoActions(kitchen: string, batch_id: number) {
  const cache = useQueryClient();
  const keep = { onSuccess: (data: unknown) => cache.setQueryData(keyOf(kitchen, batch_id), data) };
  const add = useMutation({
    mutationFn: async ({ file, ...sent }: SentPhoto) => {
      const content = base64(await shrunk(file));
      return unwrap(
        client.POST("/api/k/{kitchen}/batches/{batch_id}/photos", {
          params: { path: { kitchen, batch_id } },
          body: { ...sent, note: "", content },
        }),
      );
    },
    ...keep,
  });
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
  return { add, write, remove, putBack };
}
