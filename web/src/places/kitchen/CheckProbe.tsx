import { useEffect, useState } from "react";
import type { Here } from "../../api/here";
import { type Device, useProbeCheckActions, useProbeNow } from "../../api/kitchen";
import { Problem } from "../../api/problem";
import { Button } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Sheet } from "../../kit/Sheet";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { useTold } from "../../kit/Told";
import { typedCelsius } from "../../kit/typed";
import { inUnits, temperature } from "../../kit/units";

/** So long a probe is held still before it is read [s]. */
const HOLD_S = 60;
/** Where it goes up and down by more it has not settled yet [K]. */
const SETTLED_K = 0.4;

interface Props {
  here: Here;
  probe: Device;
  onClose: () => void;
}

/** Two minutes with ice and with boiling water: what a probe reads there says how far it is off. */
export function CheckProbe({ here, probe, onClose }: Props) {
  const { system } = useUnits();
  const { tell } = useTold();
  const { check, uncheck } = useProbeCheckActions(here.slug);
  const [ice, setIce] = useState("");
  const [boil, setBoil] = useState("");
  const problem = check.error instanceof Problem ? check.error : null;
  const typed = (text: string) => (text.trim() ? typedCelsius(text, system) : null);
  const unreadable = [ice, boil].some((text) => text.trim() !== "" && typed(text) === null);
  const keep = () =>
    check.mutate(
      { device_id: probe.id, ice_c: typed(ice), boil_c: typed(boil) },
      {
        onSuccess: (made) => {
          onClose();
          tell({
            say: `${probe.name} is checked: ${inUnits(offText(made.reads_high_k), system)}`,
            back: () => uncheck.mutateAsync(made.id),
          });
        },
      },
    );
  return (
    <Sheet open onClose={onClose} title={`Check ${probe.name}`}>
      <form
        noValidate
        className="grid gap-5"
        onSubmit={(event) => {
          event.preventDefault();
          if (!unreadable) keep();
        }}
      >
        <Step
          here={here}
          probe={probe}
          title="1. In ice and water"
          tell={`Fill a glass with crushed ice, top it up with cold water, stir. The tip in the middle, touching no ice: it is to read ${temperature(0, system, 0)}.`}
          label="It reads in ice and water"
          value={ice}
          error={problem?.at("ice_c")}
          onChange={setIce}
        />
        <Step
          here={here}
          probe={probe}
          title="2. In boiling water"
          tell={`Water at a full boil, the tip in the middle, touching no metal, your hand out of the steam: it is to read ${temperature(here.water_boils_c, system)} here.`}
          label="It reads in boiling water"
          value={boil}
          error={problem?.at("boil_c")}
          onChange={setBoil}
        />
        <p className="text-sm text-soft">
          One of the two is enough, both are surer. From the next batch on so much is taken off what it sends.
          What you type stays as you typed it: take it off first.
        </p>
        <div className="flex flex-wrap gap-3">
          <Button look="iron" type="submit" disabled={check.isPending || unreadable || !(ice || boil)}>
            Keep this check
          </Button>
          <Button onClick={onClose}>Not now</Button>
        </div>
        {unreadable ? <Notice tone="wrong">Write a temperature as a number, as 0.4 or 99.8.</Notice> : null}
        {problem?.beside("ice_c", "boil_c") ? (
          <Notice tone="wrong">{inUnits(problem.message, system)}</Notice>
        ) : null}
      </form>
    </Sheet>
  );
}

/** How far a probe is off, for the reader's unit. */
export function offText(reads_high_k: number): string {
  if (Math.abs(reads_high_k) < 0.05) return "it reads true";
  return `it reads {${Math.abs(reads_high_k).toFixed(1)} K} too ${reads_high_k > 0 ? "high" : "low"}`;
}

interface StepProps {
  here: Here;
  probe: Device;
  title: string;
  tell: string;
  label: string;
  value: string;
  error: string | undefined;
  onChange: (value: string) => void;
}

function Step({ here, probe, title, tell, label, value, error, onChange }: StepProps) {
  const { system } = useUnits();
  const now = useProbeNow(here.slug, probe.id);
  const [left, setLeft] = useState<number | null>(null);
  const { celsius, spread_k } = now.data ?? { celsius: null, spread_k: null };
  useEffect(() => {
    if (left === null || left <= 0) return;
    const timer = setTimeout(() => setLeft(left - 1), 1000);
    return () => clearTimeout(timer);
  }, [left]);
  const settled = (spread_k ?? SETTLED_K + 1) <= SETTLED_K;
  const take = () => {
    if (celsius === null) return;
    onChange(temperature(celsius, system).replace("°", ""));
    setLeft(null);
  };
  return (
    <fieldset className="grid gap-2 border-l-4 border-slate pl-3">
      <legend className="sr-only">{title}</legend>
      <h3 className="text-base">{title}</h3>
      <p className="text-soft">{tell}</p>
      <div className="flex flex-wrap items-end gap-3">
        <TextBox
          label={`${label}, °${system === "metric" ? "C" : "F"}`}
          error={error && inUnits(error, system)}
          numeric
          className="w-28"
          value={value}
          onChange={onChange}
        />
        {celsius === null ? null : left === null ? (
          <Button onClick={() => setLeft(HOLD_S)}>Hold it still for a minute</Button>
        ) : (
          <Button onClick={take} disabled={!settled}>
            Take {temperature(celsius, system)}
          </Button>
        )}
      </div>
      <p role="status" className="text-sm text-soft">
        {celsius === null
          ? "It sends nothing just now: read its own display after a minute, and write it here."
          : left === null
            ? `It reads ${temperature(celsius, system)} now.`
            : left > 0
              ? `${left} s more. ${settled ? "It has settled." : "It still moves."}`
              : settled
                ? "Take it now."
                : "It still moves; wait until it stands."}
      </p>
    </fieldset>
  );
}
