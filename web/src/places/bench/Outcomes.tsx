import { Link } from "react-router";
import { useHere } from "../../api/here";
import { useOutcomes } from "../../api/log";
import { fixed, signed } from "../../kit/habits";
import { useUnits } from "../../kit/system";
import { difference } from "../../kit/units";
import { day } from "../../kit/when";

/** Each version of a formula with what came of its batches. */
export function Outcomes({ formula_id }: { formula_id: number }) {
  const here = useHere();
  const { system } = useUnits();
  const found = useOutcomes(here.slug, formula_id);
  if (!found.data?.length) return null;
  return (
    <section>
      <h2>What came of its versions</h2>
      <div className="mt-2 overflow-x-auto">
        <table className="w-full text-left">
          <thead className="text-soft">
            <tr className="border-b border-iron">
              {["version", "batches", "good", "usable", "discarded", "over plan", "yield", "last"].map(
                (head) => (
                  <th key={head} scope="col" className="py-1 pr-4 font-normal">
                    {head}
                  </th>
                ),
              )}
            </tr>
          </thead>
          <tbody className="tabular">
            {found.data.map((one) => (
              <tr key={one.version} className="border-b border-hair">
                <th scope="row" className="py-1.5 pr-4">
                  {one.version}
                </th>
                <td className="pr-4">{one.batches}</td>
                <td className="pr-4">{one.good}</td>
                <td className="pr-4">{one.usable}</td>
                <td className="pr-4">{one.discarded}</td>
                <td className="pr-4 whitespace-nowrap">
                  {one.over_k === null ? "–" : signed(one.over_k, difference(Math.abs(one.over_k), system))}
                </td>
                <td className="pr-4 whitespace-nowrap">
                  {one.yield_share === null ? "–" : `${fixed(100 * one.yield_share, 0)} %`}
                </td>
                <td className="whitespace-nowrap">{day(one.last)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="mt-2">
        <Link to={`/k/${here.slug}/log?formula_id=${formula_id}`}>Its batches in the log</Link>
      </p>
    </section>
  );
}
