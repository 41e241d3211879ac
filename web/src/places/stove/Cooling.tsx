import { useState } from "react";
import { useHere } from "../../api/here";
import {
  type CoolingUsual,
  type CoolingWanted,
  NOW_AND_THEN_MS,
  useChooseCooling,
  useCoolingPlan,
  useLive,
} from "../../api/live";
import { Problem } from "../../api/problem";
import type { Batch } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { Failed, Loading, Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { inUnits } from "../../kit/units";
import { CooledLike } from "./CooledLike";
import { CooledRecord } from "./CooledRecord";
import { CoolingForm } from "./CoolingForm";
import { CoolingVerdict } from "./CoolingVerdict";
import { useCoolingAnswer } from "./coolingAnswer";
import { LiveCooling } from "./LiveCooling";
import type { Say } from "./stages";

interface Props {
  batch: Batch;
  mayMark: boolean;
  say: Say;
}

/** How it is cooled: what this kitchen usually does, judged; or something else; then followed until it is cold. */
export function Cooling({ batch, mayMark, say }: Props) {
  const here = useHere();
  const began = batch.marks.find((mark) => mark.kind === "into-ice");
  const live = useLive(
    here.slug,
    batch.id,
    batch.closed_at === null && began !== undefined,
    true,
    NOW_AND_THEN_MS,
  );
  const asks = mayMark && batch.closed_at === null;
  const { usual, wanted } = useCoolingAnswer(batch, asks);
  const [other, setOther] = useState(false);
  const [inFull, setInFull] = useState(false);
  if (began && batch.cooling && !other && batch.closed_at === null)
    return (
      <LiveCooling
        batch={batch}
        live={live.data}
        mayMark={mayMark}
        say={say}
        onOther={mayMark ? () => setOther(true) : null}
      />
    );
  if (batch.closed_at !== null) return <CooledRecord batch={batch} />;
  if (!asks) return null;
  if (!inFull) {
    if (wanted)
      return (
        <Answer
          batch={batch}
          first={wanted}
          usual={batch.cooling ? undefined : usual.data}
          onInFull={() => setInFull(true)}
          onDone={() => setOther(false)}
        />
      );
    if (usual.isPending) return <Loading what="how it would cool" />;
    // The server is busy or away; where there is no usual way, the form asks.
    if (usual.error instanceof Problem && usual.error.away)
      return <Failed sentence={usual.error.message} again={() => void usual.refetch()} />;
  }
  const done = () => {
    setInFull(false);
    setOther(false);
  };
  return <CoolingForm batch={batch} like={wanted} onChosen={done} />;
}

interface AnswerProps {
  batch: Batch;
  first: CoolingWanted;
  usual: CoolingUsual | undefined;
  onInFull: () => void;
  onDone: () => void;
}

/** The answer first, in a sentence: a word that is touched is chosen anew, and the answer follows. */
function Answer({ batch, first, usual, onInFull, onDone }: AnswerProps) {
  const here = useHere();
  const { system } = useUnits();
  const choose = useChooseCooling(here.slug, batch.id);
  // What was chosen last stays in the sentence until the server has it, and where it refused it.
  const wanted = choose.isIdle || choose.isSuccess ? first : choose.variables;
  const plan = useCoolingPlan(here.slug, batch.id, wanted, usual);
  const began = batch.marks.some((mark) => mark.kind === "into-ice");
  const wrong = choose.error ?? plan.error;
  return (
    <section aria-label="How it is cooled" className="grid gap-3 border border-hair bg-paper p-4">
      <CooledLike batch={batch} wanted={wanted} plan={plan.data} onChange={(next) => choose.mutate(next)} />
      {wrong ? <Notice tone="wrong">{inUnits(wrong.message, system)}</Notice> : null}
      {plan.data && !plan.error ? <CoolingVerdict plan={plan.data} /> : null}
      <div className="flex flex-wrap gap-3">
        {began ? (
          <Button
            look="solid"
            large
            disabled={choose.isPending}
            onClick={() => choose.mutate(wanted, { onSuccess: onDone })}
          >
            It is cooled so
          </Button>
        ) : null}
        <Button disabled={wanted.ways.length >= MOST_WAYS} onClick={() => choose.mutate(further(wanted))}>
          Then somewhere else
        </Button>
        {wanted.ways.length > 1 ? (
          <Button onClick={() => choose.mutate(shorter(wanted))}>Not that</Button>
        ) : null}
        <Button onClick={onInFull}>Something else</Button>
      </div>
      <p className="text-sm text-soft">
        <Facts
          inline
          of={["Touch a word to change it.", usual?.like != null && `As batch ${usual.like} was cooled.`]}
        />
      </p>
    </section>
  );
}

const MOST_WAYS = 4;
const MOVED_AFTER_MIN = 20;

/** Left where it was before; there it stays to the end. */
function shorter(wanted: CoolingWanted): CoolingWanted {
  const ways = wanted.ways.slice(0, -1);
  return {
    ...wanted,
    ways: ways.map((way, at) => (at === ways.length - 1 ? { ...way, minutes: null } : way)),
  };
}

/** Moved into a fridge after a while; its words say where else. */
function further(wanted: CoolingWanted): CoolingWanted {
  const before = wanted.ways.map((way) => ({ ...way, minutes: way.minutes ?? MOVED_AFTER_MIN }));
  return { ...wanted, ways: [...before, { by: "fridge", stirred: false }] };
}
