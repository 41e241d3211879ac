import { Link } from "react-router";
import { useHere } from "../../api/here";
import { useDevices, useHearth } from "../../api/kitchen";
import { useSetUp } from "../../api/live";
import type { Batch } from "../../api/queries";
import { Field } from "../../kit/Field";
import { Notice } from "../../kit/Notice";
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
  const chosen = (text: string) => (text === "" ? null : Number(text));
  const error = devices.error ?? hearth.error ?? setUp.error;
  return (
    <section aria-label="Setup" className="grid gap-3 border border-hair bg-paper p-4">
      <div className="grid gap-3 sm:grid-cols-3">
        <Pick
          label="Probe in it"
          none={probes.length ? "no probe" : "none registered"}
          value={batch.probe_id}
          options={probes}
          disabled={!mayMark}
          onPick={(text) => setUp.mutate({ ...now, probe_id: chosen(text) })}
        />
        {baked ? null : (
          <>
            <Pick
              label="On"
              none="Which burner?"
              value={batch.hob_id}
              options={hearth.data?.hobs.map((hob) => ({
                id: hob.id,
                name: `${hob.name}, ${heatOf(hob.power_w)}`,
              }))}
              disabled={!mayMark}
              onPick={(text) => setUp.mutate({ ...now, hob_id: chosen(text) })}
            />
            <Pick
              label="In"
              none="a clad pan"
              value={batch.pan_id}
              options={hearth.data?.pans}
              disabled={!mayMark}
              onPick={(text) => setUp.mutate({ ...now, pan_id: chosen(text) })}
            />
          </>
        )}
      </div>
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
  disabled: boolean;
  onPick: (text: string) => void;
}

function Pick({ label, none, value, options, disabled, onPick }: PickProps) {
  return (
    <Field label={label}>
      {(given) => (
        <select
          {...given}
          className="w-full"
          disabled={disabled || !options}
          value={value ?? ""}
          onChange={(event) => onPick(event.target.value)}
        >
          <option value="">{none}</option>
          {options?.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </select>
      )}
    </Field>
  );
}
