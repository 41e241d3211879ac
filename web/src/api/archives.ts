import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { base64 } from "./base64";
import { client, type Schemas, unwrap } from "./client";

export type Archive = Schemas["ArchiveOut"];

/** A part of a file that is sent at once [bytes]: in base64 a request takes no more. */
const PART_BYTES = 600_000;
const LOOK_EVERY_MS = 1500;

const whileGoing = (rows: readonly Archive[] | undefined) =>
  rows?.some((one) => one.done_at === null) ? LOOK_EVERY_MS : false;

export const addressOfArchive = (kitchen: string, id: string) => `/api/k/${kitchen}/archives/${id}/file`;

/** The archives of a kitchen that were made, and one that is being made. */
export function useArchives(kitchen: string) {
  const cache = useQueryClient();
  const queryKey = ["archives", kitchen];
  const all = useQuery({
    queryKey,
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/archives", { params: { path: { kitchen } }, signal })),
    refetchInterval: (query) => whileGoing(query.state.data),
  });
  const make = useMutation({
    mutationFn: () => unwrap(client.POST("/api/k/{kitchen}/archives", { params: { path: { kitchen } } })),
    onSuccess: () => cache.invalidateQueries({ queryKey }),
  });
  return { all, make };
}

/** The archives that this person brings in. One that was begun goes on where it stopped. */
export function useIncoming() {
  const cache = useQueryClient();
  const queryKey = ["incoming"];
  const all = useQuery({
    queryKey,
    queryFn: ({ signal }) => unwrap(client.GET("/api/archives", { signal })),
    refetchInterval: (query) => whileGoing(query.state.data),
  });
  const send = useMutation({
    mutationFn: async ({ file, begun }: { file: File; begun?: Archive }) => {
      let run = begun ?? (await unwrap(client.POST("/api/archives", { body: { size: file.size } })));
      cache.setQueryData<Archive[]>(queryKey, (rows = []) => [
        run,
        ...rows.filter((one) => one.id !== run.id),
      ]);
      while (run.came < file.size) {
        const part = file.slice(run.came, run.came + PART_BYTES);
        run = await unwrap(
          client.PUT("/api/archives/{run_id}/parts", {
            params: { path: { run_id: run.id } },
            body: { at: run.came, content: base64(new Uint8Array(await part.arrayBuffer())) },
          }),
        );
      }
      return run;
    },
    onSettled: () => cache.invalidateQueries({ queryKey }),
  });
  return { all, send };
}
