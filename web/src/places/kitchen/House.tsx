import { useState } from "react";
import type { Here } from "../../api/here";
import { type KitchenChange, useChangeKitchen, useLarder } from "../../api/queries";
import type { EggClass, Measures } from "../../contract/words";
import { Button } from "../../kit/Button";
import { Field } from "../../kit/Field";
import { plain } from "../../kit/habits";
import { MEASURE_WORDS } from "../../kit/measures";
import { SelectBox } from "../../kit/SelectBox";
import { TextBox } from "../../kit/TextBox";
import { typedNumber } from "../../kit/typed";
import { SettingsForm } from "./SettingsForm";

const OWN_ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone;
const ZONES = [...new Set(["UTC", OWN_ZONE, ...Intl.supportedValuesOf("timeZone")])];

/** The house; begun again whenever it changed, by this person or another. */
export function House({ here }: { here: Here }) {
  const keep = useChangeKitchen(here.slug);
  const { name, altitude_m, eggs, egg_source, measures, currency, zone } = here;
  return (
    <Asked
      key={JSON.stringify([name, altitude_m, eggs, egg_source, measures, currency, zone])}
      here={here}
      keep={keep}
    />
  );
}

function Asked({ here, keep }: { here: Here; keep: ReturnType<typeof useChangeKitchen> }) {
  const larder = useLarder();
  const [name, setName] = useState(here.name);
  const [altitude, setAltitude] = useState(plain(here.altitude_m));
  const [eggs, setEggs] = useState(here.eggs);
  const [source, setSource] = useState(here.egg_source);
  const [measures, setMeasures] = useState(here.measures);
  const [currency, setCurrency] = useState(here.currency);
  const [zone, setZone] = useState(here.zone);
  const metres = typedNumber(altitude);
  const unreadable = Number.isNaN(metres);
  const change = {
    name,
    altitude_m: metres,
    eggs,
    egg_source: source,
    measures,
    currency,
    zone,
  } as KitchenChange;
  return (
    <section aria-label="House">
      <h2 className="mb-3">House</h2>
      <SettingsForm
        here={here}
        keep={keep}
        name="House"
        change={unreadable ? null : change}
        shows={["name", "altitude_m", "egg_source", "currency", "zone"]}
      >
        {({ problem, locked }) => (
          <>
            <TextBox
              label="Name"
              error={problem?.at("name")}
              maxLength={200}
              disabled={locked}
              value={name}
              onChange={setName}
            />
            <TextBox
              label="Height above the sea, m"
              error={unreadable ? "Write the height as a number of metres." : problem?.at("altitude_m")}
              hint="Sets the boiling point on every rule."
              numeric
              disabled={locked}
              className="w-40"
              value={altitude}
              onChange={setAltitude}
            />
            <Field label="Eggs in the house" hint="What a count of yolks means in a new formula.">
              {(given) => (
                <select
                  {...given}
                  disabled={locked}
                  value={eggs}
                  onChange={(e) => setEggs(e.target.value as EggClass)}
                >
                  {larder.data?.eggs.map((egg) => (
                    <option key={egg.size} value={egg.size}>
                      {egg.name}: yolk {egg.yolk_g} g
                    </option>
                  ))}
                </select>
              )}
            </Field>
            <TextBox
              label="Whose eggs they are"
              error={problem?.at("egg_source")}
              hint="Other hens, other eggs: where sauces set here is learned afresh in part when this changes."
              maxLength={80}
              disabled={locked}
              value={source}
              onChange={setSource}
            />
            <Field label="Cups and pints" hint="Whose cup is meant in a new formula.">
              {(given) => (
                <select
                  {...given}
                  disabled={locked}
                  value={measures}
                  onChange={(e) => setMeasures(e.target.value as Measures)}
                >
                  {larder.data?.measures.map((one) => (
                    <option key={one} value={one}>
                      {MEASURE_WORDS[one] ?? one}
                    </option>
                  ))}
                </select>
              )}
            </Field>
            <TextBox
              label="Money"
              error={problem?.at("currency")}
              maxLength={4}
              disabled={locked}
              className="w-24"
              value={currency}
              onChange={setCurrency}
            />
            <SelectBox
              label="What time our clocks show"
              options={ZONES.map((one) => ({ value: one, shown: one.replaceAll("_", " ") }))}
              value={zone}
              onChange={setZone}
              error={problem?.at("zone")}
              disabled={locked}
            />
            {zone === OWN_ZONE || locked ? null : (
              <Button className="justify-self-start" onClick={() => setZone(OWN_ZONE)}>
                As on this device: {OWN_ZONE.replaceAll("_", " ")}
              </Button>
            )}
          </>
        )}
      </SettingsForm>
    </section>
  );
}
