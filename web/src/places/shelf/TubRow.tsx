import { Link, useNavigate } from "react-router";
import type { TubLine } from "../../api/shelf";
import { TubDrawing } from "../../drawings/TubDrawing";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { listed } from "../../kit/listed";
import { Menu, MenuAction, MenuBreak } from "../../kit/Menu";
import { useUnits } from "../../kit/system";
import { inUnits, mass, massText, temperature } from "../../kit/units";
import { when } from "../../kit/when";
import type { Doing, Kind } from "./Act";

interface Props {
  tub: TubLine;
  may: boolean;
  onDo: (doing: Doing) => void;
}

/** One tub: what it is, what is left in it, until when, for what, and what can be done with it. */
export function TubRow({ tub, may, onDo }: Props) {
  const { system } = useUnits();
  const navigate = useNavigate();
  const left = mass(tub.left_g, system);
  const look = tub.past
    ? "past"
    : tub.place === "frozen"
      ? "frozen"
      : tub.place === "warm"
        ? "warm"
        : "chilled";
  const act = (kind: Kind) => () => onDo({ tub, kind });
  const first = [`batch ${tub.batch}`, tub.part > 1 && `tub ${tub.part}`, listed(tub.allergens)];
  const stands = [
    tub.unheated.length > 0 && `not heated: ${listed(tub.unheated)}`,
    tub.place === "thawing" && "thawing",
    tub.warm_c !== null && tub.place === "warm" && `at ${temperature(tub.warm_c, system, 0)}`,
    tub.opened_at && "opened",
  ];
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-5 gap-y-1 border-b border-hair py-3 sm:gap-y-2 sm:grid-cols-[92px_minmax(0,1fr)_8rem] xl:grid-cols-[92px_minmax(0,1fr)_7rem_18rem_16rem]">
      <span className="hidden sm:block">
        <TubDrawing share={tub.made_g ? tub.left_g / tub.made_g : 0} look={look} />
      </span>
      <div className="min-w-0">
        <Link className="figure break-words text-[1.2rem] no-underline" to={`../stove/${tub.batch_id}`}>
          {tub.name}
        </Link>
        {/* A phone has room for what must be known before it is used; the rest is on the batch's page. */}
        <Facts className="text-sm text-soft sm:hidden" of={[...first, ...stands]} />
        <Facts
          className="text-sm text-soft max-sm:hidden"
          of={[...first, ...stands, tub.vessel, `made ${when(tub.made_at)} by ${tub.made_by}`]}
        />
        {tub.place === "fridge" && tub.stir[0] ? (
          <p className="text-sm text-soft max-sm:hidden">{inUnits(tub.stir[0], system)}</p>
        ) : null}
        {tub.vulnerable ? <p className="text-sm font-bold">for vulnerable guests</p> : null}
        {tub.rests && tub.ready_at ? (
          <p className="text-sm text-slate">
            {tub.ready_for === "churn"
              ? `churn from ${when(tub.ready_at)}, when it is cold right through`
              : `sets until ${when(tub.ready_at)}`}
          </p>
        ) : null}
      </div>
      <p className="tabular text-right">
        <span className="figure text-[1.5rem]">{left.number}</span> {left.unit}
        <span className="block text-sm text-soft">of {massText(tub.made_g, system)}</span>
      </p>
      <div className="col-span-2 min-w-0 sm:col-start-2 xl:col-span-1 xl:col-start-auto">
        <p className={`font-bold ${tub.past ? "text-brick" : tub.soon ? "text-copper" : ""}`}>
          {tub.undecided
            ? "✕ not to be used: "
            : tub.past
              ? `✕ past: ${when(tub.use_by)}`
              : tub.place === "frozen"
                ? `good until ${when(tub.use_by)}`
                : `use by ${when(tub.use_by)}`}{" "}
          <span
            className={`text-sm font-normal text-soft ${tub.past || tub.undecided ? "" : "max-sm:hidden"}`}
          >
            {inUnits(tub.use_by_why, system)}
          </span>
        </p>
        {tub.promises.map((one) => (
          <Facts
            key={one.id}
            className="text-sm"
            of={[`promised: ${massText(one.grams, system)} to ${one.dish}`, one.due_at && when(one.due_at)]}
          />
        ))}
      </div>
      <div className="col-span-2 flex flex-wrap gap-2 sm:col-start-2 xl:col-span-1 xl:col-start-auto xl:justify-end">
        {may ? (
          <>
            {tub.undecided ? (
              <Button onClick={() => navigate(`../stove/${tub.batch_id}?stage=keep`)}>Decide</Button>
            ) : tub.ready_for === "churn" && tub.place === "fridge" ? (
              <Button onClick={act("churned")}>Churn</Button>
            ) : (
              <Button onClick={act("used")}>Use</Button>
            )}
            {tub.past ? (
              <Button look="danger" onClick={act("thrown")}>
                Throw away
              </Button>
            ) : tub.place === "frozen" && tub.what !== "churned" ? (
              <Button onClick={act("out")}>Thaw</Button>
            ) : tub.place === "thawing" ? (
              <Button onClick={act("thawed")}>Thawed</Button>
            ) : tub.freezes ? (
              <Button onClick={act("frozen")}>Freeze</Button>
            ) : null}
          </>
        ) : null}
        <Menu label="More">
          {may ? (
            <>
              {tub.ready_for === "churn" && tub.place === "fridge" ? (
                <MenuAction onSelect={act("used")}>Use</MenuAction>
              ) : null}
              <MenuAction onSelect={act("promise")}>Promise to a dish</MenuAction>
              <MenuAction onSelect={act("split")}>Split</MenuAction>
              {tub.place === "fridge" && tub.what === "sauce" ? (
                <MenuAction onSelect={act("warm")}>Keep warm</MenuAction>
              ) : null}
              {tub.filmed ? null : <MenuAction onSelect={act("film")}>Film is on it</MenuAction>}
              <MenuAction onSelect={act("counted")}>Weighed again</MenuAction>
              <MenuAction onSelect={act("thrown")}>Throw away</MenuAction>
              <MenuBreak />
            </>
          ) : null}
          <MenuAction onSelect={() => navigate(`../trouble?tub=${tub.id}`)}>Something is wrong</MenuAction>
          <MenuAction onSelect={() => navigate(`labels?tub=${tub.id}`)}>Its label</MenuAction>
          <MenuAction onSelect={act("history")}>What was done with it</MenuAction>
        </Menu>
      </div>
    </li>
  );
}
