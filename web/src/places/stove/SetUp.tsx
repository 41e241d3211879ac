import { Link } from "react-router";
import { useHere } from "../../api/here";
import { useDevices, useHearth } from "../../api/kitchen";
import { useSetUp } from "../../api/live";
import type { Batch } from "../../api/queries";
import { Notice } from "../../kit/Notice";
import { OneOfWord } from "../../kit/Word";
import { heatOf } from "./facts";
import { OvenSetUp } from "./OvenSetUp";

interface Props {
  batch: Batch;
  mayMark: boolean;
}

/** What a batch is cooked on and in, and the probe that lies in it; and the way to the live stove. */
export function SetUp({ batch, mayMark }: Props) {
  const here = useHere();
  const devices = useDevices(here.slug);
  const hearth = useHearth(here.slug);
  const setUp = useSetUp(here.slug, batch.id);
  const now = {
    probe_id: batch.probe_id,
    hob_id: batch.hob_id,
    pan_id: batch.pan_id,
    cups: batch.cups,
  };
  const baked = batch.cups !== null;
  const probes = devices.data?.filter((one) => one.kind === "probe" && !one.revoked_at) ?? [];
  const error = devices.error ?? hearth.error ?? setUp.error;
  return (
    <section aria-label="Setup" className="grid gap-3 border border-hair bg-paper p-4">
      <p className="text-xl leading-loose">
        {baked ? null : (
          <>
            <span className="inline-block">
              On{" "}
              <Pick
                label="On"
                none="which burner?"
                value={batch.hob_id}
                options={hearth.data?.hobs.map((hob) => ({
                  id: hob.id,
                  name: `${hob.name}, ${heatOf(hob.power_w)}`,
                }))}
                locked={!mayMark}
                onPick={(hob_id) => setUp.mutate({ ...now, hob_id })}
              />
            </span>{" "}
            <span className="inline-block">
              in{" "}
              <Pick
                label="In"
                none="a clad pan"
                value={batch.pan_id}
                options={hearth.data?.pans}
                locked={!mayMark}
                onPick={(pan_id) => setUp.mutate({ ...now, pan_id })}
              />
            </span>{" "}
          </>
        )}
        <span className="inline-block">
          {baked ? "With" : "with"}{" "}
          <Pick
            label="Probe in it"
            none={probes.length ? "no probe" : "no probe (none is registered)"}
            value={batch.probe_id}
            options={probes}
            locked={!mayMark}
            onPick={(probe_id) => setUp.mutate({ ...now, probe_id })}
          />
        </span>
      </p>
      {error ? <Notice tone="wrong">{error.message}</Notice> : null}
      {baked ? <OvenSetUp batch={batch} mayMark={mayMark} /> : null}
      {batch.closed_at ? null : (
        <Link
          to="live"
          className="flex min-h-[72px] items-center justify-center rounded-solid bg-iron px-6 text-xl font-bold text-paper no-underline"
        >
          To the live stove
        </Link>
      )}
    </section>
  );
}

interface PickProps {
  label: string;
  none: string;
  value: number | null;
  options: readonly { id: number; name: string }[] | undefined;
  locked: boolean;
  onPick: (id: number | null) => void;
}

/** A word of the sentence that is one of what the kitchen has. */
function Pick({ label, none, value, options, locked, onPick }: PickProps) {
  const shown = options?.find((one) => one.id === value)?.name ?? (value === null ? none : "…");
  if (locked || !options) return <b>{shown}</b>;
  return (
    <OneOfWord
      label={label}
      shown={shown}
      options={[
        { value: "", shown: none },
        ...options.map((one) => ({ value: String(one.id), shown: one.name })),
      ]}
      value={value === null ? "" : String(value)}
      onChange={(text) => onPick(text === "" ? null : Number(text))}
    />
  );
}
