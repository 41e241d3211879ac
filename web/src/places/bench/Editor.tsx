import { X } from "lucide-react";
import { type Dispatch, useMemo, useState } from "react";
import type { Problem } from "../../api/problem";
import { type Assessment, type Draft, type LineDraft, useLarder } from "../../api/queries";
import { WHENS, type When } from "../../contract/words";
import { Field, Wrong } from "../../kit/Field";
import { whenShown } from "../../kit/joins";
import { useUnits } from "../../kit/system";
import { TypedInput } from "../../kit/TypedInput";
import { typedMinutes } from "../../kit/typed";
import { mass, massText } from "../../kit/units";
import { AddLine } from "./AddLine";
import { Contents } from "./Contents";
import { type Change, type LineChange, since } from "./draft";
import { Gone, nameIn, Was } from "./SinceSaved";

interface Props {
  draft: Draft;
  /** The version this draft began as; null for a formula that is in no book yet. */
  saved: Draft | null;
  assessment: Assessment | undefined;
  problem: Problem | null;
  act: Dispatch<Change>;
}

/** The Slip while it is being written: any kitchen measure in, grams out. */
export function Editor({ draft, saved, assessment, problem, act }: Props) {
  const { system } = useUnits();
  const whole = problem?.at("lines");
  const changes = useMemo(() => (saved ? since(saved, draft) : null), [saved, draft]);
  const [shown, setShown] = useState<LineDraft["ingredient"] | null>(null);
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
            {...weighed(assessment, draft.lines.length, i)}
            error={problem?.below(`lines[${i}]`)}
            changed={changes?.lines[i] ?? null}
            act={act}
            onContents={() => setShown(line.ingredient)}
          />
        ))}
      </ul>
      {changes?.gone.map((line) => (
        <Gone key={JSON.stringify(line)} line={line} onBack={() => act({ do: "add", line })} />
      ))}
      <Contents ingredient={shown} onClose={() => setShown(null)} />
      {whole ? <Wrong>{whole}</Wrong> : null}
      <AddLine act={act} />
      <dl className="mt-3 flex justify-between text-lg">
        <dt className="text-soft">in all</dt>
        <dd className="tabular font-bold">{assessment ? massText(assessment.mass_g, system) : "–"}</dd>
      </dl>
    </div>
  );
}

/** What a line weighs in all its bowls, and when it joins, as the last answer has it. */
function weighed(assessment: Assessment | undefined, lines: number, index: number) {
  const slip = assessment?.slip ?? [];
  const mine = slip.filter((one) => one.line === index);
  const there = new Set(slip.map((one) => one.line)).size === lines && mine.length > 0;
  return {
    grams: there ? mine.reduce((sum, one) => sum + one.mass_g, 0) : undefined,
    usual: mine[0]?.when,
  };
}

interface LineProps {
  line: LineDraft;
  index: number;
  grams: number | undefined;
  usual: When | undefined;
  error: string | undefined;
  changed: LineChange | null;
  act: Dispatch<Change>;
  onContents: () => void;
}

function NoteOf({ name, note, onNote }: { name: string; note: string; onNote: (note: string) => void }) {
  const [open, setOpen] = useState(false);
  if (!open)
    return (
      <button
        type="button"
        className={`min-h-8 text-left text-sm text-soft ${note ? "basis-full" : ""}`}
        aria-label={note ? `Note on ${name}: ${note}; change` : `Write a note on ${name}`}
        onClick={() => setOpen(true)}
      >
        {note || <span className="underline decoration-dotted underline-offset-4">note</span>}
      </button>
    );
  return (
    <input
      className="mt-1 w-full basis-full text-sm"
      aria-label={`Note on ${name}`}
      maxLength={500}
      value={note}
      // biome-ignore lint/a11y/noAutofocus: it was just asked for
      autoFocus
      onChange={(event) => onNote(event.target.value)}
      onBlur={() => setOpen(false)}
      onKeyDown={(event) => event.key === "Enter" && setOpen(false)}
    />
  );
}

function EditorLine({ line, index, grams, usual, error, changed, act, onContents }: LineProps) {
  const { system } = useUnits();
  const larder = useLarder();
  const name = nameIn(larder.data, line);
  const shown = grams === undefined || error ? null : mass(grams, system);
  const when = line.when ?? usual ?? "in the pan";
  const note = (
    <NoteOf
      name={name}
      note={line.note ?? ""}
      onNote={(value) => act({ do: "line", index, part: "note", value })}
    />
  );
  return (
    <li
      className={`border-b border-dotted border-line py-2 ${changed ? "-ml-4 border-l-4 border-l-yolk pl-3" : ""}`}
    >
      <div className="grid grid-cols-[minmax(0,1fr)_auto_44px] items-center gap-x-2">
        <button
          type="button"
          aria-label={`What ${name} is made of`}
          className="min-w-0 py-1 text-left text-lg leading-tight break-words"
          onClick={onContents}
        >
          {name}
        </button>
        <span className="figure text-right text-[1.7rem] leading-none">
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
      <div className="flex flex-wrap items-center gap-x-3">
        <div className="w-[9.5rem]">
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
        <select
          aria-label={`When ${name} joins`}
          className="min-h-8 min-w-0 max-w-[10rem] border-0 bg-transparent py-0 pr-6 pl-0 text-sm text-soft underline decoration-dotted underline-offset-4"
          value={when}
          onChange={(event) => {
            act({ do: "line", index, part: "when", value: event.target.value });
            if (line.minutes != null) act({ do: "line", index, part: "minutes", value: null });
          }}
        >
          {WHENS.map((one) => (
            <option key={one} value={one}>
              {whenShown(one)}
            </option>
          ))}
        </select>
        {when === "infused" ? (
          <span className="flex items-center gap-1 text-sm text-soft">
            <TypedInput
              className="min-h-8 w-16 py-0 text-sm"
              aria-label={`Minutes that ${name} infuses`}
              placeholder="20"
              value={line.minutes ?? null}
              read={typedMinutes}
              onValue={(value) => act({ do: "line", index, part: "minutes", value })}
            />
            min
          </span>
        ) : null}
        {note}
      </div>
      {error ? <Wrong id={`line-${index}-error`}>{error}</Wrong> : null}
      {changed ? <Was changed={changed} /> : null}
    </li>
  );
}
