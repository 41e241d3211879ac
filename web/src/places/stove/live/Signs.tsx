import { Check } from "lucide-react";
import type { Batch, Stage } from "../../../api/queries";
import { useUnits } from "../../../kit/system";
import { clock, inUnits } from "../../../kit/units";
import type { SayAs } from "../stages";

interface Props {
  batch: Batch;
  plan: Stage;
  waiting: readonly number[];
  mayMark: boolean;
  say: SayAs;
}

const BUBBLES = "first slow bubbles";

/** The signs to look for, in order; each is ticked with its time. The next one stands out. */
export function Signs({ batch, plan, waiting, mayMark, say }: Props) {
  const { system } = useUnits();
  const seen = (line: number) => batch.marks.findLast((mark) => mark.kind === "sign" && mark.line === line);
  const done = (line: number) => Boolean(seen(line)) || waiting.includes(line);
  const next = plan.signs.findIndex((_, line) => !done(line));
  return (
    <ol aria-label="Signs, in order" className="grid gap-1">
      {plan.signs.map((sign, line) => {
        const at = seen(line)?.at;
        return (
          <li key={sign}>
            <button
              type="button"
              aria-pressed={done(line)}
              disabled={!mayMark || done(line)}
              onClick={() => {
                say({ stage: "cook", kind: "sign", line, note: sign });
                if (sign === BUBBLES) say({ stage: "cook", kind: "bubbles", note: "" });
              }}
              className={`flex min-h-[62px] w-full items-center gap-3 border-b border-hair px-2 text-left text-[1.35rem] lg:min-h-[58px] ${line === next ? "font-bold" : "text-soft"}`}
            >
              <span className="grid size-9 shrink-0 place-items-center border-2 border-current">
                {done(line) ? <Check size={26} aria-hidden="true" /> : null}
              </span>
              <span className={done(line) ? "line-through" : ""}>{inUnits(sign, system)}</span>
              {at ? <span className="tabular ml-auto text-base text-soft">{clock(at)}</span> : null}
            </button>
          </li>
        );
      })}
    </ol>
  );
}
