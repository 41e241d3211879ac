import { useEffect, useId } from "react";
import { useHere } from "../../api/here";
import type { Player } from "../../api/player";
import type { Picture } from "../../api/practice";
import { Spoon } from "../../drawings/Spoon";
import { Button } from "../../kit/Button";
import { fixed } from "../../kit/habits";
import { useKeys } from "../../kit/keys";
import { useUnits } from "../../kit/system";
import { inUnits, massText, temperature } from "../../kit/units";
import { Begin, Beside, Over, type PlayProps, Touch } from "./Frame";
import { Stirring } from "./Stirring";
import { ThatDay } from "./ThatDay";
import { usePlayer } from "./usePlayer";

const CREAM_G = 50;
/** On a phone one below the other, the instrument first; else what can be told, the pan, the spoon. */
const PLAY_GRID =
  "grid gap-x-8 gap-y-3 lg:grid-cols-[18rem_minmax(0,1fr)_17rem] lg:grid-rows-[auto_1fr_auto]";

/** At the stove: the pan is drawn in, the flame is turned, the spoon is dipped, and it is lifted. */
export function PanPlay({ attempt, onOver, onAgain }: PlayProps) {
  const here = useHere();
  const { player, playing, seconds } = usePlayer(here.slug, attempt);
  const { picture, running, ended } = playing;
  useEffect(() => {
    if (ended) onOver();
  }, [ended, onOver]);
  const can = (what: string) => running && picture.can.includes(what);
  const act = (what: string, told: Record<string, number | string> = {}) => player.act(what, told);
  const flame = (to: number) => can("flame") && act("flame", { to: Math.min(10, Math.max(0, to)) });
  const heat = picture.can.includes("on") ? "on" : "off";
  const out = attempt.over_steam ? "Into the glasses" : "Through the sieve, into ice";
  const words = attempt.over_steam
    ? { off: "Off the steam", on: "Back on the steam" }
    : { off: "Off the heat", on: "Back on the heat" };
  const rescue = attempt.kind === "rescue";
  const mended = rescue && !picture.can.includes("out");
  useKeys([
    { press: "d", does: "dip the spoon", run: () => can("dip") && act("dip") },
    { press: "o", does: "off the heat, or back on it", run: () => can(heat) && act(heat) },
    {
      press: "i",
      does: "through the sieve, into ice",
      run: () => (mended ? can("end") && act("end") : can("out") && act("out")),
    },
    { press: "p", does: "let the probe in", run: () => can("probe") && act("probe") },
    ...(rescue
      ? [
          { press: "c", does: "cold cream", run: () => can("cream") && act("cream", { g: CREAM_G }) },
          { press: "b", does: "the blender", run: () => can("blend") && act("blend") },
          { press: "t", does: "throw it away", run: () => can("throw") && act("throw") },
        ]
      : []),
    { press: "-", does: "flame down", run: () => flame(picture.flame - 1) },
    { press: "+", does: "flame up", run: () => flame(picture.flame + 1) },
    { press: ".", does: "stop the clock, or go on", run: () => (running ? player.pause() : player.start()) },
    { press: "escape", does: "give up", run: () => can("end") && act("end") },
  ]);
  if (!picture.pan) return null;
  return (
    <div className={PLAY_GRID}>
      <div className="min-w-0">
        <Beside attempt={attempt} seconds={seconds} playing={playing} />
      </div>
      <div className="min-w-0 lg:col-start-2 lg:row-span-2 lg:row-start-1">
        <Over>
          <Begin attempt={attempt} player={player} playing={playing} onAgain={onAgain} />
          <Stirring
            player={player}
            pan={picture.pan}
            tells={picture.tells}
            over_steam={attempt.over_steam}
            running={running && picture.phase !== "away"}
          />
        </Over>
      </div>
      <div className={`grid grid-cols-2 gap-3 lg:col-span-3 ${rescue ? "lg:grid-cols-6" : "lg:grid-cols-4"}`}>
        <Touch shown="Dip the spoon" press="d" disabled={!can("dip")} onTouch={() => act("dip")} />
        <Touch shown={words[heat]} press="o" look="iron" disabled={!can(heat)} onTouch={() => act(heat)} />
        {mended ? (
          <Touch shown="It is mended" press="i" disabled={!can("end")} onTouch={() => act("end")} />
        ) : (
          <Touch shown={out} press="i" disabled={!can("out")} onTouch={() => act("out")} />
        )}
        {rescue ? (
          <Rescue player={player} can={can} />
        ) : (
          <Touch
            shown="Give up, show me"
            press="esc"
            look="soft"
            disabled={!can("end")}
            onTouch={() => act("end")}
          />
        )}
      </div>
      <div className="min-w-0 lg:col-start-1 lg:row-start-2">
        <Flame
          value={picture.flame}
          label={attempt.over_steam ? "The flame under the bath" : "The flame"}
          disabled={!can("flame")}
          onTurn={flame}
        />
        <Probe picture={picture} player={player} given={!picture.can.includes("probe")} may={can("probe")} />
        {attempt.that_day ? <ThatDay real={attempt.that_day} at_s={picture.at_s} /> : null}
      </div>
      <div className="min-w-0 lg:col-start-3 lg:row-span-2 lg:row-start-1">
        <Dipped picture={picture} />
        <section aria-label="So far" className="mt-3 border-t border-hair pt-2">
          <h2 className="text-base">So far</h2>
          <ul>
            {picture.so_far.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </section>
        <Button className="mt-3" disabled={!running} onClick={() => player.pause()}>
          Stop the clock
        </Button>
      </div>
    </div>
  );
}

function Rescue({ player, can }: { player: Player; can: (what: string) => boolean }) {
  const { system } = useUnits();
  return (
    <>
      <Touch
        shown={`${massText(CREAM_G, system)} of cold cream`}
        press="c"
        disabled={!can("cream")}
        onTouch={() => player.act("cream", { g: CREAM_G })}
      />
      <Touch shown="The blender" press="b" disabled={!can("blend")} onTouch={() => player.act("blend")} />
      <Touch
        shown="Throw it away"
        press="t"
        look="soft"
        disabled={!can("throw")}
        onTouch={() => player.act("throw")}
      />
    </>
  );
}

function Flame({
  value,
  label,
  disabled,
  onTurn,
}: {
  value: number;
  label: string;
  disabled: boolean;
  onTurn: (to: number) => void;
}) {
  const id = useId();
  return (
    <div className="border-t border-hair pt-2">
      <label htmlFor={id} className="flex justify-between">
        <span className="text-soft">{label}</span>
        <span className="tabular font-bold">
          {value === 0 ? "out" : `${fixed(value, value % 1 ? 1 : 0)} of 10`}
        </span>
      </label>
      <input
        id={id}
        type="range"
        min={0}
        max={10}
        step={0.5}
        value={value}
        disabled={disabled}
        onChange={(event) => onTurn(Number(event.target.value))}
        className="handle w-full"
      />
      <div className="flex justify-between text-sm text-soft" aria-hidden="true">
        <span>out</span>
        <span>full</span>
      </div>
    </div>
  );
}

function Probe({
  picture,
  player,
  given,
  may,
}: {
  picture: Picture;
  player: Player;
  given: boolean;
  may: boolean;
}) {
  const { system } = useUnits();
  if (picture.probe_c !== null && picture.probe_c !== undefined)
    return (
      <p className="mt-2">
        The probe reads <b className="tabular">{temperature(picture.probe_c, system)}</b>
      </p>
    );
  if (given) return null;
  return (
    <Button className="mt-2 w-full" disabled={!may} onClick={() => player.act("probe")}>
      Let the probe in: it costs ten points
    </Button>
  );
}

function Dipped({ picture }: { picture: Picture }) {
  const { system } = useUnits();
  const spoon = picture.spoon;
  if (!spoon)
    return (
      <section aria-label="The spoon">
        <h2>The spoon</h2>
        <p className="text-soft">Not dipped yet.</p>
      </section>
    );
  const ago = Math.max(0, Math.round(picture.at_s - spoon.at_s));
  return (
    <section aria-label="The spoon" aria-live="polite">
      <h2>The spoon, {ago} s ago</h2>
      <div className="mt-3 flex items-center gap-4">
        <Spoon film={{ film_mm: spoon.film_mm, line: spoon.line, word: spoon.word }} size={210} />
        <div>
          <p className="font-bold">{spoon.word}</p>
          <p>{inUnits(spoon.say, system)}</p>
        </div>
      </div>
    </section>
  );
}
