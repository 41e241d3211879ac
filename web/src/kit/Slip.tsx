import { Check, CheckCheck } from "lucide-react";
import { mass, massText, type UnitSystem } from "./units";

export interface SlipLine {
  name: string;
  amount: string;
  mass_g: number;
  note: string;
  when: string;
}

interface Props {
  lines: readonly SlipLine[];
  system: UnitSystem;
  ticked: readonly number[];
  /** Lines seen by a second pair of eyes; null when nothing is checked twice. */
  checked?: readonly number[] | null;
  onTick: ((line: number) => void) | null;
  tare_g: number;
}

/** The weigh-out: grams large, the amount as it was written beside them, a tick per line, the tare below. */
export function Slip({ lines, system, ticked, checked = null, onTick, tare_g }: Props) {
  const total = lines.reduce((sum, line) => sum + line.mass_g, 0);
  return (
    <div className="slip border border-hair bg-paper px-4 pt-4 pb-5">
      <h2 className="mb-2">The slip</h2>
      <ul>
        {lines.map((line, i) => {
          const { number, unit } = mass(line.mass_g, system);
          const done = ticked.includes(i);
          const twice = checked?.includes(i) ?? false;
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: a slip's lines are told apart by their place
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
                  <span className="block text-sm text-soft">
                    {line.amount}
                    {line.when === "off the heat" ? " · off the heat" : ""}
                    {line.note ? ` · ${line.note}` : ""}
                  </span>
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
      <dl className="mt-3 flex flex-wrap justify-between gap-x-6 text-lg">
        <div className="flex gap-3">
          <dt className="text-soft">on the scale</dt>
          <dd className="tabular font-bold">{massText(tare_g, system)}</dd>
        </div>
        <div className="flex gap-3">
          <dt className="text-soft">in all</dt>
          <dd className="tabular font-bold">{massText(total, system)}</dd>
        </div>
      </dl>
    </div>
  );
}
