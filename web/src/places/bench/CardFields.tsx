import type { Dispatch } from "react";
import type { Problem } from "../../api/problem";
import { type Assessment, type Draft, useLarder } from "../../api/queries";
import { Field } from "../../kit/Field";
import { useUnits } from "../../kit/system";
import { TypedInput } from "../../kit/TypedInput";
import { typedCelsius, typedMinutes, typedNumber } from "../../kit/typed";
import { degrees, inUnits, temperature } from "../../kit/units";
import type { Change } from "./draft";

type Card = NonNullable<Draft["card"]>;
type Figure = Exclude<keyof Card, "bath">;

interface Props {
  draft: Draft;
  boiled: Assessment["boiled"];
  says: Assessment["card"];
  problem: Problem | null;
  act: Dispatch<Change>;
}

const typedHours = (text: string) => (/[hm]/i.test(text) ? typedMinutes(text) / 60 : typedNumber(text));
const FIGURES: readonly {
  figure: Figure;
  shown: string;
  read: (text: string) => number;
  only?: "baked" | "boiled";
}[] = [
  { figure: "cook_to_c", shown: "cooked to", read: typedNumber },
  { figure: "boil_s", shown: "held at the boil, s", read: typedNumber, only: "boiled" },
  { figure: "oven_c", shown: "oven of", read: typedNumber, only: "baked" },
  { figure: "cup_ml", shown: "cups of, ml", read: typedNumber, only: "baked" },
  { figure: "bake_min", shown: "baked, min", read: typedMinutes, only: "baked" },
  { figure: "chill_h", shown: "chilled, h", read: typedHours },
];

/** What the recipe says in figures, next to what is computed; the oven and the bath are what a batch begins with. */
export function CardFields({ draft, boiled, says, problem, act }: Props) {
  const { system } = useUnits();
  const card: Card = draft.card ?? {};
  const baked = useLarder().data?.families.find((one) => one.family === draft.family)?.baked ?? false;
  const done = { baked, boiled };
  const us = system === "us";
  const isHeat = (figure: Figure) => figure.endsWith("_c");
  const change = (more: Partial<Card>) => act({ do: "purpose", part: "card", value: { ...card, ...more } });
  // A field for a temperature holds the person's own degrees.
  const shown = (figure: Figure) => {
    const value = card[figure] ?? null;
    return value !== null && us && isHeat(figure) ? Math.round(degrees(value, system)) : value;
  };
  const typed = (figure: Figure, value: number | null) =>
    value === null || !isHeat(figure) ? value : typedCelsius(String(value), system);
  return (
    <section aria-label="As its recipe says" className="grid max-w-3xl gap-3">
      <h2>As its recipe says</h2>
      <div className="flex flex-wrap items-end gap-4">
        {FIGURES.filter((one) => !one.only || done[one.only]).map(({ figure, shown: label, read }) => (
          <Field
            key={figure}
            label={isHeat(figure) ? `${label}, ${us ? "°F" : "°C"}` : label}
            error={problem?.at(`card.${figure}`)}
          >
            {(given) => (
              <TypedInput
                {...given}
                className="w-24 text-right"
                inputMode="decimal"
                value={shown(figure)}
                read={read}
                onValue={(value) => change({ [figure]: typed(figure, value) })}
              />
            )}
          </Field>
        ))}
        {baked ? (
          <label className="flex min-h-11 items-center gap-2">
            <input
              type="checkbox"
              className="size-6 min-h-0"
              // Cups stand in water unless somebody says that they do not.
              checked={card.bath ?? true}
              onChange={(event) => change({ bath: event.target.checked })}
            />
            in water
          </label>
        ) : null}
      </div>
      {says ? (
        <p>
          <b>Your card says {temperature(says.at_c, system)}.</b> {inUnits(says.say, system)}
        </p>
      ) : null}
    </section>
  );
}
