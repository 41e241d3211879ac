import { useState } from "react";
import { Link } from "react-router";
import { useHere } from "../../api/here";
import { type LogAsked, type LogLine, useLog } from "../../api/log";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { Field } from "../../kit/Field";
import { Empty, Failed, Loading } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import type { UnitSystem } from "../../kit/typed";
import { massText, temperature } from "../../kit/units";
import { day } from "../../kit/when";
import { useWide } from "../../kit/wide";
import { Find, useAsked } from "./Find";
import { VerdictWord } from "./VerdictWord";

const GRID = "lg:grid-cols-[2.75rem_minmax(0,1.5fr)_8rem_8rem_minmax(0,1fr)_7rem_minmax(0,1.2fr)]";
/** So many batches are laid over one another. */
const MOST = 8;
/** From here on there is room for what was planned beside what happened [px]. */
const WIDE_PX = 1024;
const HEADS = ["", "batch", "temper landed", "lifted", "spoon", "sieve", "verdict"] as const;

/** Every batch, what was planned beside what happened; found, and laid over one another. */
export function Log() {
  const here = useHere();
  const { system } = useUnits();
  const { asked, ask } = useAsked();
  const [before, setBefore] = useState<number | null>(null);
  const [ticked, setTicked] = useState<readonly number[]>([]);
  const log = useLog(here.slug, before === null ? asked : { ...asked, before });
  const wide = useWide(WIDE_PX);
  const lines = log.data?.lines ?? [];
  const tick = (id: number) =>
    setTicked((now) => (now.includes(id) ? now.filter((one) => one !== id) : [...now, id].slice(-MOST)));
  return (
    <>
      <div className="mb-4 flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
        <h1>The log of {here.name}</h1>
        <Link to={`/k/${here.slug}/log/months`} className="inline-flex min-h-11 items-center">
          Twelve months at a glance
        </Link>
        <DayRecord kitchen={here.slug} />
      </div>
      <Find
        asked={asked}
        onAsk={(next) => {
          setBefore(null);
          ask(next);
        }}
      />
      {log.isPending ? <Loading what="the log" /> : null}
      {log.isError ? <Failed sentence={log.error.message} again={() => void log.refetch()} /> : null}
      {log.data && lines.length === 0 ? <NothingHere asked={asked} /> : null}
      {lines.length ? (
        <>
          <div
            aria-hidden="true"
            className={`hidden gap-x-5 border-b border-iron pb-1 text-soft lg:grid ${GRID}`}
          >
            {HEADS.map((head) => (
              <span key={head}>{head}</span>
            ))}
          </div>
          <ul aria-busy={log.isFetching}>
            {lines.map((line) => (
              <Line
                key={line.id}
                line={line}
                system={system}
                wide={wide}
                ticked={ticked.includes(line.id)}
                onTick={() => tick(line.id)}
              />
            ))}
          </ul>
        </>
      ) : null}
      <div className="mt-4 flex gap-3">
        {before !== null ? <Button onClick={() => setBefore(null)}>Newest</Button> : null}
        {log.data?.before ? <Button onClick={() => setBefore(log.data.before)}>Earlier</Button> : null}
      </div>
      <ToOverlay kitchen={here.slug} ticked={ticked} onClear={() => setTicked([])} />
    </>
  );
}

function NothingHere({ asked }: { asked: LogAsked }) {
  if (Object.keys(asked).length)
    return (
      <Empty title="No such batch">
        <p>Nothing in the log is all of that. Ask for less.</p>
      </Empty>
    );
  return (
    <Empty title="Nothing logged yet">
      <p>Every batch taken to the stove is kept here, with its plan and what happened.</p>
    </Empty>
  );
}

/** The way to the curves of the batches that are ticked; it stays in sight while the list is read. */
function ToOverlay(props: { kitchen: string; ticked: readonly number[]; onClear: () => void }) {
  const { kitchen, ticked, onClear } = props;
  if (!ticked.length) return null;
  return (
    <div className="sticky bottom-(--places) z-20 -mx-4 mt-4 flex flex-wrap items-center gap-3 border-t border-iron bg-milk px-4 py-3">
      <span>
        {ticked.length} of at most {MOST} ticked
      </span>
      <Link
        to={`/k/${kitchen}/log/overlay?batches=${ticked.join(",")}`}
        className="inline-flex min-h-11 items-center rounded-solid bg-iron px-4 text-paper no-underline"
      >
        {ticked.length === 1 ? "Look at its curve" : "Lay them over one another"}
      </Link>
      <Button onClick={onClear}>None of them</Button>
    </div>
  );
}

/** The record of any day, as an inspector gets it. */
function DayRecord({ kitchen }: { kitchen: string }) {
  const [date, setDate] = useState("");
  const query = date ? `?day=${date}` : "";
  return (
    <div className="flex flex-wrap items-end gap-2">
      <Field label="The record of a day">
        {(given) => (
          <input {...given} type="date" value={date} onChange={(event) => setDate(event.target.value)} />
        )}
      </Field>
      {(["pdf", "csv", "json"] as const).map((kind) => (
        <a
          key={kind}
          className="flex min-h-11 items-center rounded-solid border border-line px-3 uppercase no-underline"
          href={`/api/k/${kitchen}/day/record.${kind}${query}`}
          target="_blank"
          rel="noreferrer"
        >
          {kind}
        </a>
      ))}
    </div>
  );
}

interface LineProps {
  line: LogLine;
  system: UnitSystem;
  wide: boolean;
  ticked: boolean;
  onTick: () => void;
}

function Line({ line, system, wide, ticked, onTick }: LineProps) {
  const about = (
    <Facts
      className="text-sm text-soft"
      of={[
        line.number,
        day(line.started_at),
        line.started_by,
        line.minutes ? `${Math.round(line.minutes)} min` : null,
        line.yield_g !== null && `came to ${massText(line.yield_g, system)}`,
        line.odd && "called odd",
      ]}
    />
  );
  const box = (
    <label className="flex min-h-11 w-11 items-center justify-center">
      <input
        type="checkbox"
        className="size-6"
        checked={ticked}
        onChange={onTick}
        aria-label={`Tick batch ${line.number}`}
      />
    </label>
  );
  if (wide)
    return (
      <li className={`grid gap-x-5 border-b border-hair hover:bg-paper ${GRID}`}>
        {box}
        <Link
          to={`../stove/${line.id}`}
          className="col-span-6 grid grid-cols-subgrid gap-y-1 py-2.5 no-underline"
        >
          <span className="min-w-0">
            <span className="figure block break-words text-[1.15rem]">{line.name}</span>
            {about}
          </span>
          <Happened line={line} system={system} />
        </Link>
      </li>
    );
  // On a phone and a tablet a batch is a line; the rest opens on touch.
  return (
    <li className="flex border-b border-hair">
      {box}
      <details className="min-w-0 flex-1">
        <summary className="flex min-h-12 items-center gap-3 py-1.5">
          <span className="figure min-w-0 flex-1 truncate text-[1.1rem]">{line.name}</span>
          <span className="shrink-0 text-sm text-soft">{day(line.started_at)}</span>
          <span className="shrink-0 text-sm">
            <Ended line={line} />
          </span>
        </summary>
        <div className="grid gap-2 pb-4 sm:grid-cols-2">
          {about}
          <Happened line={line} system={system} />
          <Link to={`../stove/${line.id}`} className="inline-flex min-h-11 items-center">
            The whole record
          </Link>
        </div>
      </details>
    </li>
  );
}

/** What happened beside what was planned. */
function Happened({ line, system }: { line: LogLine; system: UnitSystem }) {
  return (
    <>
      {line.temperatures.map((one) => (
        <Beside key={one.stage} name={one.target} fact={one.left_c} plan={one.planned_c} system={system} />
      ))}
      <span>
        <span className="text-soft lg:sr-only">spoon: </span>
        <Facts
          inline
          of={line.coat ? [line.coat, line.finger_line && `line ${line.finger_line}`] : ["not tested"]}
        />
        <span className="block text-sm text-soft">plan {line.planned_coat}</span>
      </span>
      <span>
        <span className="text-soft lg:sr-only">sieve: </span>
        {line.sieve || "–"}
      </span>
      <span className="min-w-0 break-words">
        <span className="text-soft lg:sr-only">verdict: </span>
        <Ended line={line} />
        {line.verdict_note ? <span className="block text-sm text-soft">{line.verdict_note}</span> : null}
      </span>
    </>
  );
}

function Ended({ line }: { line: LogLine }) {
  if (!line.verdict) return <span className="text-slate">on the stove: {line.stage}</span>;
  return <VerdictWord verdict={line.verdict} />;
}

interface BesideProps {
  name: string;
  fact: number | null;
  plan: number | null;
  system: UnitSystem;
}

function Beside({ name, fact, plan, system }: BesideProps) {
  return (
    <span className="tabular">
      <span className="text-soft lg:sr-only">{name}: </span>
      {temperature(fact, system)}
      <span className="block text-sm text-soft">
        {plan === null ? "no plan" : `plan ${temperature(plan, system)}`}
      </span>
    </span>
  );
}
