import { type FormEvent, useState } from "react";
import { useOwnIngredientActions, useOwnIngredients } from "../../api/kitchen";
import { Problem } from "../../api/problem";
import { useLarder } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Wrong } from "../../kit/Field";
import type { Here } from "../../kit/here";
import { Notice } from "../../kit/Notice";
import { TextBox } from "../../kit/TextBox";

const FIRST = ["water", "fat", "sucrose", "other_sugars", "starch", "rest"];

/** The kitchen's own ingredients, each with a composition that adds up to 100. */
export function Own({ here }: { here: Here }) {
  const own = useOwnIngredients(here.slug);
  const { add, remove } = useOwnIngredientActions(here.slug);
  const locked = here.role !== "chef";
  return (
    <section aria-label="Own ingredients">
      <h2 className="mb-2">Our own ingredients</h2>
      {own.data?.length === 0 ? (
        <p className="text-soft">None yet: what you weigh that is not in the larder.</p>
      ) : null}
      <ul>
        {own.data?.map((one) => (
          <li key={one.id} className="flex items-start justify-between gap-3 border-b border-hair py-2">
            <span className="min-w-0">
              <b className="break-words">{one.name}</b>
              <span className="block text-sm text-soft">
                {Object.entries(one.composition)
                  .sort(([, a], [, b]) => b - a)
                  .map(([part, share]) => `${part.replaceAll("_", " ")} ${share}`)
                  .join(" · ")}
                {one.allergens.length ? ` · contains ${one.allergens.join(", ")}` : ""}
              </span>
            </span>
            {locked ? null : (
              <Button
                className="shrink-0 text-sm"
                aria-label={`Take off ${one.name}`}
                onClick={() => remove.mutate(one.id)}
              >
                Take off
              </Button>
            )}
          </li>
        ))}
      </ul>
      {remove.isError ? <Notice tone="wrong">{remove.error.message}</Notice> : null}
      {locked ? null : (
        <details className="mt-3">
          <summary className="min-h-11 py-2">Add one</summary>
          <NewOne add={add} />
        </details>
      )}
    </section>
  );
}

function NewOne({ add }: { add: ReturnType<typeof useOwnIngredientActions>["add"] }) {
  const larder = useLarder();
  const [name, setName] = useState("");
  const [allergens, setAllergens] = useState("");
  const [parts, setParts] = useState<Record<string, string>>({});
  const problem = add.error instanceof Problem ? add.error : null;
  const value = (part: string) => Number((parts[part] ?? "0").trim().replace(",", ".") || 0);
  const components = larder.data?.components ?? [];
  const order = [...FIRST, ...components.filter((part) => !FIRST.includes(part))];
  const total = order.reduce((sum, part) => sum + (value(part) || 0), 0);
  const bad = order.find((part) => Number.isNaN(value(part)));
  const off = Math.abs(total - 100) > 0.5;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (bad) return;
    const composition = Object.fromEntries(
      order.map((part) => [part, value(part)]).filter(([, share]) => share),
    );
    const words = allergens
      .split(",")
      .map((word) => word.trim())
      .filter(Boolean);
    add.mutate(
      { name, composition, allergens: words, density_g_per_ml: null },
      {
        onSuccess: () => {
          setName("");
          setParts({});
          setAllergens("");
        },
      },
    );
  };
  return (
    <form onSubmit={submit} noValidate className="grid gap-3">
      <TextBox label="Name" error={problem?.at("name")} maxLength={80} value={name} onChange={setName} />
      <fieldset>
        <legend className="mb-1 text-soft">In 100 g, grams</legend>
        <div className="grid grid-cols-2 gap-3 sm:grid-cols-3">
          {order.map((part) => (
            <TextBox
              key={part}
              label={part.replaceAll("_", " ")}
              error={Number.isNaN(value(part)) ? "Write a number." : problem?.at(`composition.${part}`)}
              numeric
              value={parts[part] ?? ""}
              onChange={(typed) => setParts({ ...parts, [part]: typed })}
            />
          ))}
        </div>
        <p role="status" className={`tabular mt-2 ${off ? "text-brick" : "text-herb"}`}>
          {total.toFixed(1)} of 100 g{off ? `; ${(100 - total).toFixed(1)} to go` : ", adds up"}
        </p>
        {problem?.at("composition") ? <Wrong>{problem.at("composition")}</Wrong> : null}
      </fieldset>
      <TextBox
        label="Allergens, with commas"
        error={problem?.fields.find((one) => one.field.startsWith("allergens"))?.message}
        value={allergens}
        onChange={setAllergens}
      />
      <Button
        look="iron"
        type="submit"
        className="justify-self-start"
        disabled={off || !name.trim() || add.isPending}
      >
        Add it
      </Button>
      {problem?.beside("name", "composition", "allergens") ? (
        <Notice tone="wrong">{problem.message}</Notice>
      ) : null}
    </form>
  );
}
