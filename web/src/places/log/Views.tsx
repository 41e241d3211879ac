import { type FormEvent, useState } from "react";
import { type LogAsked, useViews } from "../../api/log";
import { Problem } from "../../api/problem";
import { Button } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { TextBox } from "../../kit/TextBox";
import { useTold } from "../../kit/Told";

interface Props {
  kitchen: string;
  asked: LogAsked;
  onAsk: (asked: LogAsked) => void;
}

/** What somebody looks for often, kept under a name: one touch asks for it again. */
export function Views({ kitchen, asked, onAsk }: Props) {
  const { all, keep, forget } = useViews(kitchen);
  const { tell } = useTold();
  const [name, setName] = useState("");
  const [naming, setNaming] = useState(false);
  const problem = keep.error instanceof Problem ? keep.error : null;
  const asks = Object.keys(asked).length > 0;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    keep.mutate(
      { name, asked: asBody(asked) },
      {
        onSuccess: () => {
          setName("");
          setNaming(false);
        },
      },
    );
  };
  if (!asks && !all.data?.length) return null;
  return (
    <div className="flex flex-wrap items-end gap-2">
      <ul className="flex flex-wrap gap-2 empty:hidden" aria-label="Kept views">
        {all.data?.map((one) => (
          <li key={one.id} className="flex">
            <Button className="rounded-r-none" onClick={() => onAsk(withoutNothing(one.asked))}>
              {one.name}
            </Button>
            <Button
              className="rounded-l-none border-l-0 px-3"
              aria-label={`Forget the view ${one.name}`}
              onClick={() =>
                forget.mutate(one.id, {
                  onSuccess: () =>
                    tell({
                      say: `View forgotten: ${one.name}`,
                      back: () => keep.mutateAsync({ name: one.name, asked: one.asked }),
                    }),
                })
              }
            >
              ×
            </Button>
          </li>
        ))}
      </ul>
      {asks && !naming ? <Button onClick={() => setNaming(true)}>Keep this view</Button> : null}
      {asks && naming ? (
        <form onSubmit={submit} noValidate className="flex flex-wrap items-end gap-2">
          <TextBox
            label="The view’s name"
            error={problem?.at("name")}
            maxLength={80}
            className="w-48"
            value={name}
            onChange={setName}
          />
          <Button type="submit" look="iron" disabled={!name.trim() || keep.isPending}>
            Keep it
          </Button>
        </form>
      ) : null}
      {problem?.beside("name") ? <Notice tone="wrong">{problem.message}</Notice> : null}
    </div>
  );
}

/** What is asked for as a body has it: an address has no page of it. */
function asBody({ before: _, ...asked }: LogAsked) {
  return { words: "", wrong: false, ...asked };
}

/** A kept view without what it does not ask for. */
function withoutNothing(asked: object): LogAsked {
  const some = Object.entries(asked).filter(([, value]) => value !== null && value !== "" && value !== false);
  return Object.fromEntries(some) as LogAsked;
}
