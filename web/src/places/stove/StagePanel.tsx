import { type ReactNode, useEffect, useRef } from "react";
import type { Refused } from "../../api/outbox";
import type { Batch, Stage } from "../../api/queries";
import { Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { inUnits, temperature } from "../../kit/units";
import type { CoolingAnswer } from "./coolingAnswer";
import { MarkForm } from "./MarkForm";
import { AsExpected, TestOf } from "./SpoonTest";
import type { Say } from "./stages";

interface Props {
  plan: Stage;
  batch: Batch;
  mayMark: boolean;
  say: Say;
  /** What the end of this stage takes with it. */
  before?: (() => void) | undefined;
  refused: Refused | null;
  forgetRefusal: () => void;
  /** What is said instead of the plan, now that it is known how it went. */
  instead?: string | undefined;
  /** How it is to be cooled. */
  cooling: CoolingAnswer;
  /** What comes before the signs: the Slip. */
  first: ReactNode;
  children: ReactNode;
}

/** One stage: what to do in large type, the number and the signs to wait for, and the marks it takes. */
export function StagePanel({
  plan,
  batch,
  mayMark,
  say,
  before,
  refused,
  forgetRefusal,
  instead,
  cooling,
  first,
  children,
}: Props) {
  const { system } = useUnits();
  const stage = plan.stage;
  const title = useRef<HTMLHeadingElement>(null);
  // Whoever works by keyboard goes on from here: the next thing to touch is the next one to tab to.
  useEffect(() => {
    const at = document.activeElement;
    if (at === null || at === document.body) title.current?.focus({ preventScroll: true });
  }, []);
  const lift = stage === "cook" ? batch.lift : null;
  // What was thrown away is waited for by nobody.
  const waited = !(stage === "keep" && batch.verdict === "discarded");
  return (
    <div className="grid gap-6">
      <div>
        <h2 ref={title} tabIndex={-1} className="text-[1.75rem] outline-none">
          {inUnits(instead ?? plan.say, system)}
        </h2>
        {plan.at_c === null || !waited ? null : (
          <p className="figure mt-2 text-[5.5rem] leading-none">
            <span className="sr-only">wait for </span>
            {temperature(plan.at_c, system)}
          </p>
        )}
        {lift && lift.carry_over_k >= 0.1 ? (
          <p className="mt-2 text-soft">
            Lifted there, the pan takes it on to {temperature(lift.lands_c, system)}: by the hob and the pan
            chosen below.
          </p>
        ) : null}
        {lift?.cannot ? <Notice tone="wrong">{inUnits(lift.cannot, system)}</Notice> : null}
      </div>
      {mayMark && stage === "test" ? <AsExpected batch={batch} say={say} /> : null}
      {mayMark ? (
        <MarkForm
          stage={stage}
          batch={batch}
          say={say}
          before={before}
          cooling={cooling}
          refused={refused}
          forgetRefusal={forgetRefusal}
        />
      ) : null}
      {first}
      {mayMark && stage === "test" ? <TestOf batch={batch} say={say} /> : null}
      <div hidden={!waited}>
        <ul className="grid gap-1 text-lg" aria-label="Signs, in order">
          {plan.signs.map(({ sign, text }) => (
            <li key={sign} className="border-l-4 border-yolk pl-3">
              {inUnits(text, system)}
            </li>
          ))}
        </ul>
        <p className="mt-3 text-soft">{inUnits(plan.why, system)}</p>
        {plan.cautions.map((caution) => (
          <p key={caution} className="mt-2 border-l-4 border-brick pl-3">
            {inUnits(caution, system)}
          </p>
        ))}
      </div>
      {children}
    </div>
  );
}
