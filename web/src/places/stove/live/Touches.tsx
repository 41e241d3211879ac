import { useState } from "react";
import { useRemedies } from "../../../api/live";
import type { Batch, NewMark } from "../../../api/queries";
import { Button } from "../../../kit/Button";
import { Choice } from "../../../kit/Choice";
import { useHere } from "../../../kit/here";
import { useKeys } from "../../../kit/keys";
import { Loading } from "../../../kit/Notice";
import { Sheet } from "../../../kit/Sheet";
import { useUnits } from "../../../kit/system";
import { massText } from "../../../kit/units";
import { COATS, LINES } from "../SpoonTest";
import type { SayAs } from "../stages";
import { COLD, OFF, TESTED, type Way, WOBBLES } from "../ways";

interface Props {
  batch: Batch;
  way: Way;
  probe_c: number | null;
  mayMark: boolean;
  say: SayAs;
}

/** The four large touches, and their keys. */
export function Touches({ batch, way, probe_c, mayMark, say }: Props) {
  const [sheet, setSheet] = useState<"test" | "wrong" | null>(null);
  const read = probe_c === null ? {} : { temperature_c: probe_c };
  const off = batch.marks.some((mark) => mark.kind === "off-heat");
  const out = batch.marks.some((mark) => mark.kind === "into-ice");
  const touches = [
    { press: "t", shown: TESTED[way], look: "quiet", run: () => setSheet("test"), done: false },
    {
      press: "o",
      shown: OFF[way],
      look: "iron",
      run: () => say({ stage: "cook", kind: "off-heat", note: "", ...read }),
      done: off,
    },
    {
      press: "i",
      shown: COLD[way],
      look: off && !out ? "iron" : "quiet",
      run: () => say({ stage: "chill", kind: "into-ice", note: "", ...read }),
      done: out,
    },
    { press: "w", shown: "Something’s wrong", look: "danger", run: () => setSheet("wrong"), done: false },
  ] as const;
  useKeys([
    ...(mayMark ? touches.map(({ press, shown, run }) => ({ press, does: shown.toLowerCase(), run })) : []),
    ...(mayMark
      ? [
          {
            press: " ",
            does: "mark this moment",
            run: () => say({ stage: "cook", kind: "moment", note: "", ...read }),
          },
        ]
      : []),
  ]);
  return (
    <>
      <div className="grid grid-cols-2 gap-2 sm:gap-3 lg:grid-cols-4">
        {touches.map((touch) => (
          <Button
            key={touch.press}
            look={touch.done ? "quiet" : touch.look}
            disabled={!mayMark || touch.done}
            className="flex min-h-[76px] flex-col items-center justify-center border-2 px-2 text-[1.35rem] leading-tight font-bold lg:min-h-[96px]"
            onClick={touch.run}
          >
            {touch.shown}
            <span aria-hidden="true" className="text-base font-normal">
              {touch.done ? "✓" : touch.press}
            </span>
          </Button>
        ))}
      </div>
      <Sheet open={sheet === "test"} onClose={() => setSheet(null)} title={TESTED[way]}>
        {way === "sets" ? (
          <Choice
            label="What the cup does"
            options={WOBBLES.map((word) => ({ value: word, shown: word }))}
            value={null}
            large
            onChange={(wobble) => {
              say({ stage: "test", kind: "nudge", what: wobble, note: "", ...read });
              setSheet(null);
            }}
          />
        ) : (
          <Tested
            onTested={(coat, finger_line) => {
              say({ stage: "test", kind: "spoon", coat, finger_line, note: "", ...read });
              setSheet(null);
            }}
          />
        )}
      </Sheet>
      <Sheet open={sheet === "wrong"} onClose={() => setSheet(null)} title="What do you see?">
        <Wrong
          batch={batch}
          onChosen={(fault) => say({ stage: batch.stage, kind: "wrong", note: fault, ...read })}
        />
      </Sheet>
    </>
  );
}

type Coat = NonNullable<NewMark["coat"]>;
type Line = NonNullable<NewMark["finger_line"]>;

/** Coat, then the line drawn in it: two touches. */
function Tested({ onTested }: { onTested: (coat: Coat, line: Line) => void }) {
  const [coat, setCoat] = useState<Coat | null>(null);
  return (
    <div className="grid gap-5">
      <div>
        <h3 className="mb-2 text-[1.1rem]">The coat</h3>
        <Choice
          label="The coat"
          options={COATS.map((word) => ({ value: word, shown: word }))}
          value={coat}
          onChange={setCoat}
          large
        />
      </div>
      <div>
        <h3 className="mb-2 text-[1.1rem]">The line drawn in it</h3>
        <Choice
          label="The line"
          options={LINES.map((word) => ({ value: word, shown: word }))}
          value={null}
          onChange={(line) => coat && onTested(coat, line)}
          large
        />
        {coat === null ? <p className="mt-2 text-soft">Choose the coat first.</p> : null}
      </div>
    </div>
  );
}

/** What can go wrong, and what to do about it with this very batch. */
function Wrong({ batch, onChosen }: { batch: Batch; onChosen: (fault: string) => void }) {
  const here = useHere();
  const { system } = useUnits();
  const remedies = useRemedies(here.slug, batch.id, true);
  const [chosen, setChosen] = useState<string | null>(null);
  if (remedies.isError) return <p role="alert">{remedies.error.message}</p>;
  if (!remedies.data) return <Loading what="what helps" />;
  const remedy = remedies.data.find((one) => one.fault === chosen);
  return (
    <div className="grid gap-4">
      <Choice
        label="What do you see?"
        options={remedies.data.map(({ fault }) => ({ value: fault, shown: fault.replaceAll("-", " ") }))}
        value={chosen}
        large
        onChange={(fault) => {
          setChosen(fault);
          onChosen(fault);
        }}
      />
      {remedy ? (
        <div role="status" className="grid gap-2 border-t border-hair pt-3 text-lg">
          <p className="font-bold">
            {
              { yes: "It can be saved.", perhaps: "Perhaps it can be saved.", no: "It cannot be saved." }[
                remedy.saved
              ]
            }
          </p>
          <ul className="list-disc pl-6">
            {remedy.steps.map((step) => (
              <li key={step}>{step}</li>
            ))}
            {remedy.add.map(({ name, grams }) => (
              <li key={name}>
                Weigh in <b>{massText(grams, system)}</b> of {name}.
              </li>
            ))}
          </ul>
          <p className="text-soft">{remedy.cause}</p>
        </div>
      ) : null}
    </div>
  );
}
