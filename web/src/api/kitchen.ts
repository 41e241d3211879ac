import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "./client";
import { refetchAfterChange } from "./refetchAfterChange";

export type OwnIngredient = Schemas["OwnIngredientOut"];
export type NewOwnIngredient = Schemas["OwnIngredientIn"];
export type Device = Schemas["DeviceOut"];
export type DeviceMade = Schemas["DeviceMade"];

const WEIGHT_EVERY_MS = 700;

export function useOwnIngredients(kitchen: string) {
  return useQuery({
    queryKey: ["own-ingredients", kitchen],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/ingredients", { params: { path: { kitchen } }, signal })),
  });
}

/** Puts something back on its list as it was. */
export function usePutBack(kitchen: string) {
  const cache = useQueryClient();
  const { mutateAsync } = useMutation({
    mutationFn: (taken_off_id: number) =>
      unwrap(
        client.POST("/api/k/{kitchen}/taken-off/{taken_off_id}/back", {
          params: { path: { kitchen, taken_off_id } },
        }),
      ),
    onSuccess: () =>
      Promise.all([
        refetchAfterChange(cache, ["hearth", kitchen]),
        refetchAfterChange(cache, ["own-ingredients", kitchen]),
      ]),
  });
  return mutateAsync;
}

export function useOwnIngredientActions(kitchen: string) {
  const cache = useQueryClient();
  const onSuccess = () => refetchAfterChange(cache, ["own-ingredients", kitchen]);
  const add = useMutation({
    mutationFn: (body: NewOwnIngredient) =>
      unwrap(client.POST("/api/k/{kitchen}/ingredients", { params: { path: { kitchen } }, body })),
    onSuccess,
  });
  const remove = useMutation({
    mutationFn: (ingredient_id: number) =>
      unwrap(
        client.DELETE("/api/k/{kitchen}/ingredients/{ingredient_id}", {
          params: { path: { kitchen, ingredient_id } },
        }),
      ),
    onSuccess,
  });
  return { add, remove };
}

/** What an ingredient is made of, from its label. */
export function useLabel(kitchen: string) {
  return useMutation({
    mutationFn: (text: string) =>
      unwrap(client.POST("/api/k/{kitchen}/label", { params: { path: { kitchen } }, body: { text } })),
  });
}

/** What two labels of one thing differ in. */
export function useCompareLabels(kitchen: string) {
  return useMutation({
    mutationFn: (body: Schemas["TwoLabels"]) =>
      unwrap(client.POST("/api/k/{kitchen}/label/difference", { params: { path: { kitchen } }, body })),
  });
}

export function useSetPrice(kitchen: string) {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["NewPrice"]) =>
      unwrap(client.PUT("/api/k/{kitchen}/prices", { params: { path: { kitchen } }, body })),
    onSuccess: () => refetchAfterChange(cache),
  });
}

export function useDevices(kitchen: string) {
  return useQuery({
    queryKey: ["devices", kitchen],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/devices", { params: { path: { kitchen } }, signal })),
  });
}

export function useDeviceActions(kitchen: string) {
  const cache = useQueryClient();
  const onSuccess = () => refetchAfterChange(cache, ["devices", kitchen]);
  const register = useMutation({
    mutationFn: (body: Schemas["NewDevice"]) =>
      unwrap(client.POST("/api/k/{kitchen}/devices", { params: { path: { kitchen } }, body })),
    onSuccess,
  });
  const revoke = useMutation({
    mutationFn: (device_id: number) =>
      unwrap(
        client.POST("/api/k/{kitchen}/devices/{device_id}/revoke", {
          params: { path: { kitchen, device_id } },
        }),
      ),
    onSuccess,
  });
  const rotate = useMutation({
    mutationFn: (device_id: number) =>
      unwrap(
        client.POST("/api/k/{kitchen}/devices/{device_id}/token", {
          params: { path: { kitchen, device_id } },
        }),
      ),
    onSuccess,
  });
  return { register, rotate, revoke };
}

export type ProbeCheck = Schemas["ProbeCheckOut"];

/** How probes were when they were checked, the newest first. */
export function useProbeChecks(kitchen: string) {
  return useQuery({
    queryKey: ["devices", kitchen, "checks"],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/devices/checks", { params: { path: { kitchen } }, signal })),
  });
}

/** How often a probe that is being checked is asked for [ms]. */
const CHECKED_EVERY_MS = 2000;

/** What a probe reads now, while it is checked. */
export function useProbeNow(kitchen: string, device_id: number) {
  return useQuery({
    queryKey: ["probe-now", kitchen, device_id],
    queryFn: ({ signal }) =>
      unwrap(
        client.GET("/api/k/{kitchen}/devices/{device_id}/now", {
          params: { path: { kitchen, device_id } },
          signal,
        }),
      ),
    refetchInterval: CHECKED_EVERY_MS,
  });
}

/** Writes a check of a probe down, and takes it back. */
export function useProbeCheckActions(kitchen: string) {
  const cache = useQueryClient();
  const onSuccess = () => refetchAfterChange(cache, ["devices", kitchen]);
  const check = useMutation({
    mutationFn: ({ device_id, ...body }: Schemas["NewProbeCheck"] & { device_id: number }) =>
      unwrap(
        client.POST("/api/k/{kitchen}/devices/{device_id}/checks", {
          params: { path: { kitchen, device_id } },
          body,
        }),
      ),
    onSuccess,
  });
  const uncheck = useMutation({
    mutationFn: (check_id: number) =>
      unwrap(
        client.DELETE("/api/k/{kitchen}/devices/checks/{check_id}", {
          params: { path: { kitchen, check_id } },
        }),
      ),
    onSuccess,
  });
  return { check, uncheck };
}

export type Hob = Schemas["HobOut"];
export type Vessel = Schemas["VesselOut"];
export type Pan = Schemas["PanOut"];

export function useHearth(kitchen: string) {
  return useQuery({
    queryKey: ["hearth", kitchen],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/hearth", { params: { path: { kitchen } }, signal })),
  });
}

export function useHearthActions(kitchen: string) {
  const cache = useQueryClient();
  const onSuccess = () => refetchAfterChange(cache, ["hearth", kitchen]);
  const addHob = useMutation({
    mutationFn: (body: Schemas["NewHob"]) =>
      unwrap(client.POST("/api/k/{kitchen}/hobs", { params: { path: { kitchen } }, body })),
    onSuccess,
  });
  const removeHob = useMutation({
    mutationFn: (hob_id: number) =>
      unwrap(client.DELETE("/api/k/{kitchen}/hobs/{hob_id}", { params: { path: { kitchen, hob_id } } })),
    onSuccess,
  });
  const addPan = useMutation({
    mutationFn: (body: Schemas["NewPan"]) =>
      unwrap(client.POST("/api/k/{kitchen}/pans", { params: { path: { kitchen } }, body })),
    onSuccess,
  });
  const removePan = useMutation({
    mutationFn: (pan_id: number) =>
      unwrap(client.DELETE("/api/k/{kitchen}/pans/{pan_id}", { params: { path: { kitchen, pan_id } } })),
    onSuccess,
  });
  const addCooler = useMutation({
    mutationFn: (body: Schemas["NewCooler"]) =>
      unwrap(client.POST("/api/k/{kitchen}/coolers", { params: { path: { kitchen } }, body })),
    onSuccess,
  });
  const removeCooler = useMutation({
    mutationFn: (cooler_id: number) =>
      unwrap(
        client.DELETE("/api/k/{kitchen}/coolers/{cooler_id}", { params: { path: { kitchen, cooler_id } } }),
      ),
    onSuccess,
  });
  const addVessel = useMutation({
    mutationFn: (body: Schemas["NewVessel"]) =>
      unwrap(client.POST("/api/k/{kitchen}/vessels", { params: { path: { kitchen } }, body })),
    onSuccess,
  });
  const removeVessel = useMutation({
    mutationFn: (vessel_id: number) =>
      unwrap(
        client.DELETE("/api/k/{kitchen}/vessels/{vessel_id}", { params: { path: { kitchen, vessel_id } } }),
      ),
    onSuccess,
  });
  return {
    addHob,
    removeHob,
    addPan,
    removePan,
    addCooler,
    removeCooler,
    addVessel,
    removeVessel,
  };
}

/** What the kitchen's scale shows, asked again and again while something is weighed. */
export function useScaleNow(kitchen: string, enabled: boolean) {
  return useQuery({
    queryKey: ["weight", kitchen],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/weight", { params: { path: { kitchen } }, signal })),
    refetchInterval: WEIGHT_EVERY_MS,
    enabled,
    retry: false,
  });
}
