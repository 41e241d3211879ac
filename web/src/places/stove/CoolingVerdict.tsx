import type { ReactNode } from "react";
import type { CoolingPlan } from "../../api/live";
import { CoolingCurve } from "../../drawings/CoolingCurve";
import { Facts } from "../../kit/Facts";
import { fixed } from "../../kit/habits";
import { useUnits } from "../../kit/system";
import { inUnits, massText } from "../../kit/units";
import { hours } from "../../kit/when";

/** A cooling judged before it is done: in time or not, its curve, how much would pass, what helps. */
export function CoolingVerdict({ plan, children }: { plan: CoolingPlan; children?: ReactNode }) {
  const { system } = useUnits();
  const { rule } = plan;
  return (
    <div className="grid gap-3" role="status">
      <p
        className={`text-xl font-bold ${plan.sure ? "text-herb" : plan.passes ? "text-copper" : "text-brick"}`}
      >
        {plan.sure ? "✓ In time." : plan.passes ? "In time, but only just." : "Too slow."}{" "}
        <span className="font-normal text-iron">It {inUnits(plan.why, system)}.</span>
      </p>
      <CoolingCurve
        label={plan.passes ? "Cooling: in time" : "Cooling: too slow"}
        t_s={plan.t_s}
        core_c={plan.core_c}
        slow_c={plan.slow_c}
        quick_c={plan.quick_c}
        limits={plan.limits.map((one) => ({ limit_c: one.limit_c, at_s: one.due_s, kept: one.kept }))}
        system={system}
      />
      <dl className="grid grid-cols-[auto_minmax(0,1fr)] gap-x-6 gap-y-1">
        <dt className="text-soft">in each</dt>
        <dd>
          {massText(plan.each_g, system)}, {fixed(plan.depth_mm, 0)} mm deep
        </dd>
        <dt className="text-soft">at most</dt>
        <dd>
          {plan.greatest_depth_mm === null
            ? "no depth passes like this"
            : `${fixed(plan.greatest_depth_mm, 0)} mm, ${massText(plan.greatest_g ?? 0, system)} in all`}
        </dd>
        {plan.ice_g === null ? null : (
          <>
            <dt className="text-soft">ice</dt>
            <dd>
              <Facts
                of={[
                  `${massText(plan.ice_g, system)} to have at hand`,
                  plan.ice_gone_s !== null && `what is there is gone after ${hours(plan.ice_gone_s)}`,
                ]}
              />
            </dd>
          </>
        )}
      </dl>
      <Helps helps={plan.helps} />
      <p className="border-l-4 border-brick pl-3 text-sm">{rule.caution}</p>
      {children}
    </div>
  );
}

/** What would help, each with whether it is then in time. */
export function Helps({ helps }: { helps: CoolingPlan["helps"] }) {
  const { system } = useUnits();
  if (!helps.length) return null;
  return (
    <div>
      <h3 className="text-[1.1rem]">What helps</h3>
      <ul>
        {helps.map((one) => (
          <li key={one.say} className="flex justify-between gap-4 border-b border-dotted border-line py-1">
            <span className={one.passes ? "font-bold" : "text-soft"}>{inUnits(one.say, system)}</span>
            <Facts
              className={`shrink-0 ${one.passes ? "text-herb" : "text-brick"}`}
              of={[
                one.passes ? "✓ in time" : "still too slow",
                one.cold_s !== null && `cold after ${hours(one.cold_s)}`,
              ]}
            />
          </li>
        ))}
      </ul>
    </div>
  );
}
