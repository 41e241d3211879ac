import type { ReactNode } from "react";
import { Link } from "react-router";
import type { Player, Playing } from "../../api/player";
import type { Attempt } from "../../api/practice";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { inUnits, massText } from "../../kit/units";
import { clockText } from "./clock";

const ON_A_HOB = new Set(["stove", "rescue"]);

export interface PlayProps {
  attempt: Attempt;
  onOver: () => void;
  onAgain: () => void;
}

/** What every exercise has beside its instrument: its name, the clock, what can be told, and how to begin. */
export function Beside({
  attempt,
  seconds,
  playing,
  children,
}: {
  attempt: Attempt;
  seconds: number;
  playing: Playing;
  children?: ReactNode;
}) {
  const { system } = useUnits();
  return (
    <div className="min-w-0">
      <div className="flex items-baseline justify-between gap-4 lg:block">
        <div className="min-w-0">
          <h1>{attempt.name}</h1>
          <Facts
            className="text-soft max-lg:sr-only"
            of={[
              attempt.formula,
              ON_A_HOB.has(attempt.kind) && massText(attempt.grams, system),
              ON_A_HOB.has(attempt.kind) && (attempt.that_day ? "on its own hob" : "an unknown hob"),
            ]}
          />
        </div>
        <div>
          <p className="figure text-[2.4rem] leading-none lg:mt-1 lg:text-[3.4rem]" aria-hidden="true">
            {clockText(seconds)}
          </p>
          <p className="text-soft max-lg:sr-only">since it began</p>
        </div>
      </div>
      <Tells tells={playing.picture.tells} said={playing.picture.said} />
      {children}
    </div>
  );
}

/** The same signs as are drawn, in words; what is new is said to whoever listens. */
export function Tells({ tells, said }: { tells: readonly string[]; said: string }) {
  return (
    <section aria-label="What you can tell" className="mt-1 border-t border-hair pt-1 lg:mt-3 lg:pt-2">
      <h2 className="text-base max-lg:sr-only">What you can tell</h2>
      <ul
        className="flex flex-wrap gap-x-4 lg:ml-5 lg:block lg:list-disc"
        aria-live="polite"
        aria-relevant="additions"
      >
        {tells.map((tell) => (
          <li key={tell}>{tell}</li>
        ))}
      </ul>
      <p role="alert" className={said ? "mt-2 border-l-4 border-brick pl-3 font-bold" : ""}>
        {said}
      </p>
    </section>
  );
}

/** The instrument, and what lies over it until it is begun: nothing moves when it goes. */
export function Over({ children }: { children: ReactNode }) {
  return (
    <div className="grid *:col-start-1 *:row-start-1 [&>*:first-child:not(:only-child)]:z-10 [&>*:first-child:not(:only-child)]:self-center [&>*:first-child:not(:only-child)]:justify-self-center">
      {children}
    </div>
  );
}

/** Over the instrument until it is begun, and while time stands. */
export function Begin({
  attempt,
  player,
  playing,
  onAgain,
}: {
  attempt: Attempt;
  player: Player;
  playing: Playing;
  onAgain: () => void;
}) {
  const { system } = useUnits();
  if (playing.outOfStep)
    return (
      <Notice tone="wrong">
        {playing.trouble}{" "}
        <button type="button" className="underline" onClick={onAgain}>
          Show it as it stands
        </button>
      </Notice>
    );
  if (playing.running || playing.ended)
    return playing.trouble ? <Notice tone="wrong">{playing.trouble}</Notice> : null;
  const begun = attempt.after > 0 || playing.picture.at_s > 0;
  return (
    <section
      aria-label={begun ? "Time stands" : "Before you begin"}
      className="max-w-md border border-iron bg-paper p-4"
    >
      <p className="text-lg">{inUnits(attempt.tell, system)}</p>
      <p className="mt-1 text-soft">{attempt.why}</p>
      {attempt.again_s !== null ? (
        <p className="mt-1 text-soft">From {clockText(attempt.again_s)} on, on the same hob as before.</p>
      ) : null}
      <div className="mt-3 flex flex-wrap items-center gap-4">
        <Button look="solid" large onClick={() => player.start()}>
          {begun ? "Go on" : "Begin"}
        </Button>
        <Link to="../practice">Leave it for now</Link>
      </div>
    </section>
  );
}

/** One of the large touches at the foot. */
export function Touch({
  shown,
  press,
  look = "plain",
  disabled = false,
  onTouch,
}: {
  shown: string;
  press: string;
  look?: "plain" | "iron" | "soft";
  disabled?: boolean;
  onTouch: () => void;
}) {
  const looks = {
    plain: "border-iron bg-paper",
    iron: "border-iron bg-iron text-paper",
    soft: "border-line bg-transparent",
  } as const;
  return (
    <button
      type="button"
      disabled={disabled}
      onClick={onTouch}
      aria-keyshortcuts={press}
      className={`min-h-[72px] rounded-solid border-2 px-3 text-lg leading-tight font-bold disabled:opacity-45 ${looks[look]}`}
    >
      {shown}
      <span aria-hidden="true" className="block text-sm font-normal max-sm:hidden">
        {press}
      </span>
    </button>
  );
}
