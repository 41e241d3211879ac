const DAY_MS = 86_400_000;

/** A day as it is typed: "2026-11-30", "30.11.", "30/11/2026", "30 Nov", "today", "yesterday"; null where it is none. Without a year it is the last such day. */
export function typedDay(text: string, today: string): string | null {
  const typed = text.trim().toLowerCase();
  if (typed === "today") return today;
  if (typed === "yesterday") return dayOf(Date.parse(today) - DAY_MS);
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(typed);
  if (iso) return checked(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const named = /^(\d{1,2})[.\s]*(\p{L}{3,})[.\s]*(\d{4})?$/u.exec(typed);
  const figures = /^(\d{1,2})[./](\d{1,2})(?:[./](\d{4})?)?$/.exec(typed);
  const found = named ?? figures;
  if (!found) return null;
  const month = named ? monthOf(found[2] ?? "") : Number(found[2]);
  if (month === null) return null;
  const year = Number(found[3] ?? today.slice(0, 4));
  const day = checked(year, month, Number(found[1]));
  return day !== null && !found[3] && day > today ? checked(year - 1, month, Number(found[1])) : day;
}

function monthOf(word: string): number | null {
  const names = Array.from({ length: 12 }, (_, month) =>
    new Date(Date.UTC(2000, month, 15)).toLocaleString("en-GB", { month: "long", timeZone: "UTC" }),
  );
  const at = names.findIndex((name) => name.toLowerCase().startsWith(word));
  return at < 0 ? null : at + 1;
}

/** The day, where there is such a day. */
function checked(year: number, month: number, day: number): string | null {
  const text = dayOf(Date.UTC(year, month - 1, day));
  return Number(text.slice(5, 7)) === month && Number(text.slice(8)) === day ? text : null;
}

const dayOf = (at: number): string => new Date(at).toISOString().slice(0, 10);
