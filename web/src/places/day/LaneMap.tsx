import type { Day } from "../../api/day";
import { lanesOf } from "./lanes";
import { timeText } from "./times";
import { letterOf, tintOf } from "./tints";

/** All lanes of a day on a narrow screen: time runs to the right, a row for each ring, bath and so on. */
export function LaneMap({ day }: { day: Day }) {
  const lanes = lanesOf(day.room, day.steps);
  const steps = lanes.flatMap((lane) => lane.steps);
  if (!steps.length) return null;
  const from = Math.floor(Math.min(...steps.map((step) => step.begins)) / 60) * 60;
  const to = Math.ceil(Math.max(...steps.map((step) => step.ends)) / 60) * 60;
  const at = (minute: number) => `${(100 * (minute - from)) / (to - from)}%`;
  const jobs = new Map(day.jobs.map((job, place) => [job.key, { job, place }]));
  return (
    <section aria-label="Rings, baths and ovens" className="mt-4 lg:hidden print:hidden">
      {lanes.map((lane) => (
        <div key={lane.key} className="mb-1 flex items-center gap-2">
          <span className="w-14 shrink-0 text-xs text-soft">{lane.shown}</span>
          <div className="relative h-6 flex-1 border border-hair bg-paper">
            {lane.steps.map((step) => {
              const job = jobs.get(step.job);
              return (
                <span
                  key={`${step.job} ${step.place}`}
                  title={`${job?.job.name ?? ""}, ${timeText(step.begins)} to ${timeText(step.ends)}`}
                  className={`absolute inset-y-0 overflow-hidden border border-iron text-center text-xs ${tintOf(job?.job.tint ?? 0)}`}
                  style={{ left: at(step.begins), width: `calc(${at(step.ends)} - ${at(step.begins)})` }}
                >
                  {job ? letterOf(job.place) : ""}
                </span>
              );
            })}
            {day.now !== null && day.now > from && day.now < to ? (
              <span className="absolute inset-y-0 border-l-[3px] border-iron" style={{ left: at(day.now) }} />
            ) : null}
          </div>
        </div>
      ))}
      <p className="flex justify-between pl-16 text-xs text-soft">
        <span>{timeText(from)}</span>
        <span>{timeText(to)}</span>
      </p>
    </section>
  );
}
