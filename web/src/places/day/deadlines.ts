import type { Day } from "../../api/day";

/** What is wanted at one time, as one line across the board. */
export interface Due {
  key: string;
  at: number;
  say: string;
  late: boolean;
}

export function deadlines(day: Day): Due[] {
  const late = new Set(day.jobs.filter((job) => job.late_min > 0).flatMap((job) => job.wants));
  const wants = day.wants.map((want) => ({
    key: `want-${want.id}`,
    at: want.at,
    say: want.name,
    late: late.has(want.id),
  }));
  const works = day.jobs
    .filter((job) => job.due !== null && !job.wants.length && job.key.startsWith("work-"))
    .map((job) => ({ key: job.key, at: job.due as number, say: job.name, late: job.late_min > 0 }));
  const promised = day.promised.map((one) => ({
    key: `tub-${one.tub_id}-${one.dish}`,
    at: one.at,
    say: `${one.dish}, from the shelf`,
    late: one.past,
  }));
  const all = [...wants, ...works, ...promised].sort((one, other) => one.at - other.at);
  // What is wanted at one time is one line.
  const found: Due[] = [];
  for (const one of all) {
    const before = found.at(-1);
    if (before?.at === one.at)
      found[found.length - 1] = {
        ...before,
        say: `${before.say}, ${one.say}`,
        late: before.late || one.late,
      };
    else found.push(one);
  }
  return found;
}
