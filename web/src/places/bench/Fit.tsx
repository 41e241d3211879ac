import { type Dispatch, type FormEvent, useState } from "react";
import { type Fitting, useFit, useTopUp } from "../../api/bench";
import { useHere } from "../../api/here";
import { Problem } from "../../api/problem";
import type { Draft } from "../../api/queries";
import { Button } from "../../kit/Button";
import { listed } from "../../kit/listed";
import { Notice } from "../../kit/Notice";
import { SelectBox } from "../../kit/SelectBox";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { typedNumber } from "../../kit/typed";
import { massText } from "../../kit/units";
import type { Change } from "./draft";

export type Shape = NonNullable<Fitting["shape"]>;
export const SHAPES: readonly { value: NonNullable<Fitting["shape"]>; shown: string }[] = [
  { value: "round", shown: "round" },
  { value: "oval", shown: "oval" },
  { value: "rectangle", shown: "square or oblong" },
  { value: "cups", shown: "cups" },
];

interface Props {
  draft: Draft;
  act: Dispatch<Change>;
  disabled: boolean;
}

/** Fit a dish, fit a pan, top up after infusing. */
export function Fit({ draft, act, disabled, vessel }: Props & { vessel: "dish" | "pan" }) {
  const here = useHere();
  const fit = useFit(here.slug);
  const [shape, setShape] = useState<NonNullable<Fitting["shape"]>>("round");
  const [typed, setTyped] = useState<Record<string, string>>({ filled: "90", head_room: "40", count: "6" });
  const problem = fit.error instanceof Problem ? fit.error : null;
  const wide = vessel === "dish" && (shape === "oval" || shape === "rectangle");
  const names = [
    "length_cm",
    "height_cm",
    ...(wide ? ["width_cm"] : []),
    ...(vessel === "dish" ? ["filled"] : ["head_room"]),
    ...(vessel === "dish" && shape === "cups" ? ["count"] : []),
  ];
  const missing = names.find((name) => !(typedNumber(typed[name]) > 0));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (missing) return;
    fit.mutate({
      draft,
      vessel,
      shape: vessel === "pan" ? "round" : shape,
      length_cm: typedNumber(typed.length_cm),
      width_cm: wide ? typedNumber(typed.width_cm) : 1,
      height_cm: typedNumber(typed.height_cm),
      count: shape === "cups" && vessel === "dish" ? typedNumber(typed.count) : 1,
      filled: typedNumber(typed.filled) / 100,
      head_room: typedNumber(typed.head_room) / 100,
    });
  };
  const box = (name: string, label: string) => (
    <TextBox
      label={label}
      error={
        typed[name]?.trim() && !(typedNumber(typed[name]) > 0)
          ? "Write a number above nothing."
          : problem?.at(name)
      }
      numeric
      value={typed[name] ?? ""}
      onChange={(text) => setTyped({ ...typed, [name]: text })}
    />
  );
  return (
    <form onSubmit={submit} noValidate aria-label={`Fit a ${vessel}`} className="grid gap-3">
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-3">
        {vessel === "dish" ? (
          <SelectBox label="shape" options={SHAPES} value={shape} onChange={setShape} />
        ) : null}
        {box("length_cm", wide ? "length, cm" : "across, cm")}
        {wide ? box("width_cm", "width, cm") : null}
        {box("height_cm", "height, cm")}
        {vessel === "dish" && shape === "cups" ? box("count", "how many") : null}
        {vessel === "dish" ? box("filled", "filled, %") : box("head_room", "head room, %")}
      </div>
      <Button
        type="submit"
        className="justify-self-start"
        disabled={disabled || fit.isPending || Boolean(missing)}
      >
        {vessel === "dish" ? "See what fills it" : "See if it fits"}
      </Button>
      {fit.data ? (
        <div className="border-l-4 border-slate bg-paper px-4 py-3">
          <p>{fit.data.say}</p>
          {vessel === "dish" || fit.data.batches > 1 ? (
            <Button
              look="iron"
              className="mt-2"
              onClick={() => {
                if (fit.data) act({ do: "replace", draft: fit.data.draft });
                fit.reset();
              }}
            >
              Take this size
            </Button>
          ) : null}
        </div>
      ) : null}
      {problem ? <Notice tone="wrong">{problem.message}</Notice> : null}
    </form>
  );
}

export function TopUp({ draft, disabled }: { draft: Draft; disabled: boolean }) {
  const here = useHere();
  const { system } = useUnits();
  const top = useTopUp(here.slug);
  const [left, setLeft] = useState("");
  const problem = top.error instanceof Problem ? top.error : null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (typedNumber(left) >= 0 && left.trim()) top.mutate({ draft, left_g: typedNumber(left) });
  };
  return (
    <form onSubmit={submit} noValidate aria-label="Top up" className="grid gap-3">
      <div className="flex flex-wrap items-start gap-3">
        <div className="w-44">
          <TextBox
            label="Milk and cream left, g"
            error={left.trim() && Number.isNaN(typedNumber(left)) ? "Write a number." : problem?.at("left_g")}
            hint="strained, on the scale"
            numeric
            value={left}
            onChange={setLeft}
          />
        </div>
        <Button type="submit" className="mt-7" disabled={disabled || top.isPending}>
          How much to add
        </Button>
      </div>
      {top.data ? (
        <p className="border-l-4 border-slate bg-paper px-4 py-3">
          {top.data.missing_g < 0.5
            ? "Nothing is missing."
            : `Add ${listed(top.data.add.map((one) => `${massText(one.grams, system)} of ${one.name}`))}.`}
        </p>
      ) : null}
      {problem?.beside("left_g") ? <Notice tone="wrong">{problem.message}</Notice> : null}
    </form>
  );
}
