import { useState } from "react";
import { useHere } from "../api/here";
import { ownValue, useIngredientChoices } from "../api/ingredients";
import { type OwnIngredient, useLabel, useOwnIngredientActions } from "../api/kitchen";
import { Problem } from "../api/problem";
import { Button } from "../kit/Button";
import { Combobox } from "../kit/Combobox";
import { CompositionForm } from "../kit/CompositionForm";
import { Sheet } from "../kit/Sheet";
import { Photograph } from "./Photograph";

interface Props {
  label: string;
  hideLabel?: boolean;
  placeholder: string;
  value?: string;
  /** Cleared after each choice, so that one can choose again. */
  clears?: boolean;
  /** The id of the larder's, or "own 7" and that one of the kitchen's own. */
  onChoose: (value: string, mine?: OwnIngredient) => void;
}

/** One ingredient, found by typing; what is not there is written by its composition or its label. */
export function IngredientBox({ onChoose, ...box }: Props) {
  const here = useHere();
  const label = useLabel(here.slug);
  const { items, chose, own, larder } = useIngredientChoices(here.slug);
  const [writing, setWriting] = useState<string | null>(null);
  const { add: keep } = useOwnIngredientActions(here.slug);
  const choose = (value: string, mine = own?.find((one) => ownValue(one) === value)) => {
    chose(value);
    onChoose(value, mine);
  };
  return (
    <>
      <Combobox
        {...box}
        items={items}
        onChoose={(value) => choose(value)}
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
            photograph={(onText) => (
              <Photograph label="Or photograph the label" onRead={(picture) => onText(picture.text)} />
            )}
            components={larder?.components ?? []}
            name={writing}
            problem={keep.error instanceof Problem ? keep.error : null}
            pending={keep.isPending}
            onAdd={(made) =>
              keep.mutate(made, {
                onSuccess: (kept) => {
                  choose(ownValue(kept), kept);
                  setWriting(null);
                },
              })
            }
          />
        ) : null}
      </Sheet>
    </>
  );
}
