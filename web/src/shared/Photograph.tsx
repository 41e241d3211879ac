import type { ChangeEvent } from "react";
import { useHere } from "../api/here";
import { type ReadPicture, usePhotograph, usePictureReading } from "../api/pictures";
import { Field } from "../kit/Field";
import { listed } from "../kit/listed";

interface Props {
  label: string;
  onRead: (picture: ReadPicture) => void;
}

/** A photograph taken or chosen, sent to be read; while it is read it says how far it is. */
export function Photograph({ label, onRead }: Props) {
  const here = useHere();
  const reading = usePictureReading(here.slug);
  const photograph = usePhotograph(here.slug, onRead);
  const install = reading.data?.install ?? [];
  const choose = (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0];
    // So that the same picture can be chosen again.
    event.target.value = "";
    if (file) photograph.send(file);
  };
  return (
    <div>
      <Field
        label={label}
        error={photograph.error || undefined}
        hint={
          install.length
            ? `Photographs are not read on this machine. Whoever runs it installs: ${install.join(" ")}`
            : `Printed letters, in ${listed(reading.data?.languages ?? [])}; no handwriting.`
        }
      >
        {(given) => (
          <input
            {...given}
            type="file"
            accept="image/*"
            className="w-full max-w-md"
            disabled={install.length > 0 || photograph.isPending}
            onChange={choose}
          />
        )}
      </Field>
      {photograph.isPending ? (
        <p role="status" className="text-soft">
          {photograph.step}
        </p>
      ) : null}
    </div>
  );
}
