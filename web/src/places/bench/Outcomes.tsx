import type { Dispatch } from "react";
import { Link } from "react-router";
import { useHere } from "../../api/here";
import { useOutcomes, useProposed } from "../../api/log";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { fixed, signed } from "../../kit/habits";
import { useUnits } from "../../kit/system";
import { difference, inUnits } from "../../kit/units";
import { day } from "../../kit/when";
import type { Change } from "./draft";

/** Each version of a formula with what came of its batches. */
export function Outcomes({ formula_id, act }: { formula_id: number; act: Dispatch<Change> }) {
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
      <NextVersion formula_id={formula_id} act={act} />
      <p className="mt-2">
        <Link to={`/k/${here.slug}/log?formula_id=${formula_id}`}>Its batches in the log</Link>
      </p>
    </section>
  );
}

/** A version that its batches speak for: to be looked at on the Bench, and kept or not. */
function NextVersion({ formula_id, act }: { formula_id: number; act: Dispatch<Change> }) {
  const here = useHere();
  const { system } = useUnits();
  const found = useProposed(here.slug, formula_id);
  const next = found.data;
  if (!next) return null;
  return (
    <div className="mt-3 border-l-4 border-yolk pl-3">
      <p>
        <b>Version {next.version}, from what was learned.</b> {inUnits(next.say, system)}
      </p>
      <p className="text-soft">{inUnits(next.why, system)}</p>
      <Button className="mt-2" onClick={() => act({ do: "replace", draft: next.draft })}>
        Look at it on the Bench
      </Button>
      <p className="mt-1 text-sm text-soft">Nothing is kept before you save it; undo takes it back.</p>
    </div>
  );
}
