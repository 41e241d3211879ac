import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import type { DayJob, DayStep } from "../../api/day";
import { Facts } from "../../kit/Facts";
import type { Scale } from "./scale";
import { timeText } from "./times";
import { letterOf, tintOf } from "./tints";

const STEP_MIN = 5;
const DRAG_PX = 6;
const BUSY_SHARE = 0.5;

/** Whether a look now and then lies beside other work of the same hands, or other work beside a look. */
export function besides(step: DayStep, all: readonly DayStep[]): boolean {
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
  onOpen: (step: DayStep) => void;
  onMove: (step: DayStep, start: number, hands: number | null) => void;
}

/** A step in its column: touched it tells all, dragged or pushed by keys it goes elsewhere. */
export function StepBlock({ step, job, beside, scale, may, people, onOpen, onMove }: BlockProps) {
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
          <Facts
            inline
            of={[
              whose,
              tall >= 44 && `until ${timeText(step.ends)}`,
              step.state === "running" && "running",
              step.late && "late",
            ]}
          />
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
