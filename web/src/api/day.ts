import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { refetchAfterChange } from "./refetchAfterChange";

export type Day = Schemas["DayOut"];
export type DayStep = Schemas["StepOut"];
export type DayJob = Schemas["JobOut"];
export type DayWant = Schemas["WantOut"];
export type DayOther = Schemas["OtherOut"];
export type DayHands = Schemas["HandsOut"];
export type DayRoom = Schemas["RoomOut"];
export type DayPlan = Schemas["PlanOut"];
export type DayLists = Schemas["ListsOut"];
export type Promised = Schemas["Promised"];
export type NextThing = Schemas["NextThing"];
export type Moving = Schemas["Moving"];

/** While a better plan is looked for the board asks by itself too; what a worker writes is told at once. */
const LOOKING_MS = 2000;
const MINUTE_MS = 30_000;

export function useDay(kitchen: string, when: string) {
  return useQuery({
    queryKey: ["day", kitchen, when],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/days/{when}", { params: { path: { kitchen, when } }, signal })),
    refetchInterval: (query) => {
      const plan = query.state.data?.plan;
      const better = plan && (!plan.fresh || plan.state === "first" || plan.state === "looking");
      return better ? LOOKING_MS : MINUTE_MS;
    },
  });
}

export function useDays(kitchen: string, around: string) {
  return useQuery({
    queryKey: ["days", kitchen, around],
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/days", { params: { path: { kitchen }, query: { around } }, signal }),
      ),
  });
}

/** Something that is done on a day; the answer is the day as it then stands, and is shown at once. */
function useChange<Body>(kitchen: string, when: string, mutationFn: (body: Body) => Promise<Day>) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn,
    onSuccess: (day: Day) => {
      cache.setQueryData(["day", kitchen, when], day);
      void refetchAfterChange(cache, ["days", kitchen]);
      return refetchAfterChange(cache, ["day-lists", kitchen]);
    },
    // Whoever was told that somebody else changed it sees what stands.
    onError: () => refetchAfterChange(cache, ["day", kitchen, when]),
  });
}

/** What is done while a day is lived. */
export function useDayActions(kitchen: string, when: string) {
  const cache = useQueryClient();
  const path = { kitchen, when };
  const plan = useChange(kitchen, when, () =>
    unwrap(client.POST("/api/k/{kitchen}/days/{when}/plan", { params: { path } })),
  );
  const move = useChange(kitchen, when, (body: Moving) =>
    unwrap(client.POST("/api/k/{kitchen}/days/{when}/move", { params: { path }, body })),
  );
  const step = useChange(kitchen, when, (body: Schemas["Doing"]) =>
    unwrap(client.POST("/api/k/{kitchen}/days/{when}/steps", { params: { path }, body })),
  );
  const help = useChange(kitchen, when, (body: Schemas["HelpWanted"]) =>
    unwrap(client.POST("/api/k/{kitchen}/days/{when}/help", { params: { path }, body })),
  );
  const stove = useMutation({
    mutationFn: (job: string) =>
      unwrap(client.POST("/api/k/{kitchen}/days/{when}/stove", { params: { path }, body: { job } })),
    onSuccess: () => refetchAfterChange(cache, ["day", kitchen]),
  });
  return { plan, move, step, help, stove };
}

/** What is wanted, and with what: each change plans the day again. */
export function useDayEdits(kitchen: string, when: string) {
  const cache = useQueryClient();
  const path = { kitchen, when };
  const addWant = useChange(kitchen, when, (body: Schemas["WantIn"]) =>
    unwrap(client.POST("/api/k/{kitchen}/days/{when}/wants", { params: { path }, body })),
  );
  const changeWant = useChange(kitchen, when, ({ id, ...body }: Schemas["WantChange"] & { id: number }) =>
    unwrap(
      client.PATCH("/api/k/{kitchen}/days/{when}/wants/{want_id}", {
        params: { path: { ...path, want_id: id } },
        body,
      }),
    ),
  );
  const removeWant = useChange(kitchen, when, (want_id: number) =>
    unwrap(
      client.DELETE("/api/k/{kitchen}/days/{when}/wants/{want_id}", {
        params: { path: { ...path, want_id } },
      }),
    ),
  );
  const addOther = useChange(kitchen, when, (body: Schemas["OtherIn"]) =>
    unwrap(client.POST("/api/k/{kitchen}/days/{when}/others", { params: { path }, body })),
  );
  const changeOther = useChange(kitchen, when, ({ id, ...body }: Schemas["OtherChange"] & { id: number }) =>
    unwrap(
      client.PATCH("/api/k/{kitchen}/days/{when}/others/{other_id}", {
        params: { path: { ...path, other_id: id } },
        body,
      }),
    ),
  );
  const removeOther = useChange(kitchen, when, (other_id: number) =>
    unwrap(
      client.DELETE("/api/k/{kitchen}/days/{when}/others/{other_id}", {
        params: { path: { ...path, other_id } },
      }),
    ),
  );
  const room = useChange(kitchen, when, (body: Schemas["RoomChange"]) =>
    unwrap(client.PATCH("/api/k/{kitchen}/days/{when}/room", { params: { path }, body })),
  );
  const hands = useChange(kitchen, when, ({ id, ...body }: Schemas["HandsIn"] & { id: number | null }) =>
    id === null
      ? unwrap(client.POST("/api/k/{kitchen}/days/{when}/hands", { params: { path }, body }))
      : unwrap(
          client.PUT("/api/k/{kitchen}/days/{when}/hands/{hands_id}", {
            params: { path: { ...path, hands_id: id } },
            body,
          }),
        ),
  );
  const removeHands = useChange(kitchen, when, (hands_id: number) =>
    unwrap(
      client.DELETE("/api/k/{kitchen}/days/{when}/hands/{hands_id}", {
        params: { path: { ...path, hands_id } },
      }),
    ),
  );
  const copy = useChange(kitchen, when, (body: Schemas["Copying"]) =>
    unwrap(client.POST("/api/k/{kitchen}/days/{when}/copy", { params: { path }, body })),
  );
  const bring = useChange(kitchen, when, (body: Record<string, never>) =>
    unwrap(client.POST("/api/k/{kitchen}/days/{when}/day.json", { params: { path }, body })),
  );
  const template = useMutation({
    mutationFn: (name: string) =>
      unwrap(client.POST("/api/k/{kitchen}/days/{when}/template", { params: { path }, body: { name } })),
    onSuccess: () => refetchAfterChange(cache, ["days", kitchen]),
  });
  const removeTemplate = useMutation({
    mutationFn: (template_id: number) =>
      unwrap(
        client.DELETE("/api/k/{kitchen}/templates/{template_id}", {
          params: { path: { kitchen, template_id } },
        }),
      ),
    onSuccess: () => refetchAfterChange(cache, ["days", kitchen]),
  });
  const templateBack = useMutation({
    mutationFn: (template_id: number) =>
      unwrap(
        client.POST("/api/k/{kitchen}/templates/{template_id}/back", {
          params: { path: { kitchen, template_id } },
        }),
      ),
    onSuccess: () => refetchAfterChange(cache, ["days", kitchen]),
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
    templateBack,
  };
}

export function useDayLists(kitchen: string, when: string) {
  return useQuery({
    queryKey: ["day-lists", kitchen, when],
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/days/{when}/lists", { params: { path: { kitchen, when } }, signal }),
      ),
  });
}

export function useInHouse(kitchen: string) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["HouseIn"]) =>
      unwrap(client.PUT("/api/k/{kitchen}/house", { params: { path: { kitchen } }, body })),
    onSuccess: () => refetchAfterChange(cache, ["day-lists", kitchen]),
  });
}

export function useDayAfter(kitchen: string, when: string) {
  return useQuery({
    queryKey: ["day", kitchen, when, "after"],
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/days/{when}/after", { params: { path: { kitchen, when } }, signal }),
      ),
    retry: false,
  });
}

export function useCalendar(kitchen: string, enabled: boolean) {
  return useQuery({
    enabled,
    queryKey: ["calendar", kitchen],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/calendar", { params: { path: { kitchen } }, signal })),
  });
}

export function useCalendarActions(kitchen: string) {
  const cache = useQueryClient();
  const path = { kitchen };
  const onSuccess = () => refetchAfterChange(cache, ["calendar", kitchen]);
  const make = useMutation({
    mutationFn: () => unwrap(client.POST("/api/k/{kitchen}/calendar", { params: { path } })),
    onSuccess,
  });
  const remove = useMutation({
    mutationFn: () => unwrap(client.DELETE("/api/k/{kitchen}/calendar", { params: { path } })),
    onSuccess,
  });
  return { make, remove };
}

export type Upcoming = Schemas["Upcoming"];

/** What is likely made next, from the day's plan and from habit. */
export function useUpcoming(kitchen: string) {
  return useQuery({
    queryKey: ["day", kitchen, "upcoming"],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/upcoming", { params: { path: { kitchen } }, signal })),
  });
}

/** It goes to the stove: as the day planned it, or its formula as the book has it. The batch that it is then. */
export function useTakeNext(kitchen: string) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: async (one: Upcoming): Promise<number> => {
      if (one.job !== null && one.when !== null) {
        const path = { kitchen, when: one.when };
        const taken = await unwrap(
          client.POST("/api/k/{kitchen}/days/{when}/stove", { params: { path }, body: { job: one.job } }),
        );
        return taken.batch_id;
      }
      const formula = await unwrap(
        client.GET("/api/k/{kitchen}/formulas/{formula_id}", {
          params: { path: { kitchen, formula_id: one.formula_id } },
        }),
      );
      const made = await unwrap(
        client.POST("/api/k/{kitchen}/batches", {
          params: { path: { kitchen } },
          body: {
            formula_id: formula.id,
            version: formula.latest,
            draft: formula.draft,
            pace: 1,
            as_computed: false,
          },
        }),
      );
      return made.id;
    },
    onSuccess: async () => {
      await refetchAfterChange(cache, ["day", kitchen]);
      await refetchAfterChange(cache, ["stove", kitchen]);
    },
  });
}
