import { useEffect, useRef } from "react";
import { useLocation } from "react-router";
import { useHere } from "../../api/here";
import type { Batch, NewMark } from "../../api/queries";
import { useTroubleActions } from "../../api/trouble";
import { Button } from "../../kit/Button";
import { plain } from "../../kit/habits";
import { Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { inUnits, massText, temperature } from "../../kit/units";
import { clock } from "../../kit/when";
import type { Say } from "./stages";

type Taken = Batch["remedies"][number];

interface Props {
  batch: Batch;
  waiting: readonly NewMark[];
  mayMark: boolean;
  say: Say;
}

/** What is being done about a trouble: its steps to tick, and the new plan beside the old. */
export function Remedies({ batch, waiting, mayMark, say }: Props) {
  const { hash } = useLocation();
  const box = useRef<HTMLElement>(null);
  const many = batch.remedies.length;
  useEffect(() => {
    if (hash === "#remedies" && many) box.current?.scrollIntoView({ block: "nearest" });
  }, [hash, many]);
  if (!many) return null;
  return (
    <section ref={box} id="remedies" aria-label="What is done about it" className="mt-4 grid gap-4">
      {batch.remedies.map((remedy) => (
        <One
          key={remedy.id}
          batch={batch}
          remedy={remedy}
          ticked={[
            ...remedy.done,
            ...waiting.flatMap((mark) =>
              mark.kind === "remedy-step" && mark.what === String(remedy.id) && mark.line != null
                ? [mark.line]
                : [],
            ),
          ]}
          mayMark={mayMark}
          say={say}
        />
      ))}
    </section>
  );
}

interface OneProps {
  batch: Batch;
  remedy: Taken;
  ticked: readonly number[];
  mayMark: boolean;
  say: Say;
}

function One({ batch, remedy, ticked, mayMark, say }: OneProps) {
  const here = useHere();
  const { system } = useUnits();
  const { takeBack } = useTroubleActions(here.slug);
  const { before, after } = remedy;
  const rows = [
    { name: "stop", was: temperature(before.stop_c, system), is: temperature(after.stop_c, system) },
    { name: "hot", was: before.hot, is: after.hot },
    { name: "cold", was: before.cold, is: after.cold },
    { name: "comes to", was: massText(before.yield_g, system), is: massText(after.yield_g, system) },
    { name: "keeps, days", was: plain(before.days), is: plain(Math.round(10 * after.days) / 10) },
  ];
  const mayBack = here.role !== "viewer" && (batch.closed_at === null || remedy.tub !== null);
  return (
    <div className="grid gap-x-10 gap-y-4 border border-iron bg-paper px-5 py-4 lg:grid-cols-[minmax(0,1fr)_minmax(0,22rem)]">
      <div>
        <h2>{inUnits(remedy.say, system)}</h2>
        {remedy.tub === null ? null : <p>Of tub {remedy.tub}.</p>}
        <p className="mt-1 text-soft">
          {remedy.name} · {clock(remedy.at)} · {remedy.by}
        </p>
        <p className="mt-1">{inUnits(remedy.cause, system)}</p>
        {remedy.cautions.map((caution) => (
          <p key={caution} className="mt-2 border-l-4 border-brick pl-3">
            {inUnits(caution, system)}
          </p>
        ))}
        <ol className="mt-3 grid gap-1">
          {remedy.steps.map((step, place) => (
            <li key={step}>
              <Step
                text={inUnits(step, system)}
                done={ticked.includes(place)}
                may={mayMark}
                onTick={() =>
                  say({
                    stage: batch.stage,
                    kind: "remedy-step",
                    line: place,
                    what: String(remedy.id),
                    note: "",
                  })
                }
              />
            </li>
          ))}
        </ol>
        {remedy.warmed_again ? (
          <p className="mt-2 border-l-4 border-brick pl-3">{inUnits(remedy.warmed_again, system)}</p>
        ) : null}
      </div>
      <div className="grid content-start gap-4">
        {remedy.add.length ? (
          <ul aria-label="Weighed for it">
            {remedy.add.map((one) => (
              <li
                key={`${one.ingredient} ${one.when}`}
                className="flex justify-between gap-4 border-b border-dotted border-line py-1"
              >
                <span>
                  {one.name}
                  {one.anew ? <span className="text-soft"> in its place</span> : null}
                </span>
                <b className="tabular">{massText(one.grams, system)}</b>
              </li>
            ))}
          </ul>
        ) : null}
        <table className="tabular w-full text-left">
          <caption className="sr-only">The plan before, and the new one</caption>
          <thead className="text-soft">
            <tr>
              <th className="font-normal">plan</th>
              <th className="font-normal">before</th>
              <th className="font-normal">now</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.name} className="border-t border-hair">
                <th className="py-1 font-normal text-soft">{row.name}</th>
                <td className={row.was === row.is ? "" : "text-soft line-through"}>{row.was}</td>
                <td className={row.was === row.is ? "" : "font-bold"}>{row.is}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {mayBack ? (
          <Button
            disabled={takeBack.isPending}
            onClick={() => takeBack.mutate({ batch_id: batch.id, mark_id: remedy.mark_id })}
          >
            Take this remedy back
          </Button>
        ) : null}
        {takeBack.isError ? <Notice tone="wrong">{takeBack.error.message}</Notice> : null}
      </div>
    </div>
  );
}

function Step({
  text,
  done,
  may,
  onTick,
}: {
  text: string;
  done: boolean;
  may: boolean;
  onTick: () => void;
}) {
  return (
    <button
      type="button"
      aria-pressed={done}
      disabled={done || !may}
      onClick={onTick}
      className="flex min-h-12 w-full items-center gap-3 text-left text-lg disabled:cursor-default"
    >
      <span
        aria-hidden="true"
        className={`grid size-8 shrink-0 place-items-center border ${done ? "border-iron bg-iron text-paper" : "border-line"}`}
      >
        {done ? "✓" : ""}
      </span>
      <span className={done ? "text-soft" : ""}>{text}</span>
    </button>
  );
}
