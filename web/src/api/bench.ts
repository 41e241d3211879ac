import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useRef, useState } from "react";
import { client, type Schemas, unwrap } from "./client";
import { Problem } from "./problem";
import { assessKey, type Draft } from "./queries";
import { refetchAfterChange } from "./refetchAfterChange";

export type Details = Schemas["DetailsOut"];
export type Handle = Schemas["HandleOut"];
export type HandleName = Handle["name"];
export type Band = Schemas["BandOut"];
export type RatioMapData = Schemas["MapOut"];
export type Wanted = Schemas["Wanted"];
export type Solution = Schemas["SolutionOut"];
export type Fitting = Schemas["Fitting"];
export type Question = Schemas["QuestionOut"];
export type Compared = Schemas["Compared"];
export type ImportOut = Schemas["ImportOut"];
export type Facts = Schemas["FactsOut"];

/** Handles, schools, measures and facts of a draft; the last ones stay on show while the next are on their way. */
export function useDetails(kitchen: string, draft: Draft, enabled: boolean) {
  return useQuery({
    queryKey: ["details", kitchen, draft],
    queryFn: ({ signal }) =>
      unwrap(client.POST("/api/k/{kitchen}/details", { params: { path: { kitchen } }, body: draft, signal })),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
    enabled,
  });
}

/** How sure the window is. */
export function useBand(kitchen: string, draft: Draft, enabled: boolean) {
  return useQuery({
    queryKey: ["band", kitchen, draft],
    queryFn: ({ signal }) =>
      unwrap(client.POST("/api/k/{kitchen}/band", { params: { path: { kitchen } }, body: draft, signal })),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
    enabled,
  });
}

export interface MapAxes {
  x: HandleName;
  y: HandleName;
}

export function useRatioMap(kitchen: string, draft: Draft, axes: MapAxes, enabled: boolean) {
  return useQuery({
    queryKey: ["map", kitchen, axes, draft],
    queryFn: ({ signal }) =>
      unwrap(
        client.POST("/api/k/{kitchen}/map", {
          params: { path: { kitchen } },
          body: { draft, ...axes },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
    enabled,
  });
}

interface Turn {
  draft: Draft;
  values: Partial<Record<HandleName, number>>;
  starch_kind?: string;
  map?: MapAxes;
}

/** The map drawn while a hand moves: in fewer points, of this very draft. */
export interface QuickMap {
  draft: Draft;
  axes: MapAxes;
  map: RatioMapData;
}

/**
 * Turns handles as fast as the server answers and no faster: while one turn is on its way only the newest
 * wish is kept. What comes back goes straight into the answers the page shows, unless something else was
 * done meanwhile (`epoch` went up).
 */
export function useTurn(
  kitchen: string,
  formula: number | null,
  epoch: number,
  onTurned: (draft: Draft) => void,
) {
  const cache = useQueryClient();
  const waiting = useRef<Turn | null>(null);
  const busy = useRef(false);
  const latest = useRef({ onTurned, epoch });
  latest.current = { onTurned, epoch };
  const [problem, setProblem] = useState<Problem | null>(null);
  const [quick, setQuick] = useState<QuickMap | null>(null);
  const turn = useCallback(
    async (wish: Turn) => {
      waiting.current = wish;
      if (busy.current) return;
      busy.current = true;
      try {
        for (let now = waiting.current as Turn | null; now; now = waiting.current) {
          waiting.current = null;
          const asked = latest.current.epoch;
          const body = {
            ...now,
            map: now.map ?? null,
            formula_id: formula,
            starch_kind: now.starch_kind ?? null,
          };
          const made = await unwrap(
            client.POST("/api/k/{kitchen}/turn", { params: { path: { kitchen } }, body }),
          );
          cache.setQueryData(assessKey(kitchen, formula, made.draft), made.assessment);
          setQuick(
            made.map && now.map ? { draft: made.draft, axes: now.map, map: made.map as RatioMapData } : null,
          );
          if (latest.current.epoch === asked) latest.current.onTurned(made.draft);
          else waiting.current = null;
          setProblem(null);
        }
      } catch (error) {
        waiting.current = null;
        setProblem(error instanceof Problem ? error : new Problem(0, String(error)));
      } finally {
        busy.current = false;
      }
    },
    [cache, kitchen, formula],
  );
  return { turn, problem, quick };
}

export function useSolve(kitchen: string) {
  return useMutation({
    mutationFn: (body: Wanted) =>
      unwrap(client.POST("/api/k/{kitchen}/solve", { params: { path: { kitchen } }, body })),
  });
}

export function useFit(kitchen: string) {
  return useMutation({
    mutationFn: (body: Fitting) =>
      unwrap(client.POST("/api/k/{kitchen}/fit", { params: { path: { kitchen } }, body })),
  });
}

export function useTopUp(kitchen: string) {
  return useMutation({
    mutationFn: (body: Schemas["ToppingUp"]) =>
      unwrap(client.POST("/api/k/{kitchen}/top-up", { params: { path: { kitchen } }, body })),
  });
}

export function useLayers(kitchen: string) {
  return useMutation({
    mutationFn: (body: Schemas["Building"]) =>
      unwrap(client.POST("/api/k/{kitchen}/layers", { params: { path: { kitchen } }, body })),
  });
}

/** The burnt crust of a dish so wide. */
export function useCrust(kitchen: string, diameter_cm: number) {
  return useQuery({
    queryKey: ["crust", kitchen, diameter_cm],
    queryFn: ({ signal }) =>
      unwrap(
        client.POST("/api/k/{kitchen}/crust", {
          params: { path: { kitchen } },
          body: { diameter_cm, grams: null },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
    enabled: diameter_cm > 0,
  });
}

export interface Side {
  formula: number;
  version: number | null;
}

export function useCompare(kitchen: string, a: Side, b: Side) {
  return useQuery({
    queryKey: ["compare", kitchen, a, b],
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/compare", {
          params: {
            path: { kitchen },
            query: { a: a.formula, b: b.formula, a_version: a.version, b_version: b.version },
          },
          signal,
        }),
      ),
  });
}

export function useImport(kitchen: string) {
  return useMutation({
    mutationFn: (body: Schemas["Imported"]) =>
      unwrap(client.POST("/api/k/{kitchen}/import", { params: { path: { kitchen } }, body })),
  });
}

/** What a chef does with a formula as a whole; the book is fetched again after it. */
export function useFormulaActions(kitchen: string, formula_id: number) {
  const cache = useQueryClient();
  const path = { kitchen, formula_id };
  const keep = (now: Schemas["FormulaOut"]) => {
    cache.setQueryData(["formula", kitchen, now.id, null], now);
    return Promise.all([
      refetchAfterChange(cache, ["book", kitchen]),
      refetchAfterChange(cache, ["assess", kitchen]),
    ]);
  };
  const duplicate = useMutation({
    mutationFn: (name: string) =>
      unwrap(
        client.POST("/api/k/{kitchen}/formulas/{formula_id}/duplicate", {
          params: { path },
          body: { name },
        }),
      ),
    onSuccess: keep,
  });
  const archive = useMutation({
    mutationFn: () =>
      unwrap(client.POST("/api/k/{kitchen}/formulas/{formula_id}/archive", { params: { path } })),
    onSuccess: keep,
  });
  const restore = useMutation({
    mutationFn: () =>
      unwrap(client.POST("/api/k/{kitchen}/formulas/{formula_id}/restore", { params: { path } })),
    onSuccess: keep,
  });
  const takeIn = useMutation({
    mutationFn: () =>
      unwrap(client.POST("/api/k/{kitchen}/formulas/{formula_id}/take-in", { params: { path } })),
    onSuccess: keep,
  });
  const schools = useMutation({
    mutationFn: (chosen: Record<string, string>) =>
      unwrap(
        client.PUT("/api/k/{kitchen}/formulas/{formula_id}/schools", {
          params: { path },
          body: { schools: chosen },
        }),
      ),
    onSuccess: keep,
  });
  return { duplicate, archive, restore, takeIn, schools };
}
