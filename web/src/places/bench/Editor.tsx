import { X } from "lucide-react";
import { type Dispatch, useId } from "react";
import type { Problem } from "../../api/problem";
import { type Assessment, type Draft, type LineDraft, useLarder } from "../../api/queries";
import { Field, Wrong } from "../../kit/Field";
import { useUnits } from "../../kit/system";
import { mass, massText } from "../../kit/units";
import type { Change } from "./draft";

interface Props {
  draft: Draft;
  assessment: Assessment | undefined;
  problem: Problem | null;
  act: Dispatch<Change>;
}

/** The Slip while it is being written: any kitchen measure in, grams out. */
export function Editor({ draft, assessment, problem, act }: Props) {
  const { system } = useUnits();
  const whole = problem?.at("lines");
  return (
    <div className="slip border border-hair bg-paper px-4 pt-4 pb-5">
      <h2 className="mb-1">The slip</h2>
      <ul>
        {draft.lines.map((line, i) => (
          <EditorLine
            // biome-ignore lint/suspicious/noArrayIndexKey: a draft's lines are told apart by their place
            key={i}
            line={line}
            index={i}
            grams={assessment?.slip.length === draft.lines.length ? assessment.slip[i]?.mass_g : undefined}
            error={problem?.below(`lines[${i}]`)}
            act={act}
          />
        ))}
      </ul>
      {whole ? <Wrong>{whole}</Wrong> : null}
      <AddLine act={act} />
      <dl className="mt-3 flex justify-between text-lg">
        <dt className="text-soft">in all</dt>
        <dd className="tabular font-bold">{assessment ? massText(assessment.mass_g, system) : "–"}</dd>
      </dl>
    </div>
  );
}

interface LineProps {
  line: LineDraft;
  index: number;
  grams: number | undefined;
  error: string | undefined;
  act: Dispatch<Change>;
}

function EditorLine({ line, index, grams, error, act }: LineProps) {
  const { system } = useUnits();
  const larder = useLarder();
  const name =
    typeof line.ingredient === "string"
      ? (larder.data?.ingredients.find((one) => one.id === line.ingredient)?.name ?? line.ingredient)
      : line.ingredient.name;
  const shown = grams === undefined || error ? null : mass(grams, system);
  const later = line.when === "off the heat";
  return (
    <li className="border-b border-dotted border-line py-2">
      <div className="grid grid-cols-[minmax(0,1fr)_auto_44px] items-center gap-x-3">
        <div className="grid gap-x-3 gap-y-1 sm:grid-cols-[minmax(0,1fr)_9rem] sm:items-center">
          <div className="min-w-0">
            <span className="block break-words text-lg leading-tight">{name}</span>
            <button
              type="button"
              aria-pressed={later}
              aria-label={`${name}: ${later ? "off the heat" : "in the pan"}; change`}
              className="min-h-6 text-sm text-soft underline decoration-dotted underline-offset-4"
              onClick={() =>
                act({ do: "line", index, part: "when", value: later ? "in the pan" : "off the heat" })
              }
            >
              {later ? "off the heat" : "in the pan"}
            </button>
          </div>
          <Field label={`Amount of ${name}`} hideLabel>
            {(given) => (
              <input
                {...given}
                aria-invalid={Boolean(error)}
                aria-describedby={error ? `line-${index}-error` : undefined}
                className="w-full"
                value={line.amount}
                autoComplete="off"
                spellCheck={false}
                onChange={(event) => act({ do: "line", index, part: "amount", value: event.target.value })}
              />
            )}
          </Field>
        </div>
        <span className="figure min-w-[4.6rem] text-right text-[1.7rem]">
          {shown ? shown.number : "–"}
          <span className="ml-1 font-sans text-base text-soft">{shown?.unit ?? ""}</span>
        </span>
        <button
          type="button"
          className="grid size-11 place-items-center text-soft"
          aria-label={`Take out ${name}`}
          onClick={() => act({ do: "remove", index })}
        >
          <X size={20} aria-hidden="true" />
        </button>
      </div>
      {error ? <Wrong id={`line-${index}-error`}>{error}</Wrong> : null}
      {line.note ? <p className="mt-1 text-sm text-soft">{line.note}</p> : null}
    </li>
  );
}

const FIRST_AMOUNT: Record<string, string> = { yolk: "1", white: "1", egg: "1", pod: "1" };

function AddLine({ act }: { act: Dispatch<Change> }) {
  const id = useId();
  const larder = useLarder();
  const groups = new Map<string, { id: string; name: string }[]>();
  for (const thing of larder.data?.ingredients ?? [])
    groups.set(thing.group, [...(groups.get(thing.group) ?? []), thing]);
  const add = (ingredient: string) => {
    const thing = larder.data?.ingredients.find((one) => one.id === ingredient);
    if (!thing) return;
    const amount = FIRST_AMOUNT[thing.piece] ?? "10 g";
    act({ do: "add", line: { ingredient, amount, note: "", when: "in the pan" } });
  };
  return (
    <div className="mt-3">
      <label htmlFor={id} className="sr-only">
        Add an ingredient
      </label>
      <select id={id} className="w-full" value="" onChange={(event) => add(event.target.value)}>
        <option value="">Add an ingredient …</option>
        {[...groups].map(([group, things]) => (
          <optgroup key={group} label={group}>
            {things.map((thing) => (
              <option key={thing.id} value={thing.id}>
                {thing.name}
              </option>
            ))}
          </optgroup>
        ))}
      </select>
    </div>
  );
}
