import { Link } from "react-router";
import { type FormulaLine, useBook, useLarder } from "../../api/queries";
import { useHere } from "../../kit/here";
import { Empty, Failed, Loading } from "../../kit/Notice";
import { MiniRule } from "../../kit/Rule";
import { coatText, Spoon } from "../../kit/Spoon";
import { useUnits } from "../../kit/system";
import { massText, temperature } from "../../kit/units";

export function Book() {
  const here = useHere();
  const book = useBook(here.slug);
  return (
    <>
      <div className="mb-4 flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1>The book of {here.name}</h1>
          <p className="text-soft">
            Every rule is computed for its own mix, at {here.altitude_m.toFixed(0)} m. Open one to change it
            or to take it to the stove.
          </p>
        </div>
        {here.role === "chef" ? (
          <Link
            to="new"
            className="inline-flex min-h-11 items-center rounded-solid border border-line px-4 no-underline"
          >
            New formula
          </Link>
        ) : null}
      </div>
      {book.isPending ? <Loading what="the book" /> : null}
      {book.isError ? <Failed sentence={book.error.message} again={() => void book.refetch()} /> : null}
      {book.data?.length === 0 ? (
        <Empty title="No formula yet">
          {here.role === "chef"
            ? "Start with “New formula”: write what goes in, as the recipe says it, and see what it becomes."
            : "A chef of this kitchen adds the first one."}
        </Empty>
      ) : null}
      {book.data?.length ? <Lines lines={book.data} /> : null}
    </>
  );
}

function Lines({ lines }: { lines: readonly FormulaLine[] }) {
  const larder = useLarder();
  const family = (id: string) =>
    larder.data?.families.find((one) => one.family === id)?.name ?? id.replaceAll("-", " ");
  return (
    <ul className="border-t border-hair">
      {lines.map((line) => (
        <Line key={line.id} line={line} family={family(line.family)} />
      ))}
    </ul>
  );
}

function Line({ line, family }: { line: FormulaLine; family: string }) {
  const { system } = useUnits();
  return (
    <li className="border-b border-hair">
      <Link
        to={String(line.id)}
        className="grid items-center gap-x-6 gap-y-1 py-1.5 no-underline hover:bg-paper focus-visible:bg-paper sm:grid-cols-[40px_minmax(0,1fr)_auto] lg:grid-cols-[40px_minmax(0,1.4fr)_170px_140px_minmax(0,1fr)_110px]"
      >
        <span className="hidden sm:block">
          <Spoon film={line.hot} size={56} />
        </span>
        <span className="min-w-0">
          <span className="figure block break-words text-[1.25rem]">{line.name}</span>
          <span className="block text-soft">
            {family} · version {line.version}
          </span>
        </span>
        <span className="flex items-center gap-3 lg:block">
          <span className="sm:hidden">
            <Spoon film={line.hot} size={44} />
          </span>
          <span>
            <b>{line.hot.word}</b>
            <span className="block text-sm text-soft">
              {coatText(line.hot.film_mm)}
              <br />
              cold: {line.cold.word}
            </span>
          </span>
        </span>
        <span>
          <MiniRule {...line} system={system} />
        </span>
        <span className="tabular">
          {line.window.nappe_c === null
            ? "no nappe"
            : `nappe from ${temperature(line.window.nappe_c, system)}`}
          <span className="block text-sm text-soft">
            {line.window.curdles_c === null
              ? `stands the boil, ${temperature(line.boiling_c, system)}`
              : `curdles ${temperature(line.window.curdles_c, system)}`}
          </span>
        </span>
        <span className="tabular lg:text-right">
          {massText(line.mass_g, system)}
          <span className="block text-sm text-soft">
            {line.yolks ? `${line.yolks % 1 ? line.yolks.toFixed(1) : line.yolks} yolks` : "no yolk"}
          </span>
        </span>
      </Link>
    </li>
  );
}
