import { useMemo } from "react";
import type { Day, DayJob, DayStep } from "../../api/day";
import { type Due, deadlines } from "./deadlines";
import { type Lane, lanesOf } from "./lanes";
import { besides, StepBlock } from "./StepBlock";
import { apart, type Scale, scaleOf } from "./scale";
import { timeText } from "./times";
import { letterOf, tintOf } from "./tints";

const HOUR = 60;
const LABEL_PX = 38;
const LINE_LETTERS = 22;
const LINE_PX = 18;

interface Props {
  day: Day;
  /** The hands whose column a narrow screen shows. */
  who: number | null;
  may: boolean;
  onOpen: (step: DayStep) => void;
  onMove: (step: DayStep, start: number, hands: number | null) => void;
}

/** The day as a paper list: a column for each pair of hands, lanes for rings and the like, deadlines across. */
export function Board({ day, who, may, onOpen, onMove }: Props) {
  const jobs = useMemo(() => new Map(day.jobs.map((job, place) => [job.key, { job, place }])), [day.jobs]);
  const lanes = useMemo(() => lanesOf(day.room, day.steps), [day.room, day.steps]);
  const dues = useMemo(() => deadlines(day), [day]);
  const scale = useMemo(() => scaled(day, dues), [day, dues]);
  const hours = hoursOf(scale);
  const labels = apart(
    dues.map((due) => scale.y(due.at) - 10),
    dues.map((due) => LINE_PX * Math.min(4, Math.ceil((due.say.length + 6) / LINE_LETTERS)) + 4),
  );
  const bottom = Math.max(scale.height, (labels.at(-1) ?? 0) + LABEL_PX) + 12;
  const chosen = who ?? day.hands[0]?.id;
  return (
    <div className="mt-4 flex gap-2 overflow-x-clip print:hidden" data-testid="board">
      <div className="relative w-12 shrink-0" style={{ height: bottom + 48 }} aria-hidden="true">
        {hours.map((hour) => (
          <span
            key={hour}
            className={`figure absolute right-1 -translate-y-1/2 text-sm ${hour % 60 ? "text-soft" : ""}`}
            style={{ top: 48 + scale.y(hour) }}
          >
            {timeText(hour).split(" ")[0]}
          </span>
        ))}
      </div>
      <div className="relative min-w-0 flex-1">
        <div className="flex h-12 gap-2">
          {day.hands.map((hands) => (
            <h2
              key={hands.id}
              className={`min-w-0 flex-1 truncate pt-2 text-[1.15rem] ${hands.id === chosen ? "" : "max-md:hidden"}`}
              title={hands.name}
            >
              {hands.name}
            </h2>
          ))}
          {lanes.map((lane) => (
            <span key={lane.key} className="w-9 shrink-0 pt-2 text-center text-xs text-soft max-lg:hidden">
              {lane.shown}
            </span>
          ))}
          <span className="w-40 shrink-0 max-sm:w-28" />
        </div>
        <div className="relative flex gap-2" style={{ height: bottom }}>
          {hours.map((hour) => (
            <div
              key={hour}
              className={`absolute inset-x-0 border-t ${hour % 60 ? "border-hair/60" : "border-hair"}`}
              style={{ top: scale.y(hour) }}
            />
          ))}
          {day.hands.map((hands) => (
            <Column
              key={hands.id}
              hidden={hands.id !== chosen}
              name={hands.name}
              there={hands.there as [number, number][]}
              steps={day.steps.filter((step) => step.hands_id === hands.id)}
              {...{ scale, jobs, may, onOpen, onMove }}
              people={day.hands.map((one) => one.id)}
            />
          ))}
          {lanes.map((lane) => (
            <LaneColumn key={lane.key} lane={lane} scale={scale} jobs={jobs} />
          ))}
          <ol className="relative w-40 shrink-0 max-sm:w-28" aria-label="Wanted">
            {dues.map((due, n) => (
              <li
                key={due.key}
                className={`absolute inset-x-0 text-sm leading-tight break-words max-sm:text-xs ${due.late ? "font-bold text-brick" : "text-copper"}`}
                style={{ top: labels[n] }}
              >
                <span className="line-clamp-4" title={due.say}>
                  <span className="figure">{timeText(due.at)}</span> {due.say}
                </span>
              </li>
            ))}
          </ol>
          {dues.map((due) => (
            <div
              key={due.key}
              className={`pointer-events-none absolute left-0 right-40 border-t-2 border-dashed max-sm:right-28 ${due.late ? "border-brick" : "border-copper"}`}
              style={{ top: scale.y(due.at) }}
            />
          ))}
          {day.now !== null && day.now >= scale.from && day.now <= scale.to ? (
            <div
              className="pointer-events-none absolute -left-14 right-0 z-20 border-t-[3px] border-iron"
              style={{ top: scale.y(day.now) }}
            >
              <span className="figure absolute -top-3 right-0 bg-milk pl-1.5 text-sm">
                now {timeText(day.now)}
              </span>
            </div>
          ) : null}
        </div>
      </div>
    </div>
  );
}

type Jobs = Map<string, { job: DayJob; place: number }>;

interface ColumnProps {
  hidden: boolean;
  name: string;
  there: [number, number][];
  steps: DayStep[];
  scale: Scale;
  jobs: Jobs;
  may: boolean;
  people: number[];
  onOpen: Props["onOpen"];
  onMove: Props["onMove"];
}

function Column({ hidden, name, there, steps, scale, jobs, may, people, onOpen, onMove }: ColumnProps) {
  const last = Math.min(scale.to, Math.max(...there.map(([, end]) => end)));
  return (
    <ol
      aria-label={name}
      className={`relative min-w-0 flex-1 bg-paper/50 ${hidden ? "max-md:hidden" : ""}`}
      style={{ height: scale.height }}
    >
      {last < scale.to ? (
        <li
          aria-hidden="true"
          className="absolute inset-x-0 bottom-0 border-t border-line bg-hair/30 px-2 pt-1 text-xs text-soft"
          style={{ top: scale.y(last) }}
        >
          gone
        </li>
      ) : null}
      {steps.map((step) => (
        <li key={`${step.job} ${step.place}`}>
          <StepBlock
            step={step}
            beside={besides(step, steps)}
            {...{ scale, may, people, onOpen, onMove }}
            job={jobs.get(step.job)}
          />
        </li>
      ))}
    </ol>
  );
}

function LaneColumn({ lane, scale, jobs }: { lane: Lane; scale: Scale; jobs: Jobs }) {
  return (
    <ol
      aria-label={lane.shown}
      className="relative w-9 shrink-0 border border-hair bg-paper max-lg:hidden"
      style={{ height: scale.height }}
    >
      {lane.steps.map((step) => {
        const job = jobs.get(step.job);
        return (
          <li
            key={`${step.job} ${step.place}`}
            title={`${timeText(step.begins)} to ${timeText(step.ends)}: ${job?.job.name ?? ""}`}
            className={`absolute inset-x-0 flex justify-center border border-iron text-xs font-bold ${tintOf(job?.job.tint ?? 0)} ${step.state === "over" ? "opacity-55" : ""}`}
            style={{
              top: scale.y(step.begins),
              height: Math.max(16, scale.y(step.ends) - scale.y(step.begins)),
            }}
          >
            <span aria-hidden="true">{job ? letterOf(job.place) : ""}</span>
            <span className="sr-only">
              {job?.job.name}, {timeText(step.begins)} to {timeText(step.ends)}
            </span>
          </li>
        );
      })}
    </ol>
  );
}

function scaled(day: Day, dues: readonly Due[]): Scale {
  const byHand = day.steps.filter((step) => step.hands_id !== null);
  const times = [
    ...byHand.flatMap((step) => [step.begins, step.ends]),
    ...dues.map((due) => due.at),
    // Long before anything begins the clock would only take up the page.
    ...(day.now === null || day.now < Math.min(...byHand.map((step) => step.begins)) - HOUR ? [] : [day.now]),
  ];
  const opens = day.hands.flatMap((hands) => (hands.there as [number, number][]).map(([start]) => start));
  const first = Math.min(...times, ...(times.length ? [] : opens));
  const last = Math.max(...times, ...(times.length ? [] : opens.map((one) => one + 8 * HOUR)));
  const from = Math.floor((first - 10) / 30) * 30;
  const to = Math.ceil((last + 10) / 30) * 30;
  const hours = Array.from({ length: (to - from) / 30 + 1 }, (_, n) => from + 30 * n);
  return scaleOf(
    byHand.map((step) => ({ start: step.begins, end: step.ends })),
    [...hours, ...dues.map((due) => due.at)],
    from,
    to,
  );
}

/** Whole and half hours, as far as there is room for them. */
function hoursOf(scale: Scale): number[] {
  const found: number[] = [];
  for (let at = scale.from; at <= scale.to; at += 30) {
    const before = found.at(-1);
    const near = before !== undefined && scale.y(at) - scale.y(before) < 22;
    if (!near) found.push(at);
    else if (at % 60 === 0 && before % 60 !== 0) found[found.length - 1] = at;
  }
  return found;
}
