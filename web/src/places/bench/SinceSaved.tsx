import { type Larder, type LineDraft, useLarder } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import type { LineChange } from "./draft";

/** What a line's ingredient is called. */
export function nameIn(larder: Pick<Larder, "ingredients"> | undefined, line: LineDraft): string {
  if (typeof line.ingredient !== "string") return line.ingredient.name;
  return larder?.ingredients.find((one) => one.id === line.ingredient)?.name ?? line.ingredient;
}

/** What a line was in the version in the book. */
export function Was({ changed }: { changed: LineChange }) {
  const { was, parts } = changed;
  if (!was) return <p className="text-sm text-yolk-ink">not in the saved version</p>;
  const said = parts.map((part) => {
    if (part !== "note") return `was ${was[part] ?? "as usual"}`;
    return was.note ? `the note was “${was.note}”` : "there was no note";
  });
  return <Facts className="text-sm text-yolk-ink" of={said} />;
}

/** A line of the saved version that is in the draft no more. */
export function Gone({ line, onBack }: { line: LineDraft; onBack: () => void }) {
  const larder = useLarder();
  const name = nameIn(larder.data, line);
  return (
    <div className="-ml-4 flex items-center justify-between gap-3 border-l-4 border-yolk py-1 pl-3 text-soft">
      <span className="min-w-0 break-words">
        <s>
          {name}, {line.amount}
        </s>{" "}
        taken out
      </span>
      <Button className="shrink-0 text-sm" aria-label={`Put ${name} back`} onClick={onBack}>
        Put back
      </Button>
    </div>
  );
}
