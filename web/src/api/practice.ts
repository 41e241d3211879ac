import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { refetchAfterChange } from "./refetchAfterChange";

export type Attempt = Schemas["AttemptOut"];
export type Picture = Schemas["Picture"];
export type PanSeen = Schemas["PanSeen"];
export type Debrief = Schemas["Debrief"];
export type Question = Schemas["PracticeQuestion"];
export type TraineeBook = Schemas["BookOut"];
export type Exercise = Schemas["ExerciseOut"];
export type Section = Schemas["SectionOut"];
export type AssessmentSheet = Schemas["SheetOut"];
export type Did = Schemas["Playing"]["acts"][number];
export type Hidden = Required<Pick<Schemas["Beginning"], "difficulty" | "pan" | "surprise" | "probe">>;

/** How a formula is practised where nobody chose. */
export const USUAL: Hidden = { difficulty: "usual", pan: "clad", surprise: "", probe: "hidden" };

export function usePractice(kitchen: string) {
  return useQuery({
    queryKey: ["practice", kitchen],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/practice", { params: { path: { kitchen } }, signal })),
  });
}

export function useSection(kitchen: string) {
  return useQuery({
    queryKey: ["practice", kitchen, "section"],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/practice/section", { params: { path: { kitchen } }, signal })),
  });
}

export function useTraineeBook(kitchen: string, person_id: number) {
  return useQuery({
    queryKey: ["practice", kitchen, "person", person_id],
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/practice/people/{person_id}", {
          params: { path: { kitchen, person_id } },
          signal,
        }),
      ),
  });
}

export function useAttempt(kitchen: string, attempt_id: number) {
  return useQuery({
    queryKey: ["practice", kitchen, "attempt", attempt_id],
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/practice/attempts/{attempt_id}", {
          params: { path: { kitchen, attempt_id } },
          signal,
        }),
      ),
    // What is played is told message by message; it is not fetched again under the whisk.
    staleTime: Number.POSITIVE_INFINITY,
    refetchOnWindowFocus: false,
    refetchOnReconnect: false,
  });
}

/** One message of acts, in order; the answer is what there is to see after them. */
export function sendActs(kitchen: string, attempt_id: number, body: Schemas["Playing"]) {
  return unwrap(
    client.POST("/api/k/{kitchen}/practice/attempts/{attempt_id}/acts", {
      params: { path: { kitchen, attempt_id } },
      body,
    }),
  );
}

export function useAttemptActions(kitchen: string) {
  const cache = useQueryClient();
  const opened = (attempt: Attempt) => {
    cache.setQueryData(["practice", kitchen, "attempt", attempt.id], attempt);
    void cache.invalidateQueries({ queryKey: ["practice", kitchen], exact: true });
  };
  const begin = useMutation({
    mutationFn: (wanted: Partial<Schemas["Beginning"]> & { id: string }) =>
      unwrap(
        client.POST("/api/k/{kitchen}/practice/attempts", {
          params: { path: { kitchen } },
          body: { key: "", from_s: 0, ...USUAL, ...wanted },
        }),
      ),
    onSuccess: opened,
  });
  const debrief = useMutation({
    mutationFn: (attempt_id: number) =>
      unwrap(
        client.POST("/api/k/{kitchen}/practice/attempts/{attempt_id}/debrief", {
          params: { path: { kitchen, attempt_id } },
        }),
      ),
    onSuccess: opened,
  });
  const again = useMutation({
    mutationFn: ({ attempt_id, ...body }: Schemas["Again"] & { attempt_id: number }) =>
      unwrap(
        client.POST("/api/k/{kitchen}/practice/attempts/{attempt_id}/again", {
          params: { path: { kitchen, attempt_id } },
          body,
        }),
      ),
    onSuccess: opened,
  });
  return { begin, debrief, again };
}

export function useChefActions(kitchen: string) {
  const cache = useQueryClient();
  const afresh = () => refetchAfterChange(cache, ["practice", kitchen]);
  const make = useMutation({
    mutationFn: (body: Schemas["NewExercise"]) =>
      unwrap(client.POST("/api/k/{kitchen}/practice/exercises", { params: { path: { kitchen } }, body })),
    onSuccess: afresh,
  });
  const takeOut = useMutation({
    mutationFn: (exercise_id: number) =>
      unwrap(
        client.DELETE("/api/k/{kitchen}/practice/exercises/{exercise_id}", {
          params: { path: { kitchen, exercise_id } },
        }),
      ),
    onSuccess: afresh,
  });
  const putBack = useMutation({
    mutationFn: (exercise_id: number) =>
      unwrap(
        client.POST("/api/k/{kitchen}/practice/exercises/{exercise_id}/back", {
          params: { path: { kitchen, exercise_id } },
        }),
      ),
    onSuccess: afresh,
  });
  const setFor = useMutation({
    mutationFn: (body: Schemas["NewSet"]) =>
      unwrap(client.POST("/api/k/{kitchen}/practice/set", { params: { path: { kitchen } }, body })),
    onSuccess: afresh,
  });
  const takeBack = useMutation({
    mutationFn: (set_id: number) =>
      unwrap(
        client.DELETE("/api/k/{kitchen}/practice/set/{set_id}", { params: { path: { kitchen, set_id } } }),
      ),
    onSuccess: afresh,
  });
  const setAgain = useMutation({
    mutationFn: (set_id: number) =>
      unwrap(
        client.POST("/api/k/{kitchen}/practice/set/{set_id}/back", {
          params: { path: { kitchen, set_id } },
        }),
      ),
    onSuccess: afresh,
  });
  const beginSheet = useMutation({
    mutationFn: (body: Schemas["NewSheet"]) =>
      unwrap(client.POST("/api/k/{kitchen}/practice/sheets", { params: { path: { kitchen } }, body })),
    onSuccess: afresh,
  });
  return { make, takeOut, putBack, setFor, takeBack, setAgain, beginSheet };
}

export function useSheet(kitchen: string, sheet_id: number) {
  return useQuery({
    queryKey: ["practice", kitchen, "sheet", sheet_id],
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/practice/sheets/{sheet_id}", {
          params: { path: { kitchen, sheet_id } },
          signal,
        }),
      ),
  });
}

export function useMarking(kitchen: string, sheet_id: number) {
  const cache = useQueryClient();
  const key = ["practice", kitchen, "sheet", sheet_id];
  return useMutation({
    mutationFn: (body: Schemas["Marking"]) =>
      unwrap(
        client.PUT("/api/k/{kitchen}/practice/sheets/{sheet_id}", {
          params: { path: { kitchen, sheet_id } },
          body,
        }),
      ),
    // One touch after the other: each is of the state the one before left.
    scope: { id: `sheet ${sheet_id}` },
    onSuccess: (sheet) => cache.setQueryData(key, sheet),
    onError: () => refetchAfterChange(cache, key),
  });
}
