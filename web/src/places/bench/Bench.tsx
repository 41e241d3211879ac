import { useEffect, useReducer, useState } from "react";
import { useParams, useSearchParams } from "react-router";
import { Problem } from "../../api/problem";
import { type Draft, type FormulaOut, useAssessment, useFormula } from "../../api/queries";
import { Button } from "../../kit/Button";
import { useHere } from "../../kit/here";
import { useKeys } from "../../kit/keys";
import { Failed, Loading, Notice } from "../../kit/Notice";
import { begin, change, FIRST_DRAFT, kept, same } from "./draft";
import { Editor } from "./Editor";
import { Figures } from "./Figures";
import { Head } from "./Head";
import { Method } from "./Method";
import { SaveBar } from "./SaveBar";
import { Scale } from "./Scale";
import { Verdict } from "./Verdict";

/** A formula opened: change the mix and see what it becomes. */
export function Bench() {
  const here = useHere();
  const { formula } = useParams();
  const [search] = useSearchParams();
  const wanted = Number(search.get("v")) || null;
  const id = formula === undefined ? null : Number(formula);
  if (id === null) return <Opened found={null} start={{ ...FIRST_DRAFT, ...defaults(here) }} />;
  return <FromBook kitchen={here.slug} id={id} version={wanted} />;
}

function defaults(here: { eggs: string; measures: string }): Pick<Draft, "eggs" | "measures"> {
  return { eggs: here.eggs, measures: here.measures } as Pick<Draft, "eggs" | "measures">;
}

function FromBook({ kitchen, id, version }: { kitchen: string; id: number; version: number | null }) {
  const found = useFormula(kitchen, id, version);
  if (found.isPending) return <Loading what="the formula" />;
  if (found.isError) return <Failed sentence={found.error.message} again={() => void found.refetch()} />;
  return <Opened key={`${id} ${version}`} found={found.data} start={found.data.draft} />;
}

function Opened({ found, start }: { found: FormulaOut | null; start: Draft }) {
  const here = useHere();
  const key = kept.key(
    here.slug,
    found ? `${found.id}${found.version === found.latest ? "" : `v${found.version}`}` : "new",
  );
  const [restored] = useState(() => kept.read(key));
  const [history, act] = useReducer(change, restored?.draft ?? start, begin);
  const [base, setBase] = useState(restored?.base ?? found?.latest ?? 0);
  const [saved, setSaved] = useState(start);
  const draft = history.now;
  const changed = !same(draft, saved);
  const assessment = useAssessment(here.slug, draft);
  const problem = assessment.error instanceof Problem ? assessment.error : null;
  useEffect(() => {
    if (changed) kept.write(key, base, draft);
    else kept.forget(key);
  }, [changed, key, base, draft]);
  useKeys([
    { press: "ctrl+z", does: "take back the last change", run: () => act({ do: "undo" }) },
    { press: "ctrl+y", does: "and bring it back", run: () => act({ do: "redo" }) },
  ]);
  const { seen } = assessment;
  return (
    <>
      <Head
        draft={draft}
        found={found}
        act={act}
        problem={problem}
        portions={seen ? Math.floor(seen.yield_g / 60) : null}
      />
      {restored && changed ? (
        <div className="mb-4">
          <Notice>
            This is the draft you left here, changed and not saved.{" "}
            <Button onClick={() => act({ do: "replace", draft: saved })}>Back to what is in the book</Button>
          </Notice>
        </div>
      ) : null}
      {problem?.away ? (
        <div className="mb-4">
          <Notice tone="wrong">
            {problem.message} <Button onClick={() => void assessment.refetch()}>Try again</Button>
          </Notice>
        </div>
      ) : null}
      <div className="grid items-start gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,1.35fr)_minmax(0,1fr)] xl:grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)_300px]">
        <section aria-label="The slip" className="grid gap-4">
          <Editor draft={draft} assessment={seen} problem={problem} act={act} />
          <div className="flex flex-wrap gap-2">
            <Button onClick={() => act({ do: "undo" })} disabled={history.past.length === 0}>
              Undo
            </Button>
            <Button onClick={() => act({ do: "redo" })} disabled={history.future.length === 0}>
              Redo
            </Button>
          </div>
          <SaveBar
            found={found}
            draft={draft}
            changed={changed}
            base={base}
            onSaved={(now) => {
              setSaved(now.draft);
              setBase(now.latest);
              act({ do: "replace", draft: now.draft });
            }}
            onTheirs={setBase}
          />
        </section>
        <section aria-label="What it becomes" className="grid gap-6 xl:order-none">
          <Scale draft={draft} assessment={seen} act={act} disabled={problem !== null} />
          {seen ? <Figures assessment={seen} stale={problem !== null} /> : null}
        </section>
        <section aria-label="Rule and spoon" className="lg:col-span-2 xl:col-span-1">
          {seen ? (
            <Verdict assessment={seen} stale={problem !== null} draft={draft} found={found} />
          ) : assessment.isPending ? (
            <Loading what="the rule" />
          ) : null}
        </section>
        {seen ? (
          <section aria-label="Method" className="lg:col-span-2 xl:col-span-3">
            <Method stages={seen.stages} />
          </section>
        ) : null}
      </div>
    </>
  );
}
