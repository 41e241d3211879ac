import { useState } from "react";
import type { Here, OwnRule } from "../../api/here";
import { type KitchenChange, useChangeKitchen, useLarder } from "../../api/queries";
import type { CoolingRuleName } from "../../contract/words";
import { Field } from "../../kit/Field";
import { plain } from "../../kit/habits";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { typedCelsius, typedNumber, type UnitSystem } from "../../kit/typed";
import { degrees, inUnits } from "../../kit/units";
import { SettingsForm } from "./SettingsForm";

const RULE_FIELDS: readonly { field: keyof OwnRule; shown: string; us: string }[] = [
  { field: "from_c", shown: "from, °C", us: "from, °F" },
  { field: "first_c", shown: "below, °C", us: "below, °F" },
  { field: "first_h", shown: "within, h", us: "within, h" },
  { field: "second_c", shown: "below, °C, then", us: "below, °F, then" },
  { field: "second_h", shown: "within, h, in all", us: "within, h, in all" },
];
type TypedRule = Record<keyof OwnRule, string>;

function typedRule(rule: OwnRule | null, system: UnitSystem): TypedRule {
  const known = rule ?? { from_c: 60, first_c: 21, first_h: 2, second_c: 5, second_h: 6 };
  // To a tenth, so that no limit moves by being shown.
  const shown = (field: keyof OwnRule) =>
    field.endsWith("_c") && system === "us"
      ? plain(Math.round(degrees(known[field], system) * 10) / 10)
      : plain(known[field]);
  return Object.fromEntries(RULE_FIELDS.map(({ field }) => [field, shown(field)])) as TypedRule;
}

/** What was typed as a rule; a field that is no number counts as none, and is refused by its name. */
function readRule(typed: TypedRule, system: UnitSystem): OwnRule {
  const read = (field: keyof OwnRule) => {
    const celsius = field.endsWith("_c") ? typedCelsius(typed[field], system) : null;
    return (celsius === null ? typedNumber(typed[field]) : Math.round(100 * celsius) / 100) || 0;
  };
  const rows = RULE_FIELDS.map(({ field }) => [field, read(field)]);
  return Object.fromEntries(rows) as unknown as OwnRule;
}

const whole = (text: string) => /^\d{1,6}$/.test(text.trim());

/** The rules this kitchen goes by. */
export function Rules({ here }: { here: Here }) {
  const keep = useChangeKitchen(here.slug);
  const { system } = useUnits();
  return (
    <Asked
      key={JSON.stringify([here.cooling_rule, here.own_rule, here.readings_days, here.photos_mb, system])}
      here={here}
      keep={keep}
    />
  );
}

function Asked({ here, keep }: { here: Here; keep: ReturnType<typeof useChangeKitchen> }) {
  const larder = useLarder();
  const { system } = useUnits();
  const [rule, setRule] = useState(here.cooling_rule);
  const [own, setOwn] = useState<TypedRule>(() => typedRule(here.own_rule, system));
  const [days, setDays] = useState(String(here.readings_days));
  const [photos, setPhotos] = useState(String(here.photos_mb));
  const change = {
    cooling_rule: rule,
    ...(rule === "own" ? { own_rule: readRule(own, system) } : {}),
    readings_days: Number(days),
    photos_mb: Number(photos),
  } as KitchenChange;
  return (
    <section aria-label="Rules">
      <h2 className="mb-3">Rules</h2>
      <SettingsForm
        here={here}
        keep={keep}
        name="Rules"
        change={whole(days) && whole(photos) ? change : null}
        shows={["own_rule", "readings_days", "photos_mb"]}
      >
        {({ problem, locked }) => (
          <>
            <Field
              label="Cooling rule"
              hint="Shown wherever something is chilled; your local code comes first."
            >
              {(given) => (
                <select
                  {...given}
                  className="w-full"
                  disabled={locked}
                  value={rule}
                  onChange={(e) => setRule(e.target.value as CoolingRuleName)}
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
                {RULE_FIELDS.map(({ field, shown, us }) => (
                  <TextBox
                    key={field}
                    label={system === "us" ? us : shown}
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
              label="Every reading is kept for, days"
              error={whole(days) ? problem?.at("readings_days") : "Write a whole number of days, 7 to 3650."}
              hint="After a batch is closed; then one reading a minute. Marks and alarms stay."
              numeric
              disabled={locked}
              className="w-24"
              value={days}
              onChange={setDays}
            />
            <TextBox
              label="Photographs of batches, MB"
              error={
                whole(photos) ? problem?.at("photos_mb") : "Write a whole number of megabytes, 0 for none."
              }
              hint="No more is kept than this. One takes about half a megabyte."
              numeric
              disabled={locked}
              className="w-24"
              value={photos}
              onChange={setPhotos}
            />
          </>
        )}
      </SettingsForm>
    </section>
  );
}
