import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { client, unwrap } from "./client";
import { type OwnIngredient, useOwnIngredients } from "./kitchen";
import { useLarder } from "./queries";

export interface IngredientChoice {
  value: string;
  shown: string;
  also: readonly string[];
  group: string;
}

/** The value by which one of the kitchen's own ingredients is chosen. */
export const ownValue = ({ id }: OwnIngredient) => `own ${id}`;

/** One of the kitchen's own ingredients as a formula has it: by its composition. */
export const asFormulaHasIt = ({ name, composition, allergens, density_g_per_ml }: OwnIngredient) => ({
  name,
  composition,
  allergens,
  density_g_per_ml,
});

const MOST_RECENT = 6;
const key = (kitchen: string) => `old-spoon:recent:${kitchen}`;

function recentOf(kitchen: string): string[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(key(kitchen)) ?? "[]");
    return Array.isArray(kept) ? kept.filter((one): one is string => typeof one === "string") : [];
  } catch {
    return [];
  }
}

/**
 * Everything that can be weighed here: what was chosen last on this device, then what this kitchen's formulas
 * are made of, its own ingredients, and the whole larder by groups. An own ingredient's value is "own 7".
 */
export function useIngredientChoices(kitchen: string) {
  const larder = useLarder();
  const own = useOwnIngredients(kitchen);
  const usual = useQuery({
    queryKey: ["usual", kitchen],
    queryFn: ({ signal }) =>
      unwrap(client.GET("/api/k/{kitchen}/usual", { params: { path: { kitchen } }, signal })),
    staleTime: 60_000,
  });
  const [recent, setRecent] = useState(() => recentOf(kitchen));
  const items = useMemo(() => {
    const all: IngredientChoice[] = [
      ...(own.data ?? []).map((one) => ({
        value: ownValue(one),
        shown: one.name,
        also: [],
        group: "this kitchen’s own",
      })),
      ...(larder.data?.ingredients ?? []).map((one) => ({
        value: one.id,
        shown: one.name,
        also: one.also,
        group: one.group,
      })),
    ];
    const named = new Map(all.map((one) => [one.value, one]));
    const first = (values: readonly string[], group: string) =>
      values.flatMap((value) => {
        const found = named.get(value);
        return found ? [{ ...found, group }] : [];
      });
    const usualOnes = (usual.data ?? []).filter((value) => !recent.includes(value));
    const above = [...first(recent, "chosen last"), ...first(usualOnes, "usual here")];
    const there = new Set(above.map((one) => one.value));
    return [...above, ...all.filter((one) => !there.has(one.value))];
  }, [own.data, larder.data, usual.data, recent]);
  const chose = (value: string) => {
    const now = [value, ...recent.filter((one) => one !== value)].slice(0, MOST_RECENT);
    setRecent(now);
    try {
      localStorage.setItem(key(kitchen), JSON.stringify(now));
    } catch {
      // Then they are recent only while the page is open.
    }
  };
  return { items, chose, own: own.data, larder: larder.data };
}
