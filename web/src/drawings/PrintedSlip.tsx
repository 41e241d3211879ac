import { Fragment } from "react";
import { Facts } from "../kit/Facts";
import { listed } from "../kit/listed";
import type { UnitSystem } from "../kit/typed";
import { mass, massText } from "../kit/units";
import { about as aboutLine, laidOut, type SlipLine } from "./Slip";

interface Props {
  title: string;
  about: readonly string[];
  lines: readonly (SlipLine & { tare_g: number })[];
  signs: readonly string[];
  allergens: readonly string[];
  system: UnitSystem;
}

interface Planned {
  stages: readonly { stage: string; at_c: number | null; say: string }[];
  finish?: { additions: readonly { say: string }[] } | null;
}

/** What to wait for, and what joins when, in order. */
export function steps(plan: Planned): string[] {
  const additions = plan.finish?.additions.map((one) => one.say) ?? [];
  return plan.stages.flatMap((stage) =>
    stage.stage === "finish" ? additions : stage.at_c === null ? [] : [stage.say],
  );
}

/** The Slip on paper: one sheet, a box to tick, what the scale should show, what to wait for. */
export function PrintedSlip({ title, about, lines, signs, allergens, system }: Props) {
  const total = lines.reduce((sum, line) => sum + line.mass_g, 0);
  return (
    <section className="printed hidden print:block" aria-hidden="true">
      <h1>{title}</h1>
      <Facts of={about} />
      <table>
        <thead>
          <tr>
            <th />
            <th>weigh</th>
            <th className="right">amount</th>
            <th className="right">scale shows</th>
          </tr>
        </thead>
        {laidOut(lines).map(([laid, rows], _, bowls) => (
          <tbody key={laid}>
            {bowls.length > 1 ? (
              <tr>
                <th />
                <th colSpan={3}>{laid}</th>
              </tr>
            ) : null}
            {rows.map(({ line, place }) => {
              const { number, unit } = mass(line.mass_g, system);
              return (
                <tr key={place}>
                  <td className="box">☐</td>
                  <td>
                    {line.name}
                    <small>
                      <Facts inline of={aboutLine(line)} />
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
        ))}
      </table>
      <Facts
        of={[
          <Fragment key="total">
            in all <b>{massText(total, system)}</b>
          </Fragment>,
          allergens.length > 0 && `contains ${listed(allergens)}`,
        ]}
      />
      <ul>
        {signs.map((sign) => (
          <li key={sign}>{sign}</li>
        ))}
      </ul>
      <p>weighed by ____________________ checked by ____________________</p>
    </section>
  );
}
