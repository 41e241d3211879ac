import { useQuery } from "@tanstack/react-query";
import type { components } from "../contract/schema";
import { client, unwrap } from "./client";

export type BatchRecord = components["schemas"]["BatchRecord"];

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
