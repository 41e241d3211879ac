import { type FormEvent, useState } from "react";
import { useChangeHands, useHands } from "../api/people";
import { Problem } from "../api/problem";
import { Button } from "../kit/Button";
import { Choice } from "../kit/Choice";
import { Loading, Notice } from "../kit/Notice";
import { TextBox } from "../kit/TextBox";

/** At a shared tablet: who is it now? What is marked from then on is marked by them. */
export function ChangeHands({ kitchen }: { kitchen: string }) {
  const hands = useHands(kitchen, true);
  const change = useChangeHands(kitchen);
  const [who, setWho] = useState<string | null>(null);
  const [pin, setPin] = useState("");
  const problem = change.error instanceof Problem ? change.error : null;
  if (hands.isPending) return <Loading what="who is here" />;
  if (hands.isError) return <Notice tone="wrong">{hands.error.message}</Notice>;
  if (hands.data.length === 0)
    return (
      <p className="text-soft">
        Nobody else of this kitchen has a PIN yet. Everyone sets their own under Kitchen, “You”.
      </p>
    );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (who) change.mutate({ person_id: Number(who), pin });
  };
  return (
    <form onSubmit={submit} noValidate className="grid gap-4">
      <Choice
        label="Who is it now"
        large
        options={hands.data.map((one) => ({ value: String(one.id), shown: one.title }))}
        value={who}
        onChange={setWho}
      />
      <TextBox
        label="PIN"
        secret="off"
        numeric
        maxLength={8}
        className="w-40"
        error={problem?.at("pin")}
        value={pin}
        onChange={setPin}
      />
      {problem?.beside("pin") ? <Notice tone="wrong">{problem.message}</Notice> : null}
      <Button look="solid" large type="submit" disabled={!who || !pin || change.isPending}>
        {change.isPending ? "A moment …" : "It is me now"}
      </Button>
    </form>
  );
}
