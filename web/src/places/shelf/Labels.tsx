import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { useHere } from "../../api/here";
import { newId } from "../../api/newId";
import { useLabels, useTubActions } from "../../api/shelf";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Empty, Notice } from "../../kit/Notice";
import { LabelList, type LabelSize } from "../../shared/LabelList";

const SIZES: readonly { value: LabelSize; shown: string }[] = [
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
  const [size, setSize] = useState<LabelSize>("roll-62");
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
