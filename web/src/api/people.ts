import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { forgetKept } from "../kept";
import { client, type Schemas, unwrap } from "./client";
import { refetchAfterChange } from "./refetchAfterChange";

export type Person = Schemas["Person"];
export type Session = Schemas["Session"];
export type Member = Schemas["MemberOut"];
export type Role = Member["role"];
export type NewKitchen = Schemas["NewKitchen"];
type Habits = Schemas["Habits"];

const KEEPING_HABITS = ["habits"];

/** Keeps how one reads figures; what is on show changes at once. */
export function useKeepHabits(): (habits: Habits) => void {
  const cache = useQueryClient();
  const show = (habits: Habits) => {
    // An answer that is on its way was asked for before.
    void cache.cancelQueries({ queryKey: ["session"] });
    const before = cache.getQueryData<Session>(["session"]);
    if (before?.person)
      cache.setQueryData<Session>(["session"], { ...before, person: { ...before.person, habits } });
  };
  const { mutate } = useMutation({
    mutationKey: KEEPING_HABITS,
    mutationFn: (body: Habits) => unwrap(client.PUT("/api/me/habits", { body })),
    onMutate: (habits) => show(habits),
    // What was fetched meanwhile may be older, unless they were changed once more.
    onSuccess: (_, habits) => {
      if (cache.isMutating({ mutationKey: KEEPING_HABITS }) === 1) show(habits);
    },
    // Not reached, it is so on this screen for now, and as it was kept at the next visit.
    scope: { id: "habits" },
  });
  return useCallback((habits) => mutate(habits), [mutate]);
}

export function useOwn() {
  const cache = useQueryClient();
  const onSuccess = (session: Session) => {
    cache.setQueryData(["session"], session);
    return refetchAfterChange(cache, ["own-sessions"]);
  };
  const title = useMutation({
    mutationFn: (title: string) => unwrap(client.PATCH("/api/me", { body: { title } })),
    onSuccess,
  });
  const password = useMutation({
    mutationFn: (body: Schemas["NewPassword"]) => unwrap(client.PUT("/api/me/password", { body })),
    onSuccess,
  });
  const pin = useMutation({
    mutationFn: (pin: string | null) => unwrap(client.PUT("/api/me/pin", { body: { pin } })),
    onSuccess,
  });
  const elsewhere = useMutation({
    mutationFn: () => unwrap(client.DELETE("/api/me/sessions")),
    onSuccess: (rows) => cache.setQueryData(["own-sessions"], rows),
  });
  return { title, password, pin, elsewhere };
}

export function useOwnSessions() {
  return useQuery({
    queryKey: ["own-sessions"],
    queryFn: ({ signal }) => unwrap(client.GET("/api/me/sessions", { signal })),
  });
}

export function useCrew(kitchen: string) {
  return useQuery({
    queryKey: ["crew", kitchen],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/people", { params: { path: { kitchen } }, signal })),
  });
}

export function useCrewActions(kitchen: string) {
  const cache = useQueryClient();
  const onSuccess = () => refetchAfterChange(cache, ["crew", kitchen]);
  const path = { kitchen };
  const invite = useMutation({
    mutationFn: (body: Schemas["NewInvitation"]) =>
      unwrap(client.POST("/api/k/{kitchen}/invitations", { params: { path }, body })),
    onSuccess,
  });
  const uninvite = useMutation({
    mutationFn: (invitation_id: number) =>
      unwrap(
        client.DELETE("/api/k/{kitchen}/invitations/{invitation_id}", {
          params: { path: { kitchen, invitation_id } },
        }),
      ),
    onSuccess,
  });
  const role = useMutation({
    mutationFn: ({ member_id, role }: { member_id: number; role: Role }) =>
      unwrap(
        client.PATCH("/api/k/{kitchen}/people/{member_id}", {
          params: { path: { kitchen, member_id } },
          body: { role },
        }),
      ),
    onSuccess,
  });
  const unlock = useMutation({
    mutationFn: (member_id: number) =>
      unwrap(
        client.POST("/api/k/{kitchen}/people/{member_id}/unlock", {
          params: { path: { kitchen, member_id } },
        }),
      ),
    onSuccess,
  });
  const takeOff = useMutation({
    mutationFn: (member_id: number) =>
      unwrap(
        client.DELETE("/api/k/{kitchen}/people/{member_id}", { params: { path: { kitchen, member_id } } }),
      ),
    onSuccess,
  });
  const back = useMutation({
    mutationFn: (taken_off_id: number) =>
      unwrap(
        client.POST("/api/k/{kitchen}/people/taken-off/{taken_off_id}/back", {
          params: { path: { kitchen, taken_off_id } },
        }),
      ),
    onSuccess,
  });
  return { unlock, invite, uninvite, role, takeOff, back };
}

export function useAudit(kitchen: string, person_id: number | null, enabled: boolean) {
  return useInfiniteQuery({
    enabled,
    queryKey: ["audit", kitchen, person_id],
    queryFn: ({ signal, pageParam }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/audit", {
          params: {
            path: { kitchen },
            query: {
              ...(pageParam === null ? {} : { before: pageParam }),
              ...(person_id === null ? {} : { person_id }),
            },
          },
          signal,
        }),
      ),
    initialPageParam: null as number | null,
    getNextPageParam: (page) => page.next,
  });
}

export function useHands(kitchen: string, enabled: boolean) {
  return useQuery({
    enabled,
    queryKey: ["hands", kitchen],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/hands", { params: { path: { kitchen } }, signal })),
  });
}

/** After it everything is fetched as somebody else: the page begins again, what was not sent yet stays kept. */
export function useChangeHands(kitchen: string) {
  return useMutation({
    mutationFn: (body: Schemas["ChangingHands"]) =>
      unwrap(client.POST("/api/k/{kitchen}/hands", { params: { path: { kitchen } }, body })),
    onSuccess: () => {
      forgetKept();
      window.location.reload();
    },
  });
}

export function useInvitation(token: string) {
  return useQuery({
    queryKey: ["invitation", token],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/invitations/{token}", { params: { path: { token } }, signal })),
    retry: false,
  });
}

export function useJoin(token: string) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["Joining"]) =>
      unwrap(client.POST("/api/invitations/{token}", { params: { path: { token } }, body })),
    onSuccess: async (session) => {
      cache.setQueryData(["session"], session);
      await refetchAfterChange(cache, ["kitchens"]);
    },
  });
}

/** The first person of all. */
export function useFirst() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["Joining"]) => unwrap(client.POST("/api/first", { body })),
    onSuccess: (session) => cache.setQueryData(["session"], session),
  });
}

export function useBeginKitchen() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (body: NewKitchen) => unwrap(client.POST("/api/kitchens/begin", { body })),
    onSuccess: () => refetchAfterChange(cache, ["kitchens"]),
  });
}

export function useThrowAway(kitchen: string) {
  const cache = useQueryClient();
  const away = useMutation({
    mutationFn: () => unwrap(client.POST("/api/k/{kitchen}/throw-away", { params: { path: { kitchen } } })),
    onSuccess: () => refetchAfterChange(cache, ["kitchens"]),
  });
  return away;
}

export function useBringBack() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (slug: string) =>
      unwrap(client.POST("/api/kitchens/{slug}/bring-back", { params: { path: { slug } } })),
    onSuccess: () => refetchAfterChange(cache, ["kitchens"]),
  });
}
