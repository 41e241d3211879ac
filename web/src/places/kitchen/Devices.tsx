import { type FormEvent, useState } from "react";
import { useDeviceActions, useDevices } from "../../api/kitchen";
import { Problem } from "../../api/problem";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import type { Here } from "../../kit/here";
import { Notice } from "../../kit/Notice";
import { TextBox } from "../../kit/TextBox";
import { day } from "../../kit/units";

type Kind = "scale" | "probe";
const KINDS: readonly { value: Kind; shown: string }[] = [
  { value: "probe", shown: "a probe" },
  { value: "scale", shown: "a scale" },
];

/** The kitchen's probes and scales: a token is shown once, and taken away with one touch. */
export function Devices({ here }: { here: Here }) {
  const devices = useDevices(here.slug);
  const { register, revoke } = useDeviceActions(here.slug);
  const [name, setName] = useState("");
  const [kind, setKind] = useState<Kind>("probe");
  const problem = register.error instanceof Problem ? register.error : null;
  const locked = here.role !== "chef";
  const submit = (event: FormEvent) => {
    event.preventDefault();
    register.mutate({ name, kind }, { onSuccess: () => setName("") });
  };
  return (
    <section aria-label="Probes and scales">
      <h2 className="mb-2">Probes and scales</h2>
      {devices.data?.length === 0 ? (
        <p className="text-soft">
          None yet. A probe that is registered here can be put into a batch at the Stove; a scale shows its
          weight beside the slip.
        </p>
      ) : null}
      <ul>
        {devices.data?.map((one) => (
          <li key={one.id} className="flex items-center justify-between gap-3 border-b border-hair py-2">
            <span className="min-w-0 break-words">
              {one.name}
              <span className="block text-sm text-soft">
                {one.kind},{" "}
                {one.revoked_at ? `taken away ${day(one.revoked_at)}` : `since ${day(one.created_at)}`}
              </span>
            </span>
            {locked || one.revoked_at ? null : (
              <Button
                className="shrink-0 text-sm"
                aria-label={`Take its token away: ${one.name}`}
                onClick={() => revoke.mutate(one.id)}
              >
                Take its token away
              </Button>
            )}
          </li>
        ))}
      </ul>
      {locked ? null : (
        <form onSubmit={submit} noValidate className="mt-3 flex flex-wrap items-start gap-3">
          <div className="min-w-44 grow">
            <TextBox
              label="A new one’s name"
              error={problem?.at("name")}
              maxLength={80}
              value={name}
              onChange={setName}
            />
          </div>
          <div className="mt-7">
            <Choice label="Kind" options={KINDS} value={kind} onChange={setKind} />
          </div>
          <Button type="submit" className="mt-7" disabled={!name.trim() || register.isPending}>
            Register
          </Button>
        </form>
      )}
      {register.data ? (
        <div className="mt-3">
          <Notice>
            The token of {register.data.name}, shown this once:{" "}
            <code className="block py-1 break-all select-all">{register.data.token}</code>
            Try it with the stand-in: <code>./spoon {register.data.kind} --token …</code>
          </Notice>
        </div>
      ) : null}
      {problem?.beside("name") ? <Notice tone="wrong">{problem.message}</Notice> : null}
      {revoke.isError ? <Notice tone="wrong">{revoke.error.message}</Notice> : null}
    </section>
  );
}
