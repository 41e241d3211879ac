import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { type Day, type DayStep, useDayActions } from "../../api/day";
import { useHere } from "../../api/here";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Facts } from "../../kit/Facts";
import { Wrong } from "../../kit/Field";
import { listed } from "../../kit/listed";
import { Sheet } from "../../kit/Sheet";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { massText } from "../../kit/units";
import { timeText, timeToType, typedTime } from "./times";

interface Props {
  day: Day;
  step: DayStep;
  when: string;
  may: boolean;
  onClose: () => void;
  onMove: (start: number | null, hands: number | null) => void;
}

const NEEDS: Record<string, string> = {
  ring: "a ring",
  steam: "a steam bath",
  bath: "room in the ice bath",
  ice: "ice",
  oven: "the oven",
  churn: "the churn",
  bowl: "a frozen bowl",
};

/** One step: what it is, why so long, and what can be done with it. */
export function StepSheet({ day, step, when, may, onClose, onMove }: Props) {
  const here = useHere();
  const { system } = useUnits();
  const navigate = useNavigate();
  const { step: mark, stove } = useDayActions(here.slug, when);
  const [start, setStart] = useState(timeToType(step.start));
  const [hands, setHands] = useState(step.hands_id);
  const [wrong, setWrong] = useState("");
  const job = day.jobs.find((one) => one.key === step.job);
  const wants = day.wants.filter((want) => job?.wants.includes(want.id));
  const put = () => {
    const minute = typedTime(start);
    if (minute === null) setWrong("Write a time like 12:30, or +1 7:15 for the day after.");
    else onMove(minute, hands);
  };
  const done = (what: "begun" | "ended" | "neither") =>
    mark.mutate({ job: step.job, step: step.step, what, at: null, hands_id: null }, { onSuccess: onClose });
  const told = !day.over;
  const ofBatch = job?.batch_id;
  return (
    <Sheet open onClose={onClose} title={`${step.say}: ${job?.name ?? ""}`}>
      <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-1">
        <dt className="text-soft">when</dt>
        <dd>
          <Facts
            of={[
              `${timeText(step.begins)} to ${timeText(step.ends)}`,
              step.begins !== step.start && `planned at ${timeText(step.start)}`,
              step.pinned && "moved here",
            ]}
          />
        </dd>
        <dt className="text-soft">takes</dt>
        <dd>
          <Facts of={[`${step.minutes} min, give or take ${step.spread_min}`, source(step.batches)]} />
        </dd>
        <dt className="text-soft">hands</dt>
        <dd>{attention(step.share)}</dd>
        {step.needs.length ? (
          <>
            <dt className="text-soft">needs</dt>
            <dd>{listed(step.needs.map((need) => NEEDS[need] ?? need))}</dd>
          </>
        ) : null}
        {wants.length ? (
          <>
            <dt className="text-soft">for</dt>
            <dd>
              <Facts
                of={[
                  ...wants.map((want) => `${want.name} at ${timeText(want.at)}`),
                  job?.grams ? `${massText(job.grams, system)} in all` : null,
                ]}
              />
            </dd>
          </>
        ) : null}
        {job?.brittle ? (
          <>
            <dt className="text-soft">brittle</dt>
            <dd>{job.brittle}</dd>
          </>
        ) : null}
      </dl>
      {may ? (
        <div className="mt-4 grid gap-4">
          {told && step.state !== "over" ? (
            <div className="flex flex-wrap gap-3">
              {ofBatch ? (
                <Link
                  className="flex min-h-11 items-center rounded-solid border border-yolk bg-yolk px-4 font-bold no-underline"
                  to={`/k/${here.slug}/stove/${ofBatch}`}
                >
                  Open it on the stove
                </Link>
              ) : job?.wants.length && step.place === 0 ? (
                <Button
                  look="solid"
                  disabled={stove.isPending}
                  onClick={() =>
                    stove.mutate(step.job, {
                      onSuccess: ({ batch_id }) => navigate(`/k/${here.slug}/stove/${batch_id}`),
                    })
                  }
                >
                  Take it to the stove
                </Button>
              ) : null}
              {step.state === "to come" ? (
                <Button disabled={mark.isPending} onClick={() => done("begun")}>
                  Begun now
                </Button>
              ) : null}
              <Button disabled={mark.isPending} onClick={() => done("ended")}>
                Done now
              </Button>
            </div>
          ) : null}
          {step.state !== "to come" ? (
            <Button disabled={mark.isPending} onClick={() => done("neither")}>
              It has not begun
            </Button>
          ) : (
            <div className="grid gap-3 border-t border-hair pt-3">
              <TextBox label="Begins at" value={start} onChange={setStart} error={wrong} className="w-32" />
              {step.hands_id !== null && day.hands.length > 1 ? (
                <Choice
                  label="In whose hands"
                  options={day.hands.map((one) => ({ value: String(one.id), shown: one.name }))}
                  value={String(hands)}
                  onChange={(value) => setHands(Number(value))}
                />
              ) : null}
              <div className="flex flex-wrap gap-3">
                <Button onClick={put}>Put it there</Button>
                {step.pinned ? (
                  <Button onClick={() => onMove(null, null)}>Let it go where there is room</Button>
                ) : null}
              </div>
            </div>
          )}
          {mark.isError ? <Wrong>{mark.error.message}</Wrong> : null}
          {stove.isError ? <Wrong>{stove.error.message}</Wrong> : null}
        </div>
      ) : null}
      <Button className="mt-4" onClick={onClose}>
        Close
      </Button>
    </Sheet>
  );
}

function source(batches: number): string {
  if (batches === 1) return "from one of this kitchen’s batches";
  return batches ? `from ${batches} of this kitchen’s batches` : "as computed; hand work is an estimate";
}

function attention(share: number): string {
  if (share >= 1) return "full: nothing else can be done meanwhile";
  if (share >= 0.5) return "busy, with a look to spare for something that warms";
  return share > 0 ? "a look now and then" : "none";
}
