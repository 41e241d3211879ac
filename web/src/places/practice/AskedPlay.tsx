import { useEffect, useState } from "react";
import { useHere } from "../../api/here";
import type { Question } from "../../api/practice";
import { Spoon } from "../../drawings/Spoon";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { SelectBox } from "../../kit/SelectBox";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { typedGrams } from "../../kit/typed";
import { massText } from "../../kit/units";
import { Begin, type PlayProps } from "./Frame";
import { usePlayer } from "./usePlayer";

/** A question: one answer counts. */
export function AskedPlay({ attempt, question, onOver, onAgain }: PlayProps & { question: Question }) {
  const here = useHere();
  const { player, playing } = usePlayer(here.slug, attempt);
  const { running, ended } = playing;
  useEffect(() => {
    if (ended) onOver();
  }, [ended, onOver]);
  return (
    <div className="max-w-2xl">
      <h1>{attempt.name}</h1>
      <Begin attempt={attempt} player={player} playing={playing} onAgain={onAgain} />
      {running || ended ? (
        <>
          <p className="mt-2 text-lg">{attempt.tell}</p>
          {attempt.kind === "slip" ? (
            <SlipAsked question={question} onAnswer={(told) => player.act("answer", told)} />
          ) : attempt.kind === "scale" ? (
            <ScaleAsked question={question} onAnswer={(told) => player.act("answer", told)} />
          ) : (
            <SpoonsAsked question={question} onAnswer={(told) => player.act("answer", told)} />
          )}
        </>
      ) : null}
    </div>
  );
}

interface Asked {
  question: Question;
  onAnswer: (told: Record<string, number | string>) => void;
}

function SlipAsked({ question, onAnswer }: Asked) {
  const { system } = useUnits();
  const [line, setLine] = useState<number | null>(null);
  const [grams, setGrams] = useState("");
  const typed = typedGrams(grams, system);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (line !== null && typed !== null) onAnswer({ line, grams: typed });
      }}
    >
      <fieldset className="mt-3 border-y border-iron">
        <legend className="sr-only">Which line is wrong?</legend>
        {question.lines.map((one, i) => (
          <label
            key={one.name}
            className="flex min-h-11 items-center gap-3 border-b border-hair py-1 last:border-b-0"
          >
            <input
              type="radio"
              name="line"
              className="size-5"
              checked={line === i}
              onChange={() => setLine(i)}
            />
            <span className="figure w-28 text-right text-xl">{massText(one.grams, system)}</span>
            <span>{one.name}</span>
          </label>
        ))}
      </fieldset>
      <div className="mt-3 flex flex-wrap items-end gap-3">
        <div className="w-48">
          <TextBox
            label={system === "metric" ? "It should say, in grams" : "It should say, in ounces"}
            numeric
            value={grams}
            onChange={setGrams}
          />
        </div>
        <Button look="solid" type="submit" disabled={line === null || typed === null}>
          That is it
        </Button>
      </div>
    </form>
  );
}

function ScaleAsked({ question, onAnswer }: Asked) {
  const { system } = useUnits();
  const [typed, setTyped] = useState<Record<string, string>>({});
  const grams = question.wants.map(({ key }) => [key, typedGrams(typed[key] ?? "", system)] as const);
  const ready = grams.every(([, value]) => value !== null);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (ready) onAnswer(Object.fromEntries(grams.map(([name, value]) => [name, value ?? 0])));
      }}
    >
      <ul className="mt-3 border-y border-iron">
        {question.lines.map((line) => (
          <li key={line.name} className="flex items-baseline gap-3 border-b border-hair py-2 last:border-b-0">
            <span className="figure w-28 text-right text-xl">
              {line.yolks ? line.yolks : massText(line.grams, system)}
            </span>
            <Facts of={[line.name, line.yolks ? massText(line.grams, system) : null]} />
          </li>
        ))}
      </ul>
      <p className="mt-3 text-soft">With seven yolks of the same size:</p>
      <div className="mt-1 flex flex-wrap items-end gap-3">
        {question.wants.map(({ key, name }) => (
          <div key={key} className="w-44">
            <TextBox
              label={`${name}, ${system === "metric" ? "g" : "oz"}`}
              numeric
              value={typed[key] ?? ""}
              onChange={(value) => setTyped((before) => ({ ...before, [key]: value }))}
            />
          </div>
        ))}
        <Button look="solid" type="submit" disabled={!ready}>
          That is it
        </Button>
      </div>
    </form>
  );
}

function SpoonsAsked({ question, onAnswer }: Asked) {
  const [words, setWords] = useState<Record<string, string>>({});
  const options = question.words.map((word) => ({ value: word, shown: word }));
  const ready = question.wants.every(({ key }) => words[key]);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (ready) onAnswer(words);
      }}
    >
      <div className="mt-3 flex flex-wrap gap-8">
        {question.spoons.map((spoon, i) => {
          const name = question.wants[i]?.key ?? "";
          return (
            <div key={name} className="w-44">
              <Spoon
                film={{
                  film_mm: spoon.film_mm,
                  line: spoon.line,
                  word: `number ${i + 1}`,
                }}
                size={190}
              />
              <div className="mt-2">
                <SelectBox
                  label={`Spoon ${i + 1}`}
                  options={options}
                  none="which word?"
                  value={words[name] ?? ""}
                  onChange={(word) => setWords((before) => ({ ...before, [name]: word }))}
                />
              </div>
            </div>
          );
        })}
      </div>
      <Button look="solid" type="submit" className="mt-4" disabled={!ready}>
        Those are their names
      </Button>
    </form>
  );
}
