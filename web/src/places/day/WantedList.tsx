import { Fragment, type ReactNode } from "react";
import { Link } from "react-router";
import type { Day, DayJob, DayOther, DayWant, Promised } from "../../api/day";
import { useHere } from "../../api/here";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { useUnits } from "../../kit/system";
import { massText } from "../../kit/units";
import { timeText } from "./times";
import { letterOf } from "./tints";

interface Props {
  day: Day;
  may: boolean;
  onWant: (want: DayWant) => void;
  onOther: (other: DayOther) => void;
  onMakeAnew: (promised: Promised) => void;
  onTakeOff: (row: DayWant | DayOther, kind: "want" | "other") => void;
}

/** All that is wanted, where it comes from, and how sure it is. */
export function WantedList({ day, may, onWant, onOther, onMakeAnew, onTakeOff }: Props) {
  const here = useHere();
  const { system } = useUnits();
  const jobs = new Map(day.jobs.map((job, place) => [job.key, { job, place }]));
  return (
    <section aria-label="All that is wanted" className="mt-6">
      <h2 className="border-b border-iron pb-1">Wanted</h2>
      <ul>
        {day.wants.map((want) => {
          const made = want.job ? jobs.get(want.job) : undefined;
          return (
            <li
              key={want.id}
              className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-hair py-2"
            >
              <span className="figure w-24 shrink-0 text-[1.15rem]">{timeText(want.at)}</span>
              <span className="min-w-0 flex-1 basis-64">
                <Facts
                  of={[
                    <b key="name" className="break-words">
                      {want.name}
                    </b>,
                    want.name !== want.formula && want.formula,
                  ]}
                />
                <Facts
                  className="text-soft"
                  of={[
                    want.each ? `${want.covers} of ${want.each}` : "as it is written",
                    want.drawn_g > 0 && `${massText(want.drawn_g, system)} from the shelf`,
                    made && (
                      <Fragment key="made">
                        made as <b>{letterOf(made.place)}</b>
                      </Fragment>
                    ),
                    made?.job.grams && massText(made.job.grams, system),
                    ...sure(made?.job),
                  ]}
                />
                {made?.job.brittle ? <span className="block text-brick">{made.job.brittle}</span> : null}
              </span>
              {want.batch_id ? (
                <Link
                  className="flex min-h-11 items-center underline"
                  to={`/k/${here.slug}/stove/${want.batch_id}`}
                >
                  batch {want.batch}
                </Link>
              ) : null}
              {may ? (
                <span className="flex gap-2 print:hidden">
                  <Button onClick={() => onWant(want)} aria-label={`change ${want.name}`}>
                    Change
                  </Button>
                  <Button onClick={() => onTakeOff(want, "want")} aria-label={`take ${want.name} off`}>
                    ✕
                  </Button>
                </span>
              ) : null}
            </li>
          );
        })}
        {day.promised.map((one) => (
          <li
            key={`${one.tub_id} ${one.dish}`}
            className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-hair py-2"
          >
            <span className="figure w-24 shrink-0 text-[1.15rem]">{timeText(one.at)}</span>
            <span className="min-w-0 flex-1 basis-64">
              <span className="font-bold break-words">{one.dish}</span>
              <Facts
                className={one.past ? "text-brick" : "text-soft"}
                of={[
                  `${massText(one.grams, system)} promised of ${one.tub}`,
                  "on the shelf",
                  one.past && "it will be past its time by then",
                ]}
              />
            </span>
            {may && one.past ? (
              <Button className="print:hidden" onClick={() => onMakeAnew(one)}>
                Make it again
              </Button>
            ) : null}
          </li>
        ))}
        {day.others.map((other) => (
          <li
            key={other.id}
            className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-hair py-2"
          >
            <span className="figure w-24 shrink-0 text-[1.15rem]">
              {other.by === null || other.by === undefined ? "" : timeText(other.by)}
            </span>
            <span className="min-w-0 flex-1 basis-64">
              <span className="break-words">{other.name}</span>
              <Facts
                className="text-soft"
                of={[
                  "other work",
                  `${other.minutes} min`,
                  !other.hands && "needs no one",
                  other.needs && `takes up ${other.needs}`,
                  ...sure(jobs.get(`work-${other.id}`)?.job),
                ]}
              />
            </span>
            {may ? (
              <span className="flex gap-2 print:hidden">
                <Button onClick={() => onOther(other)} aria-label={`change ${other.name}`}>
                  Change
                </Button>
                <Button onClick={() => onTakeOff(other, "other")} aria-label={`take ${other.name} off`}>
                  ✕
                </Button>
              </span>
            ) : null}
          </li>
        ))}
      </ul>
    </section>
  );
}

function sure(job: DayJob | undefined): ReactNode[] {
  if (!job) return [];
  return [
    job.late_min > 0 ? `${job.late_min} min late` : job.spare_min !== null && `${job.spare_min} min to spare`,
    job.chance !== null && `in time on ${Math.round(100 * job.chance)} days of 100`,
  ];
}
