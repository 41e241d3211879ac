import { useEffect, useState } from "react";
import { hours } from "../kit/when";

const TICK_MS = 200;

/** Seconds that are left, counted down here between two answers; `pace` is how fast the batch's time runs. */
export function useTicking(seconds: number | null, pace: number, answeredAt: number): number | null {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (seconds === null) return;
    const timer = setInterval(() => setNow(Date.now()), TICK_MS);
    return () => clearInterval(timer);
  }, [seconds]);
  if (seconds === null) return null;
  return Math.max(0, seconds - (Math.max(0, now - answeredAt) / 1000) * pace);
}

/** "0:42"; from an hour on "80 min" and "2 h 12". */
export function minutes(seconds: number): string {
  const whole = Math.round(seconds);
  if (whole >= 3600) return hours(whole);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}
