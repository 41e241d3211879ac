import { useEffect, useReducer, useState } from "react";
import { useParams, useSearchParams } from "react-router";
import { type Band, type Details, useBand, useDetails } from "../../api/bench";
import { useHere } from "../../api/here";
import { Problem } from "../../api/problem";
import {
  type Assessment,
  type Draft,
  type FormulaOut,
  useAssessment,
  useFormula,
  useSession,
} from "../../api/queries";
import { PrintedSlip, steps } from "../../drawings/PrintedSlip";
import { Button } from "../../kit/Button";
import { useKeys } from "../../kit/keys";
import { Failed, Loading, Notice } from "../../kit/Notice";
import { useSettled } from "../../kit/settled";
import { useUnits } from "../../kit/system";
import { TabBody, Tabbed, TabList } from "../../kit/Tabs";
import { inUnits } from "../../kit/units";
import { Reminders } from "../../shared/Reminders";
import { CardFields } from "./CardFields";
import { begin, type Change, change, FIRST_DRAFT, kept, same } from "./draft";
import { Editor } from "./Editor";
import { Figures } from "./Figures";
import { Head } from "./Head";
import { Measures } from "./Measures";
import { Method, Recipe } from "./Method";
import { Mix } from "./Mix";
import { Outcomes } from "./Outcomes";
import { Patterns } from "./Patterns";
import { Proposed } from "./Proposed";
import { OtherWork } from "./Purpose";
import { SaveBar } from "./SaveBar";
import { Scale } from "./Scale";
import { Schools } from "./Schools";
import { Solve } from "./Solve";
import { TABS, useTab } from "./tabs";
import { Verdict, VerdictLine } from "./Verdict";

const SETTLED_MS = 250;

/** A formula opened: change the mix and see what it becomes. */
export function Bench() {
  const here = useHere();
  const { formula } = useParams();
  const [search] = useSearchParams();
  const wanted = Number(search.get("v")) || null;
  const id = formula === undefined ? null : Number(formula);
  // A draft is its writer's: whoever else is logged in begins with one of their own.
  const person = useSession().data?.person?.username ?? "";
  if (id === null)
    return <Opened key={person} person={person} found={null} start={{ ...FIRST_DRAFT, ...defaults(here) }} />;
  return <FromBook kitchen={here.slug} id={id} version={wanted} person={person} />;
}

function defaults(here: { eggs: string; measures: string }): Pick<Draft, "eggs" | "measures"> {
  return { eggs: here.eggs, measures: here.measures } as Pick<Draft, "eggs" | "measures">;
}

function FromBook(props: { kitchen: string; id: number; version: number | null; person: string }) {
  const { kitchen, id, version, person } = props;
  const found = useFormula(kitchen, id, version);
  if (found.isPending) return <Loading title="The Bench" what="the formula" />;
  if (found.isError)
    return <Failed title="The Bench" sentence={found.error.message} again={() => void found.refetch()} />;
  return (
    <Opened key={`${id} ${version} ${person}`} person={person} found={found.data} start={found.data.draft} />
  );
}

function Opened({ found, start, person }: { found: FormulaOut | null; start: Draft; person: string }) {
  const here = useHere();
  const key = kept.key(
    here.slug,
    found ? `${found.id}${found.version === found.latest ? "" : `v${found.version}`}` : "new",
    person,
  );
  const [restored] = useState(() => kept.read(key));
  const [history, act] = useReducer(change, restored?.draft ?? start, begin);
  const [base, setBase] = useState(restored?.base ?? found?.latest ?? 0);
  const [saved, setSaved] = useState(start);
  const draft = history.now;
  const changed = !same(draft, saved);
  const formula = found?.id ?? null;
  const assessment = useAssessment(here.slug, formula, draft);
  const good = assessment.seen !== undefined && !assessment.error;
  const settled = useSettled(draft, SETTLED_MS);
  const details = useDetails(here.slug, settled, good);
  const band = useBand(here.slug, settled, good);
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
  const { system } = useUnits();
  const [solving, setSolving] = useState(false);
  const [shown, setTab] = useTab();
  useKeys(
    TABS.map(({ value, shown, press = "" }) => ({
      press,
      does: `${shown} of this mix`,
      run: () => setTab(value),
    })),
  );
  return (
    <>
      <Head
        draft={draft}
        found={found}
        act={act}
        problem={problem}
        portions={seen ? Math.floor(seen.yield_g / 60) : null}
      />
      {found ? <Reminders formula_id={found.id} reminders={found.reminders} /> : null}
      {restored && changed ? <Restored onBack={() => act({ do: "replace", draft: saved })} /> : null}
      {problem?.away ? <Away message={problem.message} again={() => void assessment.refetch()} /> : null}
      {seen ? <VerdictLine assessment={seen} stale={problem !== null} /> : null}
      <Tabbed
        value={shown}
        onChange={setTab}
        className="grid grid-rows-[auto_1fr] items-start gap-x-8 gap-y-4 print:hidden md:grid-cols-[minmax(0,1fr)_250px] xl:grid-cols-[340px_minmax(0,1fr)_270px]"
      >
        <TabList
          label="Of this mix"
          tabs={TABS}
          className="z-20 min-w-0 overflow-x-auto bg-milk max-md:sticky max-md:top-[52px] max-md:-mx-4 max-md:px-4 md:sticky md:top-0 xl:static xl:col-start-2 xl:row-start-1"
        />
        <TabBody
          value="slip"
          className="min-w-0 max-xl:data-[state=inactive]:hidden md:col-start-1 xl:row-span-2 xl:row-start-1"
        >
          <section aria-label="The slip" className="grid gap-4">
            {found || changed ? null : (
              <Patterns onTake={(pattern) => act({ do: "replace", draft: pattern })} />
            )}
            <Editor
              draft={draft}
              saved={found ? saved : null}
              assessment={seen}
              problem={problem}
              act={act}
            />
            <div className="flex flex-wrap gap-2">
              <Button onClick={() => act({ do: "undo" })} disabled={history.past.length === 0}>
                Undo
              </Button>
              <Button onClick={() => act({ do: "redo" })} disabled={history.future.length === 0}>
                Redo
              </Button>
              <Button disabled={!good} onClick={() => setSolving(true)}>
                Solve for me
              </Button>
            </div>
            {found ? <Proposed found={found} /> : null}
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
        </TabBody>
        <section
          aria-label="Rule and spoon"
          className="max-md:order-last md:sticky md:top-2 md:col-start-2 md:row-span-2 md:row-start-1 md:max-h-[calc(100vh-0.5rem)] md:overflow-y-auto xl:col-start-3"
        >
          {seen ? (
            <Verdict
              assessment={seen}
              band={band.data}
              stale={problem !== null}
              draft={draft}
              found={found}
            />
          ) : assessment.isPending ? (
            <Loading what="the rule" />
          ) : null}
        </section>
        <div className="min-w-0 md:col-start-1 xl:col-start-2 xl:row-start-2">
          <OfThisMix
            bench={{ draft, formula, found, act, good, problem, seen, epoch: history.epoch }}
            details={details.data}
            band={band.data}
          />
        </div>
      </Tabbed>
      <Solve open={solving} onClose={() => setSolving(false)} draft={draft} now={seen} act={act} />
      {seen ? (
        <PrintedSlip
          title={draft.name}
          about={[
            found ? `version ${found.version}` : "not saved",
            found && changed ? "changed" : "",
            here.name,
          ]}
          lines={seen.slip}
          signs={steps(seen).map((step) => inUnits(step, system))}
          allergens={seen.allergens}
          system={system}
        />
      ) : null}
    </>
  );
}

/** The mix at the Bench: what is drafted, what it becomes, and how it is changed. */
interface AtBench {
  draft: Draft;
  /** Its formula in the book; null before it is saved. */
  formula: number | null;
  found: FormulaOut | null;
  act: (change: Change) => void;
  good: boolean;
  problem: Problem | null;
  seen: Assessment | undefined;
  epoch: number;
}

interface OfThisMixProps {
  bench: AtBench;
  details: Details | undefined;
  band: Band | undefined;
}

/** What can be asked of the mix, a tab each. */
function OfThisMix({ bench, details, band }: OfThisMixProps) {
  const { draft, formula, found, act, good, problem, seen, epoch } = bench;
  return (
    <>
      <TabBody value="mix">
        <Mix draft={draft} formula={formula} details={details} act={act} good={good} epoch={epoch} />
      </TabBody>
      <TabBody value="scale">
        <Scale
          draft={draft}
          assessment={seen}
          act={act}
          disabled={problem !== null}
          problem={problem}
          formula={formula}
        />
      </TabBody>
      <TabBody value="method">
        {seen ? (
          <section aria-label="Method" className="grid gap-8">
            <Method stages={seen.stages} finish={seen.finish} />
            <Recipe text={found?.recipe ?? ""} pictures={found?.pictures ?? []} />
            <CardFields draft={draft} boiled={seen.boiled} says={seen.card} problem={problem} act={act} />
            <OtherWork draft={draft} problem={problem} act={act} />
          </section>
        ) : null}
      </TabBody>
      <TabBody value="schools">
        {details ? (
          <section aria-label="Schools">
            <Schools questions={details.questions} found={found} />
          </section>
        ) : null}
      </TabBody>
      <TabBody value="figures">
        <div className="grid gap-6">
          {seen ? (
            <Figures assessment={seen} facts={details?.facts} band={band} stale={problem !== null} />
          ) : null}
          {details ? <Measures lines={details.measures} /> : null}
          {formula === null ? null : <Outcomes formula_id={formula} act={act} />}
        </div>
      </TabBody>
    </>
  );
}

function Restored({ onBack }: { onBack: () => void }) {
  return (
    <div className="mb-4">
      <Notice>
        This is the draft you left here, changed and not saved.{" "}
        <Button onClick={onBack}>Back to what is in the book</Button>
      </Notice>
    </div>
  );
}

function Away({ message, again }: { message: string; again: () => void }) {
  return (
    <div className="mb-4">
      <Notice tone="wrong">
        {message} <Button onClick={again}>Try again</Button>
      </Notice>
    </div>
  );
}
