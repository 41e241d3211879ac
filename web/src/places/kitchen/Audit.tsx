import { useState } from "react";
import type { Here } from "../../api/here";
import { useAudit, useCrew } from "../../api/people";
import { Button } from "../../kit/Button";
import { Failed, Loading } from "../../kit/Notice";
import { SelectBox } from "../../kit/SelectBox";
import { clock, day } from "../../kit/when";

/** Who did what, the newest first: every write leaves a line, and no line is ever changed. */
export function Audit({ here }: { here: Here }) {
  const [who, setWho] = useState("");
  const crew = useCrew(here.slug);
  const audit = useAudit(here.slug, who ? Number(who) : null, here.role === "chef");
  if (audit.isPending) return <Loading what="who did what" />;
  if (audit.isError) return <Failed sentence={audit.error.message} again={() => void audit.refetch()} />;
  const rows = audit.data.pages.flatMap((page) => page.entries);
  return (
    <section aria-label="Who did what">
      <h2 className="mb-2">Who did what</h2>
      <p className="mb-3 text-soft">Every change leaves a line here, and no line is ever changed.</p>
      <SelectBox
        label="Whose"
        none="everybody’s"
        options={(crew.data?.people ?? []).map((one) => ({ value: String(one.id), shown: one.title }))}
        value={who}
        onChange={setWho}
      />
      {rows.length === 0 ? <p className="mt-4 text-soft">Nothing yet.</p> : null}
      <ul className="mt-4">
        {rows.map((one) => (
          <li
            key={one.id}
            className="grid gap-x-4 border-b border-hair py-2 sm:grid-cols-[9.5rem_9rem_minmax(0,1fr)]"
          >
            <time dateTime={one.at} className="tabular text-soft">
              {day(one.at)}, {clock(one.at)}
            </time>
            <span className="min-w-0 break-words">{one.who}</span>
            <span className="min-w-0 break-words">
              {one.did}
              {one.subject ? <span className="text-soft"> · {one.subject}</span> : null}
            </span>
          </li>
        ))}
      </ul>
      {audit.hasNextPage ? (
        <Button
          className="mt-4"
          disabled={audit.isFetchingNextPage}
          onClick={() => void audit.fetchNextPage()}
        >
          {audit.isFetchingNextPage ? "Fetching …" : "Earlier"}
        </Button>
      ) : null}
    </section>
  );
}
