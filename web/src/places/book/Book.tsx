import { useState } from "react";
import { Link } from "react-router";
import { useHere } from "../../api/here";
import { type BookPage, type FormulaLine, useBook, useFamilyName, usePatterns } from "../../api/queries";
import { MiniRule } from "../../drawings/Rule";
import { coatText, Spoon } from "../../drawings/Spoon";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { fixed } from "../../kit/habits";
import { Empty, Failed, Loading } from "../../kit/Notice";
import { useSettled } from "../../kit/settled";
import { useUnits } from "../../kit/system";
import { massText, temperature } from "../../kit/units";

const NOTHING_ASKED = { words: "", family: "", word: "" };
type Asked = typeof NOTHING_ASKED;
const TYPING_MS = 200;

/** The formulas of a kitchen: found by name, family or consistency, two of them compared. */
export function Book() {
  const here = useHere();
  const [archived, setArchived] = useState(false);
  const [asked, setAsked] = useState(NOTHING_ASKED);
  const book = useBook(here.slug, { archived, ...useSettled(asked, TYPING_MS) });
  const first = book.data?.pages[0];
  const chef = here.role === "chef";
  return (
    <>
      <div className="mb-4 flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1>{archived ? "Removed formulas" : `The book of ${here.name}`}</h1>
          <p className="text-soft">
            {archived
              ? "Open one to put it back; its versions and batches are all still here."
              : `Every rule is computed for its own mix, at ${fixed(here.altitude_m, 0)} m. Open one to change it or to take it to the stove.`}
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          <Button
            onClick={() => {
              setArchived(!archived);
              setAsked(NOTHING_ASKED);
            }}
          >
            {archived ? "Back to the book" : "Removed formulas"}
          </Button>
          {here.role !== "viewer" ? (
            <>
              <Link
                to="import"
                className="inline-flex min-h-11 items-center rounded-solid border border-line px-4 no-underline"
              >
                {chef ? "Import a recipe" : "Propose a recipe"}
              </Link>
              <Link
                to="new"
                className="inline-flex min-h-11 items-center rounded-solid border border-line px-4 no-underline"
              >
                New formula
              </Link>
            </>
          ) : null}
        </div>
      </div>
      {book.isPending ? <Loading what="the book" /> : null}
      {book.isError ? <Failed sentence={book.error.message} again={() => void book.refetch()} /> : null}
      {first?.total === 0 ? (
        <Empty title={archived ? "No removed formulas" : "No formula yet"}>
          {archived
            ? "A formula that you remove from the book stays here until you put it back."
            : chef
              ? "Begin with a plain sauce and change it, or bring in a recipe as you have it."
              : "A chef of this kitchen adds the first one."}
          {chef && !archived ? <FirstOne /> : null}
        </Empty>
      ) : null}
      {first?.total && book.data ? (
        <Lines
          lines={book.data.pages.flatMap((page) => page.lines)}
          page={first}
          asked={asked}
          ask={setAsked}
        />
      ) : null}
      {book.hasNextPage ? (
        <p className="mt-4">
          <Button disabled={book.isFetchingNextPage} onClick={() => void book.fetchNextPage()}>
            {book.isFetchingNextPage ? "Fetching more …" : "More formulas"}
          </Button>
        </p>
      ) : null}
    </>
  );
}

interface Looking {
  lines: readonly FormulaLine[];
  page: BookPage;
  asked: Asked;
  ask: (asked: Asked) => void;
}

function Lines({ lines, page, asked, ask }: Looking) {
  const here = useHere();
  const named = useFamilyName();
  const [chosen, setChosen] = useState<readonly number[]>([]);
  const choose = (id: number) =>
    setChosen(chosen.includes(id) ? chosen.filter((one) => one !== id) : [...chosen, id].slice(-2));
  const [a, b] = chosen;
  return (
    <>
      <search className="mb-3 flex flex-wrap items-end gap-3">
        <label className="min-w-44 grow text-soft sm:max-w-72">
          <span className="mb-1 block">Find</span>
          <input
            className="w-full"
            type="search"
            value={asked.words}
            onChange={(event) => ask({ ...asked, words: event.target.value })}
          />
        </label>
        <label className="text-soft">
          <span className="mb-1 block">Family</span>
          <select value={asked.family} onChange={(event) => ask({ ...asked, family: event.target.value })}>
            <option value="">all</option>
            {page.families.map((one) => (
              <option key={one} value={one}>
                {named(one)}
              </option>
            ))}
          </select>
        </label>
        <label className="text-soft">
          <span className="mb-1 block">Texture when hot</span>
          <select value={asked.word} onChange={(event) => ask({ ...asked, word: event.target.value })}>
            <option value="">anything</option>
            {page.words.map((one) => (
              <option key={one}>{one}</option>
            ))}
          </select>
        </label>
        <span className="min-h-11 py-2.5 text-soft" role="status">
          {page.found === page.total ? "" : `${page.found} of ${page.total}`}
        </span>
        {a && b ? (
          <Link
            to={`/k/${here.slug}/book/compare?a=${a}&b=${b}`}
            className="ml-auto inline-flex min-h-11 items-center rounded-solid border border-iron bg-iron px-4 text-paper no-underline"
          >
            Compare the two
          </Link>
        ) : a ? (
          <span className="ml-auto py-2.5 text-soft">choose one more to compare</span>
        ) : null}
      </search>
      {lines.length === 0 ? (
        <Empty title="Nothing like that">
          No formula has these words, family and consistency together; loosen one of them.
        </Empty>
      ) : (
        <ul className="border-t border-hair">
          {lines.map((line) => (
            <li key={line.id} className="flex items-center gap-2 border-b border-hair">
              <label className="grid size-11 shrink-0 cursor-pointer place-items-center">
                <input
                  type="checkbox"
                  className="size-5 min-h-0"
                  aria-label={`Compare ${line.name}`}
                  checked={chosen.includes(line.id)}
                  onChange={() => choose(line.id)}
                />
              </label>
              <Line line={line} family={named(line.family)} currency={here.currency} />
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

function Line({ line, family, currency }: { line: FormulaLine; family: string; currency: string }) {
  const { system } = useUnits();
  return (
    <Link
      to={String(line.id)}
      className="grid min-w-0 grow items-center gap-x-6 gap-y-1 py-1.5 no-underline hover:bg-paper focus-visible:bg-paper sm:grid-cols-[40px_minmax(0,1fr)_auto] lg:grid-cols-[40px_minmax(0,1.4fr)_170px_140px_minmax(0,1fr)_190px]"
    >
      <span className="hidden sm:block sm:max-lg:row-span-3">
        <Spoon film={line.hot} size={56} />
      </span>
      <span className="min-w-0">
        <span className="figure block break-words text-[1.25rem]">{line.name}</span>
        <Facts
          className="text-soft"
          of={[
            family,
            `version ${line.version}`,
            line.proposed_by !== "" && <b key="proposed">proposed by {line.proposed_by}</b>,
          ]}
        />
      </span>
      <span className="flex items-center gap-3 sm:max-lg:col-start-3 lg:block">
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
      <span className="sm:max-lg:col-start-2">
        <MiniRule {...line} system={system} />
      </span>
      <span className="tabular sm:max-lg:col-start-2">
        {line.window.nappe_c === null ? "no nappe" : `nappe from ${temperature(line.window.nappe_c, system)}`}
        <span className="block text-sm text-soft">
          {line.window.curdles_c === null
            ? `stands the boil, ${temperature(line.boiling_c, system)}`
            : `curdles ${temperature(line.window.curdles_c, system)}`}
        </span>
      </span>
      <span className="tabular sm:max-lg:col-start-3 sm:max-lg:row-start-2 sm:max-lg:row-span-2 lg:text-right">
        {massText(line.mass_g, system)}
        <span className="block text-sm text-soft">
          <Facts
            of={[
              line.yolk_g_per_l === null ? "no milk" : `yolk ${fixed(line.yolk_g_per_l, 0)} g/l`,
              line.starch_percent > 0 && `starch ${fixed(line.starch_percent, 1)} %`,
            ]}
          />
          <Facts
            of={[
              line.keeps_days ? `keeps ${line.keeps_days} d` : "same day",
              line.cost !== null && `${currency} ${fixed(line.cost, 2)}`,
            ]}
          />
        </span>
      </span>
    </Link>
  );
}

/** The doors to a first formula: a recipe as one has it, many of them, or a plain one of a family. */
function FirstOne() {
  const here = useHere();
  const named = useFamilyName();
  const patterns = usePatterns(here.slug);
  const door =
    "block min-h-24 rounded-solid border border-line bg-paper p-4 text-iron no-underline hover:border-iron";
  return (
    <>
      <ul aria-label="Doors" className="mt-4 grid gap-3 sm:grid-cols-3">
        <li>
          <Link to="import" className={door}>
            <b className="figure block text-lg">Paste a recipe</b>
            <span className="text-sm">A card, a page, a sentence, in six languages.</span>
          </Link>
        </li>
        <li>
          <Link to="import" className={door}>
            <b className="figure block text-lg">Photograph one</b>
            <span className="text-sm">
              A printed card or a page; you see the picture next to what was read.
            </span>
          </Link>
        </li>
        <li>
          <Link to="import" className={door}>
            <b className="figure block text-lg">Import many</b>
            <span className="text-sm">Files, a zip, or a table with a name in each row.</span>
          </Link>
        </li>
      </ul>
      <h3 className="mt-6">Or begin with a plain</h3>
      <ul aria-label="Begin with a plain" className="mt-2 flex flex-wrap gap-2">
        {patterns.data?.map((one) => (
          <li key={one.family}>
            <Link
              to={`new?pattern=${one.family}`}
              className="inline-flex min-h-11 items-center rounded-solid border border-line px-4 text-iron no-underline"
            >
              {named(one.family)}
            </Link>
          </li>
        ))}
      </ul>
    </>
  );
}
