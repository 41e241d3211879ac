/** Minutes of a day as a cook writes and reads them. */

import { timeOfDay } from "../../kit/habits";

const DAY_MIN = 1440;

/** 750 as "12:30"; what lies before or after the day says so. */
export function timeText(minute: number): string {
  const days = Math.floor(minute / DAY_MIN);
  const rest = minute - days * DAY_MIN;
  const shown = timeOfDay(Math.floor(rest / 60), rest % 60);
  if (days === 0) return shown;
  return days === 1 ? `${shown} next day` : days === -1 ? `${shown} day before` : `${shown}, day ${days + 1}`;
}

/** "12:30", "12.30", "1230", "9", "7:15 pm" or "+1 7:15" as minutes; null for what is no time. */
export function typedTime(text: string): number | null {
  const found = text.trim().match(/^(?:([+-][1-7])\s+)?(\d{1,2})(?:[:.,h]?([0-5]\d))?\s*([ap])?\.?m?\.?$/i);
  if (!found) return null;
  const [, days = "0", typed = "", minutes = "0", half] = found;
  const hours = half ? (Number(typed) % 12) + (half.toLowerCase() === "p" ? 12 : 0) : Number(typed);
  if (hours > 23 || (half && !(Number(typed) >= 1 && Number(typed) <= 12))) return null;
  return Number(days) * DAY_MIN + hours * 60 + Number(minutes);
}

/** A minute as it can be typed again. */
export function timeToType(minute: number): string {
  const days = Math.floor(minute / DAY_MIN);
  const rest = minute - days * DAY_MIN;
  const shown = timeOfDay(Math.floor(rest / 60), rest % 60);
  return days === 0 ? shown : `${days > 0 ? "+" : ""}${days} ${shown}`;
}

/** The date so many days on, as the API writes it. */
export function dateOn(when: string, days: number): string {
  const date = new Date(`${when}T12:00:00Z`);
  date.setUTCDate(date.getUTCDate() + days);
  return date.toISOString().slice(0, 10);
}

/** "Thursday 26 November" */
export function dateText(when: string): string {
  return new Intl.DateTimeFormat("en-GB", {
    weekday: "long",
    day: "numeric",
    month: "long",
    timeZone: "UTC",
  })
    .format(new Date(`${when}T12:00:00Z`))
    .replace(",", "");
}

/** Today by a kitchen's clock, as the API writes a date. */
export function todayIn(zone: string): string {
  return new Intl.DateTimeFormat("en-CA", { timeZone: zone }).format(new Date());
}
