import {
  keepPreviousData,
  type QueryClient,
  queryOptions,
  useInfiniteQuery,
  useMutation,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { useState } from "react";
import { forgetKept } from "../kept";
import { client, type Schemas, unwrap } from "./client";
import { Problem } from "./problem";
import { refetchAfterChange } from "./refetchAfterChange";

export type Draft = Schemas["Draft"];
export type LineDraft = Schemas["LineDraft"];
export type Assessment = Schemas["Overview"];
export type Batch = Schemas["BatchOut"];
export type BatchLine = Schemas["BatchLine"];
export type NewMark = Schemas["NewMark"];
export type BookPage = Schemas["FormulaPage"];
export type FormulaLine = Schemas["FormulaLine"];
export type FormulaOut = Schemas["FormulaOut"];
export type Kitchen = Schemas["KitchenOut"];
export type KitchenChange = Schemas["KitchenChange"];
export type Larder = Schemas["Larder"];
export type Scaling = Schemas["Scaling"];
export type Stage = Schemas["Stage"];

const BATCH_EVERY_MS = 2500;

export function useSession() {
  return useQuery({
    queryKey: ["session"],
    queryFn: ({ signal }) => unwrap(client.GET("/api/session", { signal })),
    staleTime: 60_000,
  });
}

/** What one person saw is not shown to the next. */
function forgetOthers(cache: QueryClient): void {
  forgetKept();
  cache.removeQueries({ predicate: (query) => query.queryKey[0] !== "session" });
}

/** Whether an answer says that the session is over. */
const sessionIsOver = (error: unknown) => error instanceof Problem && error.status === 401;

/**
 * Watch every answer for who is logged in: a session that ended, by whatever way and wherever, shows the log-in and
 * leaves nothing of its person on a shared device. Drafts and marks not sent yet stay, for them alone.
 */
export function watchSession(cache: QueryClient): void {
  let before: string | null = null;
  const over = () => cache.setQueryData(["session"], { person: null });
  cache.getQueryCache().subscribe((event) => {
    // A wall is nobody's session: its code may end while somebody is logged in here.
    if (event.type !== "updated" || event.query.queryKey[0] === "wall") return;
    if (event.action.type === "error" && sessionIsOver(event.action.error)) over();
    if (event.query.queryKey[0] !== "session" || event.action.type !== "success") return;
    const now = (event.query.state.data as Schemas["Session"] | undefined)?.person?.username ?? null;
    const was = before;
    before = now;
    if (was !== null && now !== was) forgetOthers(cache);
  });
  cache.getMutationCache().subscribe((event) => {
    // A wrong PIN is answered like this, too: whether the session is over, it says itself.
    if (event.type === "updated" && event.action.type === "error" && sessionIsOver(event.action.error))
      void cache.refetchQueries({ queryKey: ["session"] });
  });
}

export function useLogIn() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: async (body: Schemas["Login"]) => {
      await unwrap(client.GET("/api/session"));
      return unwrap(client.POST("/api/session", { body }));
    },
    onSuccess: (session) => cache.setQueryData(["session"], session),
  });
}

export function useLogOut() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: () => unwrap(client.DELETE("/api/session")),
    onSuccess: (session) => cache.setQueryData(["session"], session),
  });
}

export function useKitchens(enabled: boolean) {
  return useQuery({
    queryKey: ["kitchens"],
    queryFn: ({ signal }) => unwrap(client.GET("/api/kitchens", { signal })),
    enabled,
  });
}

export function useLarder() {
  return useQuery({
    queryKey: ["larder"],
    queryFn: ({ signal }) => unwrap(client.GET("/api/larder", { signal })),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** What a family is called. */
export function useFamilyName(): (family: string) => string {
  const families = useLarder().data?.families;
  return (family) => families?.find((one) => one.family === family)?.name ?? family.replaceAll("-", " ");
}

/** A plain formula of each family to start from. */
export function usePatterns(kitchen: string) {
  return useQuery({
    queryKey: ["patterns", kitchen],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/patterns", { params: { path: { kitchen } }, signal })),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

export function useChangeKitchen(kitchen: string) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (body: KitchenChange) =>
      unwrap(client.PATCH("/api/k/{kitchen}", { params: { path: { kitchen } }, body })),
    onSuccess: () => refetchAfterChange(cache),
  });
}

export interface BookAsked {
  archived?: boolean;
  words?: string;
  family?: string;
  word?: string;
}

/** The book, page by page, searched where it lies. */
export function useBook(kitchen: string, asked: BookAsked = {}, enabled = true) {
  return useInfiniteQuery({
    queryKey: ["book", kitchen, asked],
    queryFn: ({ signal, pageParam }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/formulas", {
          params: {
            path: { kitchen },
            query: { ...asked, ...(pageParam === null ? {} : { after: pageParam }) },
          },
          signal,
        }),
      ),
    enabled,
    initialPageParam: null as number | null,
    getNextPageParam: (page) => page.after,
    placeholderData: keepPreviousData,
  });
}

export function useFormula(kitchen: string, formula_id: number, number: number | null) {
  return useQuery({
    queryKey: ["formula", kitchen, formula_id, number],
    queryFn: ({ signal }) =>
      number === null
        ? unwrap(
            client.GET("/api/k/{kitchen}/formulas/{formula_id}", {
              params: { path: { kitchen, formula_id } },
              signal,
            }),
          )
        : unwrap(
            client.GET("/api/k/{kitchen}/formulas/{formula_id}/versions/{number}", {
              params: { path: { kitchen, formula_id, number } },
              signal,
            }),
          ),
    refetchOnWindowFocus: false,
  });
}

export function assessKey(kitchen: string, formula: number | null, draft: Draft) {
  return ["assess", kitchen, formula, draft] as const;
}

/** What a draft becomes. The last good answer stays on show while the next is on its way, or refused. */
export function useAssessment(kitchen: string, formula: number | null, draft: Draft) {
  const asked = useQuery({
    queryKey: assessKey(kitchen, formula, draft),
    queryFn: ({ signal }) =>
      unwrap(
        client.POST("/api/k/{kitchen}/assess", {
          params: { path: { kitchen }, query: formula === null ? {} : { formula_id: formula } },
          body: draft,
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
  });
  const [good, setGood] = useState(asked.data);
  if (asked.data && asked.data !== good) setGood(asked.data);
  return { seen: asked.data ?? good, error: asked.error, isPending: asked.isPending, refetch: asked.refetch };
}

export function useScale(kitchen: string) {
  return useMutation({
    mutationFn: (body: Scaling) =>
      unwrap(client.POST("/api/k/{kitchen}/scale", { params: { path: { kitchen } }, body })),
  });
}

interface Saving {
  draft: Draft;
  base: number;
  note: string;
  /** The text that a new formula was read from, its photograph, and how it is made. */
  recipe?: string;
  picture?: string | null;
  schools?: Record<string, string>;
}

export function useSave(kitchen: string, formula_id: number | null) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: ({ draft, base, note, recipe = "", picture = null, schools = {} }: Saving) =>
      formula_id === null
        ? unwrap(
            client.POST("/api/k/{kitchen}/formulas", {
              params: { path: { kitchen } },
              body: { draft, recipe, picture, schools },
            }),
          )
        : unwrap(
            client.POST("/api/k/{kitchen}/formulas/{formula_id}/versions", {
              params: { path: { kitchen, formula_id } },
              body: { draft, base, note },
            }),
          ),
    onSuccess: (saved) => {
      cache.setQueryData(["formula", kitchen, saved.id, null], saved);
      return refetchAfterChange(cache, ["book", kitchen]);
    },
  });
}

export function useOnTheStove(kitchen: string, enabled = true) {
  return useQuery({
    enabled,
    queryKey: ["stove", kitchen],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/batches", { params: { path: { kitchen } }, signal })),
    refetchInterval: 10_000,
  });
}

export function batchQuery(kitchen: string, batch_id: number) {
  return queryOptions({
    queryKey: ["batch", kitchen, batch_id],
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/batches/{batch_id}", {
          params: { path: { kitchen, batch_id } },
          signal,
        }),
      ),
    refetchInterval: (query) => (query.state.data?.closed_at ? false : BATCH_EVERY_MS),
    refetchOnMount: "always",
  });
}

export function useStartBatch(kitchen: string) {
  return useMutation({
    mutationFn: (body: Schemas["NewBatch"]) =>
      unwrap(client.POST("/api/k/{kitchen}/batches", { params: { path: { kitchen } }, body })),
  });
}

/** Marks in order: one alone, or all of them or none. */
export function sendMarks(kitchen: string, batch_id: number, marks: readonly NewMark[]) {
  const params = { path: { kitchen, batch_id } };
  const [mark, ...more] = marks;
  return unwrap(
    mark && !more.length
      ? client.POST("/api/k/{kitchen}/batches/{batch_id}/marks", { params, body: mark })
      : client.POST("/api/k/{kitchen}/batches/{batch_id}/marks/several", {
          params,
          body: { marks: [...marks] },
        }),
  );
}

export function useBatchActions(kitchen: string, batch_id: number) {
  const cache = useQueryClient();
  const path = { kitchen, batch_id };
  const keep = (batch: Batch) => {
    cache.setQueryData(["batch", kitchen, batch_id], batch);
    return refetchAfterChange(cache, ["stove", kitchen]);
  };
  const withdraw = useMutation({
    mutationFn: (mark_id: string) =>
      unwrap(
        client.POST("/api/k/{kitchen}/batches/{batch_id}/marks/{mark_id}/withdraw", {
          params: { path: { ...path, mark_id } },
        }),
      ),
    onSuccess: keep,
  });
  const close = useMutation({
    mutationFn: (body: Schemas["Closing"]) =>
      unwrap(client.POST("/api/k/{kitchen}/batches/{batch_id}/close", { params: { path }, body })),
    onSuccess: (batch) => {
      void refetchAfterChange(cache, ["trace", kitchen]);
      return keep(batch);
    },
  });
  const reopen = useMutation({
    mutationFn: () => unwrap(client.POST("/api/k/{kitchen}/batches/{batch_id}/reopen", { params: { path } })),
    onSuccess: keep,
  });
  const decide = useMutation({
    mutationFn: (reason: string) =>
      unwrap(
        client.POST("/api/k/{kitchen}/batches/{batch_id}/decision", { params: { path }, body: { reason } }),
      ),
    onSuccess: keep,
  });
  return { withdraw, close, reopen, decide };
}
