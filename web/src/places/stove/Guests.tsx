import { useEffect, useState } from "react";
import { useHere } from "../../api/here";
import type { Batch } from "../../api/queries";
import { useGuests, useSayGuests } from "../../api/shelf";
import { Button } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { inUnits } from "../../kit/units";
import type { Say } from "./stages";

interface Props {
  batch: Batch;
  mayMark: boolean;
  say: Say;
}

/** Whether a batch is for guests who must not fall ill: what is then asked, and what it has reached. */
export function Guests({ batch, mayMark, say }: Props) {
  const here = useHere();
  const set = useSayGuests(here.slug, batch.id);
  const guests = useGuests(here.slug, batch.id, batch.vulnerable, batch.marks.length);
  const { system } = useUnits();
  // What was just chosen, until the batch says the same: the box must not jump back for a moment.
  const [chosen, setChosen] = useState<boolean | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what the batch says ends what was chosen.
  useEffect(() => setChosen(null), [batch.vulnerable]);
  const choose = (vulnerable: boolean) => {
    setChosen(vulnerable);
    set.mutate(vulnerable, { onError: () => setChosen(null) });
  };
  const told = guests.data;
  if (!batch.vulnerable && !mayMark) return null;
  return (
    <section aria-label="Vulnerable guests" className="mt-5 border-t border-hair pt-4">
      <label className="flex min-h-11 items-center gap-3">
        <input
          type="checkbox"
          className="size-6 min-h-6 shrink-0"
          checked={chosen ?? batch.vulnerable}
          disabled={!mayMark || set.isPending}
          onChange={(event) => choose(event.target.checked)}
        />
        <span>For guests who are old, very young, pregnant or sick</span>
      </label>
      {batch.vulnerable && told ? (
        <div className="mt-2 grid gap-3">
          <p className={`border-l-4 pl-3 ${told.met ? "border-herb" : "border-brick"}`} role="status">
            <span aria-hidden="true">{told.met === null ? "" : told.met ? "✓ " : "✕ "}</span>
            {inUnits(told.say, system)}
          </p>
          {mayMark && told.pasteurised === null ? (
            <div className="flex flex-wrap items-center gap-3">
              <span>Is the egg pasteurised?</span>
              <Button onClick={() => say({ stage: batch.stage, kind: "pasteurised", what: "yes", note: "" })}>
                Yes
              </Button>
              <Button onClick={() => say({ stage: batch.stage, kind: "pasteurised", what: "no", note: "" })}>
                No
              </Button>
            </div>
          ) : null}
        </div>
      ) : null}
      {set.error ? <Notice tone="wrong">{set.error.message}</Notice> : null}
    </section>
  );
}
