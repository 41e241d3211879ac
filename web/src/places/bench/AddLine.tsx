import { type Dispatch, useState } from "react";
import { useHere } from "../../api/here";
import { useIngredientChoices } from "../../api/ingredients";
import { type OwnIngredient, useLabel, useOwnIngredientActions } from "../../api/kitchen";
import { Problem } from "../../api/problem";
import { Button } from "../../kit/Button";
import { Combobox } from "../../kit/Combobox";
import { type Composed, CompositionForm } from "../../kit/CompositionForm";
import { Sheet } from "../../kit/Sheet";
import type { Change } from "./draft";

const FIRST_AMOUNT: Record<string, string> = { yolk: "1", white: "1", egg: "1", pod: "1", leaf: "2" };

/** One more ingredient, found by typing; what is not there is written by its composition. */
export function AddLine({ act }: { act: Dispatch<Change> }) {
  const here = useHere();
  const label = useLabel(here.slug);
  const { items, chose, own, larder } = useIngredientChoices(here.slug);
  const [writing, setWriting] = useState<string | null>(null);
  const { add: keep } = useOwnIngredientActions(here.slug);
  const addOwn = ({ name, composition, allergens, density_g_per_ml }: Composed | OwnIngredient) => {
    const made = { name, composition, allergens, density_g_per_ml };
    act({ do: "add", line: { ingredient: made, amount: "10 g", note: "" } });
  };
  const add = (value: string) => {
    chose(value);
    const mine = own?.find((one) => `own ${one.id}` === value);
    if (mine) return addOwn(mine);
    const thing = larder?.ingredients.find((one) => one.id === value);
    if (!thing) return;
    const amount = FIRST_AMOUNT[thing.piece] ?? "10 g";
    act({ do: "add", line: { ingredient: value, amount, note: "" } });
  };
  return (
    <div className="mt-3">
      <Combobox
        label="Add an ingredient"
        hideLabel
        placeholder="Add an ingredient …"
        items={items}
        clears
        onChoose={add}
        none={(typed) => (
          <>
            <p>Nothing is called “{typed}” here.</p>
            {here.role === "chef" ? (
              <Button
                className="mt-2"
                onMouseDown={(event) => event.preventDefault()}
                onClick={() => setWriting(typed)}
              >
                Not there? Write its composition
              </Button>
            ) : (
              <p className="mt-1 text-soft">A chef of this kitchen can write what it is made of.</p>
            )}
          </>
        )}
        onNone={here.role === "chef" ? setWriting : undefined}
      />
      <Sheet open={writing !== null} onClose={() => setWriting(null)} title="What is it made of?">
        {writing !== null ? (
          <CompositionForm
            label={label}
            components={larder?.components ?? []}
            name={writing}
            problem={keep.error instanceof Problem ? keep.error : null}
            pending={keep.isPending}
            onAdd={(made) =>
              keep.mutate(made, {
                onSuccess: () => {
                  addOwn(made);
                  setWriting(null);
                },
              })
            }
          />
        ) : null}
      </Sheet>
    </div>
  );
}
