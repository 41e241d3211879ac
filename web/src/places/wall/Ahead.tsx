import type { WallDay } from "../../api/wall";
import { useUnits } from "../../kit/system";
import { inUnits, massText } from "../../kit/units";
import { hourOf, when } from "../../kit/when";

/** What comes next and whose it is; what must be used up or thrown away before the day ends. */
export function Ahead({ day }: { day: WallDay | undefined }) {
  const { system } = useUnits();
  if (!day) return null;
  const must = day.tubs.length > 0 || day.unlabelled > 0;
  return (
    <div className="grid min-w-0 gap-x-[4vw] gap-y-4 py-[2vh] text-[clamp(1rem,1.8vw,2.4rem)] md:grid-cols-2">
      <section aria-label="Next" className="min-w-0">
        <h2 className="text-[1.1em]">Next</h2>
        {day.next.length === 0 ? <p className="text-soft">Nothing more is planned.</p> : null}
        <ul>
          {day.next.map((step) => (
            <li key={`${step.at} ${step.of} ${step.what}`} className="break-words md:truncate">
              <b className={`tabular ${step.late ? "text-brick" : ""}`}>
                {when(step.at).replace("today, ", "")}
              </b>{" "}
              {inUnits(step.what, system)}
              <span className="text-soft">{` · ${step.whose} · ${step.of}`}</span>
            </li>
          ))}
        </ul>
      </section>
      <section aria-label="Today, before the end" className="min-w-0">
        <h2 className={`text-[1.1em] ${must ? "text-brick" : ""}`}>Today, before the end</h2>
        {must ? null : <p className="text-soft">Nothing has to go today.</p>}
        <ul>
          {day.tubs.map((tub) => (
            <li key={tub.id} className={`break-words md:truncate ${tub.past ? "font-bold text-brick" : ""}`}>
              {tub.past
                ? `Throw away: ${massText(tub.grams, system)} ${tub.what}, batch ${tub.batch}`
                : `${massText(tub.grams, system)} ${tub.what}, batch ${tub.batch}: use by ${hourOf(tub.use_by)}`}
            </li>
          ))}
          {day.more_tubs > 0 ? <li>{`and ${day.more_tubs} more`}</li> : null}
          {day.unlabelled > 0 ? (
            <li>{day.unlabelled === 1 ? "one tub to label" : `${day.unlabelled} tubs to label`}</li>
          ) : null}
        </ul>
      </section>
    </div>
  );
}
