import { useState } from "react";
import type { Batch } from "../../api/queries";
import {
  COATS,
  type Coat,
  FINGER_LINES,
  type FingerLine,
  RIBBONS,
  SIEVES,
  type WayName,
  WOBBLES,
} from "../../contract/words";
import { coatText, Spoon } from "../../drawings/Spoon";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Facts } from "../../kit/Facts";
import type { Say } from "./stages";
import { TESTED } from "./ways";

const asIs = <T extends string>(words: readonly T[]) => words.map((word) => ({ value: word, shown: word }));

/** The test that this batch is given, in full. */
export function TestOf({ batch, say }: { batch: Batch; say: Say }) {
  if (batch.way === "sets") return <CupTest say={say} />;
  return batch.way === "mounds" ? <RibbonTest say={say} /> : <SpoonTest batch={batch} say={say} />;
}

/** One touch where everything is as it should be: test, sieve and the end of the stage. */
export function AsExpected({ batch, say }: { batch: Batch; say: Say }) {
  const hot = batch.plan.hot;
  const sieve = { stage: "test", kind: "sieve", sieve: "clean", note: "" } as const;
  const spoon = {
    stage: "test",
    kind: "spoon",
    coat: hot.word,
    finger_line: hot.line,
    note: "",
  } as const;
  const expected: Record<WayName, { marks: readonly Parameters<Say>[0][]; shown: readonly string[] }> = {
    coats: { marks: [spoon, sieve], shown: [hot.word, `the line ${hot.line}`, "sieve clean"] },
    boils: { marks: [spoon, sieve], shown: [hot.word, `the line ${hot.line}`, "sieve clean"] },
    mounds: { marks: [{ stage: "test", kind: "ribbon", what: "mounds", note: "" }], shown: ["it mounds"] },
    sets: {
      marks: [{ stage: "test", kind: "nudge", what: "wobbles like a coin", note: "" }],
      shown: ["wobbles like a coin"],
    },
  };
  const { marks, shown } = expected[batch.way];
  return (
    <Button
      look="iron"
      large
      className="flex flex-wrap items-center gap-x-4 justify-self-start text-left"
      onClick={() => {
        for (const mark of marks) say(mark);
        say({ stage: "test", kind: "done", note: "" });
      }}
    >
      As expected
      <Facts className="text-base font-normal" of={shown} />
    </Button>
  );
}

/** What falls from the whisk. */
function RibbonTest({ say }: { say: Say }) {
  return (
    <div>
      <h3 className="mb-2 text-[1.1rem]">Let it fall from the whisk</h3>
      <Choice
        label="What falls from the whisk"
        options={asIs(RIBBONS)}
        value={null}
        large
        onChange={(what) => say({ stage: "test", kind: "ribbon", what, note: "" })}
      />
    </div>
  );
}

/** What a nudged cup does. */
function CupTest({ say }: { say: Say }) {
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
function SpoonTest({ batch, say }: { batch: Batch; say: Say }) {
  const [coat, setCoat] = useState<Coat | null>(null);
  const [line, setLine] = useState<FingerLine | null>(null);
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
        <Choice label="The line" options={asIs(FINGER_LINES)} value={line} onChange={setLine} large />
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
