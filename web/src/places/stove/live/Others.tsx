import { Link } from "react-router";
import { useUrgent } from "../../../api/live";
import { useUnits } from "../../../kit/system";
import { inUnits } from "../../../kit/units";
import { minutes } from "../../../shared/ticking";

const TONES = ["border-hair", "border-yolk", "border-copper text-copper", "border-brick text-brick"] as const;

/** The other batches on the stove, the most urgent first. */
export function Others({ kitchen, not }: { kitchen: string; not: number }) {
  const urgent = useUrgent(kitchen);
  const { system } = useUnits();
  const others = urgent.data?.filter((one) => one.id !== not) ?? [];
  if (others.length === 0) return null;
  return (
    <nav aria-label="Other batches" className="flex gap-3 overflow-x-auto px-4 py-1 sm:px-7">
      {others.map((one) => (
        <Link
          key={one.id}
          to={`/k/${kitchen}/stove/${one.id}/live`}
          className={`flex min-h-12 shrink-0 items-center gap-3 border-l-4 bg-paper px-3 no-underline ${TONES[one.urgency] ?? TONES[0]}`}
        >
          <b className="max-w-44 truncate">{one.name}</b>
          <span className="max-w-56 truncate">{inUnits(one.say, system)}</span>
          {one.seconds === null ? null : <span className="figure text-lg">{minutes(one.seconds)}</span>}
        </Link>
      ))}
    </nav>
  );
}
