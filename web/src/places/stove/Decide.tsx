import { useState } from "react";
import { useHere } from "../../api/here";
import { useBatchActions } from "../../api/queries";
import { useLife } from "../../api/shelf";
import { Button } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { inUnits } from "../../kit/units";

/** What the record of a batch lacks for it to be used, and the decision that it may be all the same. */
export function Decide({ batchId, missing, may }: { batchId: number; missing: string[]; may: boolean }) {
  const here = useHere();
  const { system } = useUnits();
  const { decide } = useBatchActions(here.slug, batchId);
  const life = useLife(here.slug, batchId);
  const [reason, setReason] = useState("");
  return (
    <Notice tone="wrong">
      <p className="font-bold">Not to be used until somebody decides.</p>
      <ul className="my-1 list-disc pl-5">
        {missing.map((one) => (
          <li key={one}>{inUnits(one, system)}.</li>
        ))}
      </ul>
      <p>When in doubt, throw it away. Whoever decides otherwise stands in the record by name.</p>
      {may ? (
        <form
          className="mt-3 flex flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            decide.mutate(reason, { onSuccess: () => life.refetch() });
          }}
        >
          <TextBox
            label="Why it may be used all the same"
            className="w-full max-w-md"
            maxLength={500}
            value={reason}
            onChange={setReason}
          />
          <Button type="submit" disabled={reason.trim().length < 3 || decide.isPending}>
            It may be used
          </Button>
        </form>
      ) : null}
      {decide.error ? <p role="alert">{inUnits(decide.error.message, system)}</p> : null}
    </Notice>
  );
}
