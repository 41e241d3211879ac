import { Link, useParams } from "react-router";
import { useHere } from "../../api/here";
import { useChefActions, useTraineeBook } from "../../api/practice";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { Failed, Loading, Notice } from "../../kit/Notice";
import { useTold } from "../../kit/Told";
import { day } from "../../kit/when";
import { Signs } from "./Signs";

/** A trainee's book, as their chef reads it. */
export function PersonPage() {
  const here = useHere();
  const person = Number(useParams().person);
  const book = useTraineeBook(here.slug, person);
  const { takeBack, setAgain } = useChefActions(here.slug);
  const { tell } = useTold();
  if (book.isPending) return <Loading title="A book" what="their book" />;
  if (book.isError)
    return <Failed title="A book" sentence={book.error.message} again={() => void book.refetch()} />;
  const told = book.data;
  const tried = told.exercises.filter((one) => one.tries > 0);
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-3 border-b border-hair pb-3">
        <h1>{told.person.name}</h1>
        <Link to="../../section" relative="path">
          The section
        </Link>
      </div>
      {takeBack.isError ? <Notice tone="wrong">{takeBack.error.message}</Notice> : null}
      <div className="mt-4 grid gap-x-10 gap-y-6 lg:grid-cols-2">
        <div className="min-w-0">
          <Signs signs={told.signs} />
          <section aria-label="Set for them" className="mt-6">
            <h2>Set for them</h2>
            {told.set.length === 0 ? <p className="text-soft">Nothing is set.</p> : null}
            <ul>
              {told.set.map((one) => (
                <li
                  key={one.id}
                  className="flex items-center justify-between gap-3 border-b border-hair py-1.5"
                >
                  <Facts of={[one.name, one.passed ? "passed" : "not yet", one.note]} />
                  <Button
                    aria-label={`Take it back: ${one.name}`}
                    disabled={takeBack.isPending}
                    onClick={() =>
                      takeBack.mutate(one.id, {
                        onSuccess: () =>
                          tell({
                            say: `${one.name} is not set any more.`,
                            back: () => setAgain.mutateAsync(one.id),
                          }),
                      })
                    }
                  >
                    Take it back
                  </Button>
                </li>
              ))}
            </ul>
          </section>
        </div>
        <div className="min-w-0">
          <section aria-label="Exercises tried">
            <h2>Exercises tried</h2>
            {tried.length === 0 ? <p className="text-soft">None yet.</p> : null}
            <ul>
              {tried.map((one) => (
                <li
                  key={`${one.key} ${one.exercise_id}`}
                  className="flex justify-between gap-3 border-b border-hair py-1.5"
                >
                  <span>{one.name}</span>
                  <Facts
                    className="text-soft"
                    of={[
                      one.passed ? "passed" : "not yet",
                      one.best !== null && `best ${one.best}`,
                      one.tries === 1 ? "one try" : `${one.tries} tries`,
                    ]}
                  />
                </li>
              ))}
            </ul>
          </section>
          <section aria-label="Lately" className="mt-6">
            <h2>Lately</h2>
            <ul>
              {told.lately.map((one) => (
                <li key={one.id} className="flex justify-between gap-3 border-b border-hair py-1.5">
                  <Link to={`../../${one.id}`} relative="path">
                    {one.name}
                  </Link>
                  <span className="tabular text-soft">
                    {one.points ?? "–"} · {day(one.begun_at)}
                  </span>
                </li>
              ))}
              {told.sheets.map((one) => (
                <li
                  key={`sheet ${one.id}`}
                  className="flex justify-between gap-3 border-b border-hair py-1.5"
                >
                  <Link to={`../../sheets/${one.id}`} relative="path">
                    Assessment: {one.over}
                  </Link>
                  <span className="text-soft">{day(one.at)}</span>
                </li>
              ))}
            </ul>
          </section>
        </div>
      </div>
    </>
  );
}
