import { useId, useState } from "react";
import { useNavigate } from "react-router";
import { useHere } from "../../api/here";
import { newId } from "../../api/newId";
import { useAttemptActions } from "../../api/practice";
import type { Point } from "../../drawings/CurveFrame";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { temperature } from "../../kit/units";

interface Props {
  batch_id: number;
  /** What was read while it was in its pan: seconds since the first reading, °C. */
  read: readonly Point[];
  /** When it came off the heat [s]; null where nobody said. */
  off_s: number | null;
  /** A moment was chosen, to be shown on the curve [s]. */
  at_s: number;
  onMoment: (at_s: number) => void;
}

/** So long before it came off the heat one begins again, where nobody chose [s]. */
export const BEFORE_OFF_S = 60;
const STEP_S = 5;

/** Any moment of a batch, opened as a practice attempt: the sauce as it stood, on its own hob. */
export function AgainFromHere({ batch_id, read, off_s, at_s, onMoment }: Props) {
  const here = useHere();
  const navigate = useNavigate();
  const { system } = useUnits();
  const { begin } = useAttemptActions(here.slug);
  const [asked] = useState(newId);
  const id = useId();
  const last = read.at(-1)?.[0] ?? 0;
  const then = read.findLast(([t]) => t <= at_s);
  const minute = `${Math.floor(at_s / 60)}:${String(Math.round(at_s % 60)).padStart(2, "0")}`;
  return (
    <div className="mt-2 grid gap-2">
      <label htmlFor={id} className="text-soft">
        Cook it again from <b className="tabular text-iron">{minute}</b> on
      </label>
      <input
        id={id}
        type="range"
        className="handle w-full"
        min={0}
        max={Math.max(STEP_S, Math.floor(last / STEP_S) * STEP_S)}
        step={STEP_S}
        value={at_s}
        aria-valuetext={minute}
        onChange={(event) => onMoment(Number(event.target.value))}
      />
      <Facts
        className="text-soft"
        of={[then && `at ${temperature(then[1], system)}`, off_s !== null && at_s >= off_s && "off the heat"]}
      />
      <div>
        <Button
          disabled={begin.isPending}
          onClick={() =>
            begin.mutate(
              { id: asked, batch_id, from_s: at_s },
              { onSuccess: (made) => navigate(`/k/${here.slug}/practice/${made.id}`) },
            )
          }
        >
          Again from here
        </Button>
      </div>
      <p className="text-sm text-soft">
        In practice: its own hob and pan, the sauce as it stood. Nothing is written into the batch.
      </p>
      {begin.error ? <Notice tone="wrong">{begin.error.message}</Notice> : null}
    </div>
  );
}
