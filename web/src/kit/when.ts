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
    ? { hour: "numeric", minute: "2-digit", hourCycle: "h12" }
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

/** The month of "2026-03" as it is written under a curve: "Mar". */
export function monthName(month: string): string {
  return shown(`${month}-15T12:00:00Z`, { month: "short" });
}

const DAY_MS = 24 * 3600 * 1000;
const NEAR: Record<number, string> = { "-1": "yesterday", 0: "today", 1: "tomorrow" };

/** The number of the day that a moment lies in by the kitchen's calendar: days are counted, as not all have 24 hours. */
function dayNumber(moment: string | Date): number {
  const [date, month, year] = shown(moment, { year: "numeric", month: "2-digit", day: "2-digit" }).split("/");
  return Date.UTC(Number(year), Number(month) - 1, Number(date)) / DAY_MS;
}

/** Today by the kitchen's calendar, as "2026-11-30". */
export function todayHere(): string {
  return new Date(dayNumber(new Date()) * DAY_MS).toISOString().slice(0, 10);
}

/** A day as a cook says it, with the hour while it is near: "today, 22:00", "tomorrow, 9:30", "Sat 28 Nov". */
export function when(iso: string, now: Date = new Date()): string {
  const word = NEAR[dayNumber(iso) - dayNumber(now)];
  return word ? `${word}, ${hourOf(iso)}` : day(iso);
}

/** "40 min" or "3 h 20" */
export function hours(seconds: number): string {
  const minutes = Math.round(seconds / 60);
  if (minutes < 100) return `${minutes}\u00a0min`;
  return `${Math.floor(minutes / 60)}\u00a0h\u00a0${String(minutes % 60).padStart(2, "0")}`;
}
