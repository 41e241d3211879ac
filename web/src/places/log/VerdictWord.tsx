import type { Verdict } from "../../contract/words";

const SIGNS = { good: "✓", usable: "~", discarded: "✕" } as const;
const TONES = { good: "text-herb", usable: "text-yolk-ink", discarded: "text-brick" } as const;

/** A verdict with its sign; what has none is not closed yet. */
export function VerdictWord({ verdict }: { verdict: Verdict | null }) {
  if (!verdict) return <span className="text-slate">on the stove</span>;
  return (
    <b className={TONES[verdict]}>
      <span aria-hidden="true">{SIGNS[verdict]} </span>
      {verdict}
    </b>
  );
}
