import { useEffect } from "react";
import { Link, useParams } from "react-router";
import { useHere } from "../../api/here";
import { type Attempt, useAttempt, useAttemptActions } from "../../api/practice";
import { Failed, Loading } from "../../kit/Notice";
import { AskedPlay } from "./AskedPlay";
import { BowlPlay } from "./BowlPlay";
import { Debriefing } from "./Debriefing";
import { PanPlay } from "./PanPlay";
import { TubPlay } from "./TubPlay";

/** One attempt: played while it goes on, told of once it is over. */
export function AttemptPage() {
  const here = useHere();
  const id = Number(useParams().attempt);
  const attempt = useAttempt(here.slug, id);
  if (attempt.isPending) return <Loading title="Practice" what="the stove" />;
  if (attempt.isError)
    return <Failed title="Practice" sentence={attempt.error.message} again={() => void attempt.refetch()} />;
  const found = attempt.data;
  if (found.debrief) return <Debriefing attempt={found} debrief={found.debrief} />;
  if (!found.mine) return <Watched attempt={found} again={() => void attempt.refetch()} />;
  if (found.ended) return <Ending attempt={found} />;
  return <Playing key={`${found.id} ${found.after}`} attempt={found} again={() => void attempt.refetch()} />;
}

function Playing({ attempt, again }: { attempt: Attempt; again: () => void }) {
  const here = useHere();
  const { debrief } = useAttemptActions(here.slug);
  const props = { attempt, onOver: () => debrief.mutate(attempt.id), onAgain: again };
  if (debrief.isError)
    return (
      <Failed title="Practice" sentence={debrief.error.message} again={() => debrief.mutate(attempt.id)} />
    );
  if (debrief.isPending) return <Loading title="Practice" what="what the best run would have been" />;
  if (attempt.kind === "temper") return <BowlPlay {...props} />;
  if (attempt.kind === "chill") return <TubPlay {...props} />;
  if (attempt.question) return <AskedPlay {...props} question={attempt.question} />;
  return <PanPlay {...props} />;
}

/** Over, and nobody has heard yet how it was: as when the page was left at the last moment. */
function Ending({ attempt }: { attempt: Attempt }) {
  const here = useHere();
  const { debrief } = useAttemptActions(here.slug);
  const { mutate } = debrief;
  useEffect(() => mutate(attempt.id), [mutate, attempt.id]);
  if (debrief.isError)
    return <Failed title="Practice" sentence={debrief.error.message} again={() => mutate(attempt.id)} />;
  return <Loading title="Practice" what="what the best run would have been" />;
}

function Watched({ attempt, again }: { attempt: Attempt; again: () => void }) {
  return (
    <div className="max-w-2xl">
      <h1>{attempt.name}</h1>
      <p className="my-3">
        {attempt.who} is still at it. What came of it stands here once it is over.{" "}
        <button type="button" className="underline" onClick={again}>
          Look again
        </button>
      </p>
      <Link to="../practice">Practice</Link>
    </div>
  );
}
