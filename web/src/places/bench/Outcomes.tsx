import { Link } from "react-router";
import { useHere } from "../../api/here";
import { useOutcomes } from "../../api/log";
import { Facts } from "../../kit/Facts";
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
    <section className="min-w-0">
      <h2>What came of its versions</h2>
      <ul className="mt-2">
        {found.data.map((one) => (
          <li key={one.version} className="border-b border-hair py-1.5">
            <b>Version {one.version}</b>
            <Facts
              className="tabular text-soft"
              of={[
                one.batches === 1 ? "1 batch" : `${one.batches} batches`,
                one.good > 0 && `${one.good} good`,
                one.usable > 0 && `${one.usable} usable`,
                one.discarded > 0 && `${one.discarded} discarded`,
                one.over_k !== null &&
                  `lifted ${signed(one.over_k, difference(Math.abs(one.over_k), system))} over plan`,
                one.yield_share !== null && `came to ${fixed(100 * one.yield_share, 0)} %`,
                `last ${day(one.last)}`,
              ]}
            />
          </li>
        ))}
      </ul>
      <p className="mt-2">
        <Link to={`/k/${here.slug}/log?formula_id=${formula_id}`}>Its batches in the log</Link>
      </p>
    </section>
  );
}
