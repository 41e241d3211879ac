import type { ReactNode } from "react";
import { useHere } from "../../api/here";
import { newId } from "../../api/newId";
import { type Movement, useTub, useTubActions } from "../../api/shelf";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { Failed, Loading, Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { useTold } from "../../kit/Told";
import type { UnitSystem } from "../../kit/typed";
import { inUnits, massText, temperature } from "../../kit/units";
import { hourOf, when } from "../../kit/when";

const SAID: Record<Movement["kind"], string> = {
  made: "put away",
  used: "used",
  split: "split off",
  churned: "churned",
  frozen: "into the freezer",
  out: "out of the freezer",
  thawed: "thawed",
  warm: "kept warm",
  opened: "opened",
  thrown: "thrown away",
  counted: "weighed again",
  film: "film on it",
  labelled: "labelled",
  undone: "taken back",
  mended: "mended",
};

/** All that was done with a tub, newest first; what can be taken back can be taken back here. */
export function History({ tub_id }: { tub_id: number }) {
  const here = useHere();
  const { system } = useUnits();
  const tub = useTub(here.slug, tub_id);
  const { move, promise, unpromise } = useTubActions(here.slug);
  const { tell } = useTold();
  if (tub.isPending) return <Loading what="the tub" />;
  if (tub.isError) return <Failed sentence={tub.error.message} again={() => void tub.refetch()} />;
  const may = here.role !== "viewer";
  const error = move.error ?? unpromise.error;
  return (
    <div className="grid gap-4">
      {tub.data.tub.stir.map((one) => (
        <p key={one} className="text-soft">
          {inUnits(one, system)}
        </p>
      ))}
      {tub.data.tub.promises.map((one) => (
        <p key={one.id} className="flex flex-wrap items-center justify-between gap-3">
          <span>
            promised: {massText(one.grams, system)} to {one.dish} ({one.by})
          </span>
          {may ? (
            <Button
              onClick={() =>
                unpromise.mutate(
                  { tub_id, promise_id: one.id },
                  {
                    onSuccess: () =>
                      tell({
                        say: `The promise to ${one.dish} is taken away.`,
                        back: () =>
                          promise.mutateAsync({
                            tub_id,
                            grams: one.grams,
                            dish: one.dish,
                            due_at: one.due_at,
                          }),
                      }),
                  },
                )
              }
            >
              Take it away
            </Button>
          ) : null}
        </p>
      ))}
      <ol>
        {tub.data.movements.map((one) => (
          <li
            key={one.id}
            className="flex flex-wrap items-center justify-between gap-x-3 border-t border-hair py-1.5"
          >
            <span className={`min-w-0 break-words ${one.undone ? "text-soft line-through" : ""}`}>
              <Facts of={[<b key="kind">{SAID[one.kind]}</b>, ...words(one, system)]} />
              <Facts
                className="text-sm text-soft"
                of={[when(one.at), !when(one.at).includes(",") && hourOf(one.at), one.by]}
              />
            </span>
            {may && one.can_undo ? (
              <Button
                disabled={move.isPending}
                onClick={() =>
                  move.mutate({
                    tub_id,
                    id: newId(),
                    kind: "undone",
                    corrects: one.id,
                    to: "",
                    note: "",
                    anyway: false,
                  })
                }
              >
                Take back
              </Button>
            ) : null}
          </li>
        ))}
      </ol>
      {error ? <Notice tone="wrong">{error.message}</Notice> : null}
    </div>
  );
}

function words(one: Movement, system: UnitSystem): ReactNode[] {
  return [
    one.change_g ? massText(Math.abs(one.change_g), system) : null,
    one.celsius !== null && `at ${temperature(one.celsius, system, 0)}`,
    one.to && `for ${one.to}`,
    one.into_batch && `into ${one.into_batch}`,
    one.note,
  ];
}
