import { useHere } from "../../api/here";
import { type CoolingPlan, type CoolingWanted, useCoolingPlan, useUsualCooling } from "../../api/live";
import type { Batch } from "../../api/queries";
import { useUnits } from "../../kit/system";
import { massText, temperature } from "../../kit/units";
import { hours } from "../../kit/when";

/** How an open batch is cooled: as was chosen for it, else as this kitchen usually does it. */
export function useCoolingAnswer(batch: Batch, asks: boolean) {
  const here = useHere();
  const usual = useUsualCooling(here.slug, batch.id, asks && batch.cooling === null);
  const wanted = batch.cooling ? chosenBefore(batch.cooling) : usual.data?.wanted;
  return { usual, wanted };
}

/** The answer in a few words, for the top of the stage; undefined where it is not known, or not asked for. */
export function useCoolingTitle(batch: Batch, asks: boolean): string | undefined {
  const here = useHere();
  const { system } = useUnits();
  const { usual, wanted } = useCoolingAnswer(batch, asks);
  const { data: plan } = useCoolingPlan(here.slug, batch.id, asks ? wanted : undefined, usual.data);
  if (!asks || !plan) return undefined;
  const cold = reachedBy(plan, (c) => temperature(c, system, 0)).at(-1);
  const judged = plan.sure ? "In time" : plan.passes ? "Only just in time" : "Too slow";
  const ice = plan.ice_g === null ? [] : [`Have ${massText(plan.ice_g, system)} of ice.`];
  return [cold ? `${judged}: ${cold}.` : `${judged}.`, ...ice].join(" ");
}

/** When it is below each limit, as planned. */
function reachedBy({ t_s, core_c, limits }: CoolingPlan, degrees: (c: number) => string): string[] {
  return limits.flatMap(({ limit_c }) => {
    const at = core_c.findIndex((c) => c <= limit_c);
    const seconds = t_s[at];
    return at < 0 || seconds === undefined ? [] : [`${degrees(limit_c)} in ${hours(seconds)}`];
  });
}

/** What was chosen for a batch, as it is asked for again. */
function chosenBefore({ mass_g, from_c, vessel, ways, cooler_ids }: NonNullable<Batch["cooling"]>) {
  return {
    mass_g,
    from_c,
    vessel,
    ways: ways.map(({ by, minutes, stirred, ice_g, water_g }, at) => ({
      by,
      minutes,
      stirred,
      ice_g,
      water_g,
      cooler_id: cooler_ids[at] ?? null,
    })),
  } as CoolingWanted;
}
