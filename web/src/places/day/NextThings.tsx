import type { Day, DayStep } from "../../api/day";
import { Facts } from "../../kit/Facts";
import { timeText } from "./times";

interface Props {
  day: Day;
  who: number | null;
  onOpen: (step: DayStep) => void;
}

/** What each pair of hands is at and does next, large enough for a phone on the bench. */
export function NextThings({ day, who, onOpen }: Props) {
  const names = new Map(day.jobs.map((job) => [job.key, job.name]));
  const chosen = who ?? day.hands[0]?.id;
  return (
    <section
      aria-label="Next"
      className="mt-4 grid gap-x-8 gap-y-3 md:grid-cols-2 xl:grid-cols-3 print:hidden"
    >
      {day.next_things.map((one) => {
        const step = one.at ?? one.then;
        return (
          <div key={one.hands_id} className={one.hands_id === chosen ? "" : "max-md:hidden"}>
            <p className="text-soft">{one.at ? `${one.name}, now` : step ? `${one.name}, next` : one.name}</p>
            {step ? (
              <button type="button" className="block min-h-11 w-full text-left" onClick={() => onOpen(step)}>
                <span className="figure block text-[2rem] leading-tight md:text-[1.35rem]">
                  {one.at ? step.say : `${timeText(step.begins)} ${step.say}`}
                </span>
                <span className="block text-[1.1rem] md:text-base">{names.get(step.job)}</span>
              </button>
            ) : (
              <p className="figure text-[1.35rem]">Nothing more to do.</p>
            )}
            {one.at && one.then ? (
              <Facts
                className="text-soft"
                of={[
                  `until ${timeText(one.at.ends)}`,
                  `then ${timeText(one.then.begins)} ${one.then.say}`,
                  names.get(one.then.job),
                ]}
              />
            ) : null}
          </div>
        );
      })}
    </section>
  );
}
