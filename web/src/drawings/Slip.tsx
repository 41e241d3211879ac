import { Check, CheckCheck } from "lucide-react";
import type { Laid } from "../contract/words";
import { Facts } from "../kit/Facts";
import { whenText } from "../kit/joins";
import type { UnitSystem } from "../kit/typed";
import { mass, massText } from "../kit/units";

export interface SlipLine {
  name: string;
  amount: string;
  mass_g: number;
  note: string;
  when: string;
  laid: Laid;
  share: number;
}

interface Props {
  lines: readonly SlipLine[];
  system: UnitSystem;
  ticked: readonly number[];
  /** Lines seen by a second pair of eyes; null when nothing is checked twice. */
  checked?: readonly number[] | null;
  onTick: ((line: number) => void) | null;
}

/** Lines by where they are laid out, each with its place on the slip. */
export function laidOut<T extends SlipLine>(lines: readonly T[]) {
  const places = new Map<Laid, { line: T; place: number }[]>();
  lines.forEach((line, place) => {
    places.set(line.laid, [...(places.get(line.laid) ?? []), { line, place }]);
  });
  return [...places];
}

/** The amount as it was written, how much of it goes here, when it joins, and the note. */
export function about(line: SlipLine): string[] {
  const part = line.share < 0.999 ? `${Math.round(100 * line.share)} % of ${line.amount}` : line.amount;
  return [part, whenText(line.when), line.note];
}

/** The weigh-out, bowl by bowl: grams large, the amount as it was written beside them, a tick per line, the tare. */
export function Slip(props: Props) {
  const { lines, system, ticked } = props;
  const total = lines.reduce((sum, line) => sum + line.mass_g, 0);
  const bowls = laidOut(lines);
  return (
    <div className="slip border border-hair bg-paper px-4 pt-4 pb-5">
      <h2 className="mb-2">The slip</h2>
      {bowls.map(([laid, rows]) => (
        <section key={laid} aria-label={laid} className="mb-3">
          {bowls.length > 1 ? (
            <h3 className="mt-3 flex items-baseline justify-between gap-3 border-b-2 border-iron pb-1 text-[1.1rem]">
              <span className="first-letter:uppercase">{laid}</span>
              <span className="tabular font-sans text-base text-soft">
                {massText(
                  rows.reduce((sum, { line, place }) => sum + (ticked.includes(place) ? line.mass_g : 0), 0),
                  system,
                )}{" "}
                of{" "}
                {massText(
                  rows.reduce((sum, { line }) => sum + line.mass_g, 0),
                  system,
                )}
              </span>
            </h3>
          ) : null}
          <Rows {...props} rows={rows} />
        </section>
      ))}
      <dl className="mt-3 flex justify-between gap-x-6 text-lg">
        <dt className="text-soft">in all</dt>
        <dd className="tabular font-bold">{massText(total, system)}</dd>
      </dl>
    </div>
  );
}

function Rows({
  rows,
  system,
  ticked,
  checked = null,
  onTick,
}: Props & { rows: readonly { line: SlipLine; place: number }[] }) {
  return (
    <ul>
      {rows.map(({ line, place: i }) => {
        const { number, unit } = mass(line.mass_g, system);
        const done = ticked.includes(i);
        const twice = checked?.includes(i) ?? false;
        return (
          <li key={i} className="border-b border-dotted border-line">
            <button
              type="button"
              aria-pressed={done}
              disabled={onTick === null}
              onClick={() => onTick?.(i)}
              className="flex min-h-14 w-full items-center gap-3 py-2 text-left"
            >
              <span
                aria-hidden="true"
                className={`grid size-7 shrink-0 place-items-center border-2 ${done ? "border-herb bg-herb text-paper" : "border-iron"}`}
              >
                {twice ? <CheckCheck size={20} /> : done ? <Check size={20} /> : null}
              </span>
              <span className="min-w-0 flex-1">
                <span className={`block break-words text-lg ${done ? "line-through decoration-1" : ""}`}>
                  {line.name}
                </span>
                <Facts className="text-sm text-soft" of={about(line)} />
                {checked && done ? (
                  <span className={`block text-sm ${twice ? "text-herb" : "text-copper"}`}>
                    {twice ? "checked twice" : "touch again to check"}
                  </span>
                ) : null}
              </span>
              <span className="figure shrink-0 text-[2rem]">
                {number}
                <span className="ml-1 font-sans text-base text-soft">{unit}</span>
              </span>
            </button>
          </li>
        );
      })}
    </ul>
  );
}
