import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { useAwaySince } from "../api/contact";
import { when } from "../kit/when";

const AGAIN_MS = 6000;

/** Says since when the kitchen was not heard from, and asks again until it is. */
export function Away() {
  const since = useAwaySince();
  const cache = useQueryClient();
  const away = since !== null;
  useEffect(() => {
    if (!away) return;
    const again = () => void cache.refetchQueries({ queryKey: ["session"] });
    const timer = setInterval(again, AGAIN_MS);
    window.addEventListener("online", again);
    return () => {
      clearInterval(timer);
      window.removeEventListener("online", again);
      // It is heard again: what is on show may be of before. What is played goes on by itself.
      void cache.invalidateQueries({ predicate: (query) => !query.queryKey.includes("attempt") });
    };
  }, [away, cache]);
  if (since === null) return null;
  return (
    <p
      role="status"
      className="sticky top-0 z-30 border-b border-brick bg-brick-pale px-4 py-2 text-center text-brick print:hidden"
    >
      Not heard from the kitchen since {when(new Date(since).toISOString())}. What you see was kept on this
      device; what you mark waits on it.
    </p>
  );
}
