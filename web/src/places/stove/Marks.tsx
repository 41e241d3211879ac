import { useState } from "react";
import { useHere } from "../../api/here";
import { newId } from "../../api/newId";
import type { Batch, NewMark } from "../../api/queries";
import { useBatchActions } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { beside } from "../../kit/listed";
import { Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { useTold } from "../../kit/Told";
import { inUnits, massText, temperature } from "../../kit/units";
import { clock } from "../../kit/when";
import { BACK_ON, COLD, OFF } from "./ways";

type Known = Batch["marks"][number];

interface Props {
  batch: Batch;
  waiting: readonly NewMark[];
  mayMark: boolean;
  /** Marks what was taken back once more, as it was. */
  onAgain: (mark: NewMark) => void;
}

/** Everything that was marked, newest first; each can be taken back. */
export function Marks({ batch, waiting, mayMark, onAgain }: Props) {
  const { tell } = useTold();
  const here = useHere();
  const { withdraw } = useBatchActions(here.slug, batch.id);
  const { system } = useUnits();
  const [all, setAll] = useState(false);
  const known = new Set(batch.marks.map((mark) => mark.id));
  const onTheWay = waiting.filter((mark) => !known.has(mark.id));
  const newest = [...batch.marks].reverse();
  const shown = all ? newest : newest.slice(0, 8);
  const words = (mark: Known | NewMark) =>
    describe(
      mark,
      batch,
      (c) => temperature(c, system),
      (g) => massText(g, system),
      (text) => inUnits(text, system),
    );
  return (
    <div>
      <h2 className="mb-2">Marked</h2>
      {newest.length === 0 && onTheWay.length === 0 ? (
        <p className="text-soft">Nothing yet. A mark keeps the time by itself.</p>
      ) : null}
      <ol>
        {onTheWay.map((mark) => (
          <li key={mark.id} className="border-b border-hair py-2 text-soft">
            <Facts of={words(mark)} /> <span className="block text-sm">not sent yet</span>
          </li>
        ))}
        {shown.map((mark) => (
          <li key={mark.id} className="flex items-start justify-between gap-2 border-b border-hair py-2">
            <span className="min-w-0 break-words">
              <Facts of={words(mark)} />
              <span className="tabular block text-sm text-soft">
                {clock(mark.at)} · {mark.by}
              </span>
            </span>
            {mayMark && !LASTING.includes(mark.kind) ? (
              <Button
                className="shrink-0 text-sm"
                aria-label={`Take back: ${beside(words(mark))}`}
                disabled={withdraw.isPending}
                onClick={() =>
                  withdraw.mutate(mark.id, {
                    onSuccess: () =>
                      tell({
                        say: `Taken back: ${words(mark)[0]}`,
                        back: async () => onAgain({ ...withoutName(mark), id: newId() }),
                      }),
                  })
                }
              >
                Take back
              </Button>
            ) : null}
          </li>
        ))}
      </ol>
      {newest.length > shown.length ? (
        <Button className="mt-3" onClick={() => setAll(true)}>
          All {newest.length} marks
        </Button>
      ) : null}
      {withdraw.isError ? <Notice tone="wrong">{withdraw.error.message}</Notice> : null}
    </div>
  );
}

function withoutName({ by: _, ...mark }: Known): NewMark {
  // What was said by a worker, or happened to the batch as a whole, is not taken back.
  return mark as NewMark;
}

/** What nobody takes back: it was said by a worker, or happened to the batch as a whole. */
const LASTING: readonly Known["kind"][] = ["alarm", "closed", "reopened", "remedy"];

/** What was marked, then what belongs to it. */
function describe(
  mark: Known | NewMark,
  batch: Batch,
  degrees: (c: number) => string,
  weight: (g: number) => string,
  units: (text: string) => string,
): string[] {
  const at = mark.temperature_c == null ? [] : [degrees(mark.temperature_c)];
  const note = mark.note ? [mark.note] : [];
  switch (mark.kind) {
    case "tick":
      if (mark.stage === "finish")
        return [`${batch.plan.finish?.additions[mark.line ?? -1]?.name ?? "an addition"} is in`, ...at];
      return [
        `weighed ${batch.plan.slip[mark.line ?? -1]?.name ?? "a line"}`,
        ...(mark.grams == null ? [] : [weight(mark.grams)]),
      ];
    case "check":
      return [`checked ${batch.plan.slip[mark.line ?? -1]?.name ?? "a line"}`];
    case "spoon":
      return [`spoon: ${mark.coat}`, `the line ${mark.finger_line}`, ...note];
    case "sieve":
      return [`sieve: ${mark.sieve}`, ...note];
    case "nudge":
      return [`cup nudged: ${mark.what}`, ...note];
    case "ribbon":
      return [`ribbon: ${mark.what}`, ...note];
    case "back-on":
      return [BACK_ON[batch.way].toLowerCase(), ...at, ...note];
    case "off-heat":
      return [OFF[batch.way].toLowerCase(), ...at, ...note];
    case "into-ice":
      return [COLD[batch.way].toLowerCase(), ...at, ...note];
    case "sign":
      return [`seen: ${units(signOf(mark, batch))}`, ...at];
    case "pour":
      return mark.stage === "finish"
        ? [`onto the chocolate, pour ${(mark.line ?? 0) + 1} in`]
        : [`pour ${(mark.line ?? 0) + 1} in`];
    case "spot":
      return ["read in the middle", ...at];
    case "moved":
      return [`moved: ${batch.cooling?.ways[mark.line ?? -1]?.by.replaceAll("-", " ") ?? "elsewhere"}`];
    case "odd":
      return [
        mark.what === "odd" ? "called odd: nothing is learned of it" : "learned from after all",
        ...note,
      ];
    case "decided":
      return ["decided", ...note];
    case "infusing":
      return ["lid on, infusing"];
    case "top-up":
      return ["strained", `${weight(mark.grams ?? 0)} left`, "topped up"];
    case "bubbles":
      return ["first bubbles", ...at];
    case "hands-off":
      return ["nobody stirs"];
    case "stirring":
      return ["stirring again"];
    case "sugar-on":
      return ["sugar on the yolks"];
    case "remedy":
      return ["remedy", ...note.map(units)];
    case "remedy-step":
      return [`remedy, step ${(mark.line ?? 0) + 1} done`];
    case "wrong":
      return ["something wrong", ...note, ...at];
    case "alarm":
      return [`alarm: ${(mark.what ?? "").replaceAll("-", " ")}`];
    case "silence":
      return [`heard: ${(mark.what ?? "").replaceAll("-", " ")}`];
    case "film":
      return ["film is on it"];
    case "pasteurised":
      return mark.what === "yes" ? ["the egg is pasteurised"] : ["the egg is not pasteurised"];
    case "closed":
      return [`verdict: ${mark.what}`, ...note];
    case "reopened":
      return ["opened again"];
    case "moment":
      return [`a moment in ${mark.stage}`, ...at, ...note];
    default:
      return [`${mark.stage} done`, ...at, ...note];
  }
}

/** A sign in the words of this batch's plan; marks from before signs had names carry their words with them. */
function signOf(mark: Known | NewMark, batch: Batch): string {
  const stage = batch.plan.stages.find((one) => one.stage === mark.stage);
  return stage?.signs.find((one) => one.sign === mark.what)?.text ?? mark.note ?? "";
}
