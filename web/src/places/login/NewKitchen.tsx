import { type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { type NewKitchen as Answers, useBeginKitchen } from "../../api/people";
import { Problem } from "../../api/problem";
import { useLarder } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { MEASURE_WORDS } from "../../kit/measures";
import { Notice } from "../../kit/Notice";
import { SelectBox } from "../../kit/SelectBox";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { typedCelsius, typedNumber } from "../../kit/typed";
import { inUnits } from "../../kit/units";
import { BringIn } from "../../shared/BringIn";

type Known = "height" | "boil";
const KNOWN: readonly { value: Known; shown: string }[] = [
  { value: "height", shown: "the height" },
  { value: "boil", shown: "what water boils at" },
];
const ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone;

/** An empty kitchen in four questions: where it stands, its eggs, its cups, its cooling rule. */
export function NewKitchen({ another }: { another: boolean }) {
  const larder = useLarder();
  const begin = useBeginKitchen();
  const navigate = useNavigate();
  const { system } = useUnits();
  const [name, setName] = useState("");
  const [known, setKnown] = useState<Known>("height");
  const [where, setWhere] = useState("");
  const [eggs, setEggs] = useState<NonNullable<Answers["eggs"]>>("EU-M");
  const [measures, setMeasures] = useState<NonNullable<Answers["measures"]>>("metric");
  const [chosen, setRule] = useState<NonNullable<Answers["cooling_rule"]>>();
  const rule = chosen ?? larder.data?.usual_rule;
  const [tried, setTried] = useState(false);
  const problem = begin.error instanceof Problem ? begin.error : null;
  const metres = typedNumber(where.replace(/\s*m$/i, ""));
  const boils = typedCelsius(where, system);
  const unreadable = known === "height" ? Number.isNaN(metres) : boils === null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setTried(true);
    if (unreadable || !name.trim() || !rule) return;
    const place = known === "height" ? { altitude_m: metres } : { boils_c: boils };
    begin.mutate(
      { name, ...place, eggs, measures, cooling_rule: rule, zone: ZONE },
      { onSuccess: (made) => navigate(`/k/${made.slug}/book`) },
    );
  };
  return (
    <main className="mx-auto max-w-2xl px-5 py-8">
      <h1>A kitchen of your own</h1>
      <p className="mt-1 mb-6 text-soft">
        Four questions, because every number hangs on them. All can be changed later, in the Kitchen.
      </p>
      <form onSubmit={submit} noValidate className="grid gap-6">
        <TextBox
          label="What is it called?"
          error={tried && !name.trim() ? "Write the kitchen’s name." : problem?.at("name")}
          maxLength={200}
          value={name}
          onChange={setName}
        />
        <div className="grid gap-2">
          <h2 className="text-[1.15rem]">1. Where does it stand?</h2>
          <Choice label="What you know" options={KNOWN} value={known} onChange={setKnown} />
          <TextBox
            label={
              known === "height"
                ? "Height above the sea, m"
                : `Water boils at, °${system === "us" ? "F" : "C"}`
            }
            hint={
              known === "height"
                ? "It sets the boiling point. At the sea write 0."
                : "As your own thermometer shows it in water at a full boil."
            }
            error={
              tried && unreadable
                ? "Write it as a number."
                : (problem?.at("altitude_m") ?? problem?.at("boils_c"))
            }
            numeric
            className="w-40"
            value={where}
            onChange={setWhere}
          />
        </div>
        <div className="grid gap-2">
          <h2 className="text-[1.15rem]">2. Which eggs are in the house?</h2>
          <SelectBox
            label="Eggs"
            hideLabel
            options={(larder.data?.eggs ?? []).map((one) => ({
              value: one.size as typeof eggs,
              shown: `${one.name}: yolk ${one.yolk_g} g`,
            }))}
            value={eggs}
            onChange={setEggs}
          />
        </div>
        <div className="grid gap-2">
          <h2 className="text-[1.15rem]">3. Whose cups and pints?</h2>
          <Choice
            label="Cups and pints"
            options={(larder.data?.measures ?? []).map((one) => ({
              value: one,
              shown: MEASURE_WORDS[one] ?? one,
            }))}
            value={measures}
            onChange={setMeasures}
          />
        </div>
        <div className="grid gap-2">
          <h2 className="text-[1.15rem]">4. Which cooling rule?</h2>
          <SelectBox
            label="Cooling rule"
            hideLabel
            options={(larder.data?.cooling_rules ?? []).map((one) => ({
              value: one.rule,
              shown: `${one.name}: ${inUnits(one.text, system)}`,
            }))}
            value={rule ?? ""}
            onChange={(value) => value && setRule(value)}
          />
          <p className="text-sm text-soft">Your local code comes first. Ask who inspects you if unsure.</p>
        </div>
        <div className="flex flex-wrap gap-3">
          <Button look="solid" type="submit" disabled={begin.isPending}>
            {begin.isPending ? "Making it …" : "Open the kitchen"}
          </Button>
          {another ? <Button onClick={() => navigate("/")}>Not now</Button> : null}
        </div>
        {problem?.beside("name", "altitude_m", "boils_c") ? (
          <Notice tone="wrong">{problem.message}</Notice>
        ) : null}
      </form>
      <section aria-label="Bring a kitchen in" className="mt-8 border-t border-hair pt-5">
        <h2 className="mb-2">Or bring one in from its archive</h2>
        <BringIn />
      </section>
    </main>
  );
}
