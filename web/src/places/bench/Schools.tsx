import { type Question, useFormulaActions } from "../../api/bench";
import { useHere } from "../../api/here";
import type { FormulaOut } from "../../api/queries";
import { Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { inUnits } from "../../kit/units";

interface Props {
  questions: readonly Question[];
  found: FormulaOut | null;
}

/** Where good cooks disagree: both schools with their reasons, and what each does to this mix. */
export function Schools({ questions, found }: Props) {
  const here = useHere();
  const { system } = useUnits();
  const { schools } = useFormulaActions(here.slug, found?.id ?? 0);
  const may = here.role === "chef" && found !== null;
  return (
    <>
      <h2>Where good cooks disagree</h2>
      <p className="mb-3 text-soft">
        {may
          ? "Choose how this kitchen makes it; the method and the next batch follow."
          : found
            ? "How this kitchen makes it; a chef chooses."
            : "Save it to the book, then choose how it is made."}
      </p>
      {schools.isError ? <Notice tone="wrong">{schools.error.message}</Notice> : null}
      <div className="grid gap-x-8 gap-y-5 sm:grid-cols-2">
        {questions.map((question) => {
          const chosen = found?.schools[question.question] ?? question.usual;
          return (
            <fieldset key={question.question} className="min-w-0 border-t border-hair pt-2">
              <legend className="figure pr-3 text-[1.1rem] first-letter:uppercase">{question.name}</legend>
              {question.schools.map((school) => (
                <label key={school.school} className="flex gap-3 py-1.5">
                  <input
                    type="radio"
                    className="mt-1 size-5 min-h-0 shrink-0"
                    name={question.question}
                    checked={chosen === school.school}
                    disabled={!may}
                    onChange={() => schools.mutate({ [question.question]: school.school })}
                  />
                  <span>
                    <span className={chosen === school.school ? "font-bold" : ""}>{school.name}</span>
                    {school.school === question.usual ? (
                      <span className="text-soft"> · we advise this</span>
                    ) : null}
                    <span className="block text-sm">{inUnits(school.consequence, system)}</span>
                    <span className="block text-sm text-soft">{school.reason}</span>
                  </span>
                </label>
              ))}
            </fieldset>
          );
        })}
      </div>
    </>
  );
}
