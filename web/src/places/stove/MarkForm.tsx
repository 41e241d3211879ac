import { type FormEvent, useEffect, useState } from "react";
import { Link } from "react-router";
import { useHere } from "../../api/here";
import type { Refused } from "../../api/outbox";
import type { Batch, NewMark } from "../../api/queries";
import type { StageName } from "../../contract/words";
import { Button } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { typedCelsius } from "../../kit/typed";
import { temperature } from "../../kit/units";
import type { CoolingAnswer } from "./coolingAnswer";
import { lastOff } from "./facts";
import type { Say } from "./stages";
import { BACK_ON, intoTheCold, OFF } from "./ways";

const WITH_TEMPERATURE: readonly string[] = ["warm", "temper", "cook", "finish", "chill", "keep"];
const GOES_WRONG: readonly string[] = ["cook", "chill"];
const DONE_WORDS: Record<string, string> = {
  weigh: "All weighed",
  warm: "Warmed",
  temper: "Tempered",
  test: "Tested",
  finish: "Finished",
  chill: "Chilled",
  keep: "Put away",
};
type Ending = "done" | "off-heat" | "back-on" | "into-ice";

interface Props {
  stage: StageName;
  batch: Batch;
  say: Say;
  /** What a stage's end takes with it, as the ticks of lines that nobody ticked. */
  before?: (() => void) | undefined;
  /** How it is to be cooled: putting it away takes what nobody chose yet. */
  cooling: CoolingAnswer;
  refused: Refused | null;
  forgetRefusal: () => void;
}

/** What ends a stage, with the temperature read then; on a phone it stays at the thumb. */
export function MarkForm({ stage, batch, say, before, cooling, refused, forgetRefusal }: Props) {
  const here = useHere();
  const { system } = useUnits();
  const iced = batch.marks.some((one) => one.kind === "into-ice");
  const [typed, setTyped] = useState("");
  const [note, setNote] = useState("");
  const mine = refused && refused.mark.stage === stage ? refused : null;
  // A refused mark gives back what was typed, so that it can be corrected and sent again.
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
  const mark = (kind: Ending | Extract<NewMark["kind"], "spot" | "moment">) => {
    if (unreadable) return;
    forgetRefusal();
    if (kind === "done") before?.();
    const send = () => say({ stage, kind, temperature_c: celsius, note });
    // Away without a connection it is marked all the same: how it cools can be said later.
    const likeThis = kind === "into-ice" ? cooling.putAway(celsius) : null;
    if (likeThis) cooling.choose.mutate(likeThis, { onSettled: send });
    else send();
    setTyped("");
    setNote("");
  };
  const off = lastOff(batch)?.kind === "off-heat";
  const ends: { kind: Ending; shown: string } =
    stage === "cook"
      ? off
        ? { kind: "back-on", shown: BACK_ON[batch.way] }
        : { kind: "off-heat", shown: OFF[batch.way] }
      : stage === "chill" && !iced && !batch.plan.served_at_once
        ? { kind: "into-ice", shown: intoTheCold(batch.way, cooling.wanted?.ways[0]?.by) }
        : { kind: "done", shown: DONE_WORDS[stage] ?? stage };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    mark(ends.kind);
  };
  const reads = WITH_TEMPERATURE.includes(stage);
  return (
    <form
      onSubmit={submit}
      className="grid gap-2 border-y border-hair bg-milk py-2 max-md:sticky max-md:bottom-[calc(var(--strip)+var(--places))] max-md:z-10 max-md:order-last across:static!"
      aria-label={`Mark ${stage}`}
      noValidate
    >
      <div className="flex flex-wrap items-end gap-3">
        {reads ? (
          <div className="w-28 sm:w-36">
            <TextBox
              label={`Temperature, ${system === "metric" ? "°C" : "°F"}`}
              error={error}
              numeric
              className="figure w-full text-[1.6rem]"
              value={typed}
              onChange={setTyped}
            />
          </div>
        ) : null}
        <Button
          look={off && stage === "cook" ? "quiet" : "solid"}
          large
          type="submit"
          className="max-md:grow md:min-w-40"
        >
          {ends.shown}
        </Button>
        {stage === "chill" && ends.kind === "done" && !batch.plan.served_at_once ? (
          <Button large disabled={celsius === null} onClick={() => mark("spot")}>
            Read it
          </Button>
        ) : null}
      </div>
      <div className="flex flex-wrap items-start gap-x-4">
        {GOES_WRONG.includes(stage) ? (
          <Link
            to={`/k/${here.slug}/trouble?batch=${batch.id}`}
            className="flex min-h-11 items-center rounded-solid border border-brick bg-paper px-4 font-bold text-brick no-underline"
          >
            Something’s wrong
          </Link>
        ) : null}
        <details open={note !== "" || undefined} className="open:basis-full">
          <summary className="flex min-h-11 cursor-pointer items-center text-soft">Add a note</summary>
          <TextBox
            label="Note"
            error={mine?.problem.at("note")}
            maxLength={500}
            className="w-full min-w-0"
            value={note}
            onChange={setNote}
          />
        </details>
      </div>
      {mine && !error ? <Notice tone="wrong">{mine.problem.message}</Notice> : null}
    </form>
  );
}
