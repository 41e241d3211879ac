import { useHere } from "../../api/here";
import { useLive } from "../../api/live";
import { usePhotos } from "../../api/photos";
import type { Batch } from "../../api/queries";
import { RecordCurve } from "../../drawings/RecordCurve";
import { useUnits } from "../../kit/system";
import { inUnits } from "../../kit/units";
import { recorded } from "./facts";

/** How a batch went beside its plan: its curve, and what there is to say about it. */
export function Record({ batch }: { batch: Batch }) {
  const here = useHere();
  const { system } = useUnits();
  const live = useLive(here.slug, batch.id, batch.closed_at !== null, false);
  const photos = usePhotos(here.slug, batch.id);
  const read = live.data?.past.c.length ?? 0;
  if (batch.closed_at === null || (batch.after.length === 0 && read < 2)) return null;
  return (
    <section
      aria-label="Plan and fact"
      className="mt-4 grid items-start gap-x-8 gap-y-3 border-y border-hair py-4 lg:grid-cols-[minmax(0,520px)_minmax(0,1fr)]"
    >
      {live.data && read > 1 ? (
        <RecordCurve
          {...recorded(live.data, batch, photos.data?.photos ?? [])}
          window={live.data.pan?.window ?? batch.plan.window}
          boiling_c={batch.plan.boiling_c}
          system={system}
        />
      ) : null}
      <div className="grid gap-2 text-lg">
        <h2>Plan and fact</h2>
        {batch.after.map((sentence) => (
          <p key={sentence}>{inUnits(sentence, system)}</p>
        ))}
      </div>
    </section>
  );
}
