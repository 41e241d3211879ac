import { X } from "lucide-react";
import { type FormEvent, useState } from "react";
import { useLayers } from "../../api/bench";
import { useHere } from "../../api/here";
import { Problem } from "../../api/problem";
import { useBook, useLarder } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { fixed } from "../../kit/habits";
import { Notice } from "../../kit/Notice";
import { SelectBox } from "../../kit/SelectBox";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { typedNumber } from "../../kit/typed";
import { massText, temperature } from "../../kit/units";
import { SHAPES, type Shape } from "./Fit";

interface Row {
  /** "formula 12", or "thing cake-crumbs"; "" while nothing is chosen. */
  what: string;
  size: string;
  by: "mm" | "g";
}

/** A dish built up in layers: what it takes of each batch, and when the next layer may go on. */
export function Layers({ formula }: { formula: number | null }) {
  const here = useHere();
  const { system } = useUnits();
  const book = useBook(here.slug);
  const built = useLayers(here.slug);
  const [shape, setShape] = useState<Shape>("round");
  const [size, setSize] = useState({ length: "20", width: "20", count: "1" });
  const [rows, setRows] = useState<readonly Row[]>([
    { what: formula === null ? "" : `formula ${formula}`, size: "25", by: "mm" },
  ]);
  const things = useLarder().data?.ingredients.filter((one) => one.laid);
  const formulas = book.data?.pages.flatMap((page) => page.lines) ?? [];
  const problem = built.error instanceof Problem ? built.error : null;
  const wide = shape === "oval" || shape === "rectangle";
  const change = (index: number, more: Partial<Row>) =>
    setRows(rows.map((row, i) => (i === index ? { ...row, ...more } : row)));
  const open = rows.some((row) => row.what === "" || !(typedNumber(row.size) > 0));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (open) return;
    built.mutate({
      shape,
      length_cm: typedNumber(size.length),
      width_cm: wide ? typedNumber(size.width) : 1,
      count: typedNumber(size.count),
      layers: rows.map(({ what, size: much, by }) => {
        const [kind, name] = what.split(" ") as ["formula" | "thing", string];
        return {
          formula_id: kind === "formula" ? Number(name) : null,
          ingredient: kind === "thing" ? name : null,
          height_mm: by === "mm" ? typedNumber(much) : null,
          grams: by === "g" ? typedNumber(much) : null,
        };
      }),
    });
  };
  return (
    <form onSubmit={submit} noValidate aria-label="Layers" className="grid gap-3">
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-4">
        <SelectBox label="dish" options={SHAPES} value={shape} onChange={setShape} />
        <TextBox
          label={wide ? "length, cm" : "across, cm"}
          error={problem?.at("length_cm")}
          numeric
          value={size.length}
          onChange={(length) => setSize({ ...size, length })}
        />
        {wide ? (
          <TextBox
            label="width, cm"
            error={problem?.at("width_cm")}
            numeric
            value={size.width}
            onChange={(width) => setSize({ ...size, width })}
          />
        ) : null}
        <TextBox
          label="how many"
          error={problem?.at("count")}
          numeric
          value={size.count}
          onChange={(count) => setSize({ ...size, count })}
        />
      </div>
      <p className="text-soft">From the bottom up:</p>
      {rows.map((row, i) => (
        <LayerRow
          // biome-ignore lint/suspicious/noArrayIndexKey: layers are told apart by their place
          key={i}
          row={row}
          place={i + 1}
          formulas={formulas}
          things={things ?? []}
          onChange={(more) => change(i, more)}
          onRemove={rows.length > 1 ? () => setRows(rows.filter((_, k) => k !== i)) : null}
        />
      ))}
      <div className="flex flex-wrap gap-3">
        <Button
          disabled={rows.length >= 12}
          onClick={() => setRows([...rows, { what: "", size: "20", by: "mm" }])}
        >
          Another layer
        </Button>
        <Button type="submit" look="iron" disabled={open || built.isPending}>
          What it takes
        </Button>
      </div>
      {problem ? <Notice tone="wrong">{problem.message}</Notice> : null}
      {built.data ? (
        <ol className="border-t border-hair" aria-label="What each layer takes">
          {built.data.map((layer, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: layers are told apart by their place
            <li key={i} className="border-b border-hair py-2">
              <p className="flex justify-between gap-3">
                <b className="min-w-0 break-words">{layer.name}</b>
                <span className="figure text-xl">{massText(layer.grams, system)}</span>
              </p>
              <Facts
                className="text-soft"
                of={[
                  `${fixed(layer.height_mm, 0)} mm high`,
                  layer.batches !== null && `${fixed(layer.batches, 2)} of a batch as written`,
                ]}
              />
              <Facts
                className="text-soft"
                of={[
                  layer.ready !== "" && `the next goes on once it is ${layer.ready}`,
                  layer.ready_c !== null && `${temperature(layer.ready_c, system, 0)} or colder`,
                  layer.ready_c !== null &&
                    layer.ready_h !== null &&
                    `about ${fixed(layer.ready_h, 1)} h in the fridge`,
                ]}
              />
            </li>
          ))}
        </ol>
      ) : null}
    </form>
  );
}

interface RowProps {
  row: Row;
  place: number;
  formulas: readonly { id: number; name: string }[];
  things: readonly { id: string; name: string }[];
  onChange: (more: Partial<Row>) => void;
  /** Null for the only one. */
  onRemove: (() => void) | null;
}

/** One layer: what it is, and how high or how heavy. */
function LayerRow({ row, place, formulas, things, onChange, onRemove }: RowProps) {
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_5rem_4.5rem_44px] items-center gap-2">
      <select
        aria-label={`Layer ${place}`}
        className="w-full min-w-0"
        value={row.what}
        onChange={(event) => onChange({ what: event.target.value })}
      >
        <option value="">what?</option>
        <optgroup label="From the Book">
          {formulas.map((line) => (
            <option key={line.id} value={`formula ${line.id}`}>
              {line.name}
            </option>
          ))}
        </optgroup>
        <optgroup label="As it is bought, or whipped">
          {things.map((one) => (
            <option key={one.id} value={`thing ${one.id}`}>
              {one.name}
            </option>
          ))}
        </optgroup>
      </select>
      <input
        className="w-full text-right"
        inputMode="decimal"
        aria-label={`Size of layer ${place}, ${row.by}`}
        value={row.size}
        onChange={(event) => onChange({ size: event.target.value })}
      />
      <select
        aria-label={`Layer ${place} by`}
        value={row.by}
        onChange={(event) => onChange({ by: event.target.value as Row["by"] })}
      >
        <option value="mm">mm</option>
        <option value="g">g</option>
      </select>
      <button
        type="button"
        className="grid size-11 place-items-center text-soft"
        aria-label={`Take out layer ${place}`}
        disabled={onRemove === null}
        onClick={() => onRemove?.()}
      >
        <X size={20} aria-hidden="true" />
      </button>
    </div>
  );
}
