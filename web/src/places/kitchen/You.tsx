import { type FormEvent, useState } from "react";
import { type Person, useKeepHabits, useOwn, useOwnSessions } from "../../api/people";
import { Problem } from "../../api/problem";
import { useSession } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Facts } from "../../kit/Facts";
import type { Habits } from "../../kit/habits";
import { Failed, Loading, Notice } from "../../kit/Notice";
import { TextBox } from "../../kit/TextBox";
import { when } from "../../kit/when";

/** What is one's own: how figures are written, name, password, PIN, and where one is logged in. */
export function You() {
  const session = useSession();
  const person = session.data?.person;
  if (!person) return null;
  return (
    <section aria-label="You" className="grid gap-8">
      <h2>You</h2>
      <HowFigures habits={person.habits} />
      {person.by_pin ? (
        <Notice>
          Hands were changed here with a PIN. Log in with your password to change your name, password or PIN.
        </Notice>
      ) : (
        <>
          <Name person={person} />
          <Password />
          <Pin person={person} />
          <Where />
        </>
      )}
    </section>
  );
}

function HowFigures({ habits }: { habits: Habits }) {
  const keep = useKeepHabits();
  const row = <K extends keyof Habits>(
    label: string,
    name: K,
    options: readonly { value: Habits[K]; shown: string }[],
  ) => (
    <div>
      <p className="mb-1 text-soft">{label}</p>
      <Choice
        label={label}
        options={options}
        value={habits[name]}
        onChange={(value) => keep({ ...habits, [name]: value })}
      />
    </div>
  );
  return (
    <div className="grid gap-4">
      <h3>How you read figures</h3>
      {row("Units", "units", [
        { value: "metric", shown: "°C and grams" },
        { value: "us", shown: "°F and ounces" },
      ])}
      {row("Decimals", "decimal", [
        { value: "point", shown: "1.5" },
        { value: "comma", shown: "1,5" },
      ])}
      {row("Clock", "clock", [
        { value: "24", shown: "17:30" },
        { value: "12", shown: "5:30 pm" },
      ])}
      {row("The week begins on", "week", [
        { value: "monday", shown: "Monday" },
        { value: "sunday", shown: "Sunday" },
        { value: "saturday", shown: "Saturday" },
      ])}
      <p className="text-sm text-soft">
        Kept for you, on whatever device. Type amounts as you like: ½, 1/2, 0,5; 1 h 20; 82c.
      </p>
    </div>
  );
}

function Name({ person }: { person: Person }) {
  const { title } = useOwn();
  const [typed, setTyped] = useState(person.title);
  const problem = title.error instanceof Problem ? title.error : null;
  return (
    <form
      noValidate
      aria-label="Your name"
      className="grid max-w-md gap-3"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        title.mutate(typed);
      }}
    >
      <TextBox
        label="What others see"
        hint={`You log in as ${person.username}.`}
        error={problem?.message}
        maxLength={80}
        value={typed}
        onChange={setTyped}
      />
      <Kept button="Keep the name" pending={title.isPending} done={title.isSuccess} />
    </form>
  );
}

function Password() {
  const { password } = useOwn();
  const [old, setOld] = useState("");
  const [fresh, setFresh] = useState("");
  const problem = password.error instanceof Problem ? password.error : null;
  return (
    <form
      noValidate
      aria-label="Your password"
      className="grid max-w-md gap-3"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        password.mutate(
          { old, new: fresh },
          {
            onSuccess: () => {
              setOld("");
              setFresh("");
            },
          },
        );
      }}
    >
      <TextBox
        label="Your password now"
        secret="current-password"
        error={problem?.at("old")}
        value={old}
        onChange={setOld}
      />
      <TextBox
        label="The new one"
        secret="new-password"
        hint="At least ten signs. Everywhere else you are logged out."
        error={problem?.at("new")}
        value={fresh}
        onChange={setFresh}
      />
      <Kept button="Change the password" pending={password.isPending} done={password.isSuccess} />
      {problem?.beside("old", "new") ? <Notice tone="wrong">{problem.message}</Notice> : null}
    </form>
  );
}

function Pin({ person }: { person: Person }) {
  const { pin } = useOwn();
  const [typed, setTyped] = useState("");
  const problem = pin.error instanceof Problem ? pin.error : null;
  return (
    <form
      noValidate
      aria-label="Your PIN"
      className="grid max-w-md gap-3"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        pin.mutate(typed, { onSuccess: () => setTyped("") });
      }}
    >
      <TextBox
        label={person.has_pin ? "Another PIN" : "A PIN"}
        secret="off"
        numeric
        hint="Four to eight figures, to change hands at a shared tablet; it opens no more than marking and cooking."
        error={problem?.message}
        maxLength={8}
        value={typed}
        onChange={setTyped}
      />
      <div className="flex flex-wrap items-center gap-3">
        <Kept button="Keep the PIN" pending={pin.isPending} done={pin.isSuccess} />
        {person.has_pin ? <Button onClick={() => pin.mutate(null)}>Have none</Button> : null}
      </div>
    </form>
  );
}

function Where() {
  const sessions = useOwnSessions();
  const { elsewhere } = useOwn();
  const rows = sessions.data ?? [];
  return (
    <div className="grid gap-3">
      <h3>Where you are logged in</h3>
      {sessions.isPending ? <Loading what="where you are logged in" /> : null}
      {sessions.isError ? (
        <Failed sentence={sessions.error.message} again={() => void sessions.refetch()} />
      ) : null}
      <ul>
        {rows.map((one) => (
          <li key={one.id} className="border-b border-hair py-2">
            {one.this ? `this ${one.device}` : `a ${one.device}`}
            <Facts className="text-soft" of={[`since ${when(one.since)}`, one.by_pin && "with the PIN"]} />
          </li>
        ))}
      </ul>
      <Button
        className="justify-self-start"
        disabled={elsewhere.isPending || rows.every((one) => one.this)}
        onClick={() => elsewhere.mutate()}
      >
        Log out everywhere else
      </Button>
      {elsewhere.error ? <Notice tone="wrong">{elsewhere.error.message}</Notice> : null}
    </div>
  );
}

function Kept({ button, pending, done }: { button: string; pending: boolean; done: boolean }) {
  return (
    <span className="flex items-center gap-4">
      <Button look="iron" type="submit" disabled={pending}>
        {button}
      </Button>
      <span role="status" className="text-soft">
        {pending ? "Saving …" : done ? "Kept." : ""}
      </span>
    </span>
  );
}
