/** How the person at this screen reads figures. What they are is the same for everybody. */

export interface Habits {
  units: "metric" | "us";
  decimal: "point" | "comma";
  clock: "24" | "12";
  week: "monday" | "sunday" | "saturday";
}

export const USUAL: Habits = { units: "metric", decimal: "point", clock: "24", week: "monday" };

let now: Habits = USUAL;

/** From now on figures are written so. */
export function setHabits(habits: Habits): void {
  now = habits;
}

export const habits = (): Habits => now;

/** A number to so many places, with the person's own decimal sign. */
export function fixed(value: number, digits: number): string {
  return withOwnSign(value.toFixed(digits));
}

/** A number as it stands, with the person's own decimal sign. */
export function plain(value: number): string {
  return withOwnSign(String(value));
}

function withOwnSign(text: string): string {
  return now.decimal === "comma" ? text.replace(".", ",") : text;
}

/** A sentence from the server with figures and times of day ("{13:05 h}") as the person writes them. */
export function ownFigures(text: string): string {
  const timed = text.replace(/\{(\d{1,2}):(\d\d) h\}/g, (_all, hour: string, minute: string) =>
    timeOfDay(Number(hour), Number(minute)),
  );
  return now.decimal === "comma" ? timed.replace(/(\d)\.(?=\d)/g, "$1,") : timed;
}

/** A time of day, "13:05" or "1:05 pm". */
export function timeOfDay(hour: number, minute: number): string {
  const minutes = String(minute).padStart(2, "0");
  if (now.clock === "24") return `${hour}:${minutes}`;
  return `${hour % 12 === 0 ? 12 : hour % 12}:${minutes} ${hour < 12 ? "am" : "pm"}`;
}

const FIRST = { monday: 1, sunday: 0, saturday: 6 } as const;

/** How many days a date is into the person's week; `when` as the API writes a date. */
export function intoTheWeek(when: string): number {
  return (new Date(`${when}T12:00:00Z`).getUTCDay() - FIRST[now.week] + 7) % 7;
}

/** A figure that is shown without its sign, with it. */
export function signed(value: number, shown: string): string {
  return `${value < 0 ? "−" : "+"}${shown}`;
}
