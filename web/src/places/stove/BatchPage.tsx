import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { useHere } from "../../api/here";
import { useOdd } from "../../api/log";
import { newId } from "../../api/newId";
import { useOutbox } from "../../api/outbox";
import { type Batch, batchQuery, type NewMark } from "../../api/queries";
import { useLife } from "../../api/shelf";
import { STAGES, type StageName } from "../../contract/words";
import { Rule } from "../../drawings/Rule";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { useKeys } from "../../kit/keys";
import { listed } from "../../kit/listed";
import { Failed, Loading, Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { massText } from "../../kit/units";
import { Reminders } from "../../shared/Reminders";
import { Close } from "./Close";
import { Cooling } from "./Cooling";
import { type CoolingAnswer, useCoolingAnswer } from "./coolingAnswer";
import { Finish } from "./Finish";
import { ForWhat } from "./ForWhat";
import { typedMarks, versionOf } from "./facts";
import { Guests } from "./Guests";
import { Infuse } from "./Infuse";
import { KeepIt } from "./KeepIt";
import { Kept } from "./Kept";
import { Marks } from "./Marks";
import { Photos } from "./Photos";
import { Pours } from "./Pours";
import { Record } from "./Record";
import { Remedies } from "./Remedies";
import { SetUp } from "./SetUp";
import { StagePanel } from "./StagePanel";
import { StageStrip } from "./StageStrip";
import type { Say } from "./stages";
import { Weigh } from "./Weigh";
import { WhereItWent } from "./WhereItWent";
import { COLD, OFF } from "./ways";

/** What ends a stage: the page goes on to the next. */
const ENDS: readonly string[] = ["done", "off-heat"];

/** One batch, stage by stage, from any device. */
export function BatchPage() {
  const here = useHere();
  const id = Number(useParams().batch);
  const batch = useQuery(batchQuery(here.slug, id));
  if (batch.data) return <Open key={id} batch={batch.data} lost={batch.isError} />;
  if (batch.isError)
    return <Failed title="A batch" sentence={batch.error.message} again={() => void batch.refetch()} />;
  return <Loading title="A batch" what="the batch" />;
}

function Open({ batch, lost }: { batch: Batch; lost: boolean }) {
  const here = useHere();
  const { system } = useUnits();
  const outbox = useOutbox(here.slug, batch.id);
  const [words] = useSearchParams();
  const asked = STAGES.find((name) => name === words.get("stage")) ?? null;
  const [chosen, setChosen] = useState<StageName | null>(asked);
  // What is over opens on what came of it, wherever it stopped.
  const last = batch.plan.stages.at(-1)?.stage;
  const stage = chosen ?? (batch.closed_at !== null && last ? last : batch.stage);
  const life = useLife(here.slug, batch.id, stage === "keep");
  const plan = batch.plan.stages.find((one) => one.stage === stage);
  const mayMark = here.role !== "viewer" && batch.closed_at === null;
  const cooling = useCoolingAnswer(batch, mayMark && stage === "chill" && !batch.plan.served_at_once);
  const say: Say = (mark) => {
    outbox.add({ ...mark, id: newId(), at: new Date().toISOString() });
    if (ENDS.includes(mark.kind)) setChosen(null);
  };
  const tickAll = () => {
    const ticked = new Set([
      ...batch.ticked,
      ...outbox.waiting.flatMap((one) => (one.stage === "weigh" && one.kind === "tick" ? [one.line] : [])),
    ]);
    batch.plan.slip.forEach((_, line) => {
      if (!ticked.has(line)) say({ stage: "weigh", kind: "tick", line, note: "" });
    });
  };
  const refused = outbox.refused;
  useEffect(() => {
    if (refused) setChosen(refused.mark.stage);
  }, [refused]);
  useKeys([
    // A stage keeps its key wherever another is left out.
    ...STAGES.flatMap((name, i) =>
      batch.plan.stages.some((one) => one.stage === name)
        ? [{ press: String(i + 1), does: `to ${name}`, run: () => setChosen(name) }]
        : [],
    ),
    ...(mayMark
      ? [
          { press: " ", does: "mark this moment", run: () => say({ stage, kind: "moment", note: "" }) },
          {
            press: "o",
            does: OFF[batch.way].toLowerCase(),
            run: () => say({ stage: "cook", kind: "off-heat", note: "" }),
          },
          {
            press: "i",
            does: COLD[batch.way].toLowerCase(),
            run: () => say({ stage: "chill", kind: "into-ice", note: "" }),
          },
        ]
      : []),
  ]);
  if (!plan)
    return (
      <Failed
        title="A batch"
        sentence="This batch has no plan for that stage."
        again={() => setChosen(null)}
      />
    );
  const waiting = outbox.waiting.length;
  return (
    <>
      <BatchHead batch={batch} />
      <StageStrip batch={batch} stage={stage} onStage={setChosen} />
      <div aria-live="polite" className="mt-3 grid gap-2 empty:hidden">
        {waiting && outbox.away ? <Kept count={waiting} barred={outbox.barred} /> : null}
        {!waiting && lost ? <Notice tone="wrong">No connection; this is how the batch stood.</Notice> : null}
        {batch.closed_at ? <Closed batch={batch} /> : null}
      </div>
      {batch.closed_at === null && stage === "weigh" ? (
        <div className="mt-3">
          <Reminders formula_id={batch.formula_id} reminders={batch.reminders} />
        </div>
      ) : null}
      <Remedies batch={batch} waiting={outbox.waiting} mayMark={mayMark} say={say} />
      <Record batch={batch} />
      <div className="mt-5 grid items-start gap-x-10 gap-y-8 md:grid-cols-[minmax(0,1fr)_270px] xl:grid-cols-[290px_minmax(0,1fr)_300px]">
        <section aria-label="Rule" className="order-2 xl:order-none">
          <Rule
            window={batch.plan.window}
            boiling_c={batch.plan.boiling_c}
            stop_c={batch.plan.stop_c}
            marks={typedMarks(batch)}
            low={40}
            height={430}
            system={system}
          />
        </section>
        <section aria-label="This stage" className="order-1 min-w-0 md:max-xl:row-span-2 xl:order-none">
          <StagePanel
            key={stage}
            plan={plan}
            batch={batch}
            mayMark={mayMark}
            say={say}
            before={stage === "weigh" ? tickAll : undefined}
            refused={refused}
            forgetRefusal={outbox.forgetRefusal}
            instead={stage === "keep" ? life.data?.say : cooling.title}
            cooling={cooling}
            first={
              <StageWork
                stage={stage}
                batch={batch}
                cooling={cooling}
                waiting={outbox.waiting}
                mayMark={mayMark}
                say={say}
              />
            }
          >
            {stage === "keep" ? (
              <>
                <KeepIt batch={batch} mayMark={mayMark} say={say} />
                <ForWhat batch={batch} />
                <Close batch={batch} may={here.role !== "viewer"} />
              </>
            ) : null}
          </StagePanel>
        </section>
        <section aria-label="Marks" className="order-3 xl:order-none">
          <Marks batch={batch} waiting={outbox.waiting} mayMark={mayMark} onAgain={outbox.add} />
          <Photos batch={batch} stage={stage} />
          <Guests batch={batch} mayMark={mayMark} say={say} />
          <WhereItWent batch={batch} />
        </section>
      </div>
    </>
  );
}

/** Which batch it is, of what, by whom. */
function BatchHead({ batch }: { batch: Batch }) {
  const here = useHere();
  return (
    <div className="mb-2 flex flex-wrap items-baseline justify-between gap-x-6">
      <h1 className="break-words">{batch.name}</h1>
      <Facts
        className="text-soft"
        of={[
          `batch ${batch.number}`,
          versionOf(batch),
          batch.started_by,
          listed(batch.allergens),
          here.role === "chef" && (
            <Link key="assess" to={`../practice/assess?batch=${batch.id}`}>
              assess
            </Link>
          ),
        ]}
      />
    </div>
  );
}

/** How it ended, and what it came to. */
function Closed({ batch }: { batch: Batch }) {
  const here = useHere();
  const { system } = useUnits();
  const odd = useOdd(here.slug, batch.id);
  return (
    <Notice>
      <Facts
        of={[
          `Closed: ${batch.verdict}`,
          batch.verdict_note,
          batch.yield_g !== null && `came to ${massText(batch.yield_g, system)}`,
          batch.yield_g !== null && `${massText(batch.plan.yield_g, system)} planned`,
          batch.odd && "called odd: nothing is learned of it",
        ]}
      />
      <div className="mt-2 flex flex-wrap gap-3">
        <Link
          to={`/k/${here.slug}/log?formula_id=${batch.formula_id}`}
          className="inline-flex min-h-11 items-center"
        >
          Other batches of this formula
        </Link>
        {here.role === "viewer" || batch.pace !== 1 ? null : (
          <Button disabled={odd.isPending} onClick={() => odd.mutate({ odd: !batch.odd, reason: "" })}>
            {batch.odd ? "Learn from it after all" : "It was odd: learn nothing from it"}
          </Button>
        )}
      </div>
      {odd.error ? <p className="text-brick">{odd.error.message}</p> : null}
    </Notice>
  );
}

interface WorkProps {
  stage: StageName;
  batch: Batch;
  cooling: CoolingAnswer;
  waiting: readonly NewMark[];
  mayMark: boolean;
  say: Say;
}

/** The work of a stage, one panel each. */
function StageWork({ stage, batch, cooling, waiting, mayMark, say }: WorkProps) {
  switch (stage) {
    case "weigh":
      return <Weigh batch={batch} waiting={waiting} mayMark={mayMark} say={say} />;
    case "warm":
      return <Infuse batch={batch} mayMark={mayMark} say={say} />;
    case "temper": {
      const poured = waiting.flatMap((mark) =>
        mark.kind === "pour" && mark.line != null ? [mark.line] : [],
      );
      return batch.plan.landing_c === null ? null : (
        <Pours batch={batch} waiting={poured} mayMark={mayMark} say={say} />
      );
    }
    case "cook":
      return <SetUp batch={batch} mayMark={mayMark} />;
    case "finish":
      return <Finish batch={batch} waiting={waiting} mayMark={mayMark} say={say} />;
    case "chill":
      return batch.plan.served_at_once ? null : (
        <Cooling batch={batch} answer={cooling} mayMark={mayMark} say={say} />
      );
    default:
      return null;
  }
}
