import { useHere } from "../api/here";
import type { Batch } from "../api/queries";
import { useTroubleActions } from "../api/trouble";
import { Button } from "../kit/Button";
import { Facts } from "../kit/Facts";
import { useUnits } from "../kit/system";
import { inUnits } from "../kit/units";

interface Props {
  formula_id: number;
  reminders: Batch["reminders"];
}

/** What earlier batches taught: it stands on the formula until somebody has taken it to heart. */
export function Reminders({ formula_id, reminders }: Props) {
  const here = useHere();
  const { system } = useUnits();
  const { reminded } = useTroubleActions(here.slug);
  if (!reminders.length) return null;
  return (
    <ul aria-label="To do otherwise this time" className="mb-4 grid gap-2 print:hidden">
      {reminders.map((one) => (
        <li
          key={one.id}
          className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 border-l-4 border-yolk bg-paper px-4 py-2"
        >
          <span className="min-w-0">
            <b>This time:</b> {inUnits(one.say, system)}{" "}
            <Facts
              inline
              className="text-sm text-soft"
              of={[one.by, one.batch !== null && `after batch ${one.batch}`]}
            />
          </span>
          {here.role === "viewer" ? null : (
            <Button
              disabled={reminded.isPending}
              onClick={() => reminded.mutate({ formula_id, reminder_id: one.id })}
            >
              Done
            </Button>
          )}
        </li>
      ))}
    </ul>
  );
}
