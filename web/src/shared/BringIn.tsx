import { type ChangeEvent, useId } from "react";
import { type Archive, useIncoming } from "../api/archives";
import { Notice } from "../kit/Notice";
import { when } from "../kit/when";
import { Progress } from "./Progress";

/** A kitchen out of its archive, beside those that are here; what was begun goes on by itself, and can be left. */
export function BringIn() {
  const { all, send } = useIncoming();
  const id = useId();
  const rows = all.data ?? [];
  // A file that did not come whole is sent on from where it stopped, when it is chosen again.
  const half = rows.find((one) => one.came < one.size && !send.isPending);
  const choose = (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0];
    event.target.value = "";
    if (!file) return;
    send.mutate(half && half.size === file.size ? { file, begun: half } : { file });
  };
  return (
    <div className="grid gap-3">
      <p className="text-soft">
        It becomes a kitchen of its own, with you as its chef. Its people cannot log in before you invite
        them.
      </p>
      <div>
        <label htmlFor={id} className="mb-1 block text-soft">
          The archive, a zip
        </label>
        <input
          id={id}
          type="file"
          accept=".zip,application/zip"
          className="w-full max-w-md"
          disabled={send.isPending}
          onChange={choose}
        />
      </div>
      {half ? (
        <p className="text-soft">
          {megabytes(half.came)} of {megabytes(half.size)} came before it stopped. Choose the same file to
          send the rest.
        </p>
      ) : null}
      {send.error ? <Notice tone="wrong">{send.error.message}</Notice> : null}
      {all.isError ? <Notice tone="wrong">{all.error.message}</Notice> : null}
      <ol className="grid gap-2 empty:hidden">
        {rows
          .filter((one) => one !== half)
          .map((one) => (
            <li key={one.id} className="border-t border-hair pt-2">
              <Incoming archive={one} />
            </li>
          ))}
      </ol>
    </div>
  );
}

const megabytes = (bytes: number) => `${(bytes / 1e6).toFixed(1)} MB`;

function Incoming({ archive }: { archive: Archive }) {
  if (archive.refused) return <Notice tone="wrong">{archive.refused}</Notice>;
  if (archive.became)
    return (
      <p>
        {/* A whole page: which kitchens there are is asked for once. */}
        Brought in {when(archive.made_at)}: <a href={`/k/${archive.became}/book`}>open its Book</a>
      </p>
    );
  if (archive.came < archive.size) return <Progress say="Sending it" done={archive.came} of={archive.size} />;
  return (
    <div>
      <p role="status">
        {archive.rows
          ? `Bringing it in: ${archive.part}, ${archive.rows.toLocaleString("en-GB")} rows so far`
          : "Waiting for the kitchen’s worker, which looks at all of it first …"}
      </p>
      <p className="text-sm text-soft">You can leave this page; it goes on.</p>
    </div>
  );
}
