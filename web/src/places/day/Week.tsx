import { Link } from "react-router";
import { useDays } from "../../api/day";
import { useHere } from "../../api/here";
import { intoTheWeek } from "../../kit/habits";
import { dateOn, dateText } from "./times";

/** The week a day is in, beginning as the person's weeks do; a dot where something is wanted. */
export function Week({ when }: { when: string }) {
  const here = useHere();
  const days = useDays(here.slug, when);
  const wants = new Map(days.data?.days.map((one) => [one.date, one.wants]));
  const first = dateOn(when, -intoTheWeek(when));
  return (
    <nav aria-label="The week" className="mt-1 flex gap-1 print:hidden">
      {Array.from({ length: 7 }, (_, i) => dateOn(first, i)).map((date) => {
        const many = wants.get(date) ?? 0;
        const name = dateText(date);
        return (
          <Link
            key={date}
            to={`/k/${here.slug}/day/${date}`}
            aria-current={date === when ? "date" : undefined}
            className={`grid min-h-11 min-w-11 place-items-center border-b-4 text-sm leading-tight no-underline ${date === when ? "border-yolk font-bold" : "border-transparent text-soft"}`}
          >
            <span className="sr-only">{many ? `${name}, ${many} wanted` : name}</span>
            <span aria-hidden="true">
              {name.slice(0, 2)} {Number(date.slice(8))}
            </span>
            <span aria-hidden="true" className={many ? "" : "invisible"}>
              ●
            </span>
          </Link>
        );
      })}
    </nav>
  );
}
