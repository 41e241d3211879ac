import { type FormEvent, useState } from "react";
import type { Here } from "../../api/here";
import { useIngredientChoices } from "../../api/ingredients";
import { useSetPrice } from "../../api/kitchen";
import { Problem } from "../../api/problem";
import { Button } from "../../kit/Button";
import { Combobox } from "../../kit/Combobox";
import { fixed } from "../../kit/habits";
import { Notice } from "../../kit/Notice";
import { TextBox } from "../../kit/TextBox";
import { useTold } from "../../kit/Told";
import { typedNumber } from "../../kit/typed";

/** What things cost, for an amount in any measure. */
export function Prices({ here }: { here: Here }) {
  const { items, own, larder } = useIngredientChoices(here.slug);
  const set = useSetPrice(here.slug);
  const { tell } = useTold();
  const [thing, setThing] = useState("");
  const [price, setPrice] = useState("");
  const [per, setPer] = useState("1 kg");
  const problem = set.error instanceof Problem ? set.error : null;
  const value = typedNumber(price);
  const unreadable = price.trim() !== "" && !(value >= 0);
  const locked = here.role !== "chef";
  const named = (id: string) => larder?.ingredients.find((one) => one.id === id)?.name ?? id;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!thing || price.trim() === "" || unreadable) return;
    const ingredient = own?.find((one) => `own ${one.id}` === thing)?.name ?? thing;
    set.mutate({ ingredient, price: value, per }, { onSuccess: () => setPrice("") });
  };
  const rows = Object.entries(here.prices).sort(([a], [b]) => named(a).localeCompare(named(b)));
  return (
    <section aria-label="Prices">
      <h2 className="mb-2">Prices</h2>
      {rows.length === 0 ? (
        <p className="text-soft">No prices yet; with them every formula says what it costs.</p>
      ) : (
        <ul
          className="max-h-80 overflow-y-auto border-y border-hair"
          tabIndex={rows.length > 6 ? 0 : undefined}
        >
          {rows.map(([id, one]) => (
            <li key={id} className="flex items-center justify-between gap-3 border-b border-hair py-1.5">
              <span className="min-w-0 break-words">{named(id)}</span>
              <span className="tabular flex shrink-0 items-center gap-2">
                {here.currency} {fixed(one.price, 2)} for {one.per}
                {locked ? null : (
                  <Button
                    aria-label={`Take away the price of ${named(id)}`}
                    className="text-sm"
                    onClick={() =>
                      set.mutate(
                        { ingredient: id, price: null, per: "1 kg" },
                        {
                          onSuccess: () =>
                            tell({
                              say: `The price of ${named(id)} is taken away.`,
                              back: () => set.mutateAsync({ ingredient: id, price: one.price, per: one.per }),
                            }),
                        },
                      )
                    }
                  >
                    Take away
                  </Button>
                )}
              </span>
            </li>
          ))}
        </ul>
      )}
      {locked ? null : (
        <form
          onSubmit={submit}
          noValidate
          className="mt-4 grid items-start gap-3 sm:grid-cols-[1fr_6rem_7rem_auto]"
        >
          <Combobox
            label="Ingredient"
            error={problem?.at("ingredient")}
            items={items}
            value={thing}
            onChoose={setThing}
          />
          <TextBox
            label="Price"
            error={unreadable ? "Write a number." : problem?.at("price")}
            numeric
            value={price}
            onChange={setPrice}
          />
          <TextBox
            label="for"
            error={problem?.at("amount") ?? problem?.at("per")}
            value={per}
            onChange={setPer}
          />
          <Button type="submit" className="sm:mt-7" disabled={set.isPending || !thing}>
            Keep
          </Button>
        </form>
      )}
      {problem?.beside("ingredient", "price", "amount", "per") ? (
        <Notice tone="wrong">{problem.message}</Notice>
      ) : null}
    </section>
  );
}
