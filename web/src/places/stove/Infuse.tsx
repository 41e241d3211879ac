import { type FormEvent, useEffect, useState } from "react";
import { useTopUp } from "../../api/bench";
import { useHere } from "../../api/here";
import { useScaleNow } from "../../api/kitchen";
import { Problem } from "../../api/problem";
import type { Batch } from "../../api/queries";
import { Button } from "../../kit/Button";
import { plain } from "../../kit/habits";
import { listed } from "../../kit/listed";
import { Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { typedGrams } from "../../kit/typed";
import { massText } from "../../kit/units";
import { minutes } from "../../shared/ticking";
import type { Say } from "./stages";

interface Props {
  batch: Batch;
  mayMark: boolean;
  say: Say;
}

/** The infusion's clock, then strain and top up to the starting weight. */
export function Infuse({ batch, mayMark, say }: Props) {
  const { system } = useUnits();
  const plan = batch.plan.infusing;
  if (!plan) return null;
  return (
    <section aria-label="Infusion" className="grid gap-4 border border-hair bg-paper p-4">
      <Clock batch={batch} mayMark={mayMark} say={say} seconds={plan.seconds} />
      <p>
        Strained, about <b className="tabular">{massText(plan.left_g, system)}</b> of{" "}
        {massText(plan.dairy_g, system)} are left: {massText(plan.held_g, system)} stay in what you strain
        out, {massText(plan.steamed_g, system)} go as steam.
      </p>
      {batch.topped_up_g === null ? (
        mayMark ? (
          <Strained batch={batch} say={say} />
        ) : null
      ) : (
        <p className="font-bold text-herb">
          ✓ {massText(batch.topped_up_g, system)} were left;{" "}
          {massText(Math.max(0, plan.dairy_g - batch.topped_up_g), system)} were to be added.
        </p>
      )}
    </section>
  );
}

function Clock({ batch, mayMark, say, seconds }: Props & { seconds: number }) {
  const since = batch.marks.findLast((mark) => mark.kind === "infusing")?.at ?? null;
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (since === null) return;
    const timer = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(timer);
  }, [since]);
  if (since === null)
    return mayMark ? (
      <Button
        look="iron"
        large
        className="justify-self-start"
        onClick={() => say({ stage: "warm", kind: "infusing", note: "" })}
      >
        Lid on: start {minutes(seconds)}
      </Button>
    ) : (
      <p>It infuses for {minutes(seconds)}.</p>
    );
  const left = seconds - ((now - Date.parse(since)) / 1000) * batch.pace;
  return (
    <p role="timer" className="text-lg">
      {left > 0 ? (
        <>
          <b className="figure text-[3rem] leading-none">{minutes(left)}</b> to go under the lid
        </>
      ) : (
        <b>It has infused: strain it now.</b>
      )}
    </p>
  );
}

/** What is left by the scale or as typed, and what brings it back. */
function Strained({ batch, say }: { batch: Batch; say: Say }) {
  const here = useHere();
  const { system } = useUnits();
  const scale = useScaleNow(here.slug, true);
  const top = useTopUp(here.slug);
  const [typed, setTyped] = useState("");
  const shown = scale.data?.steady ? (scale.data.grams ?? null) : null;
  const left = typedGrams(typed, system);
  const problem = top.error instanceof Problem ? top.error : null;
  const ask = (left_g: number) => top.mutate({ draft: batch.draft, left_g });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (left !== null) ask(left);
  };
  const asked = top.variables?.left_g;
  return (
    <form onSubmit={submit} noValidate aria-label="Top up" className="grid gap-3">
      <div className="flex flex-wrap items-start gap-3">
        <div className="w-48">
          <TextBox
            label={`Left once strained, ${system === "metric" ? "g" : "oz"}`}
            error={typed.trim() && left === null ? "Write a weight as a number." : problem?.at("left_g")}
            numeric
            className="figure w-full text-[1.5rem]"
            value={typed}
            onChange={setTyped}
          />
        </div>
        <Button type="submit" className="mt-7" disabled={left === null || top.isPending}>
          How much to add
        </Button>
        {shown === null ? null : (
          <Button
            className="mt-7"
            disabled={top.isPending}
            onClick={() => {
              setTyped(plain(system === "metric" ? shown : Math.round(shown / 2.83495) / 10));
              ask(shown);
            }}
          >
            {scale.data?.device} shows {massText(shown, system)}: take it
          </Button>
        )}
      </div>
      {top.data && asked !== undefined ? (
        <div className="border-l-4 border-slate px-4 py-1">
          <p className="text-lg">
            {top.data.missing_g < 0.5
              ? "Nothing is missing."
              : `Add ${listed(top.data.add.map((one) => `${massText(one.grams, system)} of ${one.name}`))}.`}
          </p>
          <Button
            look="iron"
            large
            className="mt-2"
            onClick={() => say({ stage: "warm", kind: "top-up", grams: asked, note: "" })}
          >
            Topped up
          </Button>
        </div>
      ) : null}
      {problem?.beside("left_g") ? <Notice tone="wrong">{problem.message}</Notice> : null}
    </form>
  );
}
