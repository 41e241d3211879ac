import { useEffect, useState } from "react";

const AGAIN_MS = 30_000;

/** Keeps the screen from going dark while it is on show; tells whether the device can. */
export function useAwake(): boolean {
  const [awake, setAwake] = useState(false);
  useEffect(() => {
    let lock: WakeLockSentinel | null = null;
    let gone = false;
    let again: ReturnType<typeof setTimeout> | undefined;
    const hold = async () => {
      if (document.visibilityState !== "visible" || !("wakeLock" in navigator)) return;
      try {
        lock = await navigator.wakeLock.request("screen");
        if (gone) void lock.release();
        else setAwake(true);
        lock.addEventListener("release", () => {
          setAwake(false);
          // Taken away by the device, to save power say: it is asked for again.
          if (!gone) again = setTimeout(hold, AGAIN_MS);
        });
      } catch {
        setAwake(false);
      }
    };
    void hold();
    document.addEventListener("visibilitychange", hold);
    return () => {
      gone = true;
      clearTimeout(again);
      document.removeEventListener("visibilitychange", hold);
      void lock?.release();
    };
  }, []);
  return awake;
}
