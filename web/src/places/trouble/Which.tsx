import { useState } from "react";
import { Link } from "react-router";
import { useHere } from "../../api/here";
import { useBook, useFamilyName, useOnTheStove } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { Empty, Failed, Loading } from "../../kit/Notice";
import { useSettled } from "../../kit/settled";
import { TextBox } from "../../kit/TextBox";
import { when } from "../../kit/when";

const TYPED_MS = 250;

/** Which sauce something is wrong with: what is on the stove first, then any formula of the book. */
export function Which() {
  const here = useHere();
  const stove = useOnTheStove(here.slug);
  const [typed, setTyped] = useState("");
  const book = useBook(here.slug, { words: useSettled(typed, TYPED_MS) });
  const named = useFamilyName();
  const formulas = book.data?.pages.flatMap((page) => page.lines) ?? [];
  return (
    <>
      <h1>Something is wrong. With what?</h1>
      <p className="mt-1 mb-5 text-soft">
        A tub is chosen on the <Link to="../shelf">Shelf</Link>, under More.
      </p>
      <div className="grid gap-x-10 gap-y-8 md:grid-cols-2">
        <section aria-label="On the stove">
          <h2 className="mb-2">On the stove</h2>
          {stove.isPending ? <Loading what="the stove" /> : null}
          {stove.isError ? (
            <Failed sentence={stove.error.message} again={() => void stove.refetch()} />
          ) : null}
          {stove.data?.length === 0 ? <p className="text-soft">Nothing is on the stove.</p> : null}
          <ul>
            {stove.data?.map((batch) => (
              <Row
                key={batch.id}
                to={`?batch=${batch.id}`}
                name={batch.name}
                about={[`batch ${batch.number}`, batch.stage, when(batch.started_at)]}
              />
            ))}
          </ul>
        </section>
        <section aria-label="A formula">
          <h2 className="mb-2">Or a formula, without a batch</h2>
          <TextBox label="Look for" value={typed} onChange={setTyped} maxLength={200} />
          {book.isPending ? <Loading what="the Book" /> : null}
          {book.isError ? <Failed sentence={book.error.message} again={() => void book.refetch()} /> : null}
          {book.data && formulas.length === 0 ? (
            <Empty title="No formula of that name">
              <p>Look for a part of its name, or of its family.</p>
            </Empty>
          ) : null}
          <ul className="mt-2">
            {formulas.map((formula) => (
              <Row
                key={formula.id}
                to={`?formula=${formula.id}`}
                name={formula.name}
                about={[named(formula.family)]}
              />
            ))}
          </ul>
          {book.hasNextPage ? (
            <Button
              className="mt-3"
              disabled={book.isFetchingNextPage}
              onClick={() => void book.fetchNextPage()}
            >
              More
            </Button>
          ) : null}
        </section>
      </div>
    </>
  );
}

function Row({ to, name, about }: { to: string; name: string; about: readonly string[] }) {
  return (
    <li className="border-t border-hair">
      <Link to={to} className="block min-h-14 py-2 no-underline hover:bg-paper">
        <span className="figure block break-words text-[1.15rem]">{name}</span>
        <Facts className="text-sm text-soft" of={about} />
      </Link>
    </li>
  );
}
