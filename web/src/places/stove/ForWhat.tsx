import type { Batch } from "../../api/queries";
import { useUnits } from "../../kit/system";
import { massText } from "../../kit/units";

/** Where this batch goes, and what is left over; by what it came to, once that was weighed. */
export function ForWhat({ batch }: { batch: Batch }) {
  const { system } = useUnits();
  const shared = batch.plan.shared;
  if (!shared || batch.verdict === "discarded") return null;
  const came = batch.yield_g ?? shared.comes_to_g;
  const over = came - shared.wanted_g - shared.lost_g;
  return (
    <section aria-label="What it is for" className="border-l-4 border-slate bg-paper px-4 py-3">
      <h3 className="text-[1.1rem]">It is for</h3>
      <ul>
        {shared.parts.map((part) => (
          <li key={part.name} className="flex justify-between gap-4 border-b border-dotted border-line py-1">
            <span className="min-w-0 break-words">
              {part.name}
              <span className="text-soft">
                {" "}
                {part.count} × {massText(part.each_g, system)}
              </span>
            </span>
            <b className="tabular">{massText(part.all_g, system)}</b>
          </li>
        ))}
      </ul>
      <p className={`mt-2 ${over < -1 ? "font-bold text-brick" : ""}`}>
        {over < -1
          ? `${massText(-over, system)} are missing.`
          : `${massText(Math.max(0, over), system)} are left over of ${massText(came, system)}.`}
      </p>
    </section>
  );
}
