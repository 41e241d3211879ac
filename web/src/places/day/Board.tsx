import { type KeyboardEvent, type PointerEvent, useMemo, useRef, useState } from "react";
import type { Day, DayJob, DayStep } from "../../api/day";
import { type Lane, lanesOf } from "./lanes";
import { apart, type Scale, scaleOf } from "./scale";
import { timeText } from "./times";
import { letterOf, tintOf } from "./tints";

const STEP_MIN = 5;
const DRAG_PX = 6;
const HOUR = 60;
const BUSY_SHARE = 0.5;
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
            <span key={lane.key} className="w-9 shrink-0 pt-2 text-center text-xs text-soft max-md:hidden">
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

/** Whether a look now and then lies beside other work of the same hands, or other work beside a look. */
function besides(step: DayStep, all: readonly DayStep[]): boolean {
  return all.some(
    (other) =>
      other !== step &&
      other.begins < step.ends &&
      other.ends > step.begins &&
      other.share >= BUSY_SHARE !== step.share >= BUSY_SHARE,
  );
}

interface BlockProps {
  step: DayStep;
  job: { job: DayJob; place: number } | undefined;
  beside: boolean;
  scale: Scale;
  may: boolean;
  people: number[];
  onOpen: Props["onOpen"];
  onMove: Props["onMove"];
}

function StepBlock({ step, job, beside, scale, may, people, onOpen, onMove }: BlockProps) {
  const [lifted, setLifted] = useState<number | null>(null);
  const from = useRef(0);
  const dragged = useRef(false);
  const top = scale.y(step.begins);
  const tall = Math.max(24, scale.y(step.ends) - top - 2);
  const look = step.share < BUSY_SHARE;
  const movable = may && step.state === "to come";
  const down = (event: PointerEvent<HTMLButtonElement>) => {
    if (!movable || event.button !== 0) return;
    from.current = event.clientY;
    dragged.current = false;
    event.currentTarget.setPointerCapture(event.pointerId);
  };
  const drag = (event: PointerEvent<HTMLButtonElement>) => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const by = event.clientY - from.current;
    if (Math.abs(by) > DRAG_PX) dragged.current = true;
    if (dragged.current) setLifted(by);
  };
  const up = (event: PointerEvent<HTMLButtonElement>) => {
    if (lifted === null) return;
    const start = Math.round(scale.minute(top + event.clientY - from.current) / STEP_MIN) * STEP_MIN;
    setLifted(null);
    if (start !== step.start) onMove(step, start, step.hands_id);
  };
  const press = (event: KeyboardEvent) => {
    const by = { ArrowUp: -STEP_MIN, ArrowDown: STEP_MIN }[event.key];
    const side = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (!movable || (by === undefined && side === undefined)) return;
    event.preventDefault();
    if (by !== undefined) {
      onMove(step, by > 0 ? nextStep(step.start) : stepBefore(step.start), step.hands_id);
      return;
    }
    const at = people.indexOf(step.hands_id ?? -1) + (side ?? 0);
    const other = people[at];
    if (other !== undefined) onMove(step, step.start, other);
  };
  const whose = job && job.job.short !== step.say ? job.job.short : "";
  return (
    <button
      type="button"
      onPointerDown={down}
      onPointerMove={drag}
      onPointerUp={up}
      onPointerCancel={() => setLifted(null)}
      onKeyDown={press}
      onClick={() => {
        if (dragged.current) dragged.current = false;
        else onOpen(step);
      }}
      title={`${timeText(step.begins)} to ${timeText(step.ends)}: ${step.say}, ${job?.job.name ?? ""}`}
      className={`absolute z-10 overflow-hidden border px-2 text-left text-sm leading-snug touch-manipulation ${tintOf(job?.job.tint ?? 0)} ${
        step.share >= 1 ? "border-2 border-iron" : "border-line border-l-[5px] border-l-iron"
      } ${step.state === "over" ? "opacity-55" : ""} ${step.late ? "!border-brick" : ""} ${lifted !== null ? "z-30 opacity-80" : ""}`}
      style={{
        top,
        height: tall,
        left: beside && look ? "64%" : 0,
        right: beside && !look ? "37%" : 0,
        transform: lifted === null ? undefined : `translateY(${lifted}px)`,
      }}
    >
      <span className={tall < 44 ? "flex gap-x-2" : "block"}>
        <span className={`min-w-0 font-bold ${tall < 44 ? "max-w-full shrink-0 truncate" : "line-clamp-1"}`}>
          <span className="sr-only">{timeText(step.begins)} </span>
          {step.pinned ? "⌖ " : ""}
          {step.say}
        </span>
        <span className={`min-w-0 text-iron ${tall < 44 ? "truncate" : "line-clamp-2 text-xs"}`}>
          <span aria-hidden="true">{job ? letterOf(job.place) : ""} </span>
          {tall < 44 ? whose : `${whose ? `${whose} · ` : ""}until ${timeText(step.ends)}`}
          {step.state === "running" ? " · running" : ""}
          {step.late ? " · late" : ""}
        </span>
      </span>
    </button>
  );
}

function nextStep(minute: number): number {
  return Math.floor(minute / STEP_MIN) * STEP_MIN + STEP_MIN;
}

function stepBefore(minute: number): number {
  return Math.ceil(minute / STEP_MIN) * STEP_MIN - STEP_MIN;
}

function LaneColumn({ lane, scale, jobs }: { lane: Lane; scale: Scale; jobs: Jobs }) {
  return (
    <ol
      aria-label={lane.shown}
      className="relative w-9 shrink-0 border border-hair bg-paper max-md:hidden"
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

interface Due {
  key: string;
  at: number;
  say: string;
  late: boolean;
}

function deadlines(day: Day): Due[] {
  const late = new Set(day.jobs.filter((job) => job.late_min > 0).flatMap((job) => job.wants));
  const wants = day.wants.map((want) => ({
    key: `want-${want.id}`,
    at: want.at,
    say: want.name,
    late: late.has(want.id),
  }));
  const works = day.jobs
    .filter((job) => job.due !== null && !job.wants.length && job.key.startsWith("work-"))
    .map((job) => ({ key: job.key, at: job.due as number, say: job.name, late: job.late_min > 0 }));
  const promised = day.promised.map((one) => ({
    key: `tub-${one.tub_id}-${one.dish}`,
    at: one.at,
    say: `${one.dish}, from the shelf`,
    late: one.past,
  }));
  const all = [...wants, ...works, ...promised].sort((one, other) => one.at - other.at);
  // What is wanted at one time is one line.
  const found: Due[] = [];
  for (const one of all) {
    const before = found.at(-1);
    if (before?.at === one.at)
      found[found.length - 1] = {
        ...before,
        say: `${before.say}, ${one.say}`,
        late: before.late || one.late,
      };
    else found.push(one);
  }
  return found;
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
