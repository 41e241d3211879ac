import { useEffect, useReducer, useRef, useState } from "react";
import { useParams, useSearchParams } from "react-router";
import { useBand, useDetails } from "../../api/bench";
import { Problem } from "../../api/problem";
import {
  type Draft,
  type FormulaOut,
  useAssessment,
  useFormula,
  useLarder,
  usePatterns,
} from "../../api/queries";
import { Button } from "../../kit/Button";
import { useHere } from "../../kit/here";
import { useKeys } from "../../kit/keys";
import { Failed, Loading, Notice } from "../../kit/Notice";
import { PrintedSlip, steps } from "../../kit/PrintedSlip";
import { SelectBox } from "../../kit/SelectBox";
import { useSettled } from "../../kit/settled";
import { useUnits } from "../../kit/system";
import { type Tab, Tabs } from "../../kit/Tabs";
import { inUnits } from "../../kit/units";
import { Reminders } from "../trouble/Reminders";
import { begin, change, FIRST_DRAFT, kept, same } from "./draft";
import { Editor } from "./Editor";
import { Figures } from "./Figures";
import { Head } from "./Head";
import { Measures } from "./Measures";
import { Method } from "./Method";
import { Mix } from "./Mix";
import { OtherWork } from "./Purpose";
import { SaveBar } from "./SaveBar";
import { Scale } from "./Scale";
import { Schools } from "./Schools";
import { Solve } from "./Solve";
import { Verdict, VerdictLine } from "./Verdict";

const SETTLED_MS = 250;

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
  const [tab, setTab] = useTab();
  const facts = details.data?.facts;
  const tabs: readonly Tab<TabName>[] = [
    {
      value: "mix",
      shown: "Map",
      body: (
        <Mix
          draft={draft}
          formula={formula}
          details={details.data}
          act={act}
          good={good}
          epoch={history.epoch}
        />
      ),
    },
    {
      value: "scale",
      shown: "How much",
      body: (
        <Scale
          draft={draft}
          assessment={seen}
          act={act}
          disabled={problem !== null}
          problem={problem}
          formula={formula}
        />
      ),
    },
    {
      value: "method",
      shown: "Method",
      body: seen ? (
        <section aria-label="Method" className="grid gap-8">
          <Method stages={seen.stages} finish={seen.finish} />
          <OtherWork draft={draft} problem={problem} act={act} />
        </section>
      ) : null,
    },
    {
      value: "schools",
      shown: "Schools",
      body: details.data ? (
        <section aria-label="Schools">
          <Schools questions={details.data.questions} found={found} />
        </section>
      ) : null,
    },
    {
      value: "figures",
      shown: "Figures",
      body: (
        <div className="grid gap-6">
          {seen ? <Figures assessment={seen} facts={facts} stale={problem !== null} /> : null}
          {details.data ? <Measures lines={details.data.measures} /> : null}
        </div>
      ),
    },
  ];
  useKeys(
    tabs.map((one, i) => ({
      press: String(i + 1),
      does: `${one.shown} of this mix`,
      run: () => setTab(one.value),
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
      {seen ? <VerdictLine assessment={seen} stale={problem !== null} /> : null}
      <div className="grid items-start gap-x-8 gap-y-6 print:hidden md:grid-cols-[minmax(0,1fr)_250px] xl:grid-cols-[340px_minmax(0,1fr)_270px]">
        <section aria-label="The slip" className="grid gap-4 max-md:mt-4">
          {found || changed ? null : (
            <Patterns onTake={(pattern) => act({ do: "replace", draft: pattern })} />
          )}
          <Editor draft={draft} saved={found ? saved : null} assessment={seen} problem={problem} act={act} />
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
        <section
          aria-label="Rule and spoon"
          className="md:sticky md:top-2 md:col-start-2 md:row-span-2 md:row-start-1 md:max-h-[calc(100vh-0.5rem)] md:overflow-y-auto xl:col-start-3"
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
        <section
          aria-label="What can be changed and seen"
          className="min-w-0 md:col-start-1 xl:col-start-2 xl:row-start-1"
        >
          <Tabs label="Of this mix" tabs={tabs} value={tab} onChange={setTab} />
        </section>
      </div>
      <Solve open={solving} onClose={() => setSolving(false)} draft={draft} now={seen} act={act} />
      {seen ? (
        <PrintedSlip
          title={draft.name}
          about={`version ${found?.version ?? "not saved"}${changed ? ", changed" : ""} · ${here.name}`}
          lines={seen.slip}
          signs={steps(seen).map((step) => inUnits(step, system))}
          allergens={seen.allergens}
          system={system}
        />
      ) : null}
    </>
  );
}

const TABS = ["mix", "scale", "method", "schools", "figures"] as const;
type TabName = (typeof TABS)[number];
const TAB_KEY = "old-spoon:bench-tab";

/** Which of the things about a mix is open; it stays so from formula to formula, on this device. */
function useTab(): [TabName, (tab: TabName) => void] {
  const [tab, setTab] = useState<TabName>(
    () => TABS.find((one) => one === sessionStorage.getItem(TAB_KEY)) ?? "mix",
  );
  return [
    tab,
    (next) => {
      sessionStorage.setItem(TAB_KEY, next);
      setTab(next);
    },
  ];
}

/** A new formula begins as a plain one of its family, or as it is written from nothing. */
function Patterns({ onTake }: { onTake: (draft: Draft) => void }) {
  const here = useHere();
  const larder = useLarder();
  const patterns = usePatterns(here.slug);
  const [search] = useSearchParams();
  const wanted = search.get("pattern");
  const taken = useRef(false);
  useEffect(() => {
    const pattern = patterns.data?.find((one) => one.family === wanted);
    if (!pattern || taken.current) return;
    taken.current = true;
    onTake(pattern);
  }, [patterns.data, wanted, onTake]);
  return (
    <SelectBox
      label="Begin with a plain"
      none="anglaise, or choose another …"
      options={(patterns.data ?? []).map((one) => ({
        value: one.family,
        shown: larder.data?.families.find((family) => family.family === one.family)?.name ?? one.family,
      }))}
      value=""
      onChange={(family) => {
        const pattern = patterns.data?.find((one) => one.family === family);
        if (pattern) onTake(pattern);
      }}
    />
  );
}
