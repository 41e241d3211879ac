import type { Dispatch } from "react";
import { asFormulaHasIt } from "../../api/ingredients";
import type { OwnIngredient } from "../../api/kitchen";
import { useLarder } from "../../api/queries";
import { IngredientBox } from "../../shared/IngredientBox";
import type { Change } from "./draft";

const FIRST_AMOUNT: Record<string, string> = { yolk: "1", white: "1", egg: "1", pod: "1", leaf: "2" };

/** One more ingredient, found by typing. */
export function AddLine({ act }: { act: Dispatch<Change> }) {
  const larder = useLarder().data;
  const add = (value: string, mine?: OwnIngredient) => {
    const thing = larder?.ingredients.find((one) => one.id === value);
    const amount = FIRST_AMOUNT[thing?.piece ?? ""] ?? "10 g";
    act({ do: "add", line: { ingredient: mine ? asFormulaHasIt(mine) : value, amount, note: "" } });
  };
  return (
    <div className="mt-3">
      <IngredientBox
        label="Add an ingredient"
        hideLabel
        placeholder="Add an ingredient …"
        clears
        onChoose={add}
      />
    </div>
  );
}
