import type { ReactNode } from "react";
import { type FormEvent, useState } from "react";
import type { Here } from "../../api/here";
import { type Pan, useHearth, useHearthActions } from "../../api/kitchen";
import { Problem } from "../../api/problem";
import { PAN_KINDS, type PanKind } from "../../contract/words";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Facts } from "../../kit/Facts";
import { Failed, Loading, Notice } from "../../kit/Notice";
import { TextBox } from "../../kit/TextBox";
import { typedNumber } from "../../kit/typed";
import { useTakenOff } from "./useTakenOff";

const PAN_WORDS: Record<PanKind, string> = { clad: "clad", thin: "thin", "cast-iron": "cast iron" };
const KINDS = PAN_KINDS.map((value) => ({ value, shown: PAN_WORDS[value] }));
type Heat = "flame" | "steam";
const HEATS: readonly { value: Heat; shown: string }[] = [
  { value: "flame", shown: "a ring" },
  { value: "steam", shown: "a bath that steams" },
];

/** Hobs and pans, and what every batch with a probe has taught about them. */
export function Hearth({ here }: { here: Here }) {
  const hearth = useHearth(here.slug);
  const takenOff = useTakenOff(here.slug);
  const { addHob, removeHob, addPan, removePan } = useHearthActions(here.slug);
  const [hob, setHob] = useState("");
  const [power, setPower] = useState("350");
  const [heat, setHeat] = useState<Heat>("flame");
  const [pan, setPan] = useState("");
  const [kind, setKind] = useState<Pan["kind"]>("clad");
  const locked = here.role !== "chef";
  const watts = typedNumber(power);
  const unreadable = power.trim() === "" || Number.isNaN(watts);
  const problemOf = (error: unknown) => (error instanceof Problem ? error : null);
  const hobProblem = problemOf(addHob.error);
  const panProblem = problemOf(addPan.error);
  const failed = removeHob.error ?? removePan.error;
  if (hearth.isError) return <Failed sentence={hearth.error.message} again={() => void hearth.refetch()} />;
  if (!hearth.data) return <Loading what="hobs and pans" />;
  return (
    <section aria-label="Hobs and pans">
      <h2 className="mb-2">Hobs and pans</h2>
      <p className="mb-2 text-soft">
        What a hob gives is a first guess until a batch with a probe has been cooked on it; every such batch
        corrects it.
      </p>
      <ul>
        {hearth.data.hobs.map((one) => (
          <Row
            key={one.id}
            name={one.name}
            told={[`gives ${one.power_w} W ± ${one.power_spread_w}`, taught(one.batches)]}
            onRemove={locked ? null : () => removeHob.mutate(one.id, takenOff)}
          />
        ))}
        {hearth.data.pans.map((one) => (
          <Row
            key={one.id}
            name={one.name}
            told={[
              one.kind.replace("-", " "),
              `${one.heat_percent} % ± ${one.heat_spread_percent} of such a pan’s heat`,
              taught(one.batches),
            ]}
            onRemove={locked ? null : () => removePan.mutate(one.id, takenOff)}
          />
        ))}
      </ul>
      {locked ? null : (
        <>
          <form
            noValidate
            aria-label="Add a hob"
            className="mt-4 flex flex-wrap items-start gap-3"
            onSubmit={(event: FormEvent) => {
              event.preventDefault();
              if (!unreadable)
                addHob.mutate(
                  { name: hob, power_w: watts, over_steam: heat === "steam" },
                  { onSuccess: () => setHob("") },
                );
            }}
          >
            <div className="min-w-40 grow">
              <TextBox
                label="A new hob’s name"
                error={hobProblem?.at("name")}
                maxLength={80}
                value={hob}
                onChange={setHob}
              />
            </div>
            <div className="w-28">
              <TextBox
                label="Gives, W"
                error={unreadable ? "Write a number." : hobProblem?.at("power_w")}
                numeric
                value={power}
                onChange={setPower}
              />
            </div>
            <div className="mt-7">
              <Choice label="Heat" options={HEATS} value={heat} onChange={setHeat} />
            </div>
            <Button type="submit" className="mt-7" disabled={!hob.trim() || addHob.isPending}>
              Add the hob
            </Button>
          </form>
          <form
            noValidate
            aria-label="Add a pan"
            className="mt-3 flex flex-wrap items-start gap-3"
            onSubmit={(event: FormEvent) => {
              event.preventDefault();
              addPan.mutate({ name: pan, kind }, { onSuccess: () => setPan("") });
            }}
          >
            <div className="min-w-40 grow">
              <TextBox
                label="A new pan’s name"
                error={panProblem?.at("name")}
                maxLength={80}
                value={pan}
                onChange={setPan}
              />
            </div>
            <div className="mt-7">
              <Choice label="Kind of pan" options={KINDS} value={kind} onChange={setKind} />
            </div>
            <Button type="submit" className="mt-7" disabled={!pan.trim() || addPan.isPending}>
              Add the pan
            </Button>
          </form>
        </>
      )}
      {hobProblem?.beside("name", "power_w") ? <Notice tone="wrong">{hobProblem.message}</Notice> : null}
      {panProblem?.beside("name") ? <Notice tone="wrong">{panProblem.message}</Notice> : null}
      {failed ? <Notice tone="wrong">{failed.message}</Notice> : null}
    </section>
  );
}

export function taught(batches: number): string {
  if (batches === 0) return "a first guess";
  return batches === 1 ? "from one batch" : `from ${batches} batches`;
}

interface RowProps {
  name: string;
  told: readonly ReactNode[];
  onRemove: (() => void) | null;
}

export function Row({ name, told, onRemove }: RowProps) {
  return (
    <li className="flex items-center justify-between gap-3 border-b border-hair py-2">
      <span className="min-w-0 break-words">
        {name}
        <Facts className="text-sm text-soft" of={told} />
      </span>
      {onRemove ? (
        <Button className="shrink-0 text-sm" aria-label={`Remove: ${name}`} onClick={onRemove}>
          Remove
        </Button>
      ) : null}
    </li>
  );
}
