import { Check } from "lucide-react";
import type { Batch } from "../../api/queries";
import type { StageName } from "../../contract/words";
import { useUnits } from "../../kit/system";
import { temperature } from "../../kit/units";

interface Props {
  batch: Batch;
  stage: StageName;
  onStage: (stage: StageName) => void;
}

/** The stages as this batch has them, in its own order. */
export function StageStrip({ batch, stage, onStage }: Props) {
  const { system } = useUnits();
  return (
    <nav aria-label="Stages" className="border-y border-hair">
      <ol className="grid grid-cols-[repeat(auto-fit,minmax(78px,1fr))]">
        {batch.plan.stages.map((plan) => {
          const name = plan.stage;
          const done = batch.done.includes(name);
          return (
            <li key={name}>
              <button
                type="button"
                aria-current={name === stage ? "step" : undefined}
                onClick={() => onStage(name)}
                className={`flex min-h-14 w-full flex-col justify-center border-b-4 px-2 py-1 text-left ${name === stage ? "border-yolk font-bold" : "border-transparent"}`}
              >
                <span className="flex items-center gap-1">
                  <span>{plan.label}</span>
                  {done ? <Check size={18} aria-label="done" className="text-herb" /> : null}
                </span>
                <span className="tabular text-sm font-normal text-soft">
                  {plan.at_c === null ? "\u00a0" : temperature(plan.at_c, system)}
                </span>
              </button>
            </li>
          );
        })}
      </ol>
    </nav>
  );
}
