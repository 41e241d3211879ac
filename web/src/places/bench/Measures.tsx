import type { Details } from "../../api/bench";
import { useUnits } from "../../kit/system";
import { massText } from "../../kit/units";

const WORLDS = [
  ["metric", "metric"],
  ["us", "US"],
  ["imperial", "imperial"],
  ["au", "Australian"],
] as const;

/** The same slip as four kitchens would write it. */
export function Measures({ lines }: { lines: Details["measures"] }) {
  const { system } = useUnits();
  return (
    <details>
      <summary className="figure min-h-11 py-2 text-[1.3rem]">In other measures</summary>
      <div className="overflow-x-auto">
        <table className="w-full min-w-[560px] border-collapse text-left">
          <thead>
            <tr className="border-b border-iron text-soft">
              <th scope="col" className="py-2 pr-3 font-normal">
                ingredient
              </th>
              <th scope="col" className="py-2 pr-3 text-right font-normal">
                weighs
              </th>
              {WORLDS.map(([key, name]) => (
                <th key={key} scope="col" className="py-2 pr-3 font-normal">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {lines.map((line, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: lines are told apart by their place
              <tr key={i} className="border-b border-hair">
                <th scope="row" className="py-2 pr-3 font-normal">
                  {line.name}
                </th>
                <td className="tabular py-2 pr-3 text-right font-bold">{massText(line.mass_g, system)}</td>
                {WORLDS.map(([key]) => (
                  <td key={key} className="py-2 pr-3">
                    {line[key]}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
  );
}
