import { useState } from "react";
import { useNavigate } from "react-router";
import { useHere } from "../../../api/here";
import type { Batch, NewMark } from "../../../api/queries";
import { COATS, FINGER_LINES, RIBBONS, type WayName, WOBBLES } from "../../../contract/words";
import { Button } from "../../../kit/Button";
import { Choice } from "../../../kit/Choice";
import { useKeys } from "../../../kit/keys";
import { Sheet } from "../../../kit/Sheet";
import { lastOff } from "../facts";
import type { SayAs } from "../stages";
import { BACK_ON, COLD, OFF, TESTED } from "../ways";

interface Props {
  batch: Batch;
  way: WayName;
  probe_c: number | null;
  mayMark: boolean;
  say: SayAs;
}

/** A second touch this soon is the same one [ms]. */
const TWICE_MS = 3000;

/** The four large touches, and their keys. */
export function Touches({ batch, way, probe_c, mayMark, say }: Props) {
  const [sheet, setSheet] = useState<"test" | null>(null);
  const here = useHere();
  const navigate = useNavigate();
  const read = probe_c === null ? {} : { temperature_c: probe_c };
  const last = lastOff(batch);
  const off = last?.kind === "off-heat";
  // A bowl goes off the steam and back on it as one whisks; a pan comes off once.
  const steamed = way === "mounds";
  const out = batch.marks.some((mark) => mark.kind === "into-ice");
  const touches = [
    { press: "t", shown: TESTED[way], look: "quiet", run: () => setSheet("test"), done: false },
    {
      press: "o",
      shown: off && steamed ? BACK_ON[way] : OFF[way],
      look: off ? "quiet" : "iron",
      run: () => {
        if (off && (!steamed || Date.now() - Date.parse(last.at) < TWICE_MS)) return;
        say({ stage: "cook", kind: off ? "back-on" : "off-heat", note: "", ...read });
      },
      done: off && !steamed,
    },
    {
      press: "i",
      shown: COLD[way],
      look: off && !out ? "iron" : "quiet",
      run: () => say({ stage: "chill", kind: "into-ice", note: "", ...read }),
      done: out,
    },
    {
      press: "w",
      shown: "Something’s wrong",
      look: "danger",
      run: () => navigate(`/k/${here.slug}/trouble?batch=${batch.id}`),
      done: false,
    },
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
      <div className="grid grid-cols-2 gap-2 sm:gap-3 md:grid-cols-4 across:grid-cols-2!">
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
        ) : way === "mounds" ? (
          <Choice
            label="What falls from the whisk"
            options={RIBBONS.map((word) => ({ value: word, shown: word }))}
            value={null}
            large
            onChange={(ribbon) => {
              say({ stage: "test", kind: "ribbon", what: ribbon, note: "", ...read });
              setSheet(null);
            }}
          />
        ) : (
          <SpoonSeen
            onTested={(coat, finger_line) => {
              say({ stage: "test", kind: "spoon", coat, finger_line, note: "", ...read });
              setSheet(null);
            }}
          />
        )}
      </Sheet>
    </>
  );
}

type Coat = NonNullable<NewMark["coat"]>;
type Line = NonNullable<NewMark["finger_line"]>;

/** Coat, then the line drawn in it: two touches. */
function SpoonSeen({ onTested }: { onTested: (coat: Coat, line: Line) => void }) {
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
          options={FINGER_LINES.map((word) => ({ value: word, shown: word }))}
          value={null}
          onChange={(line) => coat && onTested(coat, line)}
          large
        />
        {coat === null ? <p className="mt-2 text-soft">Choose the coat first.</p> : null}
      </div>
    </div>
  );
}
