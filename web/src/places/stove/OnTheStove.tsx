import { Link } from "react-router";
import { useOnTheStove } from "../../api/queries";
import { useHere } from "../../kit/here";
import { Empty, Failed, Loading } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { massText } from "../../kit/units";
import { clock, day } from "../../kit/when";

/** What is being made now. */
export function OnTheStove() {
  const here = useHere();
  const stove = useOnTheStove(here.slug);
  const { system } = useUnits();
  return (
    <>
      <h1 className="mb-4">On the stove</h1>
      {stove.isPending ? <Loading what="the stove" /> : null}
      {stove.isError ? <Failed sentence={stove.error.message} again={() => void stove.refetch()} /> : null}
      {stove.data?.length === 0 ? (
        <Empty title="Nothing on the stove">
          <p>
            Open a formula in the <Link to="../book">Book</Link> and take it to the stove. Finished batches
            are in the <Link to="../log">Log</Link>.
          </p>
        </Empty>
      ) : null}
      <ul>
        {stove.data?.map((batch) => (
          <li key={batch.id} className="border-t border-hair">
            <Link
              to={String(batch.id)}
              className="flex min-h-[72px] flex-wrap items-center justify-between gap-x-6 gap-y-1 py-3 no-underline hover:bg-paper"
            >
              <span className="min-w-0">
                <span className="figure block break-words text-[1.4rem]">{batch.name}</span>
                <span className="text-soft">
                  batch {batch.number} · {massText(batch.mass_g, system)} · {batch.started_by},{" "}
                  {day(batch.started_at)} {clock(batch.started_at)}
                  {batch.allergens.length ? ` · ${batch.allergens.join(", ")}` : ""}
                </span>
              </span>
              <span className="text-lg font-bold first-letter:uppercase">{batch.stage}</span>
            </Link>
          </li>
        ))}
      </ul>
    </>
  );
}
