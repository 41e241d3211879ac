import { useState } from "react";
import { useHere } from "../../api/here";
import { type Exercise, useChefActions } from "../../api/practice";
import { Button } from "../../kit/Button";
import { Wrong } from "../../kit/Field";
import { SelectBox } from "../../kit/SelectBox";
import { Sheet } from "../../kit/Sheet";
import { TextBox } from "../../kit/TextBox";

interface Props {
  exercise: Exercise;
  people: readonly { id: number; name: string }[];
  onClose: () => void;
}

/** An exercise is set for somebody. */
export function SetSheet({ exercise, people, onClose }: Props) {
  const here = useHere();
  const { setFor } = useChefActions(here.slug);
  const [person, setPerson] = useState("");
  const [note, setNote] = useState("");
  return (
    <Sheet open onClose={onClose} title={`Set “${exercise.name}”`}>
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          setFor.mutate(
            {
              key: exercise.key,
              exercise_id: exercise.exercise_id ?? null,
              person_id: Number(person),
              note: note.trim(),
            },
            { onSuccess: onClose },
          );
        }}
      >
        <SelectBox
          label="For whom"
          none="who?"
          options={people.map((one) => ({ value: String(one.id), shown: one.name }))}
          value={person}
          onChange={setPerson}
        />
        <TextBox
          label="A word with it"
          hint="As “before Friday”."
          value={note}
          maxLength={500}
          onChange={setNote}
        />
        {setFor.isError ? <Wrong>{setFor.error.message}</Wrong> : null}
        <div className="flex flex-wrap gap-3">
          <Button look="solid" type="submit" disabled={!person || setFor.isPending}>
            Set it
          </Button>
          <Button onClick={onClose}>Leave it</Button>
        </div>
      </form>
    </Sheet>
  );
}
