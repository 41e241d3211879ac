import { useEffect } from "react";
import { useHere } from "../../api/here";
import { useKeys } from "../../kit/keys";
import { useUnits } from "../../kit/system";
import { massText } from "../../kit/units";
import { Begin, Beside, Over, type PlayProps, Touch } from "./Frame";
import { Stirring } from "./Stirring";
import { usePlayer } from "./usePlayer";

const POURS = [
  { g_s: 8, shown: "In a thread", press: "1" },
  { g_s: 25, shown: "In a stream", press: "2" },
  { g_s: 150, shown: "All at once", press: "3" },
] as const;

/** A bowl of yolks that is whisked, and hot milk that is poured. */
export function BowlPlay({ attempt, onOver, onAgain }: PlayProps) {
  const here = useHere();
  const { system } = useUnits();
  const { player, playing, seconds } = usePlayer(here.slug, attempt);
  const { picture, running, ended } = playing;
  useEffect(() => {
    if (ended) onOver();
  }, [ended, onOver]);
  const can = (what: string) => running && picture.can.includes(what);
  const pour = (g_s: number) => {
    if (!running || !bowl || bowl.left_g <= 0) return;
    if (bowl.g_s > 0) player.act("stop");
    player.act("pour", { g_s });
  };
  const bowl = picture.bowl;
  useKeys([
    ...POURS.map(({ g_s, shown, press }) => ({
      press,
      does: `pour ${shown.toLowerCase()}`,
      run: () => pour(g_s),
    })),
    { press: "0", does: "stop pouring", run: () => can("stop") && player.act("stop") },
    { press: "i", does: "all back into the pan", run: () => can("back") && player.act("back") },
    { press: "escape", does: "give up", run: () => can("end") && player.act("end") },
  ]);
  if (!bowl || !picture.pan) return null;
  const full = bowl.poured_g + bowl.left_g;
  return (
    <div className="grid gap-x-8 gap-y-3 lg:grid-cols-[18rem_minmax(0,1fr)_17rem]">
      <Beside attempt={attempt} seconds={seconds} playing={playing} />
      <div className="min-w-0">
        <Over>
          <Begin attempt={attempt} player={player} playing={playing} onAgain={onAgain} />
          <Stirring player={player} pan={picture.pan} tells={picture.tells} over_steam running={running} />
        </Over>
      </div>
      <section aria-label="The milk" className="order-4 lg:order-3">
        <h2>The milk</h2>
        <Jug share={full > 0 ? bowl.left_g / full : 0} pours={bowl.g_s > 0} />
        <p>
          {massText(bowl.left_g, system)} left,{" "}
          {bowl.g_s > 0 ? `${massText(bowl.g_s, system)} a second` : "not pouring"}
        </p>
      </section>
      <div className="order-3 grid grid-cols-2 gap-3 lg:order-4 lg:col-span-3 lg:grid-cols-5">
        {POURS.map(({ g_s, shown, press }) => (
          <Touch
            key={press}
            shown={shown}
            press={press}
            look={bowl.g_s === g_s ? "iron" : "plain"}
            disabled={!running || bowl.left_g <= 0}
            onTouch={() => pour(g_s)}
          />
        ))}
        <Touch shown="Stop pouring" press="0" disabled={!can("stop")} onTouch={() => player.act("stop")} />
        <Touch
          shown="All back into the pan"
          press="i"
          look="soft"
          disabled={!can("back")}
          onTouch={() => player.act("back")}
        />
      </div>
    </div>
  );
}

function Jug({ share, pours }: { share: number; pours: boolean }) {
  const top = 92 - 70 * share;
  return (
    <svg
      viewBox="0 0 100 110"
      className="my-2 h-40"
      role="img"
      aria-label={`Jug, ${Math.round(100 * share)} % left`}
    >
      <path d={`M 22 ${top} L 78 ${top} L 74 96 L 26 96 Z`} fill="#fffdf8" stroke="#d8cfbb" />
      <path d="M 18 12 L 26 98 L 74 98 L 82 12 Z" fill="none" stroke="var(--color-iron)" strokeWidth="2" />
      <path d="M 82 26 q 18 4 12 26 q -4 16 -14 18" fill="none" stroke="var(--color-iron)" strokeWidth="3" />
      {pours ? <path d="M 18 14 q -12 20 -10 92" fill="none" stroke="#c8c3b8" strokeWidth="4" /> : null}
    </svg>
  );
}
