import { type KeyboardEvent, type PointerEvent, useCallback, useEffect, useRef, useState } from "react";
import type { Player } from "../../api/player";
import type { PanSeen } from "../../api/practice";
import { PanDrawing, type TrailPoint } from "./PanDrawing";
import { type Place, spiral } from "./panShapes";

const POINT_EVERY_MS = 50;
const TRAIL_POINTS = 280;
const STEP = 0.16;

interface Props {
  player: Player;
  pan: PanSeen;
  tells: readonly string[];
  over_steam: boolean;
  running: boolean;
}

/**
 * The pan as the instrument: whoever draws in it stirs, with mouse, finger or keys. The space bar, or the
 * button for those who cannot hold a key, whisks round and round.
 */
export function Stirring({ player, pan, tells, over_steam, running }: Props) {
  const [trail, setTrail] = useState<readonly (Place & { at_ms: number })[]>([]);
  const [whisk, setWhisk] = useState<Place | null>(null);
  const [round, setRound] = useState(false);
  const [held, setHeld] = useState(false);
  const last = useRef(0);
  const to = useCallback(
    (place: Place) => {
      const now = performance.now();
      if (!running || now - last.current < POINT_EVERY_MS - 5) return;
      last.current = now;
      player.act("stir", { x: short(place.x), y: short(place.y) });
      setWhisk(place);
      setTrail((before) => [...before.slice(-TRAIL_POINTS), { ...place, at_ms: now }]);
    },
    [player, running],
  );
  const going = running && (round || held);
  useEffect(() => {
    if (!going) return;
    const timer = setInterval(() => to(spiral(performance.now() / 1000)), POINT_EVERY_MS);
    return () => {
      clearInterval(timer);
      player.act("rest");
    };
  }, [going, to, player]);
  const draw = (event: PointerEvent<HTMLDivElement>) => {
    const place = placeOf(event);
    if (place) to(place);
  };
  const key = (event: KeyboardEvent) => {
    const moves: Record<string, Place> = {
      ArrowLeft: { x: -STEP, y: 0 },
      ArrowRight: { x: STEP, y: 0 },
      ArrowUp: { x: 0, y: STEP },
      ArrowDown: { x: 0, y: -STEP },
    };
    const move = moves[event.key];
    if (event.key !== " " && !move) return;
    event.preventDefault();
    if (event.key === " ") setHeld(true);
    else if (move) to(inside({ x: (whisk?.x ?? 0) + move.x, y: (whisk?.y ?? 0) + move.y }));
  };
  const now = performance.now();
  const aged: TrailPoint[] = trail.map((point) => ({
    x: point.x,
    y: point.y,
    age_s: (now - point.at_ms) / 1000,
  }));
  return (
    <div>
      {/* biome-ignore lint/a11y/useSemanticElements: a pan is no fieldset */}
      <div
        role="group"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: keys stir in it
        tabIndex={0}
        aria-label="The pan: hold the space bar to whisk all over, arrow keys move the whisk"
        aria-keyshortcuts="Space ArrowLeft ArrowRight ArrowUp ArrowDown"
        className="mx-auto max-w-[min(100%,58vh)] cursor-crosshair touch-none select-none rounded-full"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          draw(event);
        }}
        onPointerMove={(event) => (event.buttons > 0 || event.pointerType === "touch") && draw(event)}
        onPointerUp={() => player.act("rest")}
        onKeyDown={key}
        onKeyUp={(event) => event.key === " " && setHeld(false)}
        onBlur={() => setHeld(false)}
      >
        <PanDrawing
          pan={pan}
          label={`The pan from above: ${tells.join(", ") || "nothing to see yet"}`}
          over_steam={over_steam}
          trail={aged}
          whisk={whisk}
        />
      </div>
      <div className="mt-2 flex flex-wrap items-center justify-center gap-x-4 gap-y-1">
        <p className={running ? "text-soft" : "invisible"}>
          Draw in the pan to stir. A spot you leave alone cooks on its own.
        </p>
        <button
          type="button"
          aria-pressed={round}
          disabled={!running}
          onClick={() => setRound((before) => !before)}
          className="min-h-11 rounded-solid border border-line px-4 aria-pressed:border-iron aria-pressed:bg-iron aria-pressed:text-paper disabled:opacity-55"
        >
          {round ? "stop whisking" : "whisk round"}
        </button>
      </div>
    </div>
  );
}

function placeOf(event: PointerEvent<HTMLDivElement>): Place | null {
  const box = event.currentTarget.getBoundingClientRect();
  if (box.width === 0) return null;
  // The drawing is 244 wide, the sauce in it 200.
  const scale = 244 / 200;
  return inside({
    x: ((event.clientX - box.left) / box.width - 0.5) * 2 * scale,
    y: -((event.clientY - box.top) / box.height - 0.5) * 2 * scale,
  });
}

function inside({ x, y }: Place): Place {
  const far = Math.hypot(x, y);
  return far <= 0.95 ? { x, y } : { x: (x / far) * 0.95, y: (y / far) * 0.95 };
}

function short(value: number): number {
  return Math.round(value * 1000) / 1000;
}
