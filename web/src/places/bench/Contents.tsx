import { type Draft, type Larder, useLarder } from "../../api/queries";
import { Button } from "../../kit/Button";
import { fixed } from "../../kit/habits";
import { listed } from "../../kit/listed";
import { Sheet } from "../../kit/Sheet";

interface Props {
  ingredient: Draft["lines"][number]["ingredient"] | null;
  onClose: () => void;
}

const SURE = { H: "sure of the figure", M: "sure of its size", L: "an estimate" } as const;

/** What an ingredient is made of, how far that varies, and where the figures are remembered from. */
export function Contents({ ingredient, onClose }: Props) {
  const larder = useLarder();
  const known =
    typeof ingredient === "string"
      ? larder.data?.ingredients.find((one) => one.id === ingredient)
      : ingredient
        ? own(ingredient)
        : undefined;
  return (
    <Sheet open={ingredient !== null} onClose={onClose} title={known?.name ?? "Not in the larder"}>
      {known ? (
        <>
          <dl>
            {Object.entries(known.composition)
              .sort(([, a], [, b]) => b - a)
              .map(([part, share]) => (
                <div key={part} className="flex justify-between border-b border-hair py-1">
                  <dt className="text-soft">{part.replaceAll("_", " ")}</dt>
                  <dd className="tabular">{fixed(share, share < 1 ? 2 : 1)} g in 100 g</dd>
                </div>
              ))}
          </dl>
          {known.named_allergens.length ? (
            <p className="mt-2">Contains {listed(known.named_allergens)}.</p>
          ) : null}
          {known.us_allergens.length ? (
            <p className="text-soft">By the list of the United States: {listed(known.us_allergens)}.</p>
          ) : null}
          {known.unmodelled ? <p className="mt-2 text-yolk-ink">Not computed: {known.unmodelled}.</p> : null}
          {known.range ? <p className="mt-2 text-soft">Varies: {known.range}.</p> : null}
          <p className="mt-2 text-soft">
            From {known.source_as_remembered}; recalled, not looked up (
            {SURE[known.confidence as keyof typeof SURE] ?? known.confidence}).
          </p>
        </>
      ) : null}
      <Button className="mt-4" onClick={onClose}>
        Close
      </Button>
    </Sheet>
  );
}

type Known = Larder["ingredients"][number];

function own(thing: Exclude<Props["ingredient"], string | null>): Known {
  return {
    id: "",
    name: thing.name,
    also: [],
    group: "own",
    piece: "",
    laid: false,
    composition: thing.composition,
    allergens: thing.allergens ?? [],
    named_allergens: thing.allergens ?? [],
    us_allergens: [],
    unmodelled: "",
    range: "",
    source_as_remembered: "this kitchen",
    confidence: "M",
  };
}
