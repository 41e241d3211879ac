import { useState } from "react";
import { useHere } from "../../api/here";
import { type CoolingWanted, NOW_AND_THEN_MS, useLive } from "../../api/live";
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
import type { CoolingAnswer } from "./coolingAnswer";
import { LiveCooling } from "./LiveCooling";
import type { Say } from "./stages";

interface Props {
  batch: Batch;
  answer: CoolingAnswer;
  mayMark: boolean;
  say: Say;
}

/** How it is cooled: what this kitchen usually does, judged; or something else; then followed until it is cold. */
export function Cooling({ batch, answer, mayMark, say }: Props) {
  const here = useHere();
  const open = batch.closed_at === null;
  const live = useLive(here.slug, batch.id, open && answer.began, true, NOW_AND_THEN_MS);
  const [inFull, setInFull] = useState(false);
  if (!open) return <CooledRecord batch={batch} />;
  if (!answer.asking)
    return answer.began && batch.cooling ? (
      <LiveCooling
        batch={batch}
        live={live.data}
        mayMark={mayMark}
        say={say}
        onOther={mayMark ? answer.ask : null}
      />
    ) : null;
  if (!inFull) {
    if (answer.wanted)
      return <Answer batch={batch} answer={answer} wanted={answer.wanted} onInFull={() => setInFull(true)} />;
    const { usual } = answer;
    if (usual.isPending) return <Loading what="how it would cool" />;
    // The server is busy or away; where there is no usual way, the form asks.
    if (usual.error instanceof Problem && usual.error.away)
      return <Failed sentence={usual.error.message} again={() => void usual.refetch()} />;
  }
  const done = () => {
    answer.choose.reset();
    setInFull(false);
    answer.asked();
  };
  return <CoolingForm batch={batch} like={answer.wanted} onChosen={done} />;
}

interface AnswerProps {
  batch: Batch;
  answer: CoolingAnswer;
  wanted: CoolingWanted;
  onInFull: () => void;
}

/** The answer first, in a sentence: a word that is touched is chosen at once, and the answer follows. */
function Answer({ batch, answer, wanted, onInFull }: AnswerProps) {
  const { system } = useUnits();
  const { choose, began, plan, stale, wrong, usual } = answer;
  const change = (next: CoolingWanted) => {
    // In the ice already, it is asked for until somebody says that it is cooled so.
    if (began) answer.ask();
    choose.mutate(next);
  };
  const like = batch.cooling === null ? usual.data?.like : null;
  return (
    <section aria-label="How it is cooled" className="grid gap-3 border border-hair bg-paper p-4">
      {STRAINED.includes(batch.way) && !began ? (
        <p className="text-lg">Out of the hot pan at once, through a sieve.</p>
      ) : null}
      <CooledLike batch={batch} wanted={wanted} from_c={answer.from_c} onChange={change} />
      {wrong ? <Notice tone="wrong">{inUnits(wrong.message, system)}</Notice> : null}
      {choose.isPaused ? <Notice tone="wrong">No connection: it is chosen once there is one.</Notice> : null}
      {plan ? (
        <div aria-busy={stale} className={stale ? "opacity-40 grayscale" : ""}>
          <CoolingVerdict plan={plan} />
        </div>
      ) : null}
      <div className="flex flex-wrap gap-3">
        {began ? (
          <Button
            look="solid"
            large
            disabled={choose.isPending}
            onClick={() => choose.mutate(wanted, { onSuccess: answer.asked })}
          >
            It is cooled so
          </Button>
        ) : null}
        <Button disabled={wanted.ways.length >= MOST_WAYS} onClick={() => change(further(wanted))}>
          Then somewhere else
        </Button>
        {wanted.ways.length > 1 ? <Button onClick={() => change(shorter(wanted))}>Not that</Button> : null}
        <Button onClick={onInFull}>Something else</Button>
      </div>
      <Facts
        className="text-sm text-soft"
        of={["Touch a word to change it.", like != null && `As batch ${like} was cooled.`]}
      />
    </section>
  );
}

/** What comes out of its pan through a sieve: no foam, and no cups. */
const STRAINED: readonly Batch["way"][] = ["coats", "boils"];
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
