import { type FormEvent, type ReactNode, useEffect, useState } from "react";
import type { Refused } from "../../api/outbox";
import type { Batch, Stage } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { inUnits, temperature, typedCelsius } from "../../kit/units";
import { CupTest, SpoonTest } from "./SpoonTest";
import type { Say, StageName } from "./stages";
import { intoTheCold, OFF, type Way } from "./ways";

const WITH_TEMPERATURE: readonly string[] = ["warm", "temper", "cook", "finish", "chill", "keep"];
const DONE_WORDS: Record<string, string> = {
  weigh: "All weighed",
  warm: "Warmed",
  temper: "Tempered",
  cook: "Cooked",
  test: "Tested",
  finish: "Finished",
  chill: "Chilled",
  keep: "Put away",
};

interface Props {
  plan: Stage;
  batch: Batch;
  mayMark: boolean;
  say: Say;
  refused: Refused | null;
  forgetRefusal: () => void;
  /** What is said instead of the plan, now that it is known how it went. */
  instead?: string | undefined;
  /** What comes before the signs: the Slip. */
  first: ReactNode;
  children: ReactNode;
}

/** One stage: what to do in large type, the number and the signs to wait for, and the marks it takes. */
export function StagePanel({
  plan,
  batch,
  mayMark,
  say,
  refused,
  forgetRefusal,
  instead,
  first,
  children,
}: Props) {
  const { system } = useUnits();
  const stage = plan.stage as StageName;
  const lift = stage === "cook" ? batch.lift : null;
  // What was thrown away is waited for by nobody.
  const waited = !(stage === "keep" && batch.verdict === "discarded");
  return (
    <div className="grid gap-6">
      <div>
        <h2 className="text-[1.75rem]">{inUnits(instead ?? plan.say, system)}</h2>
        {plan.at_c === null || !waited ? null : (
          <p className="figure mt-2 text-[5.5rem] leading-none">
            <span className="sr-only">wait for </span>
            {temperature(plan.at_c, system)}
          </p>
        )}
        {lift && lift.carry_over_k >= 0.1 ? (
          <p className="mt-2 text-soft">
            Lifted there, the pan takes it on to {temperature(lift.lands_c, system)}: by the hob and the pan
            chosen below.
          </p>
        ) : null}
        {lift?.cannot ? <Notice tone="wrong">{inUnits(lift.cannot, system)}</Notice> : null}
      </div>
      {first}
      <div hidden={!waited}>
        <ul className="grid gap-1 text-lg" aria-label="Signs, in order">
          {plan.signs.map(({ sign, text }) => (
            <li key={sign} className="border-l-4 border-yolk pl-3">
              {inUnits(text, system)}
            </li>
          ))}
        </ul>
        <p className="mt-3 text-soft">{inUnits(plan.why, system)}</p>
        {plan.cautions.map((caution) => (
          <p key={caution} className="mt-2 border-l-4 border-brick pl-3">
            {inUnits(caution, system)}
          </p>
        ))}
      </div>
      {children}
      {mayMark && stage === "test" ? (
        batch.way === "sets" ? (
          <CupTest say={say} />
        ) : (
          <SpoonTest batch={batch} say={say} />
        )
      ) : null}
      {mayMark ? (
        <MarkForm
          stage={stage}
          way={batch.way}
          cold={intoTheCold(batch)}
          say={say}
          refused={refused}
          forgetRefusal={forgetRefusal}
        />
      ) : null}
    </div>
  );
}

interface FormProps {
  stage: StageName;
  way: Way;
  /** What putting it away to cool is called. */
  cold: string;
  say: Say;
  refused: Refused | null;
  forgetRefusal: () => void;
}

function MarkForm({ stage, way, cold, say, refused, forgetRefusal }: FormProps) {
  const { system } = useUnits();
  const [typed, setTyped] = useState("");
  const [note, setNote] = useState("");
  const mine = refused && refused.mark.stage === stage ? refused : null;
  // A refused mark gives back what was typed, so that it can be mended and sent again.
  useEffect(() => {
    if (!mine) return;
    const celsius = mine.mark.temperature_c;
    if (celsius != null) setTyped(temperature(celsius, system).replace("°", ""));
    setNote(mine.mark.note ?? "");
  }, [mine, system]);
  const celsius = typedCelsius(typed, system);
  const unreadable = typed.trim() !== "" && celsius === null;
  const error = unreadable
    ? "Write a temperature as a number, as 82 or 82.5."
    : mine?.problem.at("temperature_c");
  const mark = (kind: "done" | "off-heat" | "into-ice") => {
    if (unreadable) return;
    forgetRefusal();
    say({ stage, kind, temperature_c: celsius, note });
    setTyped("");
    setNote("");
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    mark("done");
  };
  return (
    <form
      onSubmit={submit}
      className="grid gap-4 border-t border-hair pt-5"
      aria-label={`Mark ${stage}`}
      noValidate
    >
      <div className="grid gap-4 sm:grid-cols-[11rem_minmax(0,1fr)]">
        {WITH_TEMPERATURE.includes(stage) ? (
          <TextBox
            label={`Temperature, ${system === "metric" ? "°C" : "°F"}`}
            error={error}
            numeric
            className="figure w-full text-[1.6rem]"
            value={typed}
            onChange={setTyped}
          />
        ) : null}
        <TextBox
          label="Note"
          error={mine?.problem.at("note")}
          maxLength={500}
          className="w-full min-w-0"
          value={note}
          onChange={setNote}
        />
      </div>
      {mine && !error ? <Notice tone="wrong">{mine.problem.message}</Notice> : null}
      <div className="flex flex-wrap gap-3">
        <Button look="solid" large type="submit" className="min-w-48">
          {DONE_WORDS[stage]}
        </Button>
        {stage === "cook" ? (
          <Button look="iron" large onClick={() => mark("off-heat")}>
            {OFF[way]}
          </Button>
        ) : null}
        {stage === "chill" ? (
          <Button look="iron" large onClick={() => mark("into-ice")}>
            {cold}
          </Button>
        ) : null}
      </div>
    </form>
  );
}
