import { X } from "lucide-react";
import type { Dispatch } from "react";
import { useHere } from "../../api/here";
import { Problem } from "../../api/problem";
import { type Assessment, type Draft, useScale } from "../../api/queries";
import { NEEDS } from "../../contract/words";
import { Button } from "../../kit/Button";
import { Wrong } from "../../kit/Field";
import { Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { TypedInput } from "../../kit/TypedInput";
import { typedMinutes, typedNumber } from "../../kit/typed";
import { massText } from "../../kit/units";
import type { Change } from "./draft";

type Destination = NonNullable<Draft["destinations"]>[number];
type Work = NonNullable<Draft["other_work"]>[number];

interface Props {
  draft: Draft;
  assessment: Assessment | undefined;
  problem: Problem | null;
  act: Dispatch<Change>;
}

/** What a batch is for: its parts together are its size, with what is lost; what is left over is shown. */
export function Destinations({ draft, assessment, problem, act }: Props) {
  const here = useHere();
  const { system } = useUnits();
  const scale = useScale(here.slug);
  const wanted = draft.destinations ?? [];
  const set = (value: Destination[]) => act({ do: "purpose", part: "destinations", value });
  const change = (index: number, more: Partial<Destination>) =>
    set(wanted.map((one, i) => (i === index ? { ...one, ...more } : one)));
  const shared = assessment?.shared;
  const failed = scale.error instanceof Problem ? scale.error : null;
  return (
    <section aria-label="What it is for" className="grid gap-3">
      {wanted.map((one, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: they are told apart by their place
        <div key={i}>
          <div className="grid grid-cols-[4.5rem_auto_minmax(0,1fr)_44px] items-center gap-2">
            <input
              className="col-span-4 w-full min-w-0"
              aria-label={`Destination ${i + 1}`}
              placeholder="plates"
              maxLength={80}
              value={one.name}
              onChange={(event) => change(i, { name: event.target.value })}
            />
            <TypedInput
              className="w-full max-w-20 min-w-0 text-right"
              inputMode="decimal"
              aria-label={`How many of ${one.name || `destination ${i + 1}`}`}
              value={one.count ?? 1}
              read={typedNumber}
              onValue={(count) => change(i, { count: count ?? 0 })}
            />
            <span aria-hidden="true">×</span>
            <input
              className="w-full min-w-0"
              aria-label={`Amount for one of ${one.name || `destination ${i + 1}`}`}
              placeholder="60 g"
              maxLength={60}
              value={one.amount}
              onChange={(event) => change(i, { amount: event.target.value })}
            />
            <button
              type="button"
              className="grid size-11 place-items-center text-soft"
              aria-label={`Take out ${one.name || `destination ${i + 1}`}`}
              onClick={() => set(wanted.filter((_, k) => k !== i))}
            >
              <X size={20} aria-hidden="true" />
            </button>
          </div>
          {problem?.below(`destinations[${i}]`) ? <Wrong>{problem.below(`destinations[${i}]`)}</Wrong> : null}
        </div>
      ))}
      <Button
        className="justify-self-start"
        disabled={wanted.length >= 20}
        onClick={() => set([...wanted, { name: wanted.length ? "" : "plates", count: 1, amount: "60 g" }])}
      >
        {wanted.length ? "And for …" : "Say what it is for"}
      </Button>
      {shared ? (
        <div className="border-l-4 border-slate bg-paper px-4 py-3">
          <p>
            Wanted are {massText(shared.wanted_g, system)}; {massText(shared.lost_g, system)} stay in jugs and
            bags. It comes to {massText(shared.comes_to_g, system)}.
          </p>
          <p className={`font-bold ${shared.left_over_g < -1 ? "text-brick" : ""}`}>
            {shared.left_over_g < -1
              ? `${massText(-shared.left_over_g, system)} are missing.`
              : shared.left_over_g > 1
                ? `${massText(shared.left_over_g, system)} are left over.`
                : "It is just enough."}
          </p>
          {Math.abs(shared.left_over_g) > 1 ? (
            <Button
              look="iron"
              className="mt-2"
              disabled={scale.isPending || problem !== null}
              onClick={() =>
                scale.mutate(
                  { draft, by: "destinations", amount: 1 },
                  { onSuccess: (scaled) => act({ do: "replace", draft: scaled }) },
                )
              }
            >
              Make it just enough
            </Button>
          ) : null}
        </div>
      ) : null}
      {failed ? <Notice tone="wrong">{failed.message}</Notice> : null}
    </section>
  );
}

/** Other work beside the sauce, so that a day can find room for it. */
export function OtherWork({ draft, problem, act }: Omit<Props, "assessment">) {
  const works = draft.other_work ?? [];
  const set = (value: Work[]) => act({ do: "purpose", part: "other_work", value });
  const change = (index: number, more: Partial<Work>) =>
    set(works.map((one, i) => (i === index ? { ...one, ...more } : one)));
  return (
    <section aria-label="Other work" className="grid gap-3">
      <h2>Other work</h2>
      {works.length ? null : (
        <p className="text-soft">
          A meringue, a caramel, whipped cream: what goes with this sauce, with its minutes, so that a day can
          find room for it.
        </p>
      )}
      {works.map((one, i) => {
        const name = one.name || `work ${i + 1}`;
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: they are told apart by their place
          <div key={i}>
            <div className="flex flex-wrap items-center gap-2">
              <input
                className="min-w-32 flex-1"
                aria-label={`Name of work ${i + 1}`}
                placeholder="caramel"
                maxLength={80}
                value={one.name}
                onChange={(event) => change(i, { name: event.target.value })}
              />
              <span className="flex items-center gap-1 text-soft">
                <TypedInput
                  className="w-full max-w-20 min-w-0 text-right"
                  aria-label={`Minutes of ${name}`}
                  value={one.minutes}
                  read={typedMinutes}
                  onValue={(minutes) => change(i, { minutes: minutes ?? 0 })}
                />
                min
              </span>
              <label className="flex min-h-11 items-center gap-2">
                <input
                  type="checkbox"
                  className="size-6 min-h-0"
                  checked={one.hands ?? true}
                  onChange={(event) => change(i, { hands: event.target.checked })}
                />
                hands
              </label>
              <select
                aria-label={`What ${name} needs`}
                value={one.needs ?? ""}
                onChange={(event) => change(i, { needs: event.target.value as Work["needs"] })}
              >
                {NEEDS.map((need) => (
                  <option key={need} value={need}>
                    {need || "nothing else"}
                  </option>
                ))}
              </select>
              <button
                type="button"
                className="grid size-11 place-items-center text-soft"
                aria-label={`Take out ${name}`}
                onClick={() => set(works.filter((_, k) => k !== i))}
              >
                <X size={20} aria-hidden="true" />
              </button>
            </div>
            {problem?.below(`other_work[${i}]`) ? <Wrong>{problem.below(`other_work[${i}]`)}</Wrong> : null}
          </div>
        );
      })}
      <Button
        className="justify-self-start"
        disabled={works.length >= 20}
        onClick={() => set([...works, { name: "", minutes: 20, hands: true, needs: "" }])}
      >
        Add other work
      </Button>
    </section>
  );
}

/** A number that is typed freely, and handed on whenever it is one. */
