import { type FormEvent, useState } from "react";
import { Problem } from "../../api/problem";
import { type KitchenChange, useChangeKitchen, useLarder } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Field } from "../../kit/Field";
import { type Here, type OwnRule, useHere } from "../../kit/here";
import { Notice } from "../../kit/Notice";
import { SelectBox } from "../../kit/SelectBox";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { inUnits, temperature } from "../../kit/units";
import { Coolers } from "./Coolers";
import { Devices } from "./Devices";
import { Hearth } from "./Hearth";
import { Own } from "./Own";
import { Prices } from "./Prices";

export function KitchenPage() {
  const here = useHere();
  const { system } = useUnits();
  const change = useChangeKitchen(here.slug);
  return (
    <>
      <h1>{here.name}</h1>
      <p className="mt-1 mb-6 text-soft">
        Water boils at {temperature(here.water_boils_c, system)} here. You are {here.role} in this kitchen.
      </p>
      <div className="grid items-start gap-x-12 gap-y-10 lg:grid-cols-2">
        <Settings
          key={JSON.stringify([
            here.name,
            here.altitude_m,
            here.eggs,
            here.measures,
            here.cooling_rule,
            here.own_rule,
            here.currency,
            here.readings_days,
            here.zone,
          ])}
          here={here}
          change={change}
        />
        <Hearth here={here} />
        <Coolers here={here} />
        <Prices here={here} />
        <Devices here={here} />
        <Own here={here} />
      </div>
    </>
  );
}

const RULE_FIELDS: readonly { field: keyof OwnRule; shown: string }[] = [
  { field: "from_c", shown: "from, °C" },
  { field: "first_c", shown: "below, °C" },
  { field: "first_h", shown: "within, h" },
  { field: "second_c", shown: "below, °C, then" },
  { field: "second_h", shown: "within, h, in all" },
];

function typedRule(rule: OwnRule | null): Record<keyof OwnRule, string> {
  const known = rule ?? { from_c: 60, first_c: 21, first_h: 2, second_c: 5, second_h: 6 };
  return Object.fromEntries(RULE_FIELDS.map(({ field }) => [field, String(known[field])])) as Record<
    keyof OwnRule,
    string
  >;
}

function readRule(typed: Record<keyof OwnRule, string>): OwnRule {
  const read = (field: keyof OwnRule) => Number(typed[field].trim().replace(",", ".")) || 0;
  return {
    from_c: read("from_c"),
    first_c: read("first_c"),
    first_h: read("first_h"),
    second_c: read("second_c"),
    second_h: read("second_h"),
  };
}

const OWN_ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone;
const ZONES = [...new Set(["UTC", OWN_ZONE, ...Intl.supportedValuesOf("timeZone")])];

const whole = (text: string) => /^\d{1,4}$/.test(text.trim());

interface SettingsProps {
  here: Here;
  change: ReturnType<typeof useChangeKitchen>;
}

/** Begun anew whenever the kitchen changed, by this person or another; what became of saving stays on show. */
function Settings({ here, change }: SettingsProps) {
  const larder = useLarder();
  const { system } = useUnits();
  const [name, setName] = useState(here.name);
  const [altitude, setAltitude] = useState(String(here.altitude_m));
  const [eggs, setEggs] = useState(here.eggs);
  const [measures, setMeasures] = useState(here.measures);
  const [rule, setRule] = useState(here.cooling_rule);
  const [currency, setCurrency] = useState(here.currency);
  const [days, setDays] = useState(String(here.readings_days));
  const [zone, setZone] = useState(here.zone);
  const [own, setOwn] = useState<Record<keyof OwnRule, string>>(() => typedRule(here.own_rule));
  const problem = change.error instanceof Problem ? change.error : null;
  const metres = Number(altitude.trim().replace(",", "."));
  const unreadable = altitude.trim() === "" || Number.isNaN(metres);
  const locked = here.role !== "chef";
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!unreadable && whole(days))
      change.mutate({
        name,
        altitude_m: metres,
        eggs,
        measures,
        cooling_rule: rule,
        ...(rule === "own" ? { own_rule: readRule(own) } : {}),
        currency,
        readings_days: Number(days),
        zone,
      } as KitchenChange);
  };
  return (
    <form onSubmit={submit} noValidate className="grid max-w-xl gap-5">
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
          <select {...given} disabled={locked} value={eggs} onChange={(e) => setEggs(e.target.value)}>
            {larder.data?.eggs.map((egg) => (
              <option key={egg.size} value={egg.size}>
                {egg.name}: yolk {egg.yolk_g} g
              </option>
            ))}
          </select>
        )}
      </Field>
      <Field label="Cups and pints" hint="Whose cup is meant in a new formula.">
        {(given) => (
          <select {...given} disabled={locked} value={measures} onChange={(e) => setMeasures(e.target.value)}>
            {larder.data?.measures.map((one) => (
              <option key={one}>{one}</option>
            ))}
          </select>
        )}
      </Field>
      <Field label="Cooling rule" hint="Shown wherever something is chilled; your local code comes first.">
        {(given) => (
          <select
            {...given}
            className="w-full"
            disabled={locked}
            value={rule}
            onChange={(e) => setRule(e.target.value)}
          >
            {larder.data?.cooling_rules.map((one) => (
              <option key={one.rule} value={one.rule}>
                {one.name}: {inUnits(one.text, system)}
              </option>
            ))}
            <option value="own">our own</option>
          </select>
        )}
      </Field>
      {rule === "own" ? (
        <fieldset className="grid grid-cols-2 gap-3 border-l-4 border-slate pl-3 sm:grid-cols-5">
          <legend className="sr-only">Our own rule</legend>
          {RULE_FIELDS.map(({ field, shown }) => (
            <TextBox
              key={field}
              label={shown}
              error={problem?.at(`own_rule.${field}`)}
              numeric
              disabled={locked}
              value={own[field]}
              onChange={(text) => setOwn({ ...own, [field]: text })}
            />
          ))}
        </fieldset>
      ) : null}
      <p className="border-l-4 border-brick pl-3 text-sm">{here.cooling_caution}</p>
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
      <TextBox
        label="Every reading is kept for, days"
        error={whole(days) ? problem?.at("readings_days") : "Write a whole number of days, 7 to 3650."}
        hint="After a batch is closed; then one reading a minute. Marks and alarms stay."
        numeric
        disabled={locked}
        className="w-24"
        value={days}
        onChange={setDays}
      />
      {locked ? (
        <p className="text-soft">A chef of this kitchen changes these.</p>
      ) : (
        <div className="flex items-center gap-4">
          <Button look="iron" type="submit" disabled={change.isPending}>
            Keep these
          </Button>
          <span role="status" className="text-soft">
            {change.isPending ? "Saving …" : change.isSuccess ? "Kept." : ""}
          </span>
        </div>
      )}
      {problem?.beside("name", "altitude_m", "currency") ? (
        <Notice tone="wrong">{problem.message}</Notice>
      ) : null}
    </form>
  );
}
