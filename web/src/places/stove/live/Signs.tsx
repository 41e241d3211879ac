import { Check } from "lucide-react";
import type { Batch, Stage } from "../../../api/queries";
import { useUnits } from "../../../kit/system";
import { inUnits } from "../../../kit/units";
import { clock } from "../../../kit/when";
import type { SayAs } from "../stages";

interface Props {
  batch: Batch;
  plan: Stage;
  waiting: readonly string[];
  mayMark: boolean;
  say: SayAs;
}

/** The sign from which the held boil is timed. */
const BUBBLES = "bubbles";

/** The signs to look for, in order; each is ticked with its time. The next one stands out. */
export function Signs({ batch, plan, waiting, mayMark, say }: Props) {
  const { system } = useUnits();
  const seen = (sign: string) => batch.marks.findLast((mark) => mark.kind === "sign" && mark.what === sign);
  const done = (sign: string) => Boolean(seen(sign)) || waiting.includes(sign);
  const next = plan.signs.find(({ sign }) => !done(sign))?.sign;
  return (
    <ol aria-label="Signs, in order" className="grid gap-1">
      {plan.signs.map(({ sign, text }) => {
        const at = seen(sign)?.at;
        return (
          <li key={sign}>
            <button
              type="button"
              aria-pressed={done(sign)}
              disabled={!mayMark || done(sign)}
              onClick={() => {
                say({ stage: "cook", kind: "sign", what: sign, note: "" });
                if (sign === BUBBLES) say({ stage: "cook", kind: "bubbles", note: "" });
              }}
              className={`flex min-h-[62px] w-full items-center gap-3 border-b border-hair px-2 text-left text-[1.35rem] lg:min-h-[58px] ${sign === next ? "font-bold" : "text-soft"}`}
            >
              <span className="grid size-9 shrink-0 place-items-center border-2 border-current">
                {done(sign) ? <Check size={26} aria-hidden="true" /> : null}
              </span>
              <span className={done(sign) ? "line-through" : ""}>{inUnits(text, system)}</span>
              {at ? <span className="tabular ml-auto text-base text-soft">{clock(at)}</span> : null}
            </button>
          </li>
        );
      })}
    </ol>
  );
}
