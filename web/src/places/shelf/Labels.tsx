import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { useHere } from "../../api/here";
import { newId } from "../../api/newId";
import { type Label, useLabels, useTubActions } from "../../api/shelf";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Empty, Failed, Loading, Notice } from "../../kit/Notice";

type Size = "roll-62" | "a4";
const SIZES: readonly { value: Size; shown: string }[] = [
  { value: "roll-62", shown: "62 mm roll" },
  { value: "a4", shown: "A4, ten a sheet" },
];

/** Labels as they are printed: here, or as PDF for a printer that wants its own page. */
export function Labels() {
  const here = useHere();
  const [search] = useSearchParams();
  const ids = search.getAll("tub").map(Number).filter(Number.isInteger);
  const labels = useLabels(here.slug, ids);
  const { move } = useTubActions(here.slug);
  const [size, setSize] = useState<Size>("roll-62");
  const [stuck, setStuck] = useState(false);
  const query = ids.map((id) => `tub=${id}`).join("&");
  const stick = async () => {
    for (const tub_id of ids)
      await move.mutateAsync({ tub_id, id: newId(), kind: "labelled", to: "", note: "", anyway: false });
    setStuck(true);
  };
  return (
    <>
      <div className="print:hidden">
        <h1>Labels</h1>
        <div className="mt-3 flex flex-wrap items-center gap-3">
          <Choice label="On what" options={SIZES} value={size} onChange={setSize} />
          <Button look="solid" onClick={() => window.print()}>
            Print
          </Button>
          <a
            className="flex min-h-11 items-center rounded-solid border border-line px-4 no-underline"
            href={`/api/k/${here.slug}/labels.pdf?${query}&size=${size}`}
            target="_blank"
            rel="noreferrer"
          >
            PDF
          </a>
          {here.role !== "viewer" && labels.data ? (
            <Button disabled={move.isPending || stuck} onClick={() => void stick()}>
              They are stuck on
            </Button>
          ) : null}
          <Link to="..">Back to the shelf</Link>
        </div>
        <div aria-live="polite" className="mt-3 empty:hidden">
          {stuck ? <Notice>Noted: each of these tubs has its label.</Notice> : null}
          {move.error ? <Notice tone="wrong">{move.error.message}</Notice> : null}
        </div>
      </div>
      {ids.length === 0 ? (
        <Empty title="No tub was chosen">
          <p>Labels are printed from the shelf.</p>
        </Empty>
      ) : (
        <LabelList ids={ids} size={size} />
      )}
    </>
  );
}

/** The labels of some tubs, as they are printed. */
export function LabelList({ ids, size }: { ids: readonly number[]; size: Size }) {
  const here = useHere();
  const labels = useLabels(here.slug, ids);
  if (labels.isPending) return <Loading what="the labels" />;
  if (labels.isError) return <Failed sentence={labels.error.message} again={() => void labels.refetch()} />;
  return (
    <ul className={`labels labels-${size} mt-4`}>
      {labels.data.map((one) => (
        <Printed key={one.tub_id} label={one} />
      ))}
    </ul>
  );
}

function Printed({ label }: { label: Label }) {
  return (
    <li className="label">
      <p className="figure line-clamp-2 break-words pb-0.5 text-[1.1rem] leading-snug">{label.name}</p>
      <p>
        {label.batch} · {label.grams}
      </p>
      <p>made {label.made}</p>
      <p className="text-[0.98rem] font-bold">
        {label.undecided
          ? "Not to be used"
          : label.throw_away
            ? "Not to be used: throw it away"
            : `use by ${label.use_by}`}
      </p>
      <p>{label.throw_away || label.use_by_why}</p>
      {label.vulnerable ? (
        <p className="self-start border-2 border-iron px-1 font-bold">for vulnerable guests</p>
      ) : null}
      <div className="mt-auto flex items-end justify-between gap-2">
        <div className="min-w-0">
          <p className="line-clamp-3 font-bold">Allergens: {label.allergens}</p>
          {label.changed ? <p className="line-clamp-2">Changed: {label.changed}</p> : null}
          {label.unheated ? <p className="line-clamp-2">Not heated: {label.unheated}</p> : null}
          <p>{label.storage}</p>
          <p>{label.who}</p>
        </div>
        <svg
          viewBox={`0 0 ${label.size} ${label.size}`}
          className="h-[22mm] w-[22mm] shrink-0"
          role="img"
          aria-label={`code that opens ${label.batch}`}
        >
          <rect width={label.size} height={label.size} fill="#fff" />
          <path d={label.qr} fill="#000" />
        </svg>
      </div>
    </li>
  );
}
