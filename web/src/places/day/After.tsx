import { Link, useParams } from "react-router";
import { useDayAfter } from "../../api/day";
import { useHere } from "../../api/here";
import { Problem } from "../../api/problem";
import { Facts } from "../../kit/Facts";
import { Empty, Failed, Loading } from "../../kit/Notice";
import { dateText, timeText } from "./times";

/** What a day really took beside what was planned, and what that teaches. */
export function After() {
  const here = useHere();
  const { when = "" } = useParams();
  const after = useDayAfter(here.slug, when);
  const found = after.data;
  const nothing = after.error instanceof Problem && after.error.status === 404;
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-3 border-b border-hair pb-3">
        <div>
          <h1>{dateText(when)}: what it took</h1>
          {found ? <p className="text-soft">{found.say}</p> : null}
        </div>
        <Link
          className="flex min-h-11 items-center rounded-solid border border-line px-4 no-underline"
          to={`/k/${here.slug}/day/${when}`}
        >
          Back to the day
        </Link>
      </div>
      {after.isPending ? <Loading what="the day" /> : null}
      {nothing ? (
        <Empty title="This day was not planned">
          <p>A planned day shows here how long each step took.</p>
        </Empty>
      ) : null}
      {after.isError && !nothing ? (
        <Failed sentence={after.error.message} again={() => void after.refetch()} />
      ) : null}
      {found?.steps.length ? (
        <table className="mt-4 w-full max-w-4xl text-left">
          <thead>
            <tr className="border-b border-iron">
              <th className="py-1 font-normal text-soft">step</th>
              <th className="font-normal text-soft">began</th>
              <th className="text-right font-normal text-soft">planned</th>
              <th className="text-right font-normal text-soft">took</th>
            </tr>
          </thead>
          <tbody>
            {found.steps.map((one) => (
              <tr key={`${one.job} ${one.say}`} className="border-b border-hair">
                <td className="py-1.5">
                  <span className="font-bold">{one.say}</span> <span className="text-soft">{one.name}</span>
                </td>
                <td className="tabular">
                  <Facts
                    of={[
                      timeText(one.began_at),
                      one.began_at !== one.planned_at && `planned ${timeText(one.planned_at)}`,
                    ]}
                  />
                </td>
                <td className="tabular text-right">{one.planned} min</td>
                <td className={`tabular text-right ${one.took > one.planned ? "font-bold text-copper" : ""}`}>
                  {one.took} min
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
      {found ? (
        <section aria-label="What is learned" className="mt-8 max-w-3xl">
          <h2 className="border-b border-iron pb-1">What this kitchen’s batches teach</h2>
          {found.lessons.length ? (
            <ul>
              {found.lessons.map((one) => (
                <li key={one.say} className="border-b border-hair py-1.5">
                  {one.say}
                </li>
              ))}
            </ul>
          ) : (
            <p className="py-2 text-soft">
              Too few batches were closed for anything to be learned; until then the computed minutes count.
            </p>
          )}
          <p className="mt-2 text-sm text-soft">
            The next plan counts on these. A step that was left and come back to teaches nothing.
          </p>
        </section>
      ) : null}
    </>
  );
}
