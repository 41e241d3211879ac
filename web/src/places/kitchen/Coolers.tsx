import { type FormEvent, useState } from "react";
import type { Here } from "../../api/here";
import { useHearth, useHearthActions } from "../../api/kitchen";
import type { CoolingWanted } from "../../api/live";
import { Problem } from "../../api/problem";
import { useLarder } from "../../api/queries";
import { Button } from "../../kit/Button";
import { fixed, plain } from "../../kit/habits";
import { Failed, Loading, Notice } from "../../kit/Notice";
import { SelectBox } from "../../kit/SelectBox";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { typedCelsius, typedNumber } from "../../kit/typed";
import { temperature } from "../../kit/units";
import { isRound, VESSEL_KINDS, type VesselKind } from "../../kit/vessels";
import { Row, taught } from "./Hearth";
import { useTakenOff } from "./useTakenOff";

type By = NonNullable<CoolingWanted["ways"][number]["by"]>;

/** Fridges, ice baths and blast chillers. */
export function Coolers({ here }: { here: Here }) {
  const hearth = useHearth(here.slug);
  const takenOff = useTakenOff(here.slug);
  const { removeCooler } = useHearthActions(here.slug);
  const { system } = useUnits();
  const locked = here.role !== "chef";
  if (hearth.isError) return <Failed sentence={hearth.error.message} again={() => void hearth.refetch()} />;
  if (!hearth.data) return <Loading what="what cools here" />;
  return (
    <section aria-label="Cooling">
      <h2 className="mb-2">Cooling</h2>
      <p className="mb-2 text-soft">
        How well each cools is a first guess; every cooling that was read, by a probe or by hand, corrects it.
      </p>
      <ul>
        {hearth.data.coolers.map((one) => (
          <Row
            key={one.id}
            name={one.name}
            told={[
              one.by.replaceAll("-", " "),
              `${temperature(one.medium_c, system)} in there`,
              `cools ${one.share_percent} % ± ${one.spread_percent} as well as such do`,
              taught(one.batches),
            ]}
            onRemove={locked ? null : () => removeCooler.mutate(one.id, takenOff)}
          />
        ))}
      </ul>
      {locked ? null : <AddCooler here={here} />}
      {removeCooler.error ? <Notice tone="wrong">{removeCooler.error.message}</Notice> : null}
    </section>
  );
}

/** What sauces are cooled and kept in. */
export function Vessels({ here }: { here: Here }) {
  const hearth = useHearth(here.slug);
  const takenOff = useTakenOff(here.slug);
  const { removeVessel } = useHearthActions(here.slug);
  const locked = here.role !== "chef";
  if (hearth.isError) return <Failed sentence={hearth.error.message} again={() => void hearth.refetch()} />;
  if (!hearth.data) return <Loading what="the vessels" />;
  return (
    <section aria-label="Vessels">
      <h2 className="mb-2">Vessels</h2>
      {hearth.data.vessels.length === 0 ? (
        <p className="text-soft">None yet: with its measures, how deep a sauce stands and cools is known.</p>
      ) : null}
      <ul>
        {hearth.data.vessels.map((one) => (
          <Row
            key={one.id}
            name={one.name}
            told={[
              VESSEL_KINDS.find((kind) => kind.value === one.kind)?.shown,
              one.width_cm
                ? `${plain(one.length_cm)} × ${plain(one.width_cm)} × ${plain(one.height_cm)} cm`
                : `${plain(one.length_cm)} × ${plain(one.height_cm)} cm`,
              `holds ${fixed(one.holds_ml / 1000, 1)} l`,
            ]}
            onRemove={locked ? null : () => removeVessel.mutate(one.id, takenOff)}
          />
        ))}
      </ul>
      {locked ? null : <AddVessel here={here} />}
      {removeVessel.error ? <Notice tone="wrong">{removeVessel.error.message}</Notice> : null}
    </section>
  );
}

function AddCooler({ here }: { here: Here }) {
  const { addCooler } = useHearthActions(here.slug);
  const larder = useLarder();
  const { system } = useUnits();
  const [name, setName] = useState("");
  const [by, setBy] = useState<By>("fridge");
  const [cold, setCold] = useState("");
  const ways = larder.data?.coolings.map((one) => ({ value: one.by, shown: one.name })) ?? [];
  const problem = addCooler.error instanceof Problem ? addCooler.error : null;
  const celsius = typedCelsius(cold, system);
  const unread = cold.trim() !== "" && celsius === null;
  return (
    <form
      noValidate
      aria-label="Add a cooler"
      className="mt-4 flex flex-wrap items-start gap-3"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        if (!unread)
          addCooler.mutate(
            { name, by, medium_c: celsius },
            {
              onSuccess: () => {
                setName("");
                setCold("");
              },
            },
          );
      }}
    >
      <div className="min-w-40 grow">
        <TextBox
          label="A new cooler’s name"
          error={problem?.at("name")}
          maxLength={80}
          value={name}
          onChange={setName}
        />
      </div>
      <SelectBox label="it is" options={ways} value={by} onChange={setBy} className="" />
      <div className="w-28">
        <TextBox
          label={`in there, ${system === "metric" ? "°C" : "°F"}`}
          hint="if known"
          error={unread ? "Write a number." : problem?.at("medium_c")}
          numeric
          value={cold}
          onChange={setCold}
        />
      </div>
      <Button type="submit" className="mt-7" disabled={!name.trim() || addCooler.isPending}>
        Add the cooler
      </Button>
      {problem?.beside("name", "medium_c") ? <Notice tone="wrong">{problem.message}</Notice> : null}
    </form>
  );
}

function AddVessel({ here }: { here: Here }) {
  const { addVessel } = useHearthActions(here.slug);
  const [name, setName] = useState("");
  const [kind, setKind] = useState<VesselKind>("tub");
  const [size, setSize] = useState({ length: "", width: "", height: "" });
  const problem = addVessel.error instanceof Problem ? addVessel.error : null;
  const round = isRound(kind);
  const box = (part: keyof typeof size, label: string, field: string) => (
    <div className="w-24">
      <TextBox
        label={label}
        error={problem?.at(field)}
        numeric
        value={size[part]}
        onChange={(text) => setSize({ ...size, [part]: text })}
      />
    </div>
  );
  return (
    <form
      noValidate
      aria-label="Add a vessel"
      className="mt-3 flex flex-wrap items-start gap-3"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        addVessel.mutate(
          {
            name,
            kind,
            length_cm: typedNumber(size.length) || 0,
            width_cm: round ? 0 : typedNumber(size.width) || 0,
            height_cm: typedNumber(size.height) || 0,
          },
          { onSuccess: () => setName("") },
        );
      }}
    >
      <div className="min-w-40 grow">
        <TextBox
          label="A new vessel’s name"
          error={problem?.at("name")}
          maxLength={80}
          value={name}
          onChange={setName}
        />
      </div>
      <SelectBox label="it is a" options={VESSEL_KINDS} value={kind} onChange={setKind} className="" />
      {box("length", round ? "across, cm" : "length, cm", "length_cm")}
      {round ? null : box("width", "width, cm", "width_cm")}
      {box("height", "height, cm", "height_cm")}
      <Button type="submit" className="mt-7" disabled={!name.trim() || addVessel.isPending}>
        Add the vessel
      </Button>
      {problem?.beside("name", "length_cm", "width_cm", "height_cm") ? (
        <Notice tone="wrong">{problem.message}</Notice>
      ) : null}
    </form>
  );
}
