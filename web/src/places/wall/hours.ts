import { useEffect, useState } from "react";

const EVENING = 22;
const MORNING = 6;
const RELOAD_AT = 4;
const UP_AT_LEAST_MS = 2 * 3600 * 1000;

/** The time, to the second. */
export function useNow(): Date {
  const [now, setNow] = useState(() => new Date());
  useEffect(() => {
    const timer = setInterval(() => setNow(new Date()), 1000);
    return () => clearInterval(timer);
  }, []);
  return now;
}

/** The hour of the day in a zone, 0 to 23. */
export function hourIn(now: Date, zone: string): number {
  const shown = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", hourCycle: "h23", timeZone: zone });
  return Number(shown.format(now));
}

/** Whether a kitchen sleeps, by its own clock. */
export function isNight(now: Date, zone: string): boolean {
  const hour = hourIn(now, zone);
  return hour >= EVENING || hour < MORNING;
}

/** Loads the page again once a night while nothing is on: a screen that runs for weeks gets what is new of us. */
export function useReloadAtNight(now: Date, zone: string, idle: boolean) {
  const [since] = useState(() => Date.now());
  const due = idle && hourIn(now, zone) === RELOAD_AT && now.getTime() - since > UP_AT_LEAST_MS;
  useEffect(() => {
    if (due) location.reload();
  }, [due]);
}
