import type { SlipLine } from "./Slip";
import { mass, massText, type UnitSystem } from "./units";

interface Props {
  title: string;
  about: string;
  lines: readonly (SlipLine & { tare_g: number })[];
  signs: readonly string[];
  allergens: readonly string[];
  system: UnitSystem;
}

/** The Slip on paper: one sheet, a box to tick, what the scale should show, what to wait for. */
export function PrintedSlip({ title, about, lines, signs, allergens, system }: Props) {
  const total = lines.reduce((sum, line) => sum + line.mass_g, 0);
  return (
    <section className="printed hidden print:block" aria-hidden="true">
      <h1>{title}</h1>
      <p>{about}</p>
      <table>
        <thead>
          <tr>
            <th />
            <th>weigh</th>
            <th className="right">amount</th>
            <th className="right">scale shows</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((line, i) => {
            const { number, unit } = mass(line.mass_g, system);
            return (
              // biome-ignore lint/suspicious/noArrayIndexKey: lines are told apart by their place
              <tr key={i}>
                <td className="box">☐</td>
                <td>
                  {line.name}
                  <small>
                    {line.amount}
                    {line.when === "off the heat" ? ", off the heat" : ""}
                    {line.note ? `, ${line.note}` : ""}
                  </small>
                </td>
                <td className="right figure">
                  {number} {unit}
                </td>
                <td className="right">{massText(line.tare_g, system)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p>
        in all <b>{massText(total, system)}</b>
        {allergens.length ? ` · contains ${allergens.join(", ")}` : ""}
      </p>
      <ul>
        {signs.map((sign) => (
          <li key={sign}>{sign}</li>
        ))}
      </ul>
      <p>weighed by ____________________ checked by ____________________</p>
    </section>
  );
}
