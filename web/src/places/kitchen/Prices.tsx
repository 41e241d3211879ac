import { type FormEvent, useState } from "react";
import { useOwnIngredients, useSetPrice } from "../../api/kitchen";
import { Problem } from "../../api/problem";
import { useLarder } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Field } from "../../kit/Field";
import type { Here } from "../../kit/here";
import { Notice } from "../../kit/Notice";
import { TextBox } from "../../kit/TextBox";

/** What things cost, for an amount in any measure. */
export function Prices({ here }: { here: Here }) {
  const larder = useLarder();
  const own = useOwnIngredients(here.slug);
  const set = useSetPrice(here.slug);
  const [thing, setThing] = useState("");
  const [price, setPrice] = useState("");
  const [per, setPer] = useState("1 kg");
  const problem = set.error instanceof Problem ? set.error : null;
  const value = Number(price.trim().replace(",", "."));
  const unreadable = price.trim() !== "" && !(value >= 0);
  const locked = here.role !== "chef";
  const named = (id: string) => larder.data?.ingredients.find((one) => one.id === id)?.name ?? id;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!thing || price.trim() === "" || unreadable) return;
    set.mutate({ ingredient: thing, price: value, per }, { onSuccess: () => setPrice("") });
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
                {here.currency} {one.price.toFixed(2)} for {one.per}
                {locked ? null : (
                  <Button
                    aria-label={`Take away the price of ${named(id)}`}
                    className="text-sm"
                    onClick={() => set.mutate({ ingredient: id, price: null, per: "1 kg" })}
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
          <Field label="Ingredient" error={problem?.at("ingredient")}>
            {(given) => (
              <select
                {...given}
                className="w-full"
                value={thing}
                onChange={(event) => setThing(event.target.value)}
              >
                <option value="">choose …</option>
                {own.data?.map((one) => (
                  <option key={one.name} value={one.name}>
                    {one.name}
                  </option>
                ))}
                {larder.data?.ingredients.map((one) => (
                  <option key={one.id} value={one.id}>
                    {one.name}
                  </option>
                ))}
              </select>
            )}
          </Field>
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
