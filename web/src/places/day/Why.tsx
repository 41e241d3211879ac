import { type DayPlan, useDayActions } from "../../api/day";
import { useHere } from "../../api/here";
import { Button } from "../../kit/Button";
import { Wrong } from "../../kit/Field";
import { useUnits } from "../../kit/system";
import { inUnits } from "../../kit/units";

/** Why not everything can be in time, and the least that would help; each was tried before it is offered. */
export function Why({ plan, when, may }: { plan: DayPlan; when: string; may: boolean }) {
  const here = useHere();
  const { system } = useUnits();
  const { help } = useDayActions(here.slug, when);
  return (
    <section aria-label="Why" className="mt-3 border-l-4 border-brick bg-paper px-4 py-3">
      <p role="alert" className="text-[1.1rem] text-brick">
        {inUnits(plan.why, system)}
      </p>
      {plan.helps.length ? (
        <>
          <p className="mt-2 text-soft">With one of these all are in time:</p>
          <ul>
            {plan.helps.map((one) => (
              <li key={one.say} className="mt-1 flex flex-wrap items-center justify-between gap-x-4 gap-y-1">
                <span className="min-w-0 flex-1 basis-72">{inUnits(one.say, system)}</span>
                <Button
                  disabled={!may || help.isPending}
                  onClick={() => help.mutate({ number: one.number, say: one.say })}
                >
                  Do that
                </Button>
              </li>
            ))}
          </ul>
        </>
      ) : plan.state === "looking" ? (
        <p className="mt-1 text-soft">What would help is being looked for …</p>
      ) : null}
      {help.isError ? <Wrong>{help.error.message}</Wrong> : null}
    </section>
  );
}
