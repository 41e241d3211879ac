import type { ImportOut } from "../../api/bench";
import { Button } from "../../kit/Button";
import { PictureOf } from "../../shared/PictureOf";

interface Props {
  found: ImportOut;
  picture: string | undefined;
  onChange: () => void;
}

/** The recipe as it was pasted: what became a line and what decides something stand out. */
export function AsWritten({ found, picture, onChange }: Props) {
  const lines = new Set(found.lines.map((line) => line.text.trim()));
  const steps = found.method.map((step) => step.text);
  const deciding = new Set(found.method.filter((step) => step.settings.length).map((step) => step.text));
  return (
    <section aria-labelledby="as-written">
      <h2 id="as-written">As you have it</h2>
      {picture ? <PictureOf id={picture} /> : null}
      <div className="mt-2 max-h-[70vh] overflow-y-auto border border-hair bg-paper p-4 text-sm">
        {found.text.split("\n").map((row, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: rows of a text are told apart by their place
          <p key={at} className="min-h-5 break-words">
            <Row row={row} lines={lines} steps={steps} deciding={deciding} />
          </p>
        ))}
      </div>
      <p className="mt-2 text-sm text-soft">
        <mark className="bg-yolk-pale px-1 text-iron">Yellow</mark> became a line,{" "}
        <mark className="bg-slate-pale px-1 text-iron">blue</mark> decides how it is made. All of it stays
        with the formula.
      </p>
      <Button className="mt-2" onClick={onChange}>
        Change the text
      </Button>
    </section>
  );
}

interface RowProps {
  row: string;
  lines: ReadonlySet<string>;
  steps: readonly string[];
  deciding: ReadonlySet<string>;
}

function Row({ row, lines, steps, deciding }: RowProps) {
  const bare = row.replace(/^\s*(?:[-–—•*·]+\s*|\d{1,2}[.)]\s+)/, "").trim();
  const isStep = steps.some((step) => row.includes(step));
  if (bare && !isStep && [...lines].some((line) => line && (bare === line || bare.includes(line))))
    return <mark className="bg-yolk-pale text-iron">{row}</mark>;
  const parts = row.split(/(?<=[.!?])\s+/);
  return parts.map((part, at) => {
    const shown = at < parts.length - 1 ? `${part} ` : part;
    return deciding.has(part.trim()) ? (
      <mark key={part} className="bg-slate-pale text-iron">
        {shown}
      </mark>
    ) : (
      <span key={part}>{shown}</span>
    );
  });
}
