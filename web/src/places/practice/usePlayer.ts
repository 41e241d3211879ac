import { useEffect, useRef, useState, useSyncExternalStore } from "react";
import { EVERY_MS, Player } from "../../api/player";
import { type Attempt, sendActs } from "../../api/practice";

/** An attempt being played: its clock, its messages, and what there is to see. */
export function usePlayer(kitchen: string, attempt: Attempt) {
  const made = useRef<Player | null>(null);
  made.current ??= new Player(attempt.after, attempt.picture.at_s, attempt.picture, attempt.ended, {
    send: (body) => sendActs(kitchen, attempt.id, body),
    now: () => performance.now(),
  });
  const player = made.current;
  const playing = useSyncExternalStore(player.subscribe, player.snapshot);
  const [seconds, setSeconds] = useState(player.time());
  useEffect(() => {
    const timer = setInterval(() => {
      void player.tick();
      setSeconds(player.time());
    }, EVERY_MS);
    // A page nobody looks at cooks nothing.
    const hidden = () => document.hidden && player.pause();
    document.addEventListener("visibilitychange", hidden);
    return () => {
      clearInterval(timer);
      document.removeEventListener("visibilitychange", hidden);
    };
  }, [player]);
  return { player, playing, seconds };
}
