/** Times as the kitchen's own clocks show them, wherever the screen is. */

import { habits } from "./habits";

let zone: string | undefined;

/** From now on times are shown in this zone. */
export function setZone(name: string): void {
  zone = name;
}

function shown(iso: string | Date, how: Intl.DateTimeFormatOptions): string {
  return new Intl.DateTimeFormat("en-GB", { ...how, timeZone: zone }).format(new Date(iso));
}

/** Hours as the person's clocks show them. */
function hourly(): Intl.DateTimeFormatOptions {
  return habits().clock === "12"
    ? { hour: "numeric", minute: "2-digit", hour12: true }
    : { hour: "2-digit", minute: "2-digit" };
}

export function clock(iso: string): string {
  return shown(iso, { ...hourly(), second: "2-digit" });
}

export function hourOf(iso: string): string {
  return shown(iso, hourly());
}

export function day(iso: string): string {
  return shown(iso, { weekday: "short", day: "numeric", month: "short" }).replace(",", "");
}

const DAY_MS = 24 * 3600 * 1000;

/** A day as a cook says it, with the hour while it is near: "today, 22:00", "tomorrow, 9:30", "Sat 28 Nov". */
export function when(iso: string, now: Date = new Date()): string {
  const dated = (moment: string | Date) =>
    shown(moment, { year: "numeric", month: "2-digit", day: "2-digit" });
  const days = [-1, 0, 1].find((far) => dated(iso) === dated(new Date(now.getTime() + far * DAY_MS)));
  const word = days === undefined ? undefined : { "-1": "yesterday", "0": "today", "1": "tomorrow" }[days];
  return word ? `${word}, ${hourOf(iso)}` : day(iso);
}

/** "40 min" or "3 h 20" */
export function hours(seconds: number): string {
  const minutes = Math.round(seconds / 60);
  if (minutes < 100) return `${minutes}\u00a0min`;
  return `${Math.floor(minutes / 60)}\u00a0h\u00a0${String(minutes % 60).padStart(2, "0")}`;
}
