import { useEffect, useId, useState } from "react";
import { useHere } from "../../api/here";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Facts } from "../../kit/Facts";
import { Begin, Beside, type PlayProps, Touch } from "./Frame";
import { usePlayer } from "./usePlayer";

const WAYS = [
  { value: "ice-bath", shown: "ice and water" },
  { value: "ice-only", shown: "ice alone" },
  { value: "counter", shown: "the counter" },
  { value: "fridge", shown: "the fridge" },
] as const;

/** What is off the heat is laid somewhere, so deep, and the clock is let run. */
export function TubPlay({ attempt, onOver, onAgain }: PlayProps) {
  const here = useHere();
  const { player, playing, seconds } = usePlayer(here.slug, attempt);
  const { picture, running, ended } = playing;
  const [by, setBy] = useState<(typeof WAYS)[number]["value"]>("ice-bath");
  const [depth, setDepth] = useState(50);
  const [stirred, setStirred] = useState(false);
  const id = useId();
  useEffect(() => {
    if (ended) onOver();
  }, [ended, onOver]);
  const tub = picture.tub;
  if (!tub) return null;
  const lies = WAYS.find((way) => way.value === tub.by)?.shown ?? tub.by;
  return (
    <div className="grid gap-x-8 gap-y-3 lg:grid-cols-[18rem_minmax(0,1fr)_17rem]">
      <Beside attempt={attempt} seconds={tub.since_s || seconds} playing={playing}>
        <ul className="mt-2">
          {picture.so_far.map((one) => (
            <li key={one}>{one}</li>
          ))}
        </ul>
      </Beside>
      <div className="min-w-0">
        <Begin attempt={attempt} player={player} playing={playing} onAgain={onAgain} />
        <h2 className="mt-3">Lay it</h2>
        <div className="mt-2">
          <Choice label="What cools it" options={WAYS} value={by} onChange={setBy} />
        </div>
        <label htmlFor={id} className="mt-3 flex justify-between">
          <span className="text-soft">How deep</span>
          <span className="tabular font-bold">{depth} mm</span>
        </label>
        <input
          id={id}
          type="range"
          min={10}
          max={120}
          step={5}
          value={depth}
          onChange={(event) => setDepth(Number(event.target.value))}
          className="handle w-full"
        />
        <label className="mt-1 flex min-h-11 items-center gap-3">
          <input
            type="checkbox"
            className="size-5"
            checked={stirred}
            onChange={(event) => setStirred(event.target.checked)}
          />
          stirred all the while
        </label>
        <Button
          look="iron"
          className="mt-1"
          disabled={!running}
          onClick={() => player.act("chill", { by, depth_mm: depth, stirred: stirred ? "yes" : "" })}
        >
          Lay it so
        </Button>
      </div>
      <section aria-label="How it lies" className="min-w-0">
        <h2>How it lies</h2>
        <svg
          viewBox="0 0 200 140"
          className="my-2 w-full"
          role="img"
          aria-label={`${tub.depth_mm} mm deep, ${picture.tells.join(", ")}`}
        >
          <rect x="30" y={120 - tub.depth_mm} width="140" height={tub.depth_mm} fill="#f2d483" />
          <path d="M 26 8 V 122 H 174 V 8" fill="none" stroke="var(--color-iron)" strokeWidth="3" />
          <text x="100" y={130 - tub.depth_mm / 2 - 6} textAnchor="middle" fontSize="15">
            {tub.depth_mm} mm
          </text>
        </svg>
        <Facts of={[lies, `${tub.depth_mm} mm deep`, tub.stirred && "stirred"]} />
      </section>
      <div className="grid grid-cols-2 gap-3 lg:col-span-3 lg:grid-cols-4">
        <Touch
          shown="Ten minutes pass"
          press="1"
          disabled={!running}
          onTouch={() => player.act("wait", { s: 600 })}
        />
        <Touch
          shown="An hour passes"
          press="2"
          disabled={!running}
          onTouch={() => player.act("wait", { s: 3600 })}
        />
        <Touch
          shown="That is how it stays"
          press="i"
          look="iron"
          disabled={!running}
          onTouch={() => player.act("end")}
        />
      </div>
    </div>
  );
}
