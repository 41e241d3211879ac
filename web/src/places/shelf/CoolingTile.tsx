import { Link } from "react-router";
import type { CoolingLine } from "../../api/shelf";
import { BAD, CoolingCurve } from "../../drawings/CoolingCurve";
import { Facts } from "../../kit/Facts";
import { listed } from "../../kit/listed";
import { useUnits } from "../../kit/system";
import { inUnits, massText, temperature } from "../../kit/units";
import { hours } from "../../kit/when";

/** A batch that cools: how warm in the middle, whether in time, and what still helps. */
export function CoolingTile({ one }: { one: CoolingLine }) {
  const { system } = useUnits();
  const { live } = one;
  const bad = live?.deadlines.some((each) => BAD.includes(each.state)) ?? false;
  return (
    <article className="grid gap-x-6 gap-y-2 sm:grid-cols-[minmax(0,15rem)_minmax(0,1fr)]">
      <div className="min-w-0">
        <h2 className="break-words">{one.name}</h2>
        <Facts
          className="text-sm text-soft"
          of={[
            `batch ${one.batch}`,
            one.mass_g !== null && massText(one.mass_g, system),
            one.vessel,
            one.way,
            listed(one.allergens),
          ]}
        />
        <p className={`figure text-[3.4rem] leading-none ${bad ? "text-brick" : ""}`}>
          <span className="sr-only">in the middle </span>
          {temperature(live?.core_c, system, 0)}
        </p>
        <p className={`font-bold ${bad ? "text-brick" : ""}`}>{inUnits(one.say, system)}</p>
        <ul className="text-sm" aria-label={`Limits of ${one.name}`}>
          {live?.deadlines.map((each) => (
            <li key={each.limit_c} className="tabular">
              <Facts
                inline
                of={[
                  `below ${temperature(each.limit_c, system, 0)}`,
                  each.state === "kept"
                    ? "✓ kept"
                    : each.left_s === null
                      ? "its clock has not begun"
                      : each.left_s - one.age_s > 0
                        ? `${hours(each.left_s - one.age_s)} left`
                        : "its time is up",
                  each.reached_s !== null &&
                    each.reached_s > one.age_s &&
                    each.state !== "missed" &&
                    `there in ${hours(each.reached_s - one.age_s)}`,
                ]}
              />
            </li>
          ))}
        </ul>
        <Facts
          className="text-sm text-soft"
          of={[
            inUnits(one.then, system),
            !one.filmed && "no film on it yet",
            live?.cold_s && live.cold_s > 0 ? `cold right through in ${hours(live.cold_s)}` : null,
          ]}
        />
        <Link
          className={`mt-2 inline-flex min-h-11 items-center rounded-solid border px-4 no-underline ${bad ? "border-iron bg-iron font-bold text-paper" : "border-line"}`}
          to={`../stove/${one.batch_id}`}
        >
          {bad ? "Decide what to do" : "Open the batch"}
        </Link>
      </div>
      {live ? (
        <CoolingCurve
          label={`${one.name}, cooling: ${temperature(live.core_c, system, 0)} now`}
          t_s={live.ahead_s.map((t) => t + live.t_s)}
          core_c={live.ahead_c}
          slow_c={live.slow_c}
          limits={live.deadlines.map((each) => ({
            limit_c: each.limit_c,
            at_s: each.left_s === null ? null : live.t_s + each.left_s,
            kept: !BAD.includes(each.state),
          }))}
          read={one.past_s.map((t, i) => [t, one.past_c[i] ?? 0] as const)}
          now_s={live.t_s}
          system={system}
          small
        />
      ) : (
        <p className="text-soft">It is followed from its first reading on: check it in the middle.</p>
      )}
    </article>
  );
}
