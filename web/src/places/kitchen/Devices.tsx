import { type FormEvent, useState } from "react";
import type { Here } from "../../api/here";
import { type Device, type DeviceMade, useDeviceActions, useDevices } from "../../api/kitchen";
import { Problem } from "../../api/problem";
import { spacedCode } from "../../api/wall";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Facts } from "../../kit/Facts";
import { Failed, Loading, Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { inUnits } from "../../kit/units";
import { day } from "../../kit/when";
import { CheckProbe, offText } from "./CheckProbe";

type Kind = Device["kind"];
const KINDS: readonly { value: Kind; shown: string }[] = [
  { value: "probe", shown: "a probe" },
  { value: "scale", shown: "a scale" },
  { value: "screen", shown: "a screen on the wall" },
];

/** Since when a device is known, and when its token was last good for something. */
function history(one: Device): string[] {
  if (one.revoked_at) return [`taken away ${day(one.revoked_at)}`];
  return [
    one.rotated_at ? `its token since ${day(one.rotated_at)}` : `since ${day(one.created_at)}`,
    one.used_at ? `last used ${day(one.used_at)}` : "never used yet",
  ];
}

/** The kitchen's probes, scales and wall screens: a token is shown once, and taken away with one touch. */
export function Devices({ here }: { here: Here }) {
  const devices = useDevices(here.slug);
  const { register, rotate, revoke } = useDeviceActions(here.slug);
  const [name, setName] = useState("");
  const [kind, setKind] = useState<Kind>("probe");
  const problem = register.error instanceof Problem ? register.error : null;
  const [made, setMade] = useState<DeviceMade | null>(null);
  const [checking, setChecking] = useState<Device | null>(null);
  const { system } = useUnits();
  const locked = here.role !== "chef";
  const submit = (event: FormEvent) => {
    event.preventDefault();
    register.mutate(
      { name, kind },
      {
        onSuccess: (one) => {
          setName("");
          setMade(one);
        },
      },
    );
  };
  return (
    <section aria-label="Probes, scales, screens">
      <h2 className="mb-2">Probes, scales, screens</h2>
      {devices.isPending ? <Loading what="probes, scales and screens" /> : null}
      {devices.isError ? (
        <Failed sentence={devices.error.message} again={() => void devices.refetch()} />
      ) : null}
      {devices.data?.length === 0 ? (
        <p className="text-soft">
          None yet. A probe that is registered here can be put into a batch at the Stove; a scale shows its
          weight beside the slip; a screen on the wall shows what is on.
        </p>
      ) : null}
      <ul>
        {devices.data?.map((one) => (
          <li
            key={one.id}
            className="flex flex-wrap items-center justify-between gap-3 border-b border-hair py-2 sm:flex-nowrap"
          >
            <span className="min-w-0 basis-full break-words sm:basis-auto">
              {one.name}
              <Facts
                className="text-sm text-soft"
                of={[
                  one.kind,
                  one.kind === "screen" ? "shows, and changes nothing" : `sends ${one.sends} only`,
                  ...history(one),
                  one.reads_high_k !== 0 && inUnits(offText(one.reads_high_k), system),
                ]}
              />
              {one.clock && !one.revoked_at ? (
                <span className="block text-sm text-copper">{one.clock}</span>
              ) : null}
            </span>
            {one.revoked_at || here.role === "viewer" ? null : (
              <span className="flex flex-wrap gap-2 sm:shrink-0 sm:justify-end">
                {one.kind === "probe" ? (
                  <Button
                    className="text-sm"
                    aria-label={`Check it: ${one.name}`}
                    onClick={() => setChecking(one)}
                  >
                    Check it
                  </Button>
                ) : null}
                {locked ? null : (
                  <>
                    <Button
                      className="text-sm"
                      aria-label={`Give it a new token: ${one.name}`}
                      onClick={() => rotate.mutate(one.id, { onSuccess: setMade })}
                    >
                      New token
                    </Button>
                    <Button
                      className="text-sm"
                      aria-label={`Take its token away: ${one.name}`}
                      onClick={() => revoke.mutate(one.id)}
                    >
                      Take its token away
                    </Button>
                  </>
                )}
              </span>
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
      {checking ? <CheckProbe here={here} probe={checking} onClose={() => setChecking(null)} /> : null}
      {made ? (
        <div className="mt-3">
          <Notice>
            {made.kind === "screen" ? (
              <>
                The code of {made.name}, shown this once:{" "}
                <code className="figure block py-1 text-2xl select-all">{spacedCode(made.token)}</code>
                On that screen open <code>{`${location.host}/wall`}</code> and type it there.
              </>
            ) : (
              <>
                The token of {made.name}, shown this once:{" "}
                <code className="block py-1 break-all select-all">{made.token}</code>
                Try it with the stand-in: <code>./spoon {made.kind} --token …</code>
              </>
            )}
          </Notice>
        </div>
      ) : null}
      {problem?.beside("name") ? <Notice tone="wrong">{problem.message}</Notice> : null}
      {rotate.isError ? <Notice tone="wrong">{rotate.error.message}</Notice> : null}
      {revoke.isError ? <Notice tone="wrong">{revoke.error.message}</Notice> : null}
    </section>
  );
}
