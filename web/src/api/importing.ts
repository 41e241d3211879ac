import { useMutation, useQueryClient } from "@tanstack/react-query";
import { base64 } from "./base64";
import { client, unwrap } from "./client";
import type { Draft } from "./queries";
import { refetchAfterChange } from "./refetchAfterChange";

/** The texts of some files, one a recipe: zips and tables are taken apart by the server. */
export async function textsOf(kitchen: string, files: readonly File[]) {
  const found = [];
  for (const file of files) {
    const content = base64(new Uint8Array(await file.arrayBuffer()));
    const body = { name: file.name.slice(-200), content };
    found.push(
      ...(await unwrap(
        client.POST("/api/k/{kitchen}/import/files", { params: { path: { kitchen } }, body }),
      )),
    );
  }
  return found;
}

/** One recipe, read. */
export const readRecipe = (kitchen: string, text: string) =>
  unwrap(client.POST("/api/k/{kitchen}/import", { params: { path: { kitchen } }, body: { text } }));

interface Made {
  draft: Draft;
  recipe: string;
  schools: Record<string, string>;
}

/** Many formulas into the book, and out of it again. */
export function useManyFormulas(kitchen: string) {
  const cache = useQueryClient();
  const after = () => refetchAfterChange(cache, ["book", kitchen]);
  const add = useMutation({
    mutationFn: (body: Made) =>
      unwrap(client.POST("/api/k/{kitchen}/formulas", { params: { path: { kitchen } }, body })),
    onSuccess: after,
  });
  const undo = useMutation({
    mutationFn: async (ids: readonly number[]) => {
      for (const formula_id of ids)
        await unwrap(
          client.POST("/api/k/{kitchen}/formulas/{formula_id}/archive", {
            params: { path: { kitchen, formula_id } },
          }),
        );
    },
    onSuccess: after,
  });
  return { add, undo };
}
