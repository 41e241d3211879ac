import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { useHere } from "../../api/here";
import { newId } from "../../api/newId";
import {
  type Attempt,
  type Exercise,
  type TraineeBook,
  useAttemptActions,
  useChefActions,
  usePractice,
} from "../../api/practice";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { Failed, Loading, Notice } from "../../kit/Notice";
import { useTold } from "../../kit/Told";
import { day } from "../../kit/when";
import { KINDS } from "./clock";
import { OfTheBook } from "./OfTheBook";
import { SetSheet } from "./SetSheet";
import { Signs } from "./Signs";

/** What there is to practise, and how far one has come. */
export function Practice() {
  const here = useHere();
  const navigate = useNavigate();
  const practice = usePractice(here.slug);
  const { begin } = useAttemptActions(here.slug);
  const [setting, setSetting] = useState<Exercise | null>(null);
  if (practice.isPending) return <Loading title="Practice" what="what there is to practise" />;
  if (practice.isError)
    return (
      <Failed title="Practice" sentence={practice.error.message} again={() => void practice.refetch()} />
    );
  const { book, people } = practice.data;
  const chef = here.role === "chef";
  const go = { onSuccess: (made: Attempt) => navigate(`${made.id}`) };
  const start = (one: { key: string; exercise_id?: number | null | undefined }) =>
    begin.mutate({ id: newId(), key: one.key, exercise_id: one.exercise_id ?? null }, go);
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-x-6 gap-y-3 border-b border-hair pb-3">
        <div className="min-w-0">
          <h1>Practice</h1>
          <p className="text-soft">
            Ruin eggs that do not exist, until you know the signs. Nothing here reaches the log or teaches a
            hob.
          </p>
        </div>
        {chef ? (
          <Link
            className="flex min-h-11 items-center rounded-solid border border-line px-4 no-underline"
            to="section"
          >
            The section
          </Link>
        ) : null}
      </div>
      {begin.isError ? <Notice tone="wrong">{begin.error.message}</Notice> : null}
      <div className="mt-4 grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_22rem]">
        <div className="min-w-0">
          <Open book={book} />
          <SetForMe book={book} onBegin={start} busy={begin.isPending} />
          <section aria-label="Exercises">
            <h2>Exercises</h2>
            <ol className="mt-1">
              {book.exercises.map((one) => (
                <Row
                  key={`${one.key} ${one.exercise_id}`}
                  one={one}
                  busy={begin.isPending}
                  onBegin={() => start(one)}
                  onSet={chef ? () => setSetting(one) : undefined}
                />
              ))}
            </ol>
          </section>
        </div>
        <div className="min-w-0">
          <Signs signs={book.signs} />
          <OfTheBook chef={chef} onBegun={(made) => navigate(`${made.id}`)} />
          <Lately book={book} />
          <SheetList book={book} />
        </div>
      </div>
      {setting ? <SetSheet exercise={setting} people={people} onClose={() => setSetting(null)} /> : null}
    </>
  );
}

function Open({ book }: { book: TraineeBook }) {
  if (!book.open) return null;
  return (
    <Notice>
      {book.open.name} is not over yet: <Link to={`${book.open.id}`}>go on with it</Link>.
    </Notice>
  );
}

function SetForMe({
  book,
  onBegin,
  busy,
}: {
  book: TraineeBook;
  onBegin: (one: { key: string; exercise_id?: number | null | undefined }) => void;
  busy: boolean;
}) {
  const left = book.set.filter((one) => !one.passed);
  if (left.length === 0) return null;
  return (
    <section aria-label="Set for you" className="mb-5">
      <h2>Set for you</h2>
      <ul className="mt-1">
        {left.map((one) => (
          <li key={one.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-hair py-2">
            <span className="min-w-0 grow">
              <b>{one.name}</b>
              <Facts className="text-soft" of={[one.note, one.by]} />
            </span>
            <Button look="solid" disabled={busy} onClick={() => onBegin(one)}>
              Begin<span className="sr-only"> {one.name}</span>
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Row({
  one,
  busy,
  onBegin,
  onSet,
}: {
  one: Exercise;
  busy: boolean;
  onBegin: () => void;
  onSet?: (() => void) | undefined;
}) {
  const here = useHere();
  const { takeOut, putBack } = useChefActions(here.slug);
  const { tell } = useTold();
  const made = one.exercise_id ?? null;
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 border-b border-hair py-2">
      <div className="min-w-0">
        <Facts
          of={[
            <b key="name">{one.name}</b>,
            KINDS[one.kind] ?? one.kind,
            one.exercise_id !== null && one.formula,
          ]}
        />
        <p className="line-clamp-2 text-soft">{one.tell}</p>
        {one.tries === 0 ? null : (
          <Facts
            className={one.passed ? "text-herb" : ""}
            of={[
              one.passed ? "✓ passed" : "not passed yet",
              one.tries === 1 ? "one try" : `${one.tries} tries`,
              one.best !== null && `best ${one.best}`,
            ]}
          />
        )}
        {takeOut.error ? <Notice tone="wrong">{takeOut.error.message}</Notice> : null}
      </div>
      <div className="flex flex-wrap justify-end gap-2">
        {onSet ? (
          <Button aria-label={`Set it: ${one.name}`} onClick={onSet}>
            Set it
          </Button>
        ) : null}
        {onSet && made !== null ? (
          <Button
            aria-label={`Take it out: ${one.name}`}
            disabled={takeOut.isPending}
            onClick={() =>
              // The list may lose this row before a callback of `mutate` runs.
              takeOut.mutateAsync(made).then(
                () => tell({ say: `${one.name} is taken out.`, back: () => putBack.mutateAsync(made) }),
                () => {}, // shown above, from `takeOut.error`
              )
            }
          >
            Take it out
          </Button>
        ) : null}
        <Button look={one.passed ? "quiet" : "solid"} disabled={busy} onClick={onBegin}>
          {one.passed ? "Again" : "Begin"}
          <span className="sr-only"> {one.name}</span>
        </Button>
      </div>
    </li>
  );
}

function Lately({ book }: { book: TraineeBook }) {
  return (
    <section aria-label="Lately" className="mt-6">
      <h2>Lately</h2>
      {book.lately.length === 0 ? (
        <p className="text-soft">Nothing yet. The first one may go wrong: that is what it is for.</p>
      ) : (
        <ul className="mt-1">
          {book.lately.slice(0, 8).map((one) => (
            <li
              key={one.id}
              className="flex items-baseline justify-between gap-3 border-b border-hair py-1.5"
            >
              <Link to={`../practice/${one.id}`}>{one.name}</Link>
              <span className="tabular text-soft">
                {one.points === null ? "not finished" : one.points} · {day(one.begun_at)}
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function SheetList({ book }: { book: TraineeBook }) {
  if (book.sheets.length === 0) return null;
  return (
    <section aria-label="Assessments" className="mt-6">
      <h2>Assessments</h2>
      <ul className="mt-1">
        {book.sheets.map((one) => (
          <li key={one.id} className="flex items-baseline justify-between gap-3 border-b border-hair py-1.5">
            <Link to={`../practice/sheets/${one.id}`}>{one.over}</Link>
            <span className="text-soft">
              {one.marked} of 6 · {day(one.at)}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
