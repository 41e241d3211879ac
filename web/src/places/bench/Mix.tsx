import { type Dispatch, useState } from "react";
import {
  type Details,
  type Handle,
  type HandleName,
  type MapAxes,
  useRatioMap,
  useTurn,
} from "../../api/bench";
import { useHere } from "../../api/here";
import { type Draft, useLarder } from "../../api/queries";
import { RatioMap } from "../../drawings/RatioMap";
import type { Cell, RatioMapGrid } from "../../drawings/ratioShapes";
import { coatText } from "../../drawings/Spoon";
import { Facts } from "../../kit/Facts";
import { fixed } from "../../kit/habits";
import { Loading, Notice } from "../../kit/Notice";
import { useSettled } from "../../kit/settled";
import { useUnits } from "../../kit/system";
import type { UnitSystem } from "../../kit/typed";
import { difference, massText, temperature } from "../../kit/units";
import { type Change, TURNED } from "./draft";

const RESTS_MS = 250;

interface Props {
  draft: Draft;
  formula: number | null;
  details: Details | undefined;
  act: Dispatch<Change>;
  good: boolean;
  epoch: number;
}

/** The ratio map, and the handles that turn the mix. */
export function Mix({ draft, formula, details, act, good, epoch }: Props) {
  const here = useHere();
  const { system } = useUnits();
  const larder = useLarder();
  const [axes, setAxes] = useState<MapAxes>({ x: "yolk", y: "starch" });
  const [dragging, setDragging] = useState(false);
  const [cell, setCell] = useState<Cell | null>(null);
  const { turn, problem, quick } = useTurn(here.slug, formula, epoch, (next) =>
    act({ do: "replace", draft: next, as: TURNED }),
  );
  // While a hand turns a handle its own quick map stands in; the whole one is asked for when the hand rests.
  const inHand = quick?.draft === draft && quick.axes === axes ? quick.map : null;
  const settled = useSettled(draft, RESTS_MS);
  const asked = useRatioMap(here.slug, inHand ? settled : draft, axes, good && !dragging);
  const whole = asked.isPlaceholderData || (inHand && settled !== draft) ? undefined : asked.data;
  const [seen, setSeen] = useState(asked.data);
  const map = whole ?? inHand ?? asked.data ?? seen;
  if (map && map !== seen) setSeen(map);
  const handles = details?.handles ?? [];
  const value = (name: HandleName) => handles.find((one) => one.name === name)?.value ?? 0;
  const names = handles.map((one) => one.name);
  return (
    <div className="grid gap-4">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
        <AxisSelect
          label="across"
          value={axes.x}
          names={names}
          not={axes.y}
          onChange={(x) => setAxes({ ...axes, x })}
        />
        <AxisSelect
          label="upward"
          value={axes.y}
          names={names}
          not={axes.x}
          onChange={(y) => setAxes({ ...axes, y })}
        />
        {map ? (
          <span className="text-sm text-soft">
            {map.boiled
              ? "each held at the boil"
              : `each in a pan, lifted at ${temperature(map.lift_c, system)}`}
          </span>
        ) : null}
      </div>
      {map ? (
        <RatioMap
          grid={map}
          here={[value(map.x_name), value(map.y_name)]}
          words={(larder.data?.words ?? []) as [number, string][]}
          system={system}
          onHover={setCell}
          onMove={(x, y, done) => {
            setDragging(!done);
            void turn({ draft, values: { [axes.x]: x, [axes.y]: y } });
          }}
        />
      ) : asked.isError && good ? (
        <Notice tone="wrong">{asked.error.message}</Notice>
      ) : (
        <Loading what="the map" />
      )}
      <div className="min-h-10 text-sm text-soft" aria-live="off">
        {cell && map ? (
          <Facts of={describe(cell, map, system, larder.data?.words)} />
        ) : (
          "Drag the dot, or move it with the arrow keys; hold shift for longer steps."
        )}
      </div>
      {problem ? <Notice tone="wrong">{problem.message}</Notice> : null}
      <div className="grid gap-x-8 gap-y-4 sm:grid-cols-2">
        {handles.map((handle) => (
          <Turner
            key={handle.name}
            handle={handle}
            details={details}
            onTurn={(wanted) => void turn({ draft, values: { [handle.name]: wanted }, map: axes })}
          />
        ))}
        {value("starch") > 0 ? (
          <label className="block">
            <span className="mb-1 block">Kind of starch</span>
            <select
              className="w-full"
              value=""
              onChange={(event) =>
                void turn({ draft, values: {}, starch_kind: event.target.value, map: axes })
              }
            >
              <option value="">swap for as much dry starch …</option>
              {larder.data?.starches.map((kind) => (
                <option key={kind} value={kind}>
                  {larder.data.ingredients.find((one) => one.id === kind)?.name ?? kind}
                </option>
              ))}
            </select>
          </label>
        ) : null}
      </div>
    </div>
  );
}

interface AxisProps {
  label: string;
  value: HandleName;
  names: readonly HandleName[];
  not: HandleName;
  onChange: (name: HandleName) => void;
}

function AxisSelect({ label, value, names, not, onChange }: AxisProps) {
  return (
    <label className="text-soft">
      <span className="mr-2">{label}</span>
      <select value={value} onChange={(event) => onChange(event.target.value as HandleName)}>
        {names
          .filter((name) => name !== not)
          .map((name) => (
            <option key={name}>{name}</option>
          ))}
      </select>
    </label>
  );
}

interface TurnerProps {
  handle: Handle;
  details: Details | undefined;
  onTurn: (value: number) => void;
}

/** One handle: a slider at once with the finger, and what one step of it does. */
function Turner({ handle, details, onTurn }: TurnerProps) {
  const { system } = useUnits();
  const [held, setHeld] = useState<number | null>(null);
  const shown = held ?? handle.value;
  const effects = details?.sensitivities.filter(
    (one) => one.handle === handle.name || (handle.name === "yolk" && one.handle === "eggs"),
  );
  const step = handle.name === "yolk" ? 1 : handle.name === "starch" ? 0.1 : 0.5;
  return (
    <div>
      <label className="block">
        <span className="flex items-baseline justify-between gap-2">
          <span className="first-letter:uppercase">{handle.name}</span>
          <span className="figure text-[1.15rem]">
            {fixed(shown, handle.name === "yolk" ? 0 : 1)}{" "}
            <span className="font-sans text-sm font-normal text-soft">{handle.unit}</span>
          </span>
        </span>
        <input
          type="range"
          className="handle w-full"
          min={Math.min(handle.low, handle.value)}
          max={handle.high}
          step={step}
          value={shown}
          onChange={(event) => {
            const wanted = Number(event.target.value);
            setHeld(wanted);
            onTurn(wanted);
          }}
          onPointerUp={() => setHeld(null)}
          onKeyUp={() => setHeld(null)}
          onBlur={() => setHeld(null)}
        />
      </label>
      {effects?.map((one) => (
        <Facts
          key={one.step}
          className="text-sm text-soft"
          of={[
            <span key="step" className="text-iron">
              {one.step}
            </span>,
            ...effect(one, system),
          ]}
        />
      ))}
    </div>
  );
}

/** What stands by itself has no coat to measure. */
const STAND = ["spoonable", "pipeable"];

function effect(one: Details["sensitivities"][number], system: UnitSystem): string[] {
  const said: string[] = [];
  const { nappe_k, curdles_k, coat_mm } = one;
  if (nappe_k !== null && Math.abs(nappe_k) >= 0.05) {
    const by = difference(Math.abs(nappe_k), system);
    said.push(nappe_k > 0 ? `nappe ${by} higher` : `nappe ${by} lower`);
  }
  if (STAND.includes(one.word)) {
    const by = fixed(Math.abs(one.firmer_percent), 0);
    if (Math.abs(one.firmer_percent) >= 1)
      said.push(one.firmer_percent > 0 ? `${by} % firmer` : `${by} % softer`);
  } else if (Math.abs(coat_mm) >= 0.01) {
    const by = fixed(Math.abs(coat_mm), 2);
    said.push(coat_mm > 0 ? `coat +${by} mm` : `coat −${by} mm`);
  }
  if (curdles_k !== null && Math.abs(curdles_k) >= 1) {
    const by = difference(Math.abs(curdles_k), system);
    said.push(curdles_k > 0 ? `curdles ${by} later` : `curdles ${by} sooner`);
  }
  return said.length ? said : ["nothing you could see"];
}

/** A spot of the map in words: what the spoon shows there, its window, and what to weigh for it. */
function describe(
  cell: Cell,
  map: RatioMapGrid,
  system: UnitSystem,
  words: readonly (readonly unknown[])[] | undefined,
): string[] {
  const word = words?.find(([end]) => cell.stress_pa < Number(end))?.[1] ?? "pipeable";
  return [
    `${massText(cell.x_g, system)} of ${map.x_name}`,
    `${massText(cell.y_g, system)} of ${map.y_name}`,
    String(word),
    coatText(cell.film_mm),
    cell.nappe_c === null ? "never coats" : `coats from ${temperature(cell.nappe_c, system)}`,
    cell.curdles_c === null ? "stands the boil" : `curdles at ${temperature(cell.curdles_c, system)}`,
  ];
}
