import { useSearchParams } from "react-router";
import type { Here } from "../../api/here";
import { useLabel, useOwnIngredientActions, useOwnIngredients } from "../../api/kitchen";
import { Problem } from "../../api/problem";
import { useLarder } from "../../api/queries";
import { Button } from "../../kit/Button";
import { CompositionForm } from "../../kit/CompositionForm";
import { Facts } from "../../kit/Facts";
import { plain } from "../../kit/habits";
import { listed } from "../../kit/listed";
import { Failed, Loading, Notice } from "../../kit/Notice";
import { Photograph } from "../../shared/Photograph";
import { CompareLabels } from "./CompareLabels";
import { useTakenOff } from "./useTakenOff";

/** The kitchen's own ingredients, each with a composition that adds up to 100. */
export function Own({ here }: { here: Here }) {
  const own = useOwnIngredients(here.slug);
  const takenOff = useTakenOff(here.slug);
  const { add, remove } = useOwnIngredientActions(here.slug);
  const larder = useLarder();
  const label = useLabel(here.slug);
  const asked = useSearchParams()[0].get("name") ?? "";
  const locked = here.role !== "chef";
  return (
    <section aria-label="Own ingredients">
      <h2 className="mb-2">Our own ingredients</h2>
      {own.isPending ? <Loading what="your own ingredients" /> : null}
      {own.isError ? <Failed sentence={own.error.message} again={() => void own.refetch()} /> : null}
      {own.data?.length === 0 ? (
        <p className="text-soft">None yet: what you weigh that is not in the larder.</p>
      ) : null}
      <ul>
        {own.data?.map((one) => (
          <li key={one.id} className="flex items-start justify-between gap-3 border-b border-hair py-2">
            <span className="min-w-0">
              <b className="break-words">{one.name}</b>
              <Facts
                className="text-sm text-soft"
                of={[
                  ...Object.entries(one.composition)
                    .sort(([, a], [, b]) => b - a)
                    .map(([part, share]) => `${part.replaceAll("_", " ")} ${plain(share)}`),
                  one.allergens.length > 0 && `contains ${listed(one.allergens)}`,
                ]}
              />
            </span>
            {locked ? null : (
              <Button
                className="shrink-0 text-sm"
                aria-label={`Remove ${one.name}`}
                onClick={() => remove.mutate(one.id, takenOff)}
              >
                Remove
              </Button>
            )}
          </li>
        ))}
      </ul>
      {remove.isError ? <Notice tone="wrong">{remove.error.message}</Notice> : null}
      {locked ? null : (
        <details className="mt-3" open={asked !== ""}>
          <summary className="min-h-11 py-2">Add one</summary>
          <CompositionForm
            label={label}
            photograph={(onText) => (
              <Photograph label="Or photograph the label" onRead={(picture) => onText(picture.text)} />
            )}
            components={larder.data?.components ?? []}
            name={asked}
            problem={add.error instanceof Problem ? add.error : null}
            pending={add.isPending}
            onAdd={(made, done) => add.mutate(made, { onSuccess: done })}
          />
        </details>
      )}
      <CompareLabels />
    </section>
  );
}
