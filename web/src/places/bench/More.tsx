import { type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { useFormulaActions } from "../../api/bench";
import { useHere } from "../../api/here";
import { Problem } from "../../api/problem";
import { type FormulaOut, useBook } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Menu, MenuAction, MenuBreak, MenuFile } from "../../kit/Menu";
import { Notice } from "../../kit/Notice";
import { Sheet } from "../../kit/Sheet";
import { TextBox } from "../../kit/TextBox";
import { useTold } from "../../kit/Told";

/** What can be done with a formula as a whole: print, compare, copy, take out, carry away. */
export function More({ found }: { found: FormulaOut }) {
  const here = useHere();
  const navigate = useNavigate();
  const { duplicate, archive, restore } = useFormulaActions(here.slug, found.id);
  const { tell } = useTold();
  const [asking, setAsking] = useState<"copy" | "compare" | null>(null);
  const file = `/api/k/${here.slug}/formulas/${found.id}/versions/${found.version}/export`;
  const chef = here.role === "chef";
  const before = found.versions.find((row) => row.number < found.version);
  const failed = archive.error ?? restore.error;
  return (
    <>
      <Menu label="More">
        <MenuAction onSelect={() => window.print()}>Print the slip</MenuAction>
        <MenuAction onSelect={() => setAsking("compare")}>Compare with …</MenuAction>
        {before ? (
          <MenuAction
            onSelect={() =>
              navigate(
                `/k/${here.slug}/book/compare?a=${found.id}&av=${before.number}&b=${found.id}&bv=${found.version}`,
              )
            }
          >
            What changed since version {before.number}
          </MenuAction>
        ) : null}
        {chef ? (
          <>
            <MenuBreak />
            <MenuAction onSelect={() => setAsking("copy")}>Copy under another name …</MenuAction>
            {found.archived ? (
              <MenuAction onSelect={() => restore.mutate()}>Put it back into the book</MenuAction>
            ) : (
              <MenuAction
                onSelect={() =>
                  archive.mutate(undefined, {
                    onSuccess: () => {
                      tell({
                        say: `${found.draft.name} is removed from the book.`,
                        back: () => restore.mutateAsync(),
                      });
                      navigate(`/k/${here.slug}/book`);
                    },
                  })
                }
              >
                Remove from the book
              </MenuAction>
            )}
          </>
        ) : null}
        <MenuBreak />
        <MenuFile href={`${file}/formula`}>Old Spoon file</MenuFile>
        <MenuFile href={`${file}/recipe`}>Recipe file (schema.org)</MenuFile>
        <MenuFile href={`${file}/slip`}>The slip as a table (CSV)</MenuFile>
      </Menu>
      {failed ? <Notice tone="wrong">{failed.message}</Notice> : null}
      <CopySheet
        open={asking === "copy"}
        onClose={() => setAsking(null)}
        name={found.draft.name}
        problem={duplicate.error instanceof Problem ? duplicate.error : null}
        onCopy={(name) =>
          duplicate.mutate(name, {
            onSuccess: (made) => {
              setAsking(null);
              navigate(`/k/${here.slug}/book/${made.id}`);
            },
          })
        }
      />
      <CompareSheet open={asking === "compare"} onClose={() => setAsking(null)} found={found} />
    </>
  );
}

interface CopyProps {
  open: boolean;
  onClose: () => void;
  name: string;
  problem: Problem | null;
  onCopy: (name: string) => void;
}

function CopySheet({ open, onClose, name, problem, onCopy }: CopyProps) {
  const [typed, setTyped] = useState(`${name}, another way`);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onCopy(typed);
  };
  return (
    <Sheet open={open} onClose={onClose} title="Copy under another name">
      <form onSubmit={submit} noValidate className="grid gap-4">
        <TextBox
          label="Name of the copy"
          error={problem?.at("name")}
          maxLength={200}
          value={typed}
          onChange={setTyped}
        />
        {problem && !problem.at("name") ? <Notice tone="wrong">{problem.message}</Notice> : null}
        <div className="flex gap-3">
          <Button look="iron" type="submit">
            Copy it
          </Button>
          <Button onClick={onClose}>Leave it</Button>
        </div>
      </form>
    </Sheet>
  );
}

function CompareSheet({ open, onClose, found }: { open: boolean; onClose: () => void; found: FormulaOut }) {
  const here = useHere();
  const navigate = useNavigate();
  const book = useBook(here.slug);
  return (
    <Sheet open={open} onClose={onClose} title={`Compare ${found.draft.name} with`}>
      <ul>
        {book.data?.pages
          .flatMap((page) => page.lines)
          .filter((line) => line.id !== found.id)
          .map((line) => (
            <li key={line.id}>
              <button
                type="button"
                className="min-h-11 w-full border-b border-hair py-2 text-left hover:bg-yolk-pale"
                onClick={() =>
                  navigate(`/k/${here.slug}/book/compare?a=${found.id}&av=${found.version}&b=${line.id}`)
                }
              >
                {line.name} <span className="text-soft">{line.hot.word}</span>
              </button>
            </li>
          ))}
      </ul>
      {book.hasNextPage ? (
        <Button className="mt-4" disabled={book.isFetchingNextPage} onClick={() => void book.fetchNextPage()}>
          More formulas
        </Button>
      ) : null}
      <Button className="mt-4" onClick={onClose}>
        Close
      </Button>
    </Sheet>
  );
}
