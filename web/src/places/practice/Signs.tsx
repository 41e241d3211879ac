import type { TraineeBook } from "../../api/practice";

/** The signs, and which of them are recognised already. */
export function Signs({ signs }: { signs: TraineeBook["signs"] }) {
  const known = signs.filter((sign) => sign.known).length;
  return (
    <section aria-label="Signs">
      <h2>
        Signs recognised{" "}
        <span className="text-base font-normal text-soft">
          {known} of {signs.length}
        </span>
      </h2>
      <ul className="mt-1 columns-2 gap-6">
        {signs.map((sign) => (
          <li
            key={sign.sign}
            className={`break-inside-avoid py-0.5 ${sign.known ? "font-bold" : "text-soft"}`}
          >
            <span aria-hidden="true">{sign.known ? "✓ " : "· "}</span>
            {sign.name}
            <span className="sr-only"> ({sign.known ? "recognised" : "not yet"})</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
