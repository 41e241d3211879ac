import { type FormEvent, useState } from "react";
import { useHere } from "../../api/here";
import { newId } from "../../api/newId";
import { Problem } from "../../api/problem";
import { useOnTheStove } from "../../api/queries";
import { type NewMove, type TubLine, useTubActions } from "../../api/shelf";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { listed } from "../../kit/listed";
import { Notice } from "../../kit/Notice";
import { SelectBox } from "../../kit/SelectBox";
import { Sheet } from "../../kit/Sheet";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { typedCelsius } from "../../kit/typed";
import { inUnits, massFromField, massInField, massText } from "../../kit/units";
import { when } from "../../kit/when";
import { History } from "./History";
import type { Undone } from "./Undo";

type MoveKind = NewMove["kind"];
export type Kind = Exclude<MoveKind, "undone" | "opened" | "labelled"> | "promise" | "history";

export interface Doing {
  tub: TubLine;
  kind: Kind;
}

interface Props {
  doing: Doing;
  onClose: () => void;
  onDone: (undone: Undone | null) => void;
}

const TITLES: Record<Kind, string> = {
  used: "Use",
  split: "Split",
  churned: "Churn",
  frozen: "Freeze",
  out: "Take out to thaw",
  thawed: "Thawed",
  warm: "Keep warm",
  thrown: "Throw away",
  counted: "Weighed again",
  film: "Film is on it",
  promise: "Promise to a dish",
  history: "What was done with",
};
const DONE: Partial<Record<Kind, string>> = {
  used: "Used",
  frozen: "Frozen",
  out: "Taken out",
  thawed: "Thawed",
  warm: "Kept warm",
  thrown: "Thrown away",
  counted: "Weighed again",
  film: "Film on it",
};
const WITH_GRAMS: readonly Kind[] = ["used", "split", "churned", "thrown", "counted", "promise"];
/** What the server refuses unless it is wanted all the same, with a reason. */
const ANYWAY: readonly string[] = ["past", "early"];

/** One thing done with a tub: how much, for what or why, and what it means. */
export function Act({ doing, onClose, onDone }: Props) {
  const { tub, kind } = doing;
  return (
    <Sheet open onClose={onClose} title={kind === "promise" ? TITLES[kind] : `${TITLES[kind]}: ${tub.name}`}>
      {kind === "history" ? (
        <History tub_id={tub.id} />
      ) : (
        <Form doing={doing} onClose={onClose} onDone={onDone} />
      )}
    </Sheet>
  );
}

function Form({ doing: { tub, kind }, onClose, onDone }: Props) {
  const here = useHere();
  const { system } = useUnits();
  const { move, promise } = useTubActions(here.slug);
  const all = massInField(tub.left_g, system);
  const [amount, setAmount] = useState(["churned", "thrown", "counted"].includes(kind) ? all : "");
  const [to, setTo] = useState("");
  const [batch, setBatch] = useState("");
  const [promised, setPromised] = useState("");
  const [celsius, setCelsius] = useState("");
  const [note, setNote] = useState("");
  const [anyway, setAnyway] = useState(false);
  const stove = useOnTheStove(here.slug, kind === "used");
  const kept = tub.promises.find((one) => String(one.id) === promised);
  const grams =
    amount.trim() === "" && kept
      ? kept.grams
      : massFromField(amount, system, [tub.left_g, ...(kept ? [kept.grams] : [])]);
  const warm_c = typedCelsius(celsius, system);
  const error = move.error ?? promise.error;
  const problem = error instanceof Problem ? error : null;
  const askAnyway = problem !== null && ANYWAY.includes(problem.kind);
  const unread = amount.trim() !== "" && grams === null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (unread) return;
    if (kind === "promise") {
      promise.mutate({ tub_id: tub.id, grams: grams ?? 0, dish: to }, { onSuccess: () => onDone(null) });
      return;
    }
    if (kind === "history") return;
    const body: NewMove & { tub_id: number } = {
      tub_id: tub.id,
      id: newId(),
      kind,
      grams: WITH_GRAMS.includes(kind) ? grams : null,
      to,
      into_batch_id: batch ? Number(batch) : null,
      promise_id: kept ? kept.id : null,
      celsius: kind === "warm" ? warm_c : null,
      note,
      anyway,
    };
    move.mutate(body, {
      onSuccess: () => {
        const said = DONE[kind];
        onDone(said ? { id: body.id, tub_id: tub.id, say: `${said}: ${tub.name}.` } : null);
      },
    });
  };
  return (
    <form onSubmit={submit} noValidate className="grid gap-4" aria-label={TITLES[kind]}>
      <Facts
        className="text-soft"
        of={[
          `${massText(tub.left_g, system)} are left`,
          tub.promised_g > 0 && `${massText(tub.promised_g, system)} of it promised`,
          listed(tub.allergens),
        ]}
      />
      <Means tub={tub} kind={kind} />
      {kind === "used" && tub.promises.length ? (
        <PromiseChoice tub={tub} value={promised} onChange={setPromised} />
      ) : null}
      {WITH_GRAMS.includes(kind) ? (
        <div className="flex items-end gap-3">
          <TextBox
            label={`${kind === "counted" ? "What it weighs now" : "How much"}, in ${system === "us" ? "oz" : "g"}`}
            error={unread ? "Write a weight as a number, such as 250." : problem?.at("grams")}
            numeric
            className="figure w-36 text-[1.5rem]"
            value={amount}
            onChange={setAmount}
          />
          {kind === "counted" ? null : <Button onClick={() => setAmount(all)}>All of it</Button>}
        </div>
      ) : null}
      {kind === "used" || kind === "promise" ? (
        <TextBox
          label={kind === "used" ? "For what dish" : "To what dish"}
          maxLength={80}
          error={problem?.at("dish") ?? problem?.at("to")}
          value={to}
          onChange={setTo}
        />
      ) : null}
      {kind === "used" && stove.data?.length ? (
        <SelectBox
          label="Or into a batch on the stove"
          none="into no batch"
          options={stove.data
            .filter((one) => one.id !== tub.batch_id)
            .map((one) => ({ value: String(one.id), shown: `${one.number}, ${one.name}` }))}
          value={batch}
          onChange={setBatch}
          error={problem?.at("into_batch_id")}
        />
      ) : null}
      {kind === "split" ? (
        <TextBox
          label="Into what"
          hint="a small tub, a piping bag"
          maxLength={80}
          value={to}
          onChange={setTo}
        />
      ) : null}
      {kind === "warm" ? (
        <TextBox
          label={`How warm, ${system === "metric" ? "°C" : "°F"}`}
          numeric
          className="figure w-36 text-[1.5rem]"
          error={problem?.at("celsius")}
          value={celsius}
          onChange={setCelsius}
        />
      ) : null}
      {kind === "thrown" || kind === "counted" || askAnyway ? (
        <TextBox
          label={kind === "thrown" ? "Why" : askAnyway ? "Why it is done all the same" : "Note"}
          maxLength={500}
          error={problem?.at("note")}
          value={note}
          onChange={setNote}
        />
      ) : null}
      {askAnyway ? (
        <label className="flex min-h-11 items-center gap-3">
          <input type="checkbox" checked={anyway} onChange={(event) => setAnyway(event.target.checked)} />I do
          it all the same; it stands in the record.
        </label>
      ) : null}
      {problem &&
      !["grams", "dish", "to", "note", "celsius", "into_batch_id"].some((field) => problem.at(field)) ? (
        <Notice tone="wrong">{inUnits(problem.message, system)}</Notice>
      ) : null}
      <div className="flex flex-wrap gap-3">
        <Button
          type="submit"
          look={kind === "thrown" ? "danger" : "solid"}
          disabled={move.isPending || promise.isPending}
        >
          {TITLES[kind]}
        </Button>
        <Button onClick={onClose}>Leave it</Button>
      </div>
    </form>
  );
}

/** What it means, and what is minded. */
function Means({ tub, kind }: { tub: TubLine; kind: Kind }) {
  const { system } = useUnits();
  return (
    <>
      {kind === "frozen" ? <p>{inUnits(tub.freezing, system)}</p> : null}
      {kind === "out" ? (
        <p>In the fridge overnight. It is then good for a day, and is not frozen again.</p>
      ) : null}
      {kind === "warm" ? (
        <p>
          Warm holding has a limit of hours, and is shorter where it is not hot enough. Stir now and then.
        </p>
      ) : null}
      {kind === "churned" && tub.ready_at ? (
        <p>Churn from {when(tub.ready_at)}, when it is cold right through: a warm base does not freeze.</p>
      ) : null}
      {kind === "film" ? <p>Film right on the surface, no air under it: a skin becomes lumps.</p> : null}
    </>
  );
}

/** For which promise it is used. */
function PromiseChoice({
  tub,
  value,
  onChange,
}: {
  tub: TubLine;
  value: string;
  onChange: (id: string) => void;
}) {
  const { system } = useUnits();
  return (
    <SelectBox
      label="For a promise"
      none="no promise"
      options={tub.promises.map((one) => ({
        value: String(one.id),
        shown: `${one.dish}, ${massText(one.grams, system)}`,
      }))}
      value={value}
      onChange={onChange}
    />
  );
}
