import { type Dispatch, type FormEvent, useState } from "react";
import { useHere } from "../../api/here";
import { Problem } from "../../api/problem";
import { type Assessment, type Draft, type Scaling, useScale } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { plain } from "../../kit/habits";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { typedGrams, typedNumber } from "../../kit/typed";
import { massText } from "../../kit/units";
import type { Change } from "./draft";
import { Fit, TopUp } from "./Fit";
import { Layers } from "./Layers";
import { Destinations } from "./Purpose";

type By = Exclude<Scaling["by"], "destinations">;

type Way = By | "for" | "layers" | "dish" | "pan" | "top-up";

const OTHERS: readonly { value: Way; shown: string }[] = [
  { value: "for", shown: "what it is for" },
  { value: "layers", shown: "in layers" },
  { value: "dish", shown: "fit a dish" },
  { value: "pan", shown: "fit a pan" },
  { value: "top-up", shown: "top up" },
];
const WAYS: readonly { value: By; shown: string; label: string }[] = [
  { value: "yolks", shown: "by yolks", label: "Yolks in hand" },
  { value: "portions", shown: "by portions", label: "Portions" },
  { value: "dairy", shown: "by dairy", label: "Milk and cream in hand" },
  { value: "mass", shown: "by mass", label: "In all" },
];

interface Props {
  draft: Draft;
  assessment: Assessment | undefined;
  act: Dispatch<Change>;
  disabled: boolean;
  problem: Problem | null;
  formula: number | null;
}

/** The same mix from what is there, or for what is wanted. */
export function Scale(props: Props) {
  const [way, setWay] = useState<Way>(props.draft.destinations?.length ? "for" : "yolks");
  return (
    <div className="grid gap-3">
      <h2>How much</h2>
      <Choice<Way> label="Scale by" options={[...WAYS, ...OTHERS]} value={way} onChange={setWay} />
      {way === "for" ? (
        <Destinations {...props} />
      ) : way === "layers" ? (
        <Layers formula={props.formula} />
      ) : way === "dish" || way === "pan" ? (
        <Fit key={way} {...props} vessel={way} />
      ) : way === "top-up" ? (
        <TopUp {...props} />
      ) : (
        <Simple key={way} {...props} by={way} />
      )}
    </div>
  );
}

function Simple({ draft, assessment, act, disabled, by }: Omit<Props, "problem" | "formula"> & { by: By }) {
  const here = useHere();
  const { system } = useUnits();
  const [amount, setAmount] = useState("");
  const [portion, setPortion] = useState(system === "us" ? "2" : "60");
  const scale = useScale(here.slug);
  const problem = scale.error instanceof Problem ? scale.error : null;
  // Pieces are counted; what is weighed is typed in any unit, as "40 oz".
  const weighed = by === "dairy" || by === "mass";
  const typed = weighed ? (typedGrams(amount, system) ?? Number.NaN) : typedNumber(amount);
  const now: Record<By, number | undefined> = {
    yolks: assessment?.yolks,
    portions: assessment
      ? Math.floor(assessment.yield_g / ((typedGrams(portion, system) ?? 0) || 60))
      : undefined,
    dairy: assessment?.dairy_g,
    mass: assessment?.mass_g,
  };
  const wrong =
    amount.trim() !== "" && !(typed > 0) ? "Write a number above nothing." : problem?.at("amount");
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!(typed > 0)) return;
    const body: Scaling = { draft, by, amount: typed };
    if (by === "portions") body.portion_g = typedGrams(portion, system) ?? Number.NaN;
    scaleTo(body);
  };
  const scaleTo = (body: Scaling) =>
    scale.mutate(body, {
      onSuccess: (scaled) => {
        act({ do: "replace", draft: scaled });
        setAmount("");
      },
    });
  const way = WAYS.find((one) => one.value === by) ?? WAYS[0];
  const current = now[by];
  return (
    <form onSubmit={submit} aria-label="Scale" className="grid gap-3">
      <div className="flex flex-wrap items-start gap-3">
        <div className="w-44">
          <TextBox
            label={way?.label ?? ""}
            error={wrong}
            hint={
              !current
                ? ""
                : weighed
                  ? `now ${massText(current, system)}`
                  : `now ${plain(Math.round(current * 10) / 10)}`
            }
            numeric
            value={amount}
            onChange={setAmount}
          />
        </div>
        {by === "portions" ? (
          <div className="w-28">
            <TextBox
              label={`of, ${system === "us" ? "oz" : "g"} each`}
              error={problem?.at("portion_g")}
              numeric
              value={portion}
              onChange={setPortion}
            />
          </div>
        ) : null}
        <Button type="submit" className="mt-7" disabled={disabled || scale.isPending}>
          Scale
        </Button>
      </div>
      {assessment ? <WholeYolks {...{ draft, assessment, disabled, scaleTo }} /> : null}
      {problem && !wrong && !problem.at("portion_g") ? <p className="text-brick">{problem.message}</p> : null}
    </form>
  );
}

interface WholeProps {
  draft: Draft;
  assessment: Assessment;
  disabled: boolean;
  scaleTo: (body: Scaling) => void;
}

/** Yolks that do not come out whole: the whole numbers next to them, and how much is then made. */
function WholeYolks({ draft, assessment, disabled, scaleTo }: WholeProps) {
  const { system } = useUnits();
  const { yolks, mass_g } = assessment;
  const wholes = [...new Set([Math.floor(yolks), Math.ceil(yolks)])].filter((one) => one > 0);
  if (yolks < 0.5 || Math.abs(yolks - Math.round(yolks)) < 0.02) return null;
  return (
    <div className="flex flex-wrap items-center gap-3">
      <p className="text-soft">{`${plain(Math.round(10 * yolks) / 10)} yolks:`}</p>
      {wholes.map((whole) => (
        <Button
          key={whole}
          disabled={disabled}
          onClick={() => scaleTo({ draft, by: "yolks", amount: whole })}
        >
          {`${whole} whole, ${massText((mass_g * whole) / yolks, system)} in all`}
        </Button>
      ))}
    </div>
  );
}
