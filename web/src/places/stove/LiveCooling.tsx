import { type FormEvent, Fragment, useState } from "react";
import type { Live } from "../../api/live";
import type { Batch } from "../../api/queries";
import { BAD, CoolingCurve } from "../../drawings/CoolingCurve";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { typedCelsius } from "../../kit/typed";
import { inUnits, temperature } from "../../kit/units";
import { hours } from "../../kit/when";
import { Helps } from "./CoolingVerdict";
import type { Say } from "./stages";

interface Props {
  batch: Batch;
  live: Live | undefined;
  mayMark: boolean;
  say: Say;
  onOther: (() => void) | null;
}

const STATES: Record<NonNullable<Live["cooling"]>["deadlines"][number]["state"], string> = {
  kept: "✓ kept",
  "will be kept": "in time",
  "in danger": "only just, or too late",
  "will be missed": "too slow",
  missed: "missed",
};

/** A cooling as it goes: how warm in the middle, the limits with the time that is left, and what still helps. */
export function LiveCooling({ batch, live, mayMark, say, onOther }: Props) {
  const { system } = useUnits();
  const began = batch.marks.find((mark) => mark.kind === "into-ice");
  const cooling = live?.cooling;
  const seconds = (at: string) =>
    ((new Date(at).getTime() - new Date(began?.at ?? at).getTime()) / 1000) * batch.pace;
  const read = batch.marks.flatMap((mark) =>
    (mark.kind === "spot" || mark.stage === "chill") && mark.temperature_c !== null
      ? [[seconds(mark.at), mark.temperature_c] as const]
      : [],
  );
  const missed = cooling?.deadlines.some((one) => one.state === "missed") ?? false;
  const decided = batch.marks.findLast((mark) => mark.kind === "decided");
  const moved = new Set(batch.marks.flatMap((mark) => (mark.kind === "moved" ? [mark.line] : [])));
  const next = batch.cooling?.ways.findIndex((_, i) => i > 0 && !moved.has(i)) ?? -1;
  return (
    <section aria-label="Cooling now" className="grid gap-4 border border-hair bg-paper p-4">
      {cooling ? (
        <>
          <div className="flex flex-wrap items-end justify-between gap-4" role="status">
            <p>
              <span className="block text-soft">in the middle</span>
              <span className="figure text-[5rem] leading-none text-slate">
                {temperature(cooling.core_c, system)}
              </span>
            </p>
            <p className="max-w-96 text-xl">{inUnits(live?.say ?? "", system)}</p>
          </div>
          <ul className="grid gap-1 text-lg" aria-label="Limits">
            {cooling.deadlines.map((one) => (
              <li
                key={one.limit_c}
                className="flex flex-wrap justify-between gap-x-4 border-b border-hair py-1"
              >
                <Facts
                  of={[
                    <Fragment key="limit">
                      below <b className="tabular">{temperature(one.limit_c, system, 0)}</b>
                    </Fragment>,
                    one.left_s === null
                      ? "its clock has not begun"
                      : one.left_s > 0
                        ? `${hours(one.left_s)} left`
                        : "its time is up",
                  ]}
                />
                <Facts
                  className={`font-bold ${BAD.includes(one.state) ? "text-brick" : "text-herb"}`}
                  of={[
                    STATES[one.state],
                    one.state === "will be kept" && one.reached_s !== null && `in ${hours(one.reached_s)}`,
                  ]}
                />
              </li>
            ))}
          </ul>
          <CoolingCurve
            label={`Cooling: ${temperature(cooling.core_c, system, 0)} now`}
            t_s={cooling.ahead_s.map((t) => t + cooling.t_s)}
            core_c={cooling.ahead_c}
            slow_c={cooling.slow_c}
            limits={cooling.deadlines.map((one) => ({
              limit_c: one.limit_c,
              at_s: one.left_s === null ? null : cooling.t_s + one.left_s,
              kept: !BAD.includes(one.state),
            }))}
            read={read}
            now_s={cooling.t_s}
            system={system}
          />
          <Helps helps={cooling.helps} />
        </>
      ) : (
        <p className="text-soft">It is followed from its first reading on.</p>
      )}
      {missed && !decided && mayMark ? <Decide say={say} /> : null}
      {decided ? (
        <p className="border-l-4 border-brick pl-3">
          A limit was missed. Decided: <b>{decided.note}</b> ({decided.by})
        </p>
      ) : null}
      {mayMark ? (
        <div className="flex flex-wrap items-end gap-3">
          <Spot say={say} />
          {next > 0 ? (
            <Button
              look="iron"
              large
              onClick={() => say({ stage: "chill", kind: "moved", line: next, note: "" })}
            >
              Moved: {batch.cooling?.ways[next]?.by.replaceAll("-", " ")}
            </Button>
          ) : null}
          {onOther ? <Button onClick={onOther}>Cool it otherwise</Button> : null}
        </div>
      ) : null}
    </section>
  );
}

/** A temperature read by hand, in the middle. */
function Spot({ say }: { say: Say }) {
  const { system } = useUnits();
  const [typed, setTyped] = useState("");
  const celsius = typedCelsius(typed, system);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (celsius === null) return;
    say({ stage: "chill", kind: "spot", temperature_c: celsius, note: "" });
    setTyped("");
  };
  return (
    <form onSubmit={submit} noValidate aria-label="Spot check" className="flex items-end gap-3">
      <div className="w-40">
        <TextBox
          label={`read in the middle, ${system === "metric" ? "°C" : "°F"}`}
          error={typed.trim() && celsius === null ? "Write a temperature as a number." : undefined}
          numeric
          className="figure w-full text-[1.5rem]"
          value={typed}
          onChange={setTyped}
        />
      </div>
      <Button type="submit" look="iron" large disabled={celsius === null}>
        Keep it
      </Button>
    </form>
  );
}

function Decide({ say }: { say: Say }) {
  const [note, setNote] = useState("");
  return (
    <form
      noValidate
      aria-label="What was decided"
      className="grid gap-3 border-l-4 border-brick pl-4"
      onSubmit={(event) => {
        event.preventDefault();
        if (note.trim()) say({ stage: "chill", kind: "decided", note });
      }}
    >
      <p className="font-bold text-brick">
        A limit was missed. When in doubt, throw it away; write down what was decided, and with whom.
      </p>
      <TextBox label="Decided" maxLength={500} value={note} onChange={setNote} />
      <Button type="submit" look="iron" className="justify-self-start" disabled={!note.trim()}>
        Write it down
      </Button>
    </form>
  );
}
