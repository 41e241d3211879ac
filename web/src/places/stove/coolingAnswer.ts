import { useState } from "react";
import { useHere } from "../../api/here";
import {
  type CoolingPlan,
  type CoolingWanted,
  useChooseCooling,
  useCoolingPlan,
  useUsualCooling,
} from "../../api/live";
import { Problem } from "../../api/problem";
import type { Batch } from "../../api/queries";
import { useUnits } from "../../kit/system";
import type { UnitSystem } from "../../kit/typed";
import { massText, temperature } from "../../kit/units";
import { hours } from "../../kit/when";

/** How an open batch is to be cooled: as was chosen for it, else as this kitchen usually does it; and what comes of it. `asks` where that is the question of the page. */
export function useCoolingAnswer(batch: Batch, asks: boolean) {
  const here = useHere();
  const { system } = useUnits();
  const [other, setOther] = useState(false);
  const began = batch.marks.some((mark) => mark.kind === "into-ice");
  // What goes in ice as it was chosen is followed instead, until somebody wants it otherwise.
  const asking = asks && !(began && batch.cooling !== null && !other);
  const read = batch.marks.filter((mark) => mark.temperature_c !== null).length;
  const usual = useUsualCooling(here.slug, batch.id, read, asking && batch.cooling === null);
  const choose = useChooseCooling(here.slug, batch.id);
  const stands = batch.cooling ? chosenBefore(batch.cooling) : usual.data?.wanted;
  // What was touched last stays in the sentence until the server has it, and where it refused it.
  const wanted = choose.isIdle || choose.isSuccess ? stands : choose.variables;
  const plan = useCoolingPlan(here.slug, batch.id, read, asking ? wanted : undefined, usual.data);
  const wrong = choose.error ?? plan.error;
  const stale = plan.isPlaceholderData || choose.isPending;
  return {
    asking,
    began,
    usual,
    wanted,
    choose,
    wrong,
    stale,
    plan: wrong ? undefined : plan.data,
    /** As warm as it begins, also while there is no answer. */
    from_c: wanted?.from_c ?? (plan.data ?? usual.data?.plan)?.core_c[0] ?? batch.cooling?.from_c,
    title: asking ? titleOf(wrong, stale || usual.isLoading, plan.data, system) : undefined,
    /** What is to be chosen when it is put away, as warm as it was read then; null where that is known, or cannot be. */
    putAway: (read_c: number | null): CoolingWanted | null =>
      !asking || began || wrong || !wanted || (batch.cooling !== null && read_c === null)
        ? null
        : { ...wanted, from_c: wanted.from_c ?? read_c },
    ask: () => setOther(true),
    asked: () => setOther(false),
  };
}

export type CoolingAnswer = ReturnType<typeof useCoolingAnswer>;

/** The answer in a few words; undefined where there is none. */
function titleOf(
  wrong: Error | null,
  working: boolean,
  plan: CoolingPlan | undefined,
  system: UnitSystem,
): string | undefined {
  if (wrong) return wrong instanceof Problem && !wrong.away ? "It cannot be cooled like this." : undefined;
  if (working) return "Working out how it cools …";
  if (!plan) return undefined;
  const cold = plan.limits.findLast((one) => one.reached_s !== null);
  const judged = plan.sure ? "In time" : plan.passes ? "Only just in time" : "Too slow";
  const ice = plan.ice_g === null ? [] : [`Have ${massText(plan.ice_g, system)} of ice.`];
  const answer =
    cold?.reached_s == null
      ? `${judged}.`
      : `${judged}: ${temperature(cold.limit_c, system, 0)} in ${hours(cold.reached_s)}.`;
  return [answer, ...ice].join(" ");
}

/** What was chosen for a batch, as it is asked for again: what nobody typed is taken as it is now. */
function chosenBefore(kept: NonNullable<Batch["cooling"]>): CoolingWanted {
  return {
    mass_g: kept.mass_typed ? kept.mass_g : null,
    from_c: kept.from_typed ? kept.from_c : null,
    vessel: kept.vessel,
    ways: kept.ways.map(({ by, minutes, stirred, ice_g, water_g }, at) => ({
      by,
      minutes,
      stirred,
      ice_g,
      water_g,
      cooler_id: kept.cooler_ids[at] ?? null,
    })),
  } as CoolingWanted;
}
