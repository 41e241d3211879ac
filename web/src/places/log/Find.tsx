import { useId } from "react";
import { useSearchParams } from "react-router";
import { useHere } from "../../api/here";
import { type LogAsked, useLogChoices } from "../../api/log";
import { useLarder } from "../../api/queries";
import { VERDICTS } from "../../contract/words";
import { Button } from "../../kit/Button";
import { Field } from "../../kit/Field";
import { SelectBox } from "../../kit/SelectBox";
import { Views } from "./Views";

const WORDS = ["words", "family", "verdict", "person", "since", "until", "fault"] as const;
const NUMBERS = ["hob_id", "pan_id", "formula_id"] as const;

/** What the address asks the log for; it can be kept, sent to somebody and gone back to. */
export function useAsked() {
  const [search, setSearch] = useSearchParams();
  const asked: LogAsked = {};
  const put = (name: string, value: unknown) => Object.assign(asked, { [name]: value });
  for (const name of WORDS) if (search.get(name)) put(name, search.get(name));
  for (const name of NUMBERS) if (Number(search.get(name))) put(name, Number(search.get(name)));
  if (search.get("wrong")) asked.wrong = true;
  if (search.get("odd")) asked.odd = search.get("odd") === "true";
  const ask = (next: LogAsked) => setSearch(asAddress(next), { replace: true });
  return { asked, ask };
}

/** What is asked for, as an address has it. */
function asAddress(asked: LogAsked): URLSearchParams {
  const kept = Object.entries(asked).filter(
    ([, value]) => value !== undefined && value !== "" && value !== null && value !== false,
  );
  return new URLSearchParams(kept.map(([name, value]) => [name, String(value)]));
}

interface Props {
  asked: LogAsked;
  onAsk: (asked: LogAsked) => void;
}

/** Looking for batches: words at once, the rest where it is opened. */
export function Find({ asked, onAsk }: Props) {
  const here = useHere();
  const id = useId();
  const choices = useLogChoices(here.slug);
  const larder = useLarder();
  const named = (list: readonly { id: number; name: string }[] | undefined) =>
    (list ?? []).map((one) => ({ value: String(one.id), shown: one.name }));
  const set = (name: keyof LogAsked, value: unknown) => onAsk({ ...asked, [name]: value });
  const more = Object.keys(asked).filter((name) => name !== "words").length;
  return (
    <search className="mb-4 grid gap-3" aria-label="Find in the log">
      <div className="flex flex-wrap items-end gap-3">
        <div className="min-w-60 flex-1">
          <Field label="Find">
            {(given) => (
              <input
                {...given}
                type="search"
                className="w-full"
                maxLength={100}
                placeholder="words in names, verdicts and notes"
                value={asked.words ?? ""}
                onChange={(event) => set("words", event.target.value)}
              />
            )}
          </Field>
        </div>
        {Object.keys(asked).length ? <Button onClick={() => onAsk({})}>Everything</Button> : null}
        <a
          href={`/api/k/${here.slug}/log.csv?${asAddress(asked)}`}
          className="inline-flex min-h-11 items-center rounded-solid border border-line px-3 no-underline"
        >
          As a table (CSV)
        </a>
      </div>
      <Views kitchen={here.slug} asked={asked} onAsk={onAsk} />
      <details open={more > 0 || undefined}>
        <summary className="inline-flex min-h-11 items-center text-soft">
          By formula, family, verdict, person, day, hob and pan{more ? ` (${more})` : ""}
        </summary>
        <div id={id} className="mt-2 grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
          <SelectBox
            label="Formula"
            none="any"
            options={named(choices.data?.formulas)}
            value={asked.formula_id ? String(asked.formula_id) : ""}
            onChange={(value) => set("formula_id", Number(value) || undefined)}
          />
          <SelectBox
            label="Family"
            none="any"
            options={(larder.data?.families ?? []).map((one) => ({ value: one.family, shown: one.name }))}
            value={asked.family ?? ""}
            onChange={(value) => set("family", value)}
          />
          <SelectBox
            label="Verdict"
            none="any"
            options={VERDICTS.map((one) => ({ value: one, shown: one }))}
            value={asked.verdict ?? ("" as never)}
            onChange={(value) => set("verdict", value)}
          />
          <SelectBox
            label="Person"
            none="anybody"
            options={(choices.data?.people ?? []).map((one) => ({ value: one, shown: one }))}
            value={asked.person ?? ""}
            onChange={(value) => set("person", value)}
          />
          <SelectBox
            label="What was wrong"
            none="whatever came of it"
            options={[
              { value: "wrong", shown: "trouble was marked" },
              ...(choices.data?.faults ?? []).map((one) => ({
                value: `fault ${one.fault}`,
                shown: one.name,
              })),
              { value: "odd", shown: "called odd" },
            ]}
            value={asked.fault ? `fault ${asked.fault}` : asked.wrong ? "wrong" : asked.odd ? "odd" : ""}
            onChange={(value) =>
              onAsk({
                ...asked,
                wrong: value === "wrong",
                odd: value === "odd" || null,
                fault: value.startsWith("fault ") ? value.slice("fault ".length) : null,
              })
            }
          />
          <DayBox label="From" value={asked.since} onChange={(value) => set("since", value)} />
          <DayBox label="To" value={asked.until} onChange={(value) => set("until", value)} />
          <SelectBox
            label="Hob"
            none="any"
            options={named(choices.data?.hobs)}
            value={asked.hob_id ? String(asked.hob_id) : ""}
            onChange={(value) => set("hob_id", Number(value) || undefined)}
          />
          <SelectBox
            label="Pan"
            none="any"
            options={named(choices.data?.pans)}
            value={asked.pan_id ? String(asked.pan_id) : ""}
            onChange={(value) => set("pan_id", Number(value) || undefined)}
          />
        </div>
      </details>
    </search>
  );
}

function DayBox(props: {
  label: string;
  value: string | null | undefined;
  onChange: (value: string) => void;
}) {
  return (
    <Field label={props.label}>
      {(given) => (
        <input
          {...given}
          type="date"
          className="w-full"
          value={props.value ?? ""}
          onChange={(event) => props.onChange(event.target.value)}
        />
      )}
    </Field>
  );
}
