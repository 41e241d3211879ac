import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { anew } from "./anew";
import { client, type Schemas, told } from "./client";

export type Day = Schemas["DayOut"];
export type DayStep = Schemas["StepOut"];
export type DayJob = Schemas["JobOut"];
export type DayWant = Schemas["WantOut"];
export type DayOther = Schemas["OtherOut"];
export type DayHands = Schemas["HandsOut"];
export type DayRoom = Schemas["RoomOut"];
export type DayPlan = Schemas["PlanOut"];
export type DayLists = Schemas["ListsOut"];
export type NextThing = Schemas["NextThing"];
export type Moving = Schemas["Moving"];

/** While a better plan is looked for the board asks by itself too; what a worker writes is told at once. */
const LOOKING_MS = 2000;
const MINUTE_MS = 30_000;

export function useDay(kitchen: string, when: string) {
  return useQuery({
    queryKey: ["day", kitchen, when],
    queryFn: ({ signal }) =>
      told(client.GET("/api/k/{kitchen}/days/{when}", { params: { path: { kitchen, when } }, signal })),
    refetchInterval: (query) => {
      const state = query.state.data?.plan?.state;
      return state === "first" || state === "looking" ? LOOKING_MS : MINUTE_MS;
    },
  });
}

export function useDays(kitchen: string, around: string) {
  return useQuery({
    queryKey: ["days", kitchen, around],
    queryFn: ({ signal }) =>
      told(client.GET("/api/k/{kitchen}/days", { params: { path: { kitchen }, query: { around } }, signal })),
  });
}

/** Everything that is done on a day; each answers with the day as it then stands. */
export function useDayActions(kitchen: string, when: string) {
  const cache = useQueryClient();
  const path = { kitchen, when };
  const onSuccess = (day: Day) => {
    cache.setQueryData(["day", kitchen, when], day);
    void anew(cache, ["days", kitchen]);
    return anew(cache, ["day-lists", kitchen]);
  };
  const plan = useMutation({
    mutationFn: () => told(client.POST("/api/k/{kitchen}/days/{when}/plan", { params: { path } })),
    onSuccess,
  });
  const move = useMutation({
    mutationFn: (body: Moving) =>
      told(client.POST("/api/k/{kitchen}/days/{when}/move", { params: { path }, body })),
    onSuccess,
  });
  const step = useMutation({
    mutationFn: (body: Schemas["Doing"]) =>
      told(client.POST("/api/k/{kitchen}/days/{when}/steps", { params: { path }, body })),
    onSuccess,
  });
  const help = useMutation({
    mutationFn: (body: Schemas["HelpWanted"]) =>
      told(client.POST("/api/k/{kitchen}/days/{when}/help", { params: { path }, body })),
    onSuccess,
  });
  const stove = useMutation({
    mutationFn: (job: string) =>
      told(client.POST("/api/k/{kitchen}/days/{when}/stove", { params: { path }, body: { job } })),
    onSuccess: () => anew(cache, ["day", kitchen]),
  });
  return { plan, move, step, help, stove };
}

/** What is wanted, and with what: each change plans the day anew. */
export function useDayEdits(kitchen: string, when: string) {
  const cache = useQueryClient();
  const path = { kitchen, when };
  const onSuccess = (day: Day) => {
    cache.setQueryData(["day", kitchen, when], day);
    void anew(cache, ["days", kitchen]);
    return anew(cache, ["day-lists", kitchen]);
  };
  // Whoever was told that somebody else changed it sees what stands.
  const onError = () => anew(cache, ["day", kitchen, when]);
  const both = { onSuccess, onError };
  const addWant = useMutation({
    mutationFn: (body: Schemas["WantIn"]) =>
      told(client.POST("/api/k/{kitchen}/days/{when}/wants", { params: { path }, body })),
    ...both,
  });
  const changeWant = useMutation({
    mutationFn: ({ id, ...body }: Schemas["WantChange"] & { id: number }) =>
      told(
        client.PATCH("/api/k/{kitchen}/days/{when}/wants/{want_id}", {
          params: { path: { ...path, want_id: id } },
          body,
        }),
      ),
    ...both,
  });
  const removeWant = useMutation({
    mutationFn: (want_id: number) =>
      told(
        client.DELETE("/api/k/{kitchen}/days/{when}/wants/{want_id}", {
          params: { path: { ...path, want_id } },
        }),
      ),
    ...both,
  });
  const addOther = useMutation({
    mutationFn: (body: Schemas["OtherIn"]) =>
      told(client.POST("/api/k/{kitchen}/days/{when}/others", { params: { path }, body })),
    ...both,
  });
  const changeOther = useMutation({
    mutationFn: ({ id, ...body }: Schemas["OtherChange"] & { id: number }) =>
      told(
        client.PATCH("/api/k/{kitchen}/days/{when}/others/{other_id}", {
          params: { path: { ...path, other_id: id } },
          body,
        }),
      ),
    ...both,
  });
  const removeOther = useMutation({
    mutationFn: (other_id: number) =>
      told(
        client.DELETE("/api/k/{kitchen}/days/{when}/others/{other_id}", {
          params: { path: { ...path, other_id } },
        }),
      ),
    ...both,
  });
  const room = useMutation({
    mutationFn: (body: Schemas["RoomChange"]) =>
      told(client.PATCH("/api/k/{kitchen}/days/{when}/room", { params: { path }, body })),
    ...both,
  });
  const hands = useMutation({
    mutationFn: ({ id, ...body }: Schemas["HandsIn"] & { id: number | null }) =>
      id === null
        ? told(client.POST("/api/k/{kitchen}/days/{when}/hands", { params: { path }, body }))
        : told(
            client.PUT("/api/k/{kitchen}/days/{when}/hands/{hands_id}", {
              params: { path: { ...path, hands_id: id } },
              body,
            }),
          ),
    ...both,
  });
  const removeHands = useMutation({
    mutationFn: (hands_id: number) =>
      told(
        client.DELETE("/api/k/{kitchen}/days/{when}/hands/{hands_id}", {
          params: { path: { ...path, hands_id } },
        }),
      ),
    ...both,
  });
  const copy = useMutation({
    mutationFn: (body: Schemas["Copying"]) =>
      told(client.POST("/api/k/{kitchen}/days/{when}/copy", { params: { path }, body })),
    ...both,
  });
  const bring = useMutation({
    mutationFn: (body: Record<string, never>) =>
      told(client.POST("/api/k/{kitchen}/days/{when}/day.json", { params: { path }, body })),
    ...both,
  });
  const template = useMutation({
    mutationFn: (name: string) =>
      told(client.POST("/api/k/{kitchen}/days/{when}/template", { params: { path }, body: { name } })),
    onSuccess: () => anew(cache, ["days", kitchen]),
  });
  const removeTemplate = useMutation({
    mutationFn: (template_id: number) =>
      told(
        client.DELETE("/api/k/{kitchen}/templates/{template_id}", {
          params: { path: { kitchen, template_id } },
        }),
      ),
    onSuccess: () => anew(cache, ["days", kitchen]),
  });
  return {
    addWant,
    changeWant,
    removeWant,
    addOther,
    changeOther,
    removeOther,
    room,
    hands,
    removeHands,
    copy,
    bring,
    template,
    removeTemplate,
  };
}

export function useDayLists(kitchen: string, when: string) {
  return useQuery({
    queryKey: ["day-lists", kitchen, when],
    queryFn: ({ signal }) =>
      told(client.GET("/api/k/{kitchen}/days/{when}/lists", { params: { path: { kitchen, when } }, signal })),
  });
}

export function useInHouse(kitchen: string) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["HouseIn"]) =>
      told(client.PUT("/api/k/{kitchen}/house", { params: { path: { kitchen } }, body })),
    onSuccess: () => anew(cache, ["day-lists", kitchen]),
  });
}

export function useDayAfter(kitchen: string, when: string) {
  return useQuery({
    queryKey: ["day", kitchen, when, "after"],
    queryFn: ({ signal }) =>
      told(client.GET("/api/k/{kitchen}/days/{when}/after", { params: { path: { kitchen, when } }, signal })),
    retry: false,
  });
}

export function useCalendar(kitchen: string, enabled: boolean) {
  return useQuery({
    enabled,
    queryKey: ["calendar", kitchen],
    queryFn: ({ signal }) =>
      told(client.GET("/api/k/{kitchen}/calendar", { params: { path: { kitchen } }, signal })),
  });
}

export function useCalendarActions(kitchen: string) {
  const cache = useQueryClient();
  const path = { kitchen };
  const onSuccess = () => anew(cache, ["calendar", kitchen]);
  const make = useMutation({
    mutationFn: () => told(client.POST("/api/k/{kitchen}/calendar", { params: { path } })),
    onSuccess,
  });
  const remove = useMutation({
    mutationFn: () => told(client.DELETE("/api/k/{kitchen}/calendar", { params: { path } })),
    onSuccess,
  });
  return { make, remove };
}
