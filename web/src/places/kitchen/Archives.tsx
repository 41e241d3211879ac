import { type Archive, addressOfArchive, useArchives } from "../../api/archives";
import type { Here } from "../../api/here";
import { Button } from "../../kit/Button";
import { Loading, Notice } from "../../kit/Notice";
import { when } from "../../kit/when";
import { BringIn } from "../../shared/BringIn";
import { Progress } from "../../shared/Progress";

/** All of a kitchen in one file, to carry away; and other kitchens brought in beside it. */
export function Archives({ here }: { here: Here }) {
  const { all, make } = useArchives(here.slug);
  const going = all.data?.some((one) => one.done_at === null) ?? false;
  return (
    <div className="grid max-w-2xl gap-8">
      <section aria-label="Carry this kitchen away" className="grid gap-3">
        <h2>Carry this kitchen away</h2>
        <p className="text-soft">
          Formulas, batches with every reading and mark, photographs, shelf, days and practice in one zip that
          other programs can read. No passwords and no tokens are in it.
        </p>
        <div>
          <Button look="iron" disabled={make.isPending || going} onClick={() => make.mutate()}>
            Make an archive
          </Button>
        </div>
        {make.error ? <Notice tone="wrong">{make.error.message}</Notice> : null}
        {all.isPending ? <Loading what="the archives" /> : null}
        {all.isError ? <Notice tone="wrong">{all.error.message}</Notice> : null}
        <ol className="grid gap-2 empty:hidden">
          {all.data?.map((one) => (
            <li key={one.id} className="border-t border-hair pt-2">
              <Made archive={one} kitchen={here.slug} />
            </li>
          ))}
        </ol>
      </section>
      <section aria-label="Bring another kitchen in" className="grid gap-3">
        <h2>Bring another kitchen in</h2>
        <BringIn />
      </section>
    </div>
  );
}

function Made({ archive, kitchen }: { archive: Archive; kitchen: string }) {
  if (archive.refused) return <Notice tone="wrong">{archive.refused}</Notice>;
  if (archive.done_at === null)
    return (
      <>
        <Progress say="Making it" done={archive.rows} of={archive.of_rows} />
        <p className="text-sm text-soft">You can leave this page; it goes on.</p>
      </>
    );
  return (
    <p>
      Made {when(archive.made_at)} by {archive.by}: {(archive.size / 1e6).toFixed(1)} MB ·{" "}
      <a href={addressOfArchive(kitchen, archive.id)} className="inline-flex min-h-11 items-center">
        Save it
      </a>
    </p>
  );
}
