import { useState } from "react";
import { Link } from "react-router";
import { useHere } from "../../api/here";
import { useBook, useFamilyName, useOnTheStove } from "../../api/queries";
import { useShelf } from "../../api/shelf";
import { useSeen } from "../../api/trouble";
import { FAMILIES } from "../../contract/words";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { Empty, Failed, Loading } from "../../kit/Notice";
import { useSettled } from "../../kit/settled";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { massText } from "../../kit/units";
import { when } from "../../kit/when";
import { SeenDrawing } from "./SeenDrawing";

const TYPED_MS = 250;

interface Props {
  fault: string;
  onAgain: () => void;
}

/** Which sauce shows it: on the stove, on the shelf, in the Book, or another of which the family is known. */
export function Which({ fault, onAgain }: Props) {
  const here = useHere();
  const named = useFamilyName();
  const stove = useOnTheStove(here.slug);
  const [typed, setTyped] = useState("");
  const words = useSettled(typed, TYPED_MS);
  const name = useSeen(here.slug, {}).data?.find((one) => one.fault === fault)?.name;
  const to = (which: string) => `?${which}&seen=${encodeURIComponent(fault)}`;
  return (
    <>
      <h1>Which sauce is it?</h1>
      <p className="mt-2 mb-5 flex w-fit items-center gap-3 border-l-4 border-iron bg-paper px-3 py-2 font-bold">
        <SeenDrawing fault={fault} />
        <span className="grow">{name ?? fault.replaceAll("-", " ")}</span>
        <Button onClick={onAgain}>Something else</Button>
      </p>
      <div className="grid gap-x-10 gap-y-8 md:grid-cols-2">
        <div className="grid content-start gap-8">
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
                  to={to(`batch=${batch.id}`)}
                  name={batch.name}
                  about={[`batch ${batch.number}`, batch.stage, when(batch.started_at)]}
                />
              ))}
            </ul>
          </section>
          <section aria-label="Another">
            <h2 className="mb-2">Another, by its family</h2>
            <ul className="flex flex-wrap gap-2">
              {FAMILIES.map((family) => (
                <li key={family}>
                  <Link
                    to={to(`family=${family}`)}
                    className="flex min-h-11 items-center rounded-solid border border-line px-4 no-underline hover:bg-paper"
                  >
                    {named(family)}
                  </Link>
                </li>
              ))}
            </ul>
          </section>
        </div>
        <div className="grid content-start gap-6">
          <TextBox label="Look for" value={typed} onChange={setTyped} maxLength={200} />
          <OnTheShelf words={words} to={to} />
          <InTheBook words={words} to={to} />
        </div>
      </div>
    </>
  );
}

interface FoundProps {
  words: string;
  to: (which: string) => string;
}

function OnTheShelf({ words, to }: FoundProps) {
  const here = useHere();
  const { system } = useUnits();
  const shelf = useShelf(here.slug, null, words);
  const tubs = shelf.data?.pages.flatMap((page) => page.tubs).filter((tub) => tub.what === "sauce") ?? [];
  return (
    <section aria-label="On the shelf">
      <h2 className="mb-2">On the shelf</h2>
      {shelf.isPending ? <Loading what="the Shelf" /> : null}
      {shelf.isError ? <Failed sentence={shelf.error.message} again={() => void shelf.refetch()} /> : null}
      {shelf.data && tubs.length === 0 ? <p className="text-soft">No such tub is on the shelf.</p> : null}
      <ul>
        {tubs.slice(0, FEW).map((tub) => (
          <Row
            key={tub.id}
            to={to(`tub=${tub.id}`)}
            name={tub.name}
            about={[`batch ${tub.batch}`, massText(tub.left_g, system), when(tub.made_at)]}
          />
        ))}
      </ul>
      {tubs.length > FEW ? <p className="text-sm text-soft">More are found by their name.</p> : null}
    </section>
  );
}

const FEW = 4;

function InTheBook({ words, to }: FoundProps) {
  const here = useHere();
  const book = useBook(here.slug, { words });
  const named = useFamilyName();
  const formulas = book.data?.pages.flatMap((page) => page.lines) ?? [];
  return (
    <section aria-label="In the Book">
      <h2 className="mb-2">In the Book</h2>
      {book.isPending ? <Loading what="the Book" /> : null}
      {book.isError ? <Failed sentence={book.error.message} again={() => void book.refetch()} /> : null}
      {book.data && formulas.length === 0 ? (
        <Empty title="No formula of that name">
          <p>Look for a part of its name, or of its family.</p>
        </Empty>
      ) : null}
      <ul>
        {formulas.map((formula) => (
          <Row
            key={formula.id}
            to={to(`formula=${formula.id}`)}
            name={formula.name}
            about={[named(formula.family)]}
          />
        ))}
      </ul>
      {book.hasNextPage ? (
        <Button className="mt-3" disabled={book.isFetchingNextPage} onClick={() => void book.fetchNextPage()}>
          More
        </Button>
      ) : null}
    </section>
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
