import { type FormEvent, useState } from "react";
import { Link } from "react-router";
import { useHere } from "../../api/here";
import { newId } from "../../api/newId";
import { Problem } from "../../api/problem";
import { type Closing, useClosing, useSignClosing } from "../../api/shelf";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { listed } from "../../kit/listed";
import { Failed, Loading, Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { inUnits } from "../../kit/units";
import { day as dayOf, hourOf } from "../../kit/when";

type Task = Closing["tasks"][number];

const HEADS: readonly { kinds: readonly Task["kind"][]; title: string }[] = [
  { kinds: ["throw", "warm"], title: "Throw away" },
  { kinds: ["open", "cooling"], title: "Still going on" },
  { kinds: ["label"], title: "Label" },
  { kinds: ["freeze", "use-first", "thaw"], title: "Freeze, thaw, use first" },
  { kinds: ["cover"], title: "Cover" },
];

/** Closing the day: what must be thrown, frozen, labelled and covered, and who signed it. */
export function CloseDay() {
  const here = useHere();
  const closing = useClosing(here.slug);
  if (closing.isPending) return <Loading title="Close the day" what="the day" />;
  if (closing.isError)
    return (
      <Failed title="Close the day" sentence={closing.error.message} again={() => void closing.refetch()} />
    );
  const { tasks, signed, day, allergens } = closing.data;
  return (
    <>
      <div className="flex flex-wrap items-baseline justify-between gap-x-6">
        <h1>Close the day</h1>
        <p className="text-soft">
          {dayOf(`${day}T12:00:00Z`)} · <Link to="..">the shelf</Link>
        </p>
      </div>
      <p className="mt-1 text-soft">
        Allergens on the shelf: {allergens.length ? listed(allergens) : "none declared"}.
      </p>
      {tasks.length === 0 ? (
        <p className="mt-4 text-lg text-herb">✓ Nothing is left to do.</p>
      ) : (
        <div className="mt-4 grid items-start gap-x-12 gap-y-6 lg:grid-cols-2">
          {HEADS.map(({ kinds, title }) => (
            <Tasks key={title} title={title} tasks={tasks.filter((one) => kinds.includes(one.kind))} />
          ))}
        </div>
      )}
      {signed.map((one) => (
        <Facts
          key={one.at}
          className="mt-4 border-l-4 border-herb pl-3"
          of={[`Closed ${hourOf(one.at)} by ${one.by}`, one.left > 0 && `${one.left} still to do`, one.note]}
        />
      ))}
      {here.role === "viewer" ? null : <Sign day={day} left={tasks.filter((one) => one.must).length} />}
    </>
  );
}

function Tasks({ title, tasks }: { title: string; tasks: readonly Task[] }) {
  const { system } = useUnits();
  if (!tasks.length) return null;
  const labels = tasks.flatMap((one) => (one.kind === "label" ? [`tub=${one.tub_id}`] : [])).join("&");
  return (
    <section aria-label={title}>
      <h2 className="border-b border-iron pb-1">{title}</h2>
      {labels ? (
        <Link
          className="my-2 inline-flex min-h-11 items-center rounded-solid border border-line px-4 no-underline"
          to={`../labels?${labels}`}
        >
          Print all their labels
        </Link>
      ) : null}
      <ul>
        {tasks.map((one) => (
          <li key={one.say} className="border-b border-hair py-2">
            <Link
              className={`no-underline ${one.must ? "font-bold" : ""}`}
              to={one.batch_id === null ? ".." : `../../stove/${one.batch_id}`}
            >
              {inUnits(one.say, system)}
            </Link>
            {one.allergens.length ? (
              <span className="text-sm text-soft"> {listed(one.allergens)}</span>
            ) : null}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Sign({ day, left }: { day: string; left: number }) {
  const here = useHere();
  const sign = useSignClosing(here.slug);
  const [note, setNote] = useState("");
  const [id, setId] = useState(newId);
  const problem = sign.error instanceof Problem ? sign.error : null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    sign.mutate(
      { id, day, note },
      {
        onSuccess: () => {
          setNote("");
          setId(newId());
        },
      },
    );
  };
  return (
    <form
      onSubmit={submit}
      noValidate
      aria-label="Sign"
      className="mt-6 grid max-w-xl gap-3 border-t border-hair pt-4"
    >
      <TextBox
        label={
          left === 0
            ? "A word, if there is one"
            : left === 1
              ? "Why one thing is left to do"
              : `Why ${left} things are left to do`
        }
        error={problem?.at("note")}
        maxLength={500}
        value={note}
        onChange={setNote}
      />
      {problem && !problem.at("note") ? <Notice tone="wrong">{problem.message}</Notice> : null}
      <Button type="submit" look="iron" large className="justify-self-start" disabled={sign.isPending}>
        Close the day and sign
      </Button>
    </form>
  );
}
