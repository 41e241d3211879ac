import type { ImportOut } from "../../api/bench";
import { Button } from "../../kit/Button";
import { useUnits } from "../../kit/system";
import { temperature } from "../../kit/units";
import { settingsOf } from "./settings";

interface Props {
  found: ImportOut;
  /** The schools that the formula is to follow. */
  schools: Readonly<Record<string, string>>;
  onSchools: (schools: Record<string, string>) => void;
}

/** What the method decides, each with the sentence that says so; schools can be left out. */
export function HowItIsMade({ found, schools, onSchools }: Props) {
  const { system } = useUnits();
  const rows = settingsOf(found, (celsius) => temperature(celsius, system));
  if (!rows.length) return null;
  const toggle = (school: string) => {
    const { [school]: chosen, ...others } = schools;
    onSchools(chosen ? others : { ...others, [school]: found.schools[school] ?? "" });
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
            {row.school ? (
              <Button
                aria-label={schools[row.school] ? `Leave out: ${row.said}` : `Put back: ${row.said}`}
                onClick={() => toggle(row.school)}
              >
                {schools[row.school] ? "Leave out" : "Put back"}
              </Button>
            ) : null}
          </li>
        ))}
      </ul>
    </section>
  );
}
