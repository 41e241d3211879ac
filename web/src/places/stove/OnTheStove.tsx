import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { useTakeNext, useUpcoming } from "../../api/day";
import { useHere } from "../../api/here";
import { type BatchLine, useOnTheStove } from "../../api/queries";
import { MiniRule } from "../../drawings/Rule";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { ownFigures } from "../../kit/habits";
import { listed } from "../../kit/listed";
import { Failed, Loading, Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { inUnits, massText } from "../../kit/units";
import { when } from "../../kit/when";
import { minutes, useTicking } from "../../shared/ticking";

const TONES = ["border-hair", "border-yolk", "border-copper", "border-brick"] as const;
/** Stages at which there is a live stove to go to. */
const LIVE = new Set(["cook", "test", "chill"]);

/** The board: what is on, the most urgent first, readable from the door; and what is likely next. */
export function OnTheStove() {
  const here = useHere();
  const stove = useOnTheStove(here.slug);
  const rows = stove.data ?? [];
  return (
    <>
      <h1 className="mb-3">On the stove</h1>
      {stove.isPending ? <Loading what="the stove" /> : null}
      {stove.isError ? <Failed sentence={stove.error.message} again={() => void stove.refetch()} /> : null}
      {stove.data && rows.length === 0 ? (
        <section aria-label="Nothing on the stove" className="pb-2">
          <h2>Nothing on the stove</h2>
          <p className="text-soft">
            Open a formula in the <Link to="../book">Book</Link> and take it to the stove. Finished batches
            are in the <Link to="../log">Log</Link>.
          </p>
        </section>
      ) : null}
      <ul className="grid gap-3 xl:grid-cols-2">
        {rows.map((batch) => (
          <OnIt key={batch.id} batch={batch} answeredAt={stove.dataUpdatedAt} />
        ))}
      </ul>
      {stove.data ? <Next /> : null}
    </>
  );
}

function OnIt({ batch, answeredAt }: { batch: BatchLine; answeredAt: number }) {
  const { system } = useUnits();
  const left = useTicking(batch.seconds, batch.pace, answeredAt);
  const live = LIVE.has(batch.stage) && batch.say !== "";
  return (
    <li className={`border-l-8 bg-paper ${TONES[batch.urgency] ?? TONES[0]}`}>
      <Link
        to={live ? `${batch.id}/live` : String(batch.id)}
        className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-5 px-4 py-3 no-underline"
      >
        <span className="figure min-w-0 break-words text-[1.5rem] leading-tight">{batch.name}</span>
        <span className="figure tabular text-right text-[2.6rem] leading-none">
          {left === null ? "" : minutes(left)}
        </span>
        <span className={`col-span-2 text-xl ${batch.urgency >= 2 ? "font-bold" : ""}`}>
          {batch.say ? (
            inUnits(batch.say, system)
          ) : (
            <span className="inline-block first-letter:uppercase">{batch.stage}</span>
          )}
        </span>
        <span className="col-span-2 mt-1 flex flex-wrap items-center gap-x-4 text-soft">
          {batch.window && batch.boiling_c !== null && batch.stop_c !== null ? (
            <MiniRule
              window={batch.window}
              boiling_c={batch.boiling_c}
              stop_c={batch.stop_c}
              system={system}
            />
          ) : null}
          <Facts
            of={[
              batch.stage,
              `batch ${batch.number}`,
              massText(batch.mass_g, system),
              batch.started_by,
              when(batch.started_at),
              listed(batch.allergens),
            ]}
          />
        </span>
      </Link>
    </li>
  );
}

/** What is likely made next, from the day and from habit, each with one touch. */
function Next() {
  const here = useHere();
  const navigate = useNavigate();
  const upcoming = useUpcoming(here.slug);
  const take = useTakeNext(here.slug);
  const [taken, setTaken] = useState("");
  const rows = upcoming.data ?? [];
  if (rows.length === 0) return null;
  return (
    <section aria-label="Likely next" className="mt-6">
      <h2>Likely next</h2>
      {take.isError ? <Notice tone="wrong">{take.error.message}</Notice> : null}
      <ul className="mt-1 max-w-3xl">
        {rows.map((one) => {
          const key = one.job ?? `formula ${one.formula_id}`;
          return (
            <li key={key} className="flex items-center gap-x-5 border-b border-hair py-2">
              <span className="min-w-0 grow">
                <b className="break-words">{one.name}</b>
                <span className="block text-soft">{ownFigures(one.say)}</span>
              </span>
              {here.role === "viewer" ? (
                <Link to={`../book/${one.formula_id}`}>its formula</Link>
              ) : (
                <Button
                  look="solid"
                  className="shrink-0"
                  aria-label={`Take it to the stove: ${one.name}`}
                  disabled={take.isPending}
                  onClick={() => {
                    setTaken(key);
                    take.mutate(one, { onSuccess: (batch) => navigate(String(batch)) });
                  }}
                >
                  {take.isPending && taken === key ? "one moment" : "To the stove"}
                </Button>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
