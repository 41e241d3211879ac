import { useCallback, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import type { Day, DayOther, DayStep, DayWant, Promised } from "../../api/day";
import { useDay, useDayActions, useDayEdits, useDays } from "../../api/day";
import { useHere } from "../../api/here";
import { Problem } from "../../api/problem";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { ownFigures } from "../../kit/habits";
import { useKeys } from "../../kit/keys";
import { Empty, Failed, Loading, Notice } from "../../kit/Notice";
import { Toast } from "../../kit/Toast";
import { Board } from "./Board";
import { DayMenu } from "./DayMenu";
import { LaneMap } from "./LaneMap";
import { NextThings } from "./NextThings";
import { OtherSheet } from "./OtherSheet";
import { PrintedDay } from "./PrintedDay";
import { RoomSheet } from "./RoomSheet";
import { StepSheet } from "./StepSheet";
import { dateOn, dateText, todayIn } from "./times";
import { WantedList } from "./WantedList";
import { WantSheet } from "./WantSheet";
import { Week } from "./Week";
import { Why } from "./Why";

type Addition = { want: DayWant | null } | { other: DayOther | null } | { anew: Promised } | "room";

/** That a step may not stand where it was put; `anyway` where it can all the same. */
interface Refused {
  say: string;
  anyway: (() => void) | null;
}

/** A day: who does what when, so that no two sauces need the same hands. */
export function DayPage() {
  const here = useHere();
  const { when = todayIn(here.zone) } = useParams();
  const day = useDay(here.slug, when);
  const { plan, move } = useDayActions(here.slug, when);
  const { addWant, addOther, removeWant, removeOther } = useDayEdits(here.slug, when);
  const [adding, setAdding] = useState<Addition | null>(null);
  const [opened, setOpened] = useState<{ job: string; step: string } | null>(null);
  const [who, setWho] = useState<number | null>(null);
  const [took, setTook] = useState<{ say: string; back: () => void } | null>(null);
  const gone = useCallback(() => setTook(null), []);
  const [refused, setRefused] = useState<Refused | null>(null);
  const navigate = useNavigate();
  const may = here.role !== "viewer";
  const go = (days: number) => navigate(`/k/${here.slug}/day/${dateOn(when, days)}`);
  useKeys([
    { press: "[", does: "the day before", run: () => go(-1) },
    { press: "]", does: "the day after", run: () => go(1) },
    { press: "a", does: "add to the day", run: () => may && setAdding({ want: null }) },
    { press: "p", does: "plan the day again from now", run: () => may && plan.mutate() },
  ]);
  const seen = day.data;
  const put = (step: DayStep, start: number | null, hands: number | null, anyway = false) => {
    setRefused(null);
    move.mutate(
      { job: step.job, step: step.step, start, hands_id: hands, anyway },
      {
        onSuccess: () => {
          if (start === null) setTook(null);
          else
            setTook({
              say: `“${step.say}” is put there; the rest follows.`,
              back: () => put(step, null, null),
            });
        },
        onError: (error) => {
          const late = error instanceof Problem && error.kind === "would-be-late";
          setRefused({
            say: error.message,
            anyway: late ? () => put(step, start, hands, true) : null,
          });
        },
      },
    );
  };
  /** Taken off the day, to be put back within a minute as it was. */
  const takeOff = (row: DayWant | DayOther, kind: "want" | "other") => {
    const say = `${row.name} is removed from the day.`;
    const back = () => {
      setTook(null);
      if ("formula_id" in row) {
        const { formula_id, name, at, covers, each } = row;
        addWant.mutate({ formula_id, name, at, covers, each });
      } else {
        const { name, minutes, hands, needs, by } = row;
        addOther.mutate({ name, minutes, hands, needs, by: by ?? null });
      }
    };
    const doing = kind === "want" ? removeWant : removeOther;
    doing.mutate(row.id, { onSuccess: () => setTook({ say, back }) });
  };
  const edits = [addWant, addOther, removeWant, removeOther].find((one) => one.isError)?.error;
  const step = opened && seen?.steps.find((one) => one.job === opened.job && one.step === opened.step);
  return (
    <>
      <DayHead
        when={when}
        day={seen}
        may={may}
        planning={plan.isPending}
        onGo={go}
        onPlan={() => plan.mutate()}
        onAdd={setAdding}
      />
      {day.isPending ? <Loading what="the day" /> : null}
      {day.isError ? <Failed sentence={day.error.message} again={() => void day.refetch()} /> : null}
      {plan.isError ? <Wrong>{plan.error.message}</Wrong> : null}
      {edits ? <Wrong>{edits.message}</Wrong> : null}
      {refused ? <MoveRefused refused={refused} onLeave={() => setRefused(null)} /> : null}
      {seen?.dangers.length ? (
        <Wrong>
          <ul>
            {seen.dangers.map((one) => (
              <li key={one.job}>{ownFigures(one.say)}</li>
            ))}
          </ul>
        </Wrong>
      ) : null}
      {seen?.plan?.why ? <Why plan={seen.plan} when={when} may={may} /> : null}
      {seen && !seen.wants.length && !seen.others.length && !seen.promised.length ? (
        <NothingWanted when={when} may={may} onAdd={() => setAdding({ want: null })} />
      ) : null}
      {seen?.steps.length ? (
        <>
          <PrintedDay day={seen} />
          <NextThings day={seen} who={who} onOpen={(one) => setOpened({ job: one.job, step: one.step })} />
          {seen.hands.length > 1 ? (
            <div className="mt-4 md:hidden">
              <Choice
                label="Whose"
                options={seen.hands.map((one) => ({ value: String(one.id), shown: one.name }))}
                value={String(who ?? seen.hands[0]?.id)}
                onChange={(value) => setWho(Number(value))}
              />
            </div>
          ) : null}
          <LaneMap day={seen} />
          <Board
            day={seen}
            who={who}
            may={may}
            onOpen={(one) => setOpened({ job: one.job, step: one.step })}
            onMove={(one, start, hands) => put(one, start, hands)}
          />
        </>
      ) : null}
      {seen && (seen.wants.length || seen.others.length || seen.promised.length) ? (
        <WantedList
          day={seen}
          may={may}
          onWant={(want) => setAdding({ want })}
          onOther={(other) => setAdding({ other })}
          onTakeOff={takeOff}
          onMakeAnew={(one) => setAdding({ anew: one })}
        />
      ) : null}
      {seen && step ? (
        <StepSheet
          day={seen}
          step={step}
          may={may}
          when={when}
          onClose={() => setOpened(null)}
          onMove={(start, hands) => {
            setOpened(null);
            put(step, start, hands);
          }}
        />
      ) : null}
      {adding && seen ? (
        <Adding adding={adding} day={seen} when={when} onClose={() => setAdding(null)} />
      ) : null}
      {took ? (
        <Toast say={took.say} onGone={gone}>
          <Button onClick={took.back}>Undo</Button>
        </Toast>
      ) : null}
    </>
  );
}

interface HeadProps {
  when: string;
  day: Day | undefined;
  may: boolean;
  planning: boolean;
  onGo: (days: number) => void;
  onPlan: () => void;
  onAdd: (adding: Addition) => void;
}

/** The date, what is said of the plan, and what can be done with the day. */
function DayHead({ when, day, may, planning, onGo, onPlan, onAdd }: HeadProps) {
  const here = useHere();
  return (
    <div className="flex flex-wrap items-end justify-between gap-x-6 gap-y-3 border-b border-hair pb-3">
      <div className="min-w-0 flex-1 basis-96">
        <div className="flex items-center gap-2">
          <Button onClick={() => onGo(-1)} aria-label="the day before">
            ‹
          </Button>
          <h1>{dateText(when)}</h1>
          <Button onClick={() => onGo(1)} aria-label="the day after">
            ›
          </Button>
        </div>
        <Week when={when} />
        {day?.plan ? (
          <p className="mt-1 text-soft">
            {day.plan.say} {day.plan.tightest}
            <span role="status" className="ml-2 text-slate">
              {day.plan.sure}
            </span>
          </p>
        ) : null}
      </div>
      <div className="flex flex-wrap gap-3 print:hidden">
        <Link
          className="flex min-h-11 items-center rounded-solid border border-line px-4 no-underline"
          to={`/k/${here.slug}/day/${when}/lists`}
        >
          What to pull and buy
        </Link>
        <DayMenu when={when} may={may} onRoom={() => onAdd("room")} onOther={() => onAdd({ other: null })} />
        {may ? (
          <>
            <Button onClick={() => onAdd({ want: null })}>Add to the day</Button>
            <Button look="solid" disabled={!day?.there || day.over || planning} onClick={onPlan}>
              {planning ? "Planning …" : "Plan it again from now"}
            </Button>
          </>
        ) : null}
      </div>
    </div>
  );
}

/** Why a step may not stand there, and how it stands there all the same. */
function MoveRefused({ refused, onLeave }: { refused: Refused; onLeave: () => void }) {
  return (
    <Wrong>
      <p>{refused.say}</p>
      <div className="mt-2 flex flex-wrap gap-3">
        {refused.anyway ? (
          <Button look="danger" onClick={refused.anyway}>
            Put it there all the same
          </Button>
        ) : null}
        <Button onClick={() => onLeave()}>Leave it</Button>
      </div>
    </Wrong>
  );
}

interface AddingProps {
  adding: Addition;
  day: Day;
  when: string;
  onClose: () => void;
}

/** The sheet in which something is added to the day, or its room is changed. */
function Adding({ adding, day, when, onClose }: AddingProps) {
  if (adding === "room") return <RoomSheet day={day} when={when} onClose={onClose} />;
  if ("want" in adding) return <WantSheet when={when} want={adding.want} onClose={onClose} />;
  if ("anew" in adding) return <WantSheet when={when} want={null} promised={adding.anew} onClose={onClose} />;
  return <OtherSheet when={when} other={adding.other} onClose={onClose} />;
}

function Wrong({ children }: { children: React.ReactNode }) {
  return (
    <div className="mt-3">
      <Notice tone="wrong">{children}</Notice>
    </div>
  );
}

/** What a day is for, and where the next one with something on it is. */
function NothingWanted({ when, may, onAdd }: { when: string; may: boolean; onAdd: () => void }) {
  return (
    <Empty title="Nothing is wanted on this day yet">
      <p>
        Say which dishes there are, for how many, at what time; what is on the shelf is used first, what is
        missing is planned, so that no two sauces need the same hands.
      </p>
      <Nearest when={when} />
      {may ? (
        <Button look="solid" className="mt-4" onClick={onAdd}>
          Add the first dish
        </Button>
      ) : null}
    </Empty>
  );
}

/** The nearest day on which something is wanted. */
function Nearest({ when }: { when: string }) {
  const here = useHere();
  const days = useDays(here.slug, when);
  const rows = days.data?.days.filter((one) => one.wants > 0 && one.date !== when) ?? [];
  const next = rows.find((one) => one.date > when) ?? rows.at(-1);
  if (!next) return null;
  return (
    <p className="mt-2">
      <Link className="inline-flex min-h-11 items-center" to={`/k/${here.slug}/day/${next.date}`}>
        {dateText(next.date)}: {next.wants} wanted
      </Link>
    </p>
  );
}
