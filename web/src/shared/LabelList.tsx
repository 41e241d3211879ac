import { useHere } from "../api/here";
import { type Label, useLabels } from "../api/shelf";
import { Failed, Loading } from "../kit/Notice";

export type LabelSize = "roll-62" | "a4";

/** The labels of some tubs, as they are printed. */
export function LabelList({ ids, size }: { ids: readonly number[]; size: LabelSize }) {
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
