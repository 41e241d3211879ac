import { type ChangeEvent, useId, useState } from "react";
import { useHere } from "../../api/here";
import { addressOfPhoto, type Photo, usePhotoActions, usePhotoOutbox, usePhotos } from "../../api/photos";
import type { Problem } from "../../api/problem";
import { type Batch, useSession } from "../../api/queries";
import type { StageName } from "../../contract/words";
import { Button } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Sheet } from "../../kit/Sheet";
import { TextBox } from "../../kit/TextBox";
import { useTold } from "../../kit/Told";
import { clock } from "../../kit/when";

interface Props {
  batch: Batch;
  /** Where the work is: a photograph taken now belongs to it. */
  stage: StageName;
}

/** The photographs of a batch in the order in which they were taken, each with its number on the curve. */
export function Photos({ batch, stage }: Props) {
  const here = useHere();
  const photos = usePhotos(here.slug, batch.id);
  const [opened, setOpened] = useState<string | null>(null);
  const all = photos.data?.photos ?? [];
  const shown = all.find((photo) => photo.id === opened);
  const mayAdd = here.role !== "viewer" && (photos.data?.most_mb ?? 0) > 0;
  if (!mayAdd && all.length === 0) return null;
  return (
    <section aria-label="Photographs" className="mt-6">
      <h2 className="mb-2">Photographs</h2>
      {photos.isError ? <Notice tone="wrong">{photos.error.message}</Notice> : null}
      <ol className="grid grid-cols-3 gap-2 empty:hidden">
        {all.map((photo, i) => (
          <li key={photo.id} className="min-w-0">
            <button
              type="button"
              onClick={() => setOpened(photo.id)}
              className="block w-full border border-hair bg-paper"
              aria-label={`Photograph ${i + 1}: ${photo.note || photo.stage}, ${clock(photo.at)}`}
            >
              <img
                src={addressOfPhoto(here.slug, photo.id)}
                alt=""
                loading="lazy"
                className="aspect-square w-full object-cover"
              />
            </button>
            <span className="tabular block truncate text-sm text-soft">
              {i + 1} · {photo.note || photo.stage}
            </span>
          </li>
        ))}
      </ol>
      {mayAdd ? <TakeOne batch={batch} stage={stage} left_mb={photos.data?.left_mb ?? 0} /> : null}
      {shown ? <Opened key={shown.id} photo={shown} batch={batch} onClose={() => setOpened(null)} /> : null}
    </section>
  );
}

/** Takes or chooses a photograph; one that could not be sent waits on this device. */
function TakeOne({ batch, stage, left_mb }: Props & { left_mb: number }) {
  const here = useHere();
  const session = useSession();
  const person = session.data?.person?.username ?? "";
  const { take, send, drop, count, refused } = usePhotoOutbox(here.slug, person, batch.id);
  const id = useId();
  const choose = (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0];
    // So that the same picture can be chosen again.
    event.target.value = "";
    if (file) take.mutate({ stage, file });
  };
  const full = left_mb <= 0;
  return (
    <div className="mt-3 grid justify-items-start gap-1">
      <input
        id={id}
        type="file"
        accept="image/*"
        className="peer sr-only"
        disabled={take.isPending || full}
        onChange={choose}
      />
      <label
        htmlFor={id}
        className="inline-flex min-h-11 cursor-pointer items-center rounded-solid border border-line px-4 peer-focus-visible:outline-3 peer-focus-visible:outline-offset-2 peer-disabled:opacity-55"
      >
        Take a photograph
      </label>
      <p role="status" className="text-soft empty:hidden">
        {take.isPending
          ? "Making it smaller …"
          : send.isPending && count
            ? "Sending it …"
            : waits(count, refused)}
      </p>
      {full ? (
        <p className="text-sm text-soft">
          The room for photographs is full. Remove some, or ask a chef to allow more (Kitchen, Rules).
        </p>
      ) : null}
      {take.error ? <Notice tone="wrong">{take.error.message}</Notice> : null}
      {refused && count ? (
        <Notice tone="wrong">
          {refused.message} <Button onClick={() => send.mutate()}>Send it again</Button>{" "}
          <Button onClick={() => drop.mutate()}>Leave it out</Button>
        </Notice>
      ) : null}
    </div>
  );
}

/** What is said of photographs that are not sent yet. */
function waits(count: number, refused: Problem | null): string {
  if (!count || refused) return "";
  const what = count === 1 ? "A photograph waits" : `${count} photographs wait`;
  return `${what} on this device; sent when there is a connection.`;
}

/** One photograph, large, with what is written under it. */
function Opened({ photo, batch, onClose }: { photo: Photo; batch: Batch; onClose: () => void }) {
  const here = useHere();
  const { tell } = useTold();
  const { write, remove, putBack } = usePhotoActions(here.slug, batch.id);
  const [note, setNote] = useState(photo.note);
  const wrong = write.error ?? remove.error;
  return (
    <Sheet open wide onClose={onClose} title={`${photo.stage}, ${clock(photo.at)}, by ${photo.by}`}>
      <img
        src={addressOfPhoto(here.slug, photo.id)}
        alt={photo.note || `The batch at the stage ${photo.stage}`}
        className="mx-auto max-h-[60vh] w-full object-contain"
      />
      {photo.mine ? (
        <form
          noValidate
          className="mt-3 grid gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            write.mutate({ id: photo.id, note }, { onSuccess: onClose });
          }}
        >
          <TextBox label="What is to be seen" maxLength={500} value={note} onChange={setNote} />
          <div className="flex flex-wrap gap-3">
            <Button look="iron" type="submit" disabled={write.isPending}>
              Keep
            </Button>
            <Button
              look="danger"
              disabled={remove.isPending}
              onClick={() =>
                // The list may lose the photograph, and with it this sheet, before a callback of `mutate` runs.
                remove.mutateAsync(photo.id).then(
                  () => {
                    onClose();
                    tell({ say: "Photograph removed", back: () => putBack.mutateAsync(photo.id) });
                  },
                  () => {}, // shown below, from `remove.error`
                )
              }
            >
              Remove
            </Button>
          </div>
        </form>
      ) : (
        <p className="mt-3 break-words">{photo.note}</p>
      )}
      {wrong ? <Notice tone="wrong">{wrong.message}</Notice> : null}
    </Sheet>
  );
}
