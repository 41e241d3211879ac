import { useEffect } from "react";
import type { Schemas } from "../../api/client";
import { useWallDay, type WallBatch } from "../../api/wall";
import { StandingRule } from "../../drawings/StandingRule";
import { Facts } from "../../kit/Facts";
import { useUnits } from "../../kit/system";
import { inUnits, temperature } from "../../kit/units";
import { hourOf, setZone } from "../../kit/when";
import { useAwake } from "../../shared/awake";
import { minutes, useTicking } from "../../shared/ticking";
import { Ahead } from "./Ahead";
import { isNight, useNow, useReloadAtNight } from "./hours";

const SILENT_MS = 15_000;
const MOST = 8;
const AGAIN_MS = 20_000;

interface Props {
  code: string;
  stove: Schemas["WallStove"];
  answeredAt: number;
  /** The last question was not answered. */
  away: boolean;
  say: (sentence: string, urgent: boolean) => void;
}

/** What everybody in the kitchen reads from where they stand: what is on, what is next, what must go today. */
export function Wall({ code, stove, answeredAt, away, say }: Props) {
  setZone(stove.zone);
  const now = useNow();
  const day = useWallDay(code);
  const awake = useAwake();
  const lost = away && now.getTime() - answeredAt > SILENT_MS;
  const batches = stove.batches;
  useReloadAtNight(now, stove.zone, batches.length === 0 && !away);
  const alarms = batches.flatMap((batch) => batch.alarms.map((alarm) => `${batch.name}: ${alarm.say}`));
  useAlarms(alarms, say);
  const { system } = useUnits();
  const dim = isNight(now, stove.zone) && batches.length === 0;
  return (
    <main
      id="main"
      className={`flex min-h-screen flex-col px-[3vw] py-[2vh] ${dim ? "brightness-[.35]" : ""}`}
      data-dim={dim || undefined}
    >
      <header className="flex items-baseline justify-between gap-4 border-b-[6px] border-copper pb-[1vh]">
        <h1 className="min-w-0 break-words text-[clamp(1.3rem,2.4vw,3rem)]">
          {stove.kitchen} <span className="font-sans font-normal text-soft">· {countOf(batches.length)}</span>
        </h1>
        <time className="figure text-[clamp(1.8rem,3.8vw,5rem)]">{hourOf(now.toISOString())}</time>
      </header>
      {lost ? (
        <p role="alert" className="bg-iron px-4 py-2 text-[clamp(1.2rem,2.2vw,3rem)] font-bold text-paper">
          Not connected since {hourOf(new Date(answeredAt).toISOString())}: watch the pans, not this screen.
        </p>
      ) : null}
      {alarms.map((alarm) => (
        <p
          key={alarm}
          role="alert"
          className="figure bg-brick px-4 py-[1.5vh] text-[clamp(1.6rem,4.2vw,6rem)] leading-tight text-paper motion-safe:animate-pulse"
        >
          {inUnits(alarm, system)}
        </p>
      ))}
      <ul className={lost ? "opacity-60" : ""} aria-label="On the stove">
        {batches.slice(0, MOST).map((batch) => (
          <Line key={batch.id} batch={batch} answeredAt={answeredAt} crowded={batches.length > 3} />
        ))}
      </ul>
      {batches.length > MOST ? (
        <p className="py-2 text-xl text-soft">And {batches.length - MOST} more on the stove.</p>
      ) : null}
      <Ahead day={day.data} />
      {awake ? null : (
        <p className="mt-auto pt-4 text-sm text-soft">
          This browser does not let a page keep its screen on: have the screen’s own settings do it.
        </p>
      )}
    </main>
  );
}

function countOf(count: number): string {
  if (count === 0) return "nothing on the stove";
  return count === 1 ? "one batch on" : `${count} batches on`;
}

/** Says each alarm when it comes up, and again while it stands. */
function useAlarms(alarms: readonly string[], say: Props["say"]) {
  const key = alarms.join("\n");
  useEffect(() => {
    if (!key) return;
    const all = () => {
      for (const one of key.split("\n")) say(one, true);
    };
    all();
    const timer = setInterval(all, AGAIN_MS);
    return () => clearInterval(timer);
  }, [key, say]);
}

const URGENT = 2;

function Line({ batch, answeredAt, crowded }: { batch: WallBatch; answeredAt: number; crowded: boolean }) {
  const { system } = useUnits();
  const left = useTicking(batch.seconds, batch.pace, answeredAt - batch.age_s * 1000);
  const urgent = batch.urgency >= URGENT;
  const figure = crowded ? "text-[clamp(1.8rem,4.4vw,6rem)]" : "text-[clamp(2rem,6.6vw,9rem)]";
  return (
    <li
      className={`grid grid-cols-[auto_minmax(0,1fr)_auto] items-center gap-x-[3vw] gap-y-1 border-b-2 border-iron md:grid-cols-[auto_minmax(0,1fr)_auto_minmax(22vw,auto)] ${crowded ? "py-[.8vh]" : "py-[2vh]"}`}
    >
      <StandingRule
        window={batch.window}
        boiling_c={batch.boiling_c ?? 100}
        stop_c={batch.stop_c ?? 82}
        celsius={batch.celsius}
        cools={batch.cools}
      />
      <div className="min-w-0">
        <h2 className="break-words text-[clamp(1.3rem,2.7vw,3.6rem)]">{batch.name}</h2>
        <p className={`text-[clamp(1rem,1.9vw,2.6rem)] ${urgent ? "font-bold" : ""}`}>
          {batch.say ? (
            inUnits(batch.say, system)
          ) : (
            <span className="inline-block first-letter:uppercase">{batch.stage}</span>
          )}
        </p>
        <Facts
          className="text-[clamp(.9rem,1.5vw,2rem)] text-soft"
          of={[batch.started_by, batch.where, `batch ${batch.number}`]}
        />
      </div>
      <p className={`figure whitespace-nowrap ${figure}`}>
        {batch.celsius === null ? "" : temperature(batch.celsius, system)}
      </p>
      <div className="col-span-3 text-right md:col-span-1">
        {left === null ? null : (
          <p className={`figure leading-none ${figure} ${urgent ? "text-copper" : ""}`}>{minutes(left)}</p>
        )}
        <p className="text-[clamp(.9rem,1.5vw,2rem)] text-soft">{inUnits(batch.then, system)}</p>
      </div>
    </li>
  );
}
