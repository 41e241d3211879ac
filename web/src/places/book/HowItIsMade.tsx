import type { ImportOut } from "../../api/bench";
import { Button } from "../../kit/Button";
import { useUnits } from "../../kit/system";
import { temperature } from "../../kit/units";
import { type Setting, settingsOf } from "./settings";

interface Props {
  found: ImportOut;
  /** The schools that the formula is to follow. */
  schools: Readonly<Record<string, string>>;
  onSchools: (schools: Record<string, string>) => void;
  /** The figures that the formula is to keep. */
  card: ImportOut["card"];
  onCard: (card: ImportOut["card"]) => void;
}

/** What the method decides, each with the sentence that says so; schools can be left out. */
export function HowItIsMade({ found, schools, onSchools, card, onCard }: Props) {
  const { system } = useUnits();
  const rows = settingsOf(found, (celsius) => temperature(celsius, system));
  if (!rows.length) return null;
  const toggle = (school: string) => {
    const { [school]: chosen, ...others } = schools;
    onSchools(chosen ? others : { ...others, [school]: found.schools[school] ?? "" });
  };
  const isSet = ({ school, figure }: Setting) =>
    school ? schools[school] !== undefined : figure !== "" && card?.[figure] != null;
  const turn = ({ school, figure }: Setting) => {
    if (school) toggle(school);
    else if (figure) onCard({ ...card, [figure]: card?.[figure] == null ? found.card?.[figure] : null });
  };
  return (
    <section aria-labelledby="how-made">
      <h2 id="how-made">How it is made</h2>
      <ul className="mt-2 border-t border-hair">
        {rows.map((row) => (
          <li
            key={row.what}
            className="flex flex-wrap items-center justify-between gap-3 border-b border-hair py-2"
          >
            <span className="min-w-0 break-words">
              {row.said}
              <span className="block text-sm text-yolk-ink">“{row.sentence}”</span>
            </span>
            {row.school || row.figure ? (
              <Button
                aria-label={isSet(row) ? `Leave out: ${row.said}` : `Put back: ${row.said}`}
                onClick={() => turn(row)}
              >
                {isSet(row) ? "Leave out" : "Put back"}
              </Button>
            ) : null}
          </li>
        ))}
      </ul>
    </section>
  );
}
