import { useState } from "react";
import { useHere } from "../../api/here";
import { useLive } from "../../api/live";
import { usePhotos } from "../../api/photos";
import type { Batch } from "../../api/queries";
import { RecordCurve } from "../../drawings/RecordCurve";
import { useUnits } from "../../kit/system";
import { inUnits } from "../../kit/units";
import { AgainFromHere, BEFORE_OFF_S } from "./AgainFromHere";
import { recorded } from "./facts";

/** How a batch went beside its plan: its curve, and what there is to say about it. */
export function Record({ batch }: { batch: Batch }) {
  const here = useHere();
  const { system } = useUnits();
  const live = useLive(here.slug, batch.id, batch.closed_at !== null, false);
  const photos = usePhotos(here.slug, batch.id);
  const [chosen, setChosen] = useState<number | null>(null);
  const count = live.data?.past.c.length ?? 0;
  if (batch.closed_at === null || (batch.after.length === 0 && count < 2)) return null;
  const shown = live.data && count > 1 ? recorded(live.data, batch, photos.data?.photos ?? []) : null;
  const off_s = shown?.moments.find(({ kind }) => kind === "off-heat")?.at_s ?? null;
  const out_s = shown?.moments.find(({ kind }) => kind === "into-ice")?.at_s;
  const inPan = shown?.read.filter(([t]) => t <= (out_s ?? Number.POSITIVE_INFINITY)) ?? [];
  const at_s = chosen ?? Math.max(0, Math.round(((off_s ?? 0) - BEFORE_OFF_S) / 5) * 5);
  const mayCook = batch.way !== "sets" && batch.pace === 1 && inPan.length > 3;
  return (
    <section
      aria-label="Plan and fact"
      className="mt-4 grid items-start gap-x-8 gap-y-3 border-y border-hair py-4 lg:grid-cols-[minmax(0,520px)_minmax(0,1fr)]"
    >
      {live.data && shown ? (
        <div className="min-w-0">
          <RecordCurve
            {...shown}
            chosen_s={mayCook ? at_s : null}
            window={live.data.pan?.window ?? batch.plan.window}
            boiling_c={batch.plan.boiling_c}
            system={system}
          />
          {mayCook ? (
            <AgainFromHere batch_id={batch.id} read={inPan} off_s={off_s} at_s={at_s} onMoment={setChosen} />
          ) : null}
        </div>
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
