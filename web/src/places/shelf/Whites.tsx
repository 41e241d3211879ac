import { useHere } from "../../api/here";
import { useWhites } from "../../api/shelf";
import { Facts } from "../../kit/Facts";
import { useUnits } from "../../kit/system";
import { massText } from "../../kit/units";

/** The whites of a week, and what can be made of what there is. */
export function Whites() {
  const here = useHere();
  const { system } = useUnits();
  const whites = useWhites(here.slug);
  if (!whites.data) return null;
  const { days, made_g, used_g, thrown_g, frozen_g, there_g, uses } = whites.data;
  const told = (
    [
      [made_g, "left over"],
      [used_g, "used"],
      [thrown_g, "thrown away"],
      [frozen_g, "in the freezer"],
    ] as const
  ).flatMap(([grams, what]) => (grams > 0 ? [`${massText(grams, system)} ${what}`] : []));
  return (
    <section aria-label="What whites become" className="mt-4 max-w-3xl">
      <Facts className="text-soft" of={[`in ${days} days`, ...told]} />
      <p className="text-soft">Of the {massText(there_g, system)} there are:</p>
      <ul className="mt-1">
        {uses.map((one) => (
          <li
            key={one.use}
            className="grid gap-x-5 border-b border-dotted border-line py-1 sm:grid-cols-[13rem_minmax(0,1fr)_9rem]"
          >
            <span className="font-bold">{one.name}</span>
            <Facts
              of={[
                `${massText(one.sugar_g, system)} of sugar`,
                one.other && `${massText(one.other_g, system)} of ${one.other}`,
                <span key="ratio" className="text-soft">
                  {one.ratio}
                </span>,
              ]}
            />
            <span className="tabular sm:text-right">makes {massText(one.makes_g, system)}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
