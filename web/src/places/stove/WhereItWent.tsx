import { Fragment } from "react";
import { Link } from "react-router";
import { useHere } from "../../api/here";
import type { Batch } from "../../api/queries";
import { useTrace } from "../../api/shelf";
import { Facts } from "../../kit/Facts";
import { useUnits } from "../../kit/system";
import { massText } from "../../kit/units";
import { when } from "../../kit/when";

const KINDS = [
  { kind: "pdf", shown: "record, PDF" },
  { kind: "csv", shown: "CSV" },
  { kind: "json", shown: "JSON" },
] as const;

/** What went into a batch, where it went, what is left; and its record as an inspector gets it. */
export function WhereItWent({ batch }: { batch: Batch }) {
  const here = useHere();
  const { system } = useUnits();
  const trace = useTrace(here.slug, batch.id, true);
  const found = trace.data;
  return (
    <section aria-label="Where it went" className="mt-5 border-t border-hair pt-4">
      <div className="flex flex-wrap items-center gap-2">
        {KINDS.map(({ kind, shown }) => (
          <a
            key={kind}
            className="flex min-h-11 items-center rounded-solid border border-line px-4 no-underline first-letter:uppercase"
            href={`/api/k/${here.slug}/batches/${batch.id}/record.${kind}`}
            target={kind === "pdf" ? "_blank" : undefined}
            rel="noreferrer"
          >
            {shown}
          </a>
        ))}
        <a
          className="flex min-h-11 items-center rounded-solid border border-line px-4 no-underline"
          href={`/api/k/${here.slug}/batches/${batch.id}/batch.json`}
        >
          Open format
        </a>
      </div>
      {found?.left.length ? (
        <div className="mt-3">
          <Link to="../shelf">On the shelf</Link>
          <ul>
            {found.left.map((tub) => (
              <li key={tub.id}>
                <Facts of={[`${massText(tub.left_g, system)} ${tub.name}`, `until ${when(tub.use_by)}`]} />
              </li>
            ))}
          </ul>
        </div>
      ) : null}
      <Steps title="What went into it" steps={found?.came_from ?? []} />
      <Steps title="Where it went" steps={found?.went_to ?? []} />
    </section>
  );
}

type Steps = NonNullable<ReturnType<typeof useTrace>["data"]>["went_to"];

function Steps({ title, steps }: { title: string; steps: Steps }) {
  const { system } = useUnits();
  if (!steps.length) return null;
  return (
    <div className="mt-3">
      <h3 className="text-[1.1rem]">{title}</h3>
      <ul>
        {steps.map((one) => (
          <li key={`${one.tub_id} ${one.at}`} className="border-b border-dotted border-line py-1">
            <span aria-hidden="true">{"→ ".repeat(one.steps)}</span>
            <Facts
              of={[
                <Fragment key="of">
                  {massText(one.grams, system)} of{" "}
                  <Link to={`../stove/${one.batch_id}`}>batch {one.batch}</Link>
                </Fragment>,
                one.name,
                one.into_batch_id !== null && (
                  <Fragment key="into">
                    into <Link to={`../stove/${one.into_batch_id}`}>{one.into_batch}</Link>
                  </Fragment>
                ),
                one.to && `for ${one.to}`,
                when(one.at),
                one.by,
              ]}
            />
          </li>
        ))}
      </ul>
    </div>
  );
}
