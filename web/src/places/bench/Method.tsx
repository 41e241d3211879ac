import type { Assessment, Stage } from "../../api/queries";
import { Facts } from "../../kit/Facts";
import { useUnits } from "../../kit/system";
import { inUnits, temperature } from "../../kit/units";
import { PictureOf } from "../../shared/PictureOf";

/** The eight stages, each with what to wait for and why. */
export function Method({ stages, finish }: { stages: readonly Stage[]; finish: Assessment["finish"] }) {
  const { system } = useUnits();
  return (
    <div>
      <h2 className="mb-2">The method</h2>
      <ol className="grid gap-x-8 sm:grid-cols-2 xl:grid-cols-3">
        {stages.map((stage) => (
          <li key={stage.stage} className="border-t border-hair py-3">
            <h3 className="flex justify-between gap-3 text-[1.1rem]">
              <span className="first-letter:uppercase">{stage.stage}</span>
              {stage.at_c === null ? null : <span className="figure">{temperature(stage.at_c, system)}</span>}
            </h3>
            <p className="mt-1">{inUnits(stage.say, system)}</p>
            <p className="mt-1 text-soft">{inUnits(stage.why, system)}</p>
            {stage.stage === "finish" && finish ? (
              <ol className="mt-2 list-decimal pl-5">
                {finish.additions.map((one) => (
                  <li key={`${one.kind} ${one.lines.join(" ")}`} className="py-1">
                    {inUnits(one.say, system)} <span className="text-soft">{inUnits(one.why, system)}</span>
                  </li>
                ))}
              </ol>
            ) : null}
            <Facts className="mt-1 text-sm text-soft" of={stage.ways ?? []} />
            {stage.cautions.map((caution) => (
              <p key={caution} className="mt-1 border-l-4 border-brick pl-2 text-sm">
                {inUnits(caution, system)}
              </p>
            ))}
          </li>
        ))}
      </ol>
    </div>
  );
}

interface RecipeProps {
  text: string;
  pictures: readonly string[];
}

/** The recipe that a formula was read from, as it was pasted or photographed. */
export function Recipe({ text, pictures }: RecipeProps) {
  if (!text) return null;
  return (
    <details className="max-w-3xl">
      <summary className="min-h-11 py-2">
        The recipe as it was {pictures.length ? "photographed" : "pasted"}
      </summary>
      {pictures.map((id) => (
        <PictureOf key={id} id={id} />
      ))}
      <p className="whitespace-pre-wrap break-words border border-hair bg-paper p-4">{text}</p>
    </details>
  );
}
