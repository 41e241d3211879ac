import { useState } from "react";
import type { Batch, NewMark } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { coatText, Spoon } from "../../kit/Spoon";
import type { Say } from "./stages";
import { TESTED, WOBBLES } from "./ways";

type Coat = NonNullable<NewMark["coat"]>;
type Line = NonNullable<NewMark["finger_line"]>;
type Sieve = NonNullable<NewMark["sieve"]>;

export const COATS: readonly Coat[] = [
  "runs off",
  "thin coat",
  "nappe",
  "heavy coat",
  "spoonable",
  "pipeable",
];
export const LINES: readonly Line[] = ["holds", "closes", "runs"];
const SIEVES: readonly Sieve[] = ["clean", "a few bits", "many bits"];
const asIs = <T extends string>(words: readonly T[]) => words.map((word) => ({ value: word, shown: word }));

/** What a nudged cup does. */
export function CupTest({ say }: { say: Say }) {
  return (
    <div>
      <h3 className="mb-2 text-[1.1rem]">Nudge a cup</h3>
      <Choice
        label="What the cup does"
        options={asIs(WOBBLES)}
        value={null}
        large
        onChange={(what) => say({ stage: "test", kind: "nudge", what, note: "" })}
      />
    </div>
  );
}

/** What the spoon and the sieve say, beside what was expected of them. */
export function SpoonTest({ batch, say }: { batch: Batch; say: Say }) {
  const [coat, setCoat] = useState<Coat | null>(null);
  const [line, setLine] = useState<Line | null>(null);
  const hot = batch.plan.hot;
  return (
    <div className="grid gap-5">
      <div className="flex items-center gap-4">
        <Spoon film={hot} size={110} />
        <p className="text-soft">
          Expected: <b className="text-iron">{hot.word}</b>, {coatText(hot.film_mm)}, the line {hot.line}.
        </p>
      </div>
      <div>
        <h3 className="mb-2 text-[1.1rem]">The coat</h3>
        <Choice label="The coat" options={asIs(COATS)} value={coat} onChange={setCoat} large />
      </div>
      <div>
        <h3 className="mb-2 text-[1.1rem]">The line drawn in it</h3>
        <Choice label="The line" options={asIs(LINES)} value={line} onChange={setLine} large />
      </div>
      <Button
        look="iron"
        large
        className="justify-self-start"
        disabled={coat === null || line === null}
        onClick={() => {
          if (coat === null || line === null) return;
          say({ stage: "test", kind: "spoon", coat, finger_line: line, note: "" });
          setCoat(null);
          setLine(null);
        }}
      >
        {TESTED[batch.way]}
      </Button>
      <div>
        <h3 className="mb-2 text-[1.1rem]">What stayed in the sieve</h3>
        <Choice
          label="The sieve"
          options={asIs(SIEVES)}
          value={null}
          onChange={(sieve) => say({ stage: "test", kind: "sieve", sieve, note: "" })}
          large
        />
      </div>
    </div>
  );
}
