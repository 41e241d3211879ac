import { useState } from "react";
import { type DayOther, useDayEdits } from "../../api/day";
import { useHere } from "../../api/here";
import { Button } from "../../kit/Button";
import { Wrong } from "../../kit/Field";
import { SelectBox } from "../../kit/SelectBox";
import { Sheet } from "../../kit/Sheet";
import { TextBox } from "../../kit/TextBox";
import { typedMinutes } from "../../kit/typed";
import { timeToType, typedTime } from "./times";
import { fieldsOf } from "./WantSheet";

type Need = DayOther["needs"];

const NEEDS: readonly { value: Exclude<Need, undefined> | "nothing"; shown: string }[] = [
  { value: "nothing", shown: "nothing else" },
  { value: "ring", shown: "a ring" },
  { value: "steam", shown: "the steam bath" },
  { value: "ice", shown: "room in the ice bath" },
  { value: "oven", shown: "the oven" },
  { value: "churn", shown: "the churn" },
  { value: "fridge", shown: "the fridge" },
];

/** Other work: caramel, glaze, a call. */
export function OtherSheet({
  when,
  other,
  onClose,
}: {
  when: string;
  other: DayOther | null;
  onClose: () => void;
}) {
  const here = useHere();
  const { addOther, changeOther } = useDayEdits(here.slug, when);
  const [name, setName] = useState(other?.name ?? "");
  const [minutes, setMinutes] = useState(other ? String(other.minutes) : "");
  const [by, setBy] = useState(
    other && other.by !== null && other.by !== undefined ? timeToType(other.by) : "",
  );
  const [hands, setHands] = useState(other?.hands ?? true);
  const [needs, setNeeds] = useState<(typeof NEEDS)[number]["value"]>(other?.needs || "nothing");
  const [wrong, setWrong] = useState<Record<string, string>>({});
  const doing = other ? changeOther : addOther;
  const send = () => {
    const until = by.trim() === "" ? null : typedTime(by);
    const long = typedMinutes(minutes);
    const found: Record<string, string> = {};
    if (!name.trim()) found.name = "Say what it is.";
    if (!(long >= 1)) found.minutes = "Write how many minutes, at least one.";
    if (by.trim() !== "" && until === null) found.by = "Write a time like 12:30, or leave it empty.";
    setWrong(found);
    if (Object.keys(found).length) return;
    const body = {
      name: name.trim(),
      minutes: long,
      hands,
      needs: needs === "nothing" ? ("" as const) : needs,
      by: until,
    };
    const then = { onSuccess: onClose, onError: (error: Error) => setWrong(fieldsOf(error)) };
    if (other) changeOther.mutate({ id: other.id, seen: other.revision, ...body }, then);
    else addOther.mutate(body, then);
  };
  return (
    <Sheet open onClose={onClose} title={other ? other.name : "Other work"}>
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          send();
        }}
      >
        <TextBox
          label="What"
          hint="As “caramel for the quince”, “call the dairy”."
          value={name}
          error={wrong.name}
          maxLength={80}
          onChange={setName}
        />
        <div className="grid grid-cols-2 gap-3">
          <TextBox label="Minutes" numeric value={minutes} error={wrong.minutes} onChange={setMinutes} />
          <TextBox label="Done by" hint="Empty for whenever." value={by} error={wrong.by} onChange={setBy} />
        </div>
        <SelectBox label="It needs" options={NEEDS} value={needs} error={wrong.needs} onChange={setNeeds} />
        <label className="flex min-h-11 items-center gap-3">
          <input
            type="checkbox"
            className="size-5"
            checked={hands}
            onChange={(event) => setHands(event.target.checked)}
          />
          somebody stands at it all the while
        </label>
        {doing.isError ? <Wrong>{doing.error.message}</Wrong> : null}
        <div className="flex flex-wrap gap-3">
          <Button look="solid" type="submit" disabled={doing.isPending}>
            {other ? "Change it" : "Add it"}
          </Button>
          <Button onClick={onClose}>Leave it</Button>
        </div>
      </form>
    </Sheet>
  );
}
