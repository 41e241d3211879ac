import { useEffect, useRef } from "react";
import type { Alarm } from "../../../api/live";
import type { Batch } from "../../../api/queries";
import { useUnits } from "../../../kit/system";
import { inUnits } from "../../../kit/units";
import type { SayAs } from "../stages";

interface Props {
  batch: Batch;
  alarms: readonly Alarm[];
  /** What is to be done now, as it stands on the screen already. */
  action: string;
  mayMark: boolean;
  say: SayAs;
  aloud: (sentence: string, urgent: boolean) => void;
}

const GENTLE: readonly string[] = ["lift-soon", "probe-lost"];

/** What must be said: each once, until it is silenced. The worker that raised it has logged it. */
export function Alarms({ batch, alarms, action, mayMark, say, aloud }: Props) {
  const { system } = useUnits();
  const told = useRef(new Set<string>());
  useEffect(() => {
    for (const alarm of alarms) {
      if (told.current.has(alarm.id) || alarm.silenced) continue;
      told.current.add(alarm.id);
      aloud(inUnits(alarm.say, system), !GENTLE.includes(alarm.kind));
    }
  });
  // What is also the next thing to do is said there, in its place.
  const shown = alarms.filter((alarm) => !alarm.silenced && alarm.say !== action);
  return (
    <div role="alert" className="grid gap-2">
      {shown.map((alarm) => (
        <div
          key={alarm.id}
          className={`flex items-center justify-between gap-4 px-4 py-1.5 sm:py-2 ${toneOf(alarm)}`}
        >
          <span className="figure text-[1.35rem] leading-tight sm:text-[1.9rem]">
            {inUnits(alarm.say, system)}
          </span>
          {mayMark ? <Heard batch={batch} alarm={alarm} say={say} /> : null}
        </div>
      ))}
    </div>
  );
}

export const toneOf = (alarm: Alarm) =>
  GENTLE.includes(alarm.kind) ? "bg-yolk text-iron" : "bg-brick text-paper";

/** Silences an alarm for everyone. */
export function Heard({ batch, alarm, say }: { batch: Batch; alarm: Alarm; say: SayAs }) {
  const { system } = useUnits();
  return (
    <button
      type="button"
      className="min-h-[56px] shrink-0 rounded-solid border-2 border-current px-5 text-lg font-bold"
      aria-label={`Heard: ${inUnits(alarm.say, system)}`}
      onClick={() => say({ stage: batch.stage, kind: "silence", what: alarm.kind, note: "" })}
    >
      Heard
    </button>
  );
}
