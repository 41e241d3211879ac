import { type FormEvent, useState } from "react";
import { useHere } from "../../api/here";
import { useOven, useSetUp } from "../../api/live";
import { Problem } from "../../api/problem";
import type { Batch } from "../../api/queries";
import { Button } from "../../kit/Button";
import { plain } from "../../kit/habits";
import { Failed, Notice } from "../../kit/Notice";
import { SelectBox } from "../../kit/SelectBox";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { typedCelsius, typedNumber } from "../../kit/typed";
import { massText, temperature } from "../../kit/units";
import { minutes } from "../../shared/ticking";

type Cups = NonNullable<Batch["cups"]>;

const BATHS = [
  { value: "bath", shown: "hot water round them" },
  { value: "dry", shown: "no bath" },
] as const;
const SOLIDS = [
  { value: "", shown: "nothing" },
  { value: "bread-white", shown: "bread" },
  { value: "cake-crumbs", shown: "cake" },
] as const;

/** What is baked asks for oven, bath and cups, and says how full they get and how long they take. */
export function OvenSetUp({ batch, mayMark }: { batch: Batch; mayMark: boolean }) {
  const here = useHere();
  const oven = useOven(here.slug, batch.id, batch.cups);
  if (!batch.cups) return null;
  return (
    <div className="grid gap-4">
      <CupsForm key={JSON.stringify(batch.cups)} batch={batch} cups={batch.cups} mayMark={mayMark} />
      {oven.isError ? <Failed sentence={oven.error.message} again={() => void oven.refetch()} /> : null}
      {oven.data ? <Takes oven={oven.data} /> : null}
    </div>
  );
}

function CupsForm({ batch, cups, mayMark }: { batch: Batch; cups: Cups; mayMark: boolean }) {
  const here = useHere();
  const { system } = useUnits();
  const setUp = useSetUp(here.slug, batch.id);
  const [typed, setTyped] = useState({
    count: String(cups.count),
    cup_ml: plain(cups.cup_ml),
    oven_c: temperature(cups.oven_c, system, 0).replace("°", ""),
    water_share: String(Math.round(100 * cups.water_share)),
    solid_share: String(Math.round(100 * cups.solid_share)),
  });
  const [bath, setBath] = useState(cups.bath);
  const [solid, setSolid] = useState(cups.solid);
  const problem = setUp.error instanceof Problem ? setUp.error : null;
  const hot = typedCelsius(typed.oven_c, system);
  const bad = (text: string) => !(typedNumber(text) > 0);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (hot === null || bad(typed.count) || bad(typed.cup_ml)) return;
    setUp.mutate({
      probe_id: batch.probe_id,
      hob_id: batch.hob_id,
      pan_id: batch.pan_id,
      cups: {
        count: Math.round(typedNumber(typed.count)),
        cup_ml: typedNumber(typed.cup_ml),
        oven_c: hot,
        bath,
        water_share: typedNumber(typed.water_share) / 100,
        solid,
        solid_share: solid ? typedNumber(typed.solid_share) / 100 : 0,
      },
    });
  };
  const box = (name: keyof typeof typed, label: string, wrong?: string) => (
    <TextBox
      label={label}
      error={wrong ?? problem?.at(name)}
      numeric
      disabled={!mayMark}
      value={typed[name]}
      onChange={(text) => setTyped({ ...typed, [name]: text })}
    />
  );
  const notNumber = (text: string) =>
    text.trim() && bad(text) ? "Write a number above nothing." : undefined;
  return (
    <form onSubmit={submit} noValidate aria-label="Oven, bath and cups" className="grid gap-3">
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-3">
        {box("count", "cups or dishes", notNumber(typed.count))}
        {box("cup_ml", "each holds, ml", notNumber(typed.cup_ml))}
        {box(
          "oven_c",
          `oven, ${system === "metric" ? "°C" : "°F"}`,
          hot === null ? "Write a temperature as a number." : undefined,
        )}
        <SelectBox
          label="bath"
          options={BATHS}
          disabled={!mayMark}
          value={bath ? "bath" : "dry"}
          onChange={(chosen) => setBath(chosen === "bath")}
        />
        {bath ? box("water_share", "water, % of their height", notNumber(typed.water_share)) : null}
        <SelectBox<string>
          label="in them"
          error={problem?.at("solid")}
          options={SOLIDS}
          disabled={!mayMark}
          value={solid}
          onChange={(chosen) => {
            setSolid(chosen);
            if (chosen && bad(typed.solid_share)) setTyped({ ...typed, solid_share: "40" });
          }}
        />
        {solid ? box("solid_share", "it takes, % of the cup", notNumber(typed.solid_share)) : null}
      </div>
      {problem?.beside("count", "cup_ml", "oven_c", "water_share", "solid", "solid_share") ? (
        <Notice tone="wrong">{problem.message}</Notice>
      ) : null}
      {mayMark ? (
        <Button type="submit" className="justify-self-start" disabled={setUp.isPending}>
          Bake it so
        </Button>
      ) : null}
    </form>
  );
}

function Takes({ oven }: { oven: NonNullable<ReturnType<typeof useOven>["data"]> }) {
  const { system } = useUnits();
  const { cups, filled } = oven;
  const each = cups.cup_ml > 500 ? "dish" : "cup";
  return (
    <div role="status" className="grid gap-1 border-l-4 border-slate px-4 py-1 text-lg">
      <p>
        <b className="tabular">{massText(filled.custard_g, system)}</b> into each {each}.
      </p>
      {filled.solid_g > 0 ? (
        <p>
          What lies in it, {massText(filled.solid_g, system)}, drinks {massText(filled.drunk_g, system)} of
          that.
        </p>
      ) : null}
      <p className={oven.enough ? "" : "font-bold text-brick"}>
        {oven.enough
          ? oven.fills > cups.count
            ? `This batch fills all ${cups.count}, and would fill ${oven.fills}.`
            : `This batch fills all ${cups.count}.`
          : `This batch fills ${oven.fills} of ${cups.count}: ${massText(filled.all_custard_g, system)} are needed for all.`}
      </p>
      <p>
        {oven.out_s === null ? (
          <span className="font-bold text-brick">
            The middle never sets like this: hotter, smaller, or more egg.
          </span>
        ) : (
          <>
            Going in at {temperature(oven.in_c, system, 0)}, out after about{" "}
            <b className="tabular">{minutes(oven.out_s)}</b>
          </>
        )}
      </p>
    </div>
  );
}
