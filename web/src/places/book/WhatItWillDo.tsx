import { useHere } from "../../api/here";
import { type Draft, useAssessment } from "../../api/queries";
import { Rule } from "../../drawings/Rule";
import { coatText, Spoon } from "../../drawings/Spoon";
import { Notice } from "../../kit/Notice";
import { useSettled } from "../../kit/settled";
import { useUnits } from "../../kit/system";
import { inUnits, temperature } from "../../kit/units";

interface Props {
  draft: Draft;
  missing: string;
}

const TYPING_MS = 300;

/** What the recipe will do on a stove here, next to what its card says. */
export function WhatItWillDo({ draft, missing }: Props) {
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
            marks={seen.card ? [{ at_c: seen.card.at_c, label: "your card says", tone: "copper" }] : []}
            low={40}
            height={290}
            system={system}
          />
          {seen.card ? (
            <p>
              <b>Your card says {temperature(seen.card.at_c, system)}.</b> {inUnits(seen.card.say, system)}
            </p>
          ) : null}
        </>
      ) : null}
    </section>
  );
}
