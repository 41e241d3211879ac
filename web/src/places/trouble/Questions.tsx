import { useState } from "react";
import type { Question, Said, Trouble } from "../../api/trouble";
import { Choice } from "../../kit/Choice";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { typedGrams } from "../../kit/typed";
import { inUnits, massInField } from "../../kit/units";

interface Props {
  told: Trouble;
  said: Said;
  onSay: (said: Said) => void;
  have: number | null;
  onHave: (grams: number | null) => void;
}

/** The two questions, what is known already filled in, and how much of it there is. */
export function Questions({ told, said, onSay, have, onHave }: Props) {
  const { system } = useUnits();
  return (
    <div className="grid gap-3 border-b-2 border-iron pb-4">
      {told.questions.map((question) => (
        <div key={question.question}>
          <h2 className="mb-2 text-[1.05rem]">{inUnits(question.ask, system)}</h2>
          <Choice
            label={inUnits(question.ask, system)}
            options={question.answers.map((answer, place) => ({
              value: String(place),
              shown: inUnits(answer.say, system),
            }))}
            value={question.guess === null ? null : String(question.guess)}
            onChange={(place) => onSay(answered(said, question, Number(place)))}
          />
          {question.guess !== null && !isSaid(said, question) ? (
            <p className="mt-1 text-sm text-soft">
              {told.sauce.read
                ? "As its curve and marks tell; touch another if it was not so."
                : "As is usual; touch another if it was not so."}
            </p>
          ) : null}
        </div>
      ))}
      <HowMuch told={told} have={have} onHave={onHave} />
    </div>
  );
}

function isSaid(said: Said, question: Question): boolean {
  return question.answers.some((answer) => Object.keys(answer.sets).some((name) => name in said));
}

/** What was said, with the answer of one question in place of what it was answered with before. */
function answered(said: Said, question: Question, place: number): Said {
  const names = new Set(question.answers.flatMap((answer) => Object.keys(answer.sets)));
  const kept = Object.fromEntries(Object.entries(said).filter(([name]) => !names.has(name)));
  return { ...kept, ...question.answers[place]?.sets };
}

function HowMuch({ told, have, onHave }: Pick<Props, "told" | "have" | "onHave">) {
  const { system } = useUnits();
  const [typed, setTyped] = useState<string | null>(null);
  const there = have ?? told.have_g;
  const shown = massInField(Math.round(there), system);
  const unit = system === "metric" ? "g" : "oz";
  const grams = typed === null ? null : typedGrams(typed, system);
  const empty = typed !== null && typed.trim() === "";
  const wrong = typed !== null && !empty && (grams === null || grams < 1 || grams > 1_000_000);
  return (
    <div className="flex flex-wrap items-center gap-x-3">
      <span aria-hidden="true" className="text-soft">
        How much of it is there, {unit}
      </span>
      <TextBox
        label={`How much of it is there, ${unit}`}
        hideLabel
        error={wrong ? "Write a weight as a number, as 650." : undefined}
        numeric
        className="tabular w-28"
        value={typed ?? shown}
        onChange={(next) => {
          setTyped(next);
          const read = typedGrams(next, system);
          if (next.trim() === "") onHave(null);
          else if (read !== null && read >= 1 && read <= 1_000_000) onHave(read);
        }}
      />
    </div>
  );
}
