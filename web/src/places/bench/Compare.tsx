import { Link, useSearchParams } from "react-router";
import { type Compared, useCompare } from "../../api/bench";
import { useHere } from "../../api/here";
import type { Assessment, FormulaOut } from "../../api/queries";
import { Rule } from "../../drawings/Rule";
import { coatText, Spoon } from "../../drawings/Spoon";
import { Failed, Loading } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { inUnits, massText } from "../../kit/units";

/** Two formulas, or two versions of one, side by side. */
export function Compare() {
  const here = useHere();
  const [search] = useSearchParams();
  const side = (name: string) => ({
    formula: Number(search.get(name)),
    version: Number(search.get(`${name}v`)) || null,
  });
  const found = useCompare(here.slug, side("a"), side("b"));
  if (found.isPending) return <Loading title="Side by side" what="both formulas" />;
  if (found.isError)
    return <Failed title="Side by side" sentence={found.error.message} again={() => void found.refetch()} />;
  return <Both found={found.data} />;
}

function Both({ found }: { found: Compared }) {
  const { system } = useUnits();
  const same = found.a.id === found.b.id;
  return (
    <>
      <h1 className="mb-4">{same ? `${found.a.draft.name}: two versions` : "Side by side"}</h1>
      <div className="mb-6 grid gap-x-8 gap-y-2 md:grid-cols-2">
        <section aria-label="What differs in the slip">
          <h2 className="mb-1">On the scale</h2>
          {found.lines.length ? (
            <ul>
              {found.lines.map((line) => (
                <li key={line} className="tabular border-b border-dotted border-line py-1">
                  {line}
                </li>
              ))}
            </ul>
          ) : (
            <p className="text-soft">They weigh the same.</p>
          )}
        </section>
        <section aria-label="What comes of it">
          <h2 className="mb-1">What comes of it</h2>
          {found.differences.length ? (
            <ul>
              {found.differences.map((text) => (
                <li key={text} className="border-b border-dotted border-line py-1">
                  {inUnits(text, system)}
                </li>
              ))}
            </ul>
          ) : (
            <p className="text-soft">Nothing you could see.</p>
          )}
        </section>
      </div>
      <div className="grid gap-8 md:grid-cols-2">
        <Side formula={found.a} is={found.a_is} />
        <Side formula={found.b} is={found.b_is} />
      </div>
    </>
  );
}

function Side({ formula, is }: { formula: FormulaOut; is: Assessment }) {
  const { system } = useUnits();
  return (
    <section aria-label={`${formula.draft.name}, version ${formula.version}`} className="min-w-0">
      <h2 className="break-words text-[1.5rem]">
        <Link to={`../${formula.id}${formula.version === formula.latest ? "" : `?v=${formula.version}`}`}>
          {formula.draft.name}
        </Link>
      </h2>
      <p className="text-soft">version {formula.version}</p>
      <div className="mt-3 grid grid-cols-[auto_minmax(0,1fr)] items-center gap-4">
        <Spoon film={is.hot} size={110} />
        <p>
          <b className="figure text-[1.4rem]">{is.hot.word}</b>
          <br />
          <span className="text-soft">
            {coatText(is.hot.film_mm)}, the line {is.hot.line}; cold: {is.cold.word}
          </span>
        </p>
      </div>
      <ul className="slip mt-4 border border-hair bg-paper px-4 py-3">
        {is.slip.map((line, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: lines are told apart by their place
          <li key={i} className="flex justify-between gap-3 border-b border-dotted border-line py-1.5">
            <span className="min-w-0 break-words">
              {line.name} <span className="text-sm text-soft">{line.amount}</span>
            </span>
            <span className="figure shrink-0 text-[1.2rem]">{massText(line.mass_g, system)}</span>
          </li>
        ))}
        <li className="flex justify-between pt-2">
          <span className="text-soft">in all</span>
          <b className="tabular">{massText(is.mass_g, system)}</b>
        </li>
      </ul>
      <div className="mt-4">
        <Rule
          window={is.window}
          boiling_c={is.boiling_c}
          stop_c={is.stop_c}
          low={50}
          height={300}
          system={system}
        />
      </div>
    </section>
  );
}
