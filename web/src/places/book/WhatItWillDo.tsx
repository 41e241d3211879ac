import { useHere } from "../../api/here";
import { type Draft, useAssessment } from "../../api/queries";
import { Rule } from "../../drawings/Rule";
import { coatText, Spoon } from "../../drawings/Spoon";
import { Notice } from "../../kit/Notice";
import { useSettled } from "../../kit/settled";
import { useUnits } from "../../kit/system";
import { temperature } from "../../kit/units";
import { cardSays } from "./settling";

interface Props {
  draft: Draft;
  /** The temperature that the recipe names [degC]. */
  card_c: number | null;
  missing: string;
}

const TYPING_MS = 300;

/** What the recipe will do on a stove here, next to what its card says. */
export function WhatItWillDo({ draft, card_c, missing }: Props) {
  const here = useHere();
  const { system } = useUnits();
  const { seen, error } = useAssessment(here.slug, null, useSettled(draft, TYPING_MS));
  return (
    <section aria-labelledby="will-do" className="grid content-start gap-3">
      <h2 id="will-do">What it will do</h2>
      {missing ? <p className="text-soft">{missing}.</p> : null}
      {error && !seen ? <Notice tone="wrong">{error.message}</Notice> : null}
      {seen ? (
        <>
          <div className="flex items-center gap-3">
            <Spoon film={seen.hot} size={72} />
            <div>
              <p className="figure text-xl">{seen.hot.word}</p>
              <p className="text-sm text-soft">{coatText(seen.hot.film_mm)}</p>
              <p className="text-sm text-soft">cold: {seen.cold.word}</p>
            </div>
          </div>
          <Rule
            window={seen.window}
            boiling_c={seen.boiling_c}
            stop_c={seen.stop_c}
            marks={card_c === null ? [] : [{ at_c: card_c, label: "your card says", tone: "copper" }]}
            low={40}
            height={290}
            system={system}
          />
          {card_c === null ? null : (
            <p>
              <b>Your card says {temperature(card_c, system)}.</b> {cardSays(card_c, seen, system)}
            </p>
          )}
        </>
      ) : null}
    </section>
  );
}
